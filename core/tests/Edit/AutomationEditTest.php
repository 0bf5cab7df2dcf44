<?php

declare(strict_types=1);

use Hafen\Document\InvalidDocument;
use Hafen\Document\SessionCodec;
use Hafen\Edit\EditRefused;
use Hafen\Processor\ProcessorCatalogue;
use Hafen\Session\Automation\AutomationPoint;
use Hafen\Session\Channel\ChannelKind;
use Hafen\Session\Channel\Send;
use Hafen\Session\Session;
use Hafen\Tests\Support\Mix;

require_once __DIR__.'/../Support/edited.php';

function moving(): Session
{
    return Mix::session([
        Mix::track('cello', [Mix::insert('i1', 'filter'), Mix::insert('i2', 'compressor')])->withFader(-3.0)->withSends([new Send('n1', 'plate', -9.0)]),
        Mix::track('bass'),
        Mix::bus('plate', ChannelKind::Return),
    ]);
}

/** @return array<string, list<array{int, ?float}>> by target */
function lanesOf(Session $session, string $channel): array
{
    $lanes = [];
    foreach ($session->channel($channel)->automation ?? [] as $lane) {
        $lanes[$lane->target->text()] = array_map(static fn (AutomationPoint $point): array => [$point->at, $point->value], $lane->points);
    }

    return $lanes;
}

/** @param  list<array{int, ?float}>  $points @return array<string, mixed> */
function setLane(string $channel, string $target, array $points): array
{
    return ['type' => 'set-automation', 'channel' => $channel, 'target' => $target, 'points' => array_map(static fn (array $point): array => ['at' => $point[0], 'value' => $point[1]], $points)];
}

it('keeps lanes in the document, and takes them away with their last point', function (): void {
    $session = edited(edited(moving(), setLane('cello', 'fader', [[0, -3.0], [4800, null]])), setLane('cello', 'parameter:i1:frequency', [[10, 120.0]]));
    $codec = new SessionCodec(ProcessorCatalogue::standard());
    expect(lanesOf($session, 'cello'))->toBe(['fader' => [[0, -3.0], [4800, null]], 'parameter:i1:frequency' => [[10, 120.0]]])
        ->and($codec->decode($codec->encode($session)))->toEqual($session)
        ->and(lanesOf(edited($session, setLane('cello', 'fader', [])), 'cello'))->toBe(['parameter:i1:frequency' => [[10, 120.0]]])
        ->and($codec->encode(moving()))->not->toContain('automation');
});

it('fades in and out in one step, and leaves the rest of the lane', function (): void {
    $fade = static fn (string $direction, int $from, int $to): array => ['type' => 'fade', 'channels' => ['cello'], 'direction' => $direction, 'from' => $from, 'to' => $to];
    $out = edited(moving(), $fade('out', 30000, 48000));
    expect(lanesOf($out, 'cello'))->toBe(['fader' => [[30000, -3.0], [48000, null]]]);
    expect(lanesOf(edited($out, $fade('in', 0, 9600)), 'cello'))->toBe(['fader' => [[0, null], [9600, -3.0], [30000, -3.0], [48000, null]]]);
});

it('moves a lane as a whole with its fader or its send', function (): void {
    $session = edited(edited(moving(), setLane('cello', 'fader', [[0, -3.0], [100, -8.0], [4800, null]])), setLane('cello', 'send:n1', [[0, -9.0], [100, -12.0]]));
    $moved = edited($session, ['type' => 'move-faders', 'channels' => ['cello', 'bass'], 'by' => -2.0]);
    expect(lanesOf($moved, 'cello')['fader'])->toBe([[0, -5.0], [100, -10.0], [4800, null]])->and($moved->channel('cello')?->fader)->toBe(-5.0);
    expect(lanesOf(edited($session, ['type' => 'set-fader', 'channels' => ['cello'], 'gain' => 0.0]), 'cello')['fader'])->toBe([[0, 0.0], [100, -5.0], [4800, null]]);
    expect(lanesOf(edited($session, ['type' => 'move-sends', 'sends' => ['n1'], 'by' => 1.5]), 'cello')['send:n1'])->toBe([[0, -7.5], [100, -10.5]]);
    // Not further than its highest point can go, and not to silence.
    expect(lanesOf(edited($session, ['type' => 'move-faders', 'channels' => ['cello'], 'by' => 30.0]), 'cello')['fader'][0])->toBe([0, 12.0]);
    expect(fn () => edited($session, ['type' => 'set-fader', 'channels' => ['cello'], 'gain' => null]))->toThrow(EditRefused::class);
});

it('goes with its insert to another channel, and goes when it does', function (): void {
    $session = edited(edited(moving(), setLane('cello', 'mix:i2', [[0, 0.5]])), setLane('cello', 'send:n1', [[0, -9.0]]));
    $moved = edited($session, ['type' => 'move-insert', 'insert' => 'i2', 'channel' => 'bass']);
    expect(lanesOf($moved, 'cello'))->toBe(['send:n1' => [[0, -9.0]]])->and(lanesOf($moved, 'bass'))->toBe(['mix:i2' => [[0, 0.5]]]);
    expect(lanesOf(edited($session, ['type' => 'move-insert', 'insert' => 'i2', 'channel' => 'cello', 'at' => 0]), 'cello'))->toHaveKey('mix:i2');
    expect(lanesOf(edited($session, ['type' => 'remove-inserts', 'inserts' => ['i2']]), 'cello'))->toBe(['send:n1' => [[0, -9.0]]]);
    expect(lanesOf(edited($session, ['type' => 'remove-sends', 'sends' => ['n1']]), 'cello'))->toBe(['mix:i2' => [[0, 0.5]]]);
    expect(lanesOf(edited($session, ['type' => 'replace-insert', 'insert' => 'i2', 'processor' => 'drive']), 'cello'))->toBe(['send:n1' => [[0, -9.0]]]);
});

it('refuses what cannot move, or not there, with the field', function (array $edit, string $place): void {
    try {
        edited(moving(), $edit);
        $this->fail('It was taken.');
    } catch (InvalidDocument $refusal) {
        expect($refusal->location)->toBe($place);
    }
})->with([
    'no such insert' => [setLane('cello', 'mix:i9', [[0, 0.5]]), '/target'],
    'no number' => [setLane('cello', 'parameter:i1:type', [[0, 0.5]]), '/target'],
    'out of range' => [setLane('cello', 'parameter:i1:frequency', [[0, 100.0], [10, 99999.0]]), '/points/1/value'],
    'silence of a pan' => [setLane('cello', 'pan', [[0, null]]), '/points/0/value'],
    'backwards' => [setLane('cello', 'pan', [[10, 0.0], [10, 1.0]]), '/points/1/at'],
    'half a mute' => [setLane('cello', 'mute', [[10, 0.5]]), '/points/0/value'],
    'a fade of nothing' => [['type' => 'fade', 'channels' => ['cello'], 'direction' => 'in', 'from' => 5, 'to' => 5], '/to'],
]);

it('meets what moves a lane from another window', function (): void {
    $codec = new Hafen\Edit\Json\EditCodec(ProcessorCatalogue::standard(), new SessionCodec(ProcessorCatalogue::standard()));
    $touches = static fn (array $edit): array => $codec->decode(Hafen\Document\JsonNode::parse((string) json_encode($edit), 1 << 20), moving())->touches(moving());
    $lane = $touches(setLane('cello', 'fader', [[0, -3.0]]));
    expect($touches(['type' => 'move-faders', 'channels' => ['cello'], 'by' => -1.0]))->toContain(...$lane)
        ->and($touches(['type' => 'fade', 'channels' => ['cello'], 'direction' => 'in', 'from' => 0, 'to' => 9]))->toContain(...$lane)
        ->and($touches(['type' => 'move-sends', 'sends' => ['n1'], 'by' => -1.0]))->toContain(...$touches(setLane('cello', 'send:n1', [[0, -3.0]])))
        ->and($touches(['type' => 'move-faders', 'channels' => ['bass'], 'by' => -1.0]))->not->toContain(...$lane);
});
