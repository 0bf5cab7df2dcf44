<?php

declare(strict_types=1);

use Hafen\Engine\Compiler;
use Hafen\Engine\PlanChange;
use Hafen\Session\Channel\ChannelKind;
use Hafen\Session\Channel\Send;
use Hafen\Session\Insert\Branch;
use Hafen\Session\Session;
use Hafen\Tests\Support\MemoryLibrary;
use Hafen\Tests\Support\Mix;

require_once __DIR__.'/../Support/edited.php';

function mixToChange(): Session
{
    $session = Mix::session([
        Mix::track('cello', [Mix::insert('i1', 'filter'), Mix::split('s1', [new Branch('b1', 'Dry'), new Branch('b2', 'Wet', inserts: [Mix::insert('i2', 'drive')])])]),
        Mix::track('bass', [Mix::insert('i3', 'compressor')]),
        Mix::bus('plate', ChannelKind::Return, [Mix::insert('i4', 'reverb')]),
    ]);

    return $session->withChannel($session->channel('cello')->withSends([new Send('n1', 'plate', -6.0)]));
}

/**
 * @param  array<string, mixed>  $edit
 * @return array{list<string>, list<string>, bool} channels whose feeds go, channels that are rebuilt, whether that needs a fade
 */
function changeBy(array $edit, ?Session $before = null): array
{
    $before ??= mixToChange();
    $compiler = new Compiler(Mix::processors(), new MemoryLibrary(['cello' => [[0.0]], 'bass' => [[0.0]]]));
    $after = edited($before, $edit);
    $plan = $compiler->compile($before);
    $change = PlanChange::between($plan, $after, $compiler->arrivals($after));

    return [
        array_map(static fn (string $route): string => $plan->feeds[$route]->from(), $change->gone),
        $change->rebuilt,
        $change->needsFade,
    ];
}

it('takes apart only what an edit changes', function (array $edit, array $gone, array $rebuilt, bool $needsFade): void {
    expect(changeBy($edit))->toBe([$gone, $rebuilt, $needsFade]);
})->with([
    'a fader moves at once' => [['type' => 'set-fader', 'channels' => ['cello'], 'gain' => -3.0], [], [], false],
    'a parameter too' => [['type' => 'set-parameter', 'insert' => 'i3', 'parameter' => 'ratio', 'value' => 8.0], [], [], false],
    'a bypass too' => [['type' => 'set-insert-on', 'inserts' => ['i1', 's1'], 'on' => false], [], [], false],
    'a send gets quieter without a fade of its own' => [['type' => 'set-send-gain', 'sends' => ['n1'], 'gain' => -20.0], [], [], false],
    'a send goes' => [['type' => 'remove-sends', 'sends' => ['n1']], ['cello'], [], true],
    'an output goes elsewhere' => [['type' => 'set-output', 'channels' => ['bass'], 'output' => 'plate'], ['bass'], [], true],
    'an insert comes' => [['type' => 'add-insert', 'channels' => ['bass'], 'processor' => 'drive'], [], ['bass'], true],
    'an insert goes elsewhere' => [['type' => 'move-insert', 'insert' => 'i3', 'channel' => 'cello'], [], ['cello', 'bass'], true],
    'an insert of a branch goes' => [['type' => 'remove-inserts', 'inserts' => ['i2']], [], ['cello'], true],
    'a branch comes' => [['type' => 'add-branch', 'split' => 's1'], [], ['cello'], true],
    'a branch moves its level at once' => [['type' => 'set-branch-gain', 'branches' => ['b2'], 'gain' => -4.0], [], [], false],
    'a channel comes' => [['type' => 'add-channel', 'name' => 'Choir'], [], [], true],
    'a channel goes, with what it fed' => [['type' => 'remove-channels', 'channels' => ['bass']], ['bass'], ['bass'], true],
    'a return goes' => [['type' => 'remove-channels', 'channels' => ['plate']], ['cello', 'plate'], ['plate'], true],
    'a name changes nothing that sounds' => [['type' => 'rename-channel', 'channel' => 'bass', 'name' => 'Upright'], [], [], false],
]);

it('lets a sidechain go without a fade, and closes tracks whose clips have to wait otherwise', function (): void {
    $listening = edited(mixToChange(), ['type' => 'set-sidechain', 'insert' => 'i3', 'sidechain' => ['channel' => 'cello', 'tap' => 'pre-fader']]);
    expect(changeBy(['type' => 'set-sidechain', 'insert' => 'i3', 'sidechain' => null], $listening)[0])->toBe([]);
    // The limiter looks ahead: what listens to its channel waits for it.
    [$gone, $rebuilt, $needsFade] = changeBy(['type' => 'add-insert', 'channels' => ['cello'], 'processor' => 'limiter'], $listening);
    expect($gone)->toBe([])->and($rebuilt)->toContain('cello', 'bass')->and($needsFade)->toBeTrue();
});
