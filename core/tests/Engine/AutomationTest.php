<?php

declare(strict_types=1);

use Hafen\Audio\Block;
use Hafen\Audio\Decibel;
use Hafen\Processor\ProcessorCatalogue;
use Hafen\Processor\Scale;
use Hafen\Session\Automation\AutomationCurve;
use Hafen\Session\Automation\AutomationLane;
use Hafen\Session\Automation\AutomationPoint;
use Hafen\Session\Automation\AutomationTarget;
use Hafen\Session\Channel\ChannelKind;
use Hafen\Session\Channel\FaderScale;
use Hafen\Session\Channel\Send;
use Hafen\Session\Channel\Width;
use Hafen\Session\Session;
use Hafen\Survey\FolderStore;
use Hafen\Survey\SurveyMap;
use Hafen\Tests\Support\MemoryLibrary;
use Hafen\Tests\Support\Mix;
use Hafen\Tests\Support\Signal;

require_once __DIR__.'/../Support/edited.php';

/** @param  list<array{int, ?float, 2?: float}>  $points */
function laneOf(string $target, array $points): AutomationLane
{
    $parsed = AutomationTarget::fromString($target);
    assert($parsed !== null);

    return new AutomationLane($parsed, array_map(static fn (array $point): AutomationPoint => new AutomationPoint($point[0], $point[1], $point[2] ?? 0.0), $points));
}

const STEADY = 24000;

/** A steady signal of one on a stereo channel, so that what comes out is the gain itself. */
function steady(AutomationLane ...$lanes): Session
{
    return Mix::session([
        Mix::track('one', [Mix::insert('i1', 'gain'), Mix::insert('i2', 'limiter', ['look-ahead' => '5ms'], on: false)], Width::Stereo, STEADY)
            ->withSends([new Send('n1', 'return', 0.0)])
            ->withAutomation(array_values($lanes)),
        Mix::bus('return', ChannelKind::Return, output: 'none'),
    ], length: STEADY);
}

function steadySound(): MemoryLibrary
{
    return new MemoryLibrary(['one' => [array_fill(0, STEADY, 0.5)]]);
}

it('goes along the travel of what it moves, straight or bent, and holds before and after', function (): void {
    $fader = new AutomationCurve(laneOf('fader', [[100, -12.0], [300, 0.0], [500, null]]));
    $half = FaderScale::gainAt(0.5 * (FaderScale::travelAt(-12.0) + FaderScale::travelAt(0.0)));
    expect($fader->at(0))->toBe(-12.0)->and($fader->at(100))->toEqualWithDelta(-12.0, 1e-9)->and($fader->at(200))->toEqualWithDelta($half, 1e-9)
        ->and($fader->at(300))->toEqualWithDelta(0.0, 1e-9)->and($fader->at(400))->toBeLessThan(-8.0)->and($fader->at(500))->toBeNull()->and($fader->at(9999))->toBeNull()
        ->and($fader->at(150))->toBeLessThan($half);
    $bent = static fn (float $curve): float => (float) (new AutomationCurve(laneOf('pan', [[0, 0.0, $curve], [100, 1.0]])))->at(50);
    // (e^2 - 1) / (e^4 - 1), and what is left of one.
    expect($bent(0.0))->toBe(0.5)->and($bent(1.0))->toEqualWithDelta(0.119203, 1e-6)->and($bent(-1.0))->toEqualWithDelta(0.880797, 1e-6);
    $frequency = new AutomationCurve(laneOf('parameter:i1:frequency', [[0, 100.0], [100, 10000.0]]), Scale::Logarithmic);
    expect($frequency->at(50))->toEqualWithDelta(1000.0, 1e-6);
    $mute = new AutomationCurve(laneOf('mute', [[10, 0.0], [20, 1.0], [30, 0.0]]));
    expect(array_map($mute->at(...), [0, 15, 20, 29, 30, 99]))->toBe([0.0, 0.0, 1.0, 1.0, 0.0, 0.0]);
});

it('does to the sound what the lane says, at its place in spite of latency', function (string $target, array $points, callable $left, callable $right): void {
    $mix = Mix::render(steady(laneOf($target, $points)), steadySound(), tap: str_starts_with($target, 'send') ? 'return:post-fader' : null);
    foreach ([0, 4800, 7200, 9600, 12000, 15000, 19200, 23000] as $at) {
        expect($mix->left[$at])->toEqualWithDelta(0.5 * $left($at), 2e-3)->and($mix->right()[$at])->toEqualWithDelta(0.5 * $right($at), 2e-3);
    }
})->with(function (): array {
    $ramp = static fn (array $points, string $target): Closure => static fn (int $at): float => Decibel::toGain((new AutomationCurve(laneOf($target, $points)))->at($at));
    $fade = [[4800, null], [9600, 0.0], [14400, 0.0, -0.5], [19200, -20.0]];
    $share = static fn (int $at): float => max(0.0, min(1.0, ($at - 4800) / 14400));

    return [
        'fader' => ['fader', $fade, $ramp($fade, 'fader'), $ramp($fade, 'fader')],
        'send' => ['send:n1', $fade, $ramp($fade, 'fader'), $ramp($fade, 'fader')],
        'pan' => ['pan', [[4800, 0.0], [19200, 1.0]], static fn (int $at): float => min(1.0, cos(($share($at) + 1) * M_PI_4) * M_SQRT2), static fn (): float => 1.0],
        'mute' => ['mute', [[0, 0.0], [10000, 1.0], [20000, 0.0]], static fn (int $at): float => $at > 10000 && $at < 20000 ? 0.0 : 1.0, static fn (int $at): float => $at > 10000 && $at < 20000 ? 0.0 : 1.0],
        'parameter' => ['parameter:i1:gain', [[4800, 0.0], [19200, -12.0]], static fn (int $at): float => 10 ** (-12 * $share($at) / 20), static fn (int $at): float => 10 ** (-12 * $share($at) / 20)],
    ];
});

it('blends an insert by its lane', function (): void {
    $session = steady(laneOf('mix:i1', [[4800, 0.0], [19200, 1.0]]));
    $session = edited($session, ['type' => 'set-parameter', 'insert' => 'i1', 'parameter' => 'gain', 'value' => -24.0]);
    $mix = Mix::render($session, steadySound());
    foreach ([0, 12000, 23000] as $at) {
        $wet = max(0.0, min(1.0, ($at - 4800) / 14400));
        expect($mix->left[$at])->toEqualWithDelta(0.5 * (1 - $wet + $wet * 10 ** (-24 / 20)), 2e-3);
    }
});

it('sounds the same in blocks of any length, from any start, and never jumps', function (string $target, array $points): void {
    $session = edited(steady(laneOf($target, $points)), ['type' => 'set-parameter', 'insert' => 'i1', 'parameter' => 'gain', 'value' => -6.0]);
    $whole = Mix::render($session, steadySound(), 512);
    foreach ([64, 100, 480, 1024] as $size) {
        expect(Mix::difference($whole, Mix::render($session, steadySound(), $size)))->toBeLessThan($target === 'parameter:i1:gain' ? 1e-9 : 1e-12);
    }
    $later = Mix::render($session, steadySound(), 512, from: 9000);
    expect(Mix::difference(new Block(array_slice($whole->left, 9000), array_slice($whole->right(), 9000)), $later))->toBeLessThan(1e-9);
    $steps = array_map(static fn (int $i): float => abs($whole->left[$i + 1] - $whole->left[$i]), range(1000, 22000));
    expect(max($steps))->toBeGreaterThan(0.0)->toBeLessThan(0.02);
})->with([
    'fader' => ['fader', [[4800, null], [9600, 0.0], [19200, -20.0]]],
    'pan' => ['pan', [[4800, -1.0], [19200, 1.0]]],
    'mute' => ['mute', [[0, 0.0], [10000, 1.0], [15000, 0.0]]],
    'mix' => ['mix:i1', [[4800, 0.0], [19200, 1.0]]],
    'parameter' => ['parameter:i1:gain', [[4800, -24.0], [9600, 0.0]]],
]);

it('goes over to another lane, or to none, without a click', function (): void {
    $engine = Mix::engine(steady(laneOf('fader', [[0, -20.0]])), steadySound());
    $engine->start(0);
    $heard = Mix::take($engine, 5120)->left;
    $engine->change(steady(laneOf('fader', [[0, 0.0]])));
    $heard = [...$heard, ...Mix::take($engine, 5120)->left];
    $engine->change(steady());
    $heard = [...$heard, ...Mix::take($engine, 5120)->left];
    $steps = array_map(static fn (int $i): float => abs($heard[$i + 1] - $heard[$i]), range(1000, 15000));
    expect(max($steps))->toBeLessThan(0.001)->and($heard[4000])->toEqualWithDelta(0.05, 1e-6)->and($heard[9000])->toEqualWithDelta(0.5, 1e-6)->and($heard[15000])->toEqualWithDelta(0.5, 1e-6);
});

it('is measured again only where a lane is heard, and found the same in parts', function (): void {
    $store = FolderStore::temporary();
    $session = steady(laneOf('send:n1', [[0, -6.0], [9600, null]]));
    Mix::survey($session, steadySound(), $store);
    $missing = static fn (array $edit): array => array_keys(SurveyMap::of(edited($session, $edit), ProcessorCatalogue::standard())->missing($store));
    $points = [['at' => 0, 'value' => 0.0], ['at' => 9600, 'value' => -20.0]];
    expect($missing(['type' => 'set-automation', 'channel' => 'one', 'target' => 'fader', 'points' => $points]))->toBe(['one:from-fader', 'return:up-to-fader', 'return:from-fader', 'main:up-to-fader', 'main:from-fader'])
        ->and($missing(['type' => 'set-automation', 'channel' => 'one', 'target' => 'send:n1', 'points' => $points]))->toBe(['return:up-to-fader', 'return:from-fader'])
        ->and($missing(['type' => 'set-automation', 'channel' => 'one', 'target' => 'parameter:i1:gain', 'points' => [['at' => 5, 'value' => -3.0]]]))->toContain('one:up-to-fader');
    $automated = edited($session, ['type' => 'set-automation', 'channel' => 'one', 'target' => 'fader', 'points' => $points]);
    $sound = Mix::render($automated, steadySound(), tap: 'return:post-fader');
    expect(Mix::survey($automated, steadySound(), $store)->taps['return:post-fader']->peak)->toEqualWithDelta(Signal::peak($sound->left), 1e-12);
});
