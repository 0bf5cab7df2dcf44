<?php

declare(strict_types=1);

use Hafen\Edit\Json\EditRequest;
use Hafen\Session\Channel\Frozen;
use Hafen\Session\Channel\TapPoint;
use Hafen\Session\Insert\Branch;
use Hafen\Session\Session;
use Hafen\Tests\Support\Mix;

require_once __DIR__.'/../Support/edited.php';

function proposedTo(): Session
{
    $session = edited(edited(Mix::session([
        Mix::track('cello', [Mix::insert('i1', 'reverb'), Mix::insert('i2', 'compressor'), Mix::split('s1', [new Branch('b1', 'Dry'), new Branch('b2', 'Wet')])]),
        Mix::track('bass'),
    ]), ['type' => 'add-channel', 'name' => 'Plate', 'kind' => 'return']), ['type' => 'add-send', 'channels' => ['cello'], 'to' => 'plate']);
    $plate = $session->channel('plate') ?? $session->main();

    return $session->withChannel($plate->withFrozen(new Frozen('plate.wav', str_repeat('0', 32))));
}

$requests = [
    [EditRequest::setOutput(['cello'], 'none'), static fn (Session $s): mixed => $s->channel('cello')?->output, 'none'],
    [EditRequest::setMute(['cello'], true), static fn (Session $s): mixed => $s->channel('cello')?->mute, true],
    [EditRequest::unfreeze(['plate']), static fn (Session $s): mixed => $s->channel('plate')?->frozen === null, true],
    [EditRequest::removeChannels(['bass']), static fn (Session $s): mixed => $s->channel('bass'), null],
    [EditRequest::groupChannels(['cello', 'bass'], 'Strings'), static fn (Session $s): mixed => $s->channel('bass')?->output, 'strings'],
    [EditRequest::setSoloSafe(['plate'], false), static fn (Session $s): mixed => $s->channel('plate')?->soloSafe, false],
    [EditRequest::setAligned(['cello'], false), static fn (Session $s): mixed => $s->channel('cello')?->aligned, false],
    [EditRequest::setPolarity(['cello'], true), static fn (Session $s): mixed => $s->channel('cello')?->trim->invert, true],
    [EditRequest::setFader(['cello'], null), static fn (Session $s): mixed => $s->channel('cello')?->fader, null],
    [EditRequest::moveFaders(['cello'], -2.5), static fn (Session $s): mixed => $s->channel('cello')?->fader, -2.5],
    [EditRequest::moveTrims(['cello', 'bass'], 1.5), static fn (Session $s): mixed => $s->channel('bass')?->trim->gain, 1.5],
    [EditRequest::moveClipGains(['bass'], -4.0), static fn (Session $s): mixed => $s->channel('bass')?->source->clips()[0]->gain, -4.0],
    [EditRequest::setSendTap(['n1'], TapPoint::Source), static fn (Session $s): mixed => $s->channel('cello')?->sends[0]->tap, TapPoint::Source],
    [EditRequest::setRow(['cello'], false), static fn (Session $s): mixed => $s->channel('cello')?->insertsOn, false],
    [EditRequest::addInsert(['bass'], 'filter', ['frequency' => 90.0], 0), static fn (Session $s): mixed => $s->channel('bass')?->inserts[0]->parameters['frequency'] ?? null, 90.0],
    [EditRequest::moveInsert('i1', 'cello'), static fn (Session $s): mixed => $s->locate('i1')?->index, 2],
    [EditRequest::moveInsert('i1', 'cello', 2), static fn (Session $s): mixed => $s->locate('i1')?->index, 1],
    [EditRequest::setMix('i1', 0.4), static fn (Session $s): mixed => $s->locate('i1')?->insert->mix, 0.4],
    [EditRequest::setParameter('i2', 'ratio', 7.5), static fn (Session $s): mixed => $s->locate('i2')?->insert->parameters['ratio'] ?? null, 7.5],
    [EditRequest::setParameters('i2', ['threshold' => -31.0]), static fn (Session $s): mixed => $s->locate('i2')?->insert->parameters['threshold'] ?? null, -31.0],
    [EditRequest::cutFrequency('bass', 300.0, 4.0), static fn (Session $s): mixed => array_column($s->channel('bass')->inserts ?? [], 'processor')[0] ?? null, 'parametric-eq'],
    [EditRequest::keepLevel('s1'), static fn (Session $s): mixed => round($s->branch('b2')->branch->gain ?? 0.0, 2), -6.02],
];

it('proposes what the codec reads and makes', function (EditRequest $request, callable $found, mixed $expected): void {
    $before = proposedTo();
    expect($found($before))->not->toBe($expected)
        ->and($found(edited($before, $request)))->toBe($expected);
})->with($requests);

it('tests every edit that can be proposed', function () use ($requests): void {
    $constructors = array_filter((new ReflectionClass(EditRequest::class))->getMethods(ReflectionMethod::IS_STATIC), static fn (ReflectionMethod $method): bool => $method->isPublic());
    $types = array_map(static fn (ReflectionMethod $method): string => strtolower((string) preg_replace('/[A-Z]/', '-$0', $method->name)), $constructors);
    $tested = array_unique(array_map(static fn (array $case): mixed => $case[0]->fields['type'], $requests));
    expect(array_values($tested))->toEqualCanonicalizing(array_values($types));
});
