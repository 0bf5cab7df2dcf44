<?php

declare(strict_types=1);

use App\Listening\Pace;

// The stream stays so far ahead of the clock that nothing breaks off, and no further: an edit is heard after that time.

/** A clock that only moves when somebody waits or works. */
final class MadeUpClock
{
    public float $now = 1000.0;

    /** @var list<float> */
    public array $waited = [];

    public function pace(float $lead): Pace
    {
        return new Pace($lead, fn (): float => $this->now, function (float $seconds): void {
            $this->waited[] = $seconds;
            $this->now += $seconds;
        });
    }
}

it('runs ahead at once, and then keeps its lead', function (): void {
    $clock = new MadeUpClock;
    $pace = $clock->pace(0.12);
    $ahead = [];
    for ($sent = 0.05; $sent < 3.0; $sent += 0.05) {
        $pace->sent(0.05);
        // Working out 50 ms takes 20.
        $clock->now += 0.02;
        $ahead[] = $sent - ($clock->now - 1000.0);
    }
    expect(max($ahead))->toBeLessThanOrEqual(0.12 + 1e-9)->and(min(array_slice($ahead, 5)))->toBeGreaterThan(0.05);
});

it('comes nearer to the clock where all comes in time, and goes back where a piece comes late', function (): void {
    $clock = new MadeUpClock;
    $pace = $clock->pace(0.12);
    $sent = 0.0;
    $ahead = function (float $seconds, float $work) use ($clock, $pace, &$sent): float {
        for ($end = $sent + $seconds; $sent < $end;) {
            $clock->now += $work;
            $pace->sent(0.043);
            $sent += 0.043;
        }

        return $sent - ($clock->now - 1000.0);
    };
    expect($ahead(1.5, 0.01))->toEqualWithDelta(0.12, 1e-6)
        ->and($ahead(30.0, 0.01))->toEqualWithDelta(0.08, 1e-6)
        // One piece takes 60 ms: the lead is what was asked for again, and stays so.
        ->and($ahead(0.02, 0.06))->toBeGreaterThan(0.05)
        ->and($ahead(25.0, 0.01))->toEqualWithDelta(0.12, 1e-6)
        ->and($ahead(30.0, 0.01))->toEqualWithDelta(0.08, 1e-6);
});

it('stays where it was asked to be where pieces come only just in time, and never goes further than that', function (float $lead, float $work, float $expected): void {
    $clock = new MadeUpClock;
    $pace = $clock->pace($lead);
    for ($i = 0; $i < 1500; ++$i) {
        $clock->now += $work;
        $pace->sent(0.043);
    }
    expect(1500 * 0.043 - ($clock->now - 1000.0))->toEqualWithDelta($expected, 1e-6);
})->with(['just in time' => [0.06, 0.03, 0.06], 'nearer than it would come' => [0.05, 0.01, 0.05]]);

it('comes as near as it can at once where keys are played, and goes further off where that is too near', function (): void {
    $clock = new MadeUpClock;
    $pace = $clock->pace(0.12);
    $sent = 0.0;
    $ahead = function (int $pieces, float $work) use ($clock, $pace, &$sent): float {
        for ($i = 0; $i < $pieces; ++$i) {
            $clock->now += $work;
            $pace->sent(0.01);
            $sent += 0.01;
        }

        return $sent - ($clock->now - 1000.0);
    };
    $ahead(50, 0.003);
    $pace->comeNear(true);
    expect($ahead(2, 0.003))->toEqualWithDelta(0.03, 1e-6)
        // Twice as far where a piece took 25 ms, and never further than it was asked to be.
        ->and([$ahead(1, 0.025), $ahead(50, 0.003)][1])->toEqualWithDelta(0.06, 1e-6)
        ->and([$ahead(1, 0.05), $ahead(50, 0.003)][1])->toEqualWithDelta(0.12, 1e-6)
        ->and([$ahead(1, 0.1), $ahead(50, 0.003)][1])->toEqualWithDelta(0.12, 1e-6)
        ->and($ahead(3000, 0.003))->toEqualWithDelta(0.03, 1e-6);
    $pace->comeNear(false);
    expect($ahead(50, 0.003))->toEqualWithDelta(0.12, 1e-6);
});

it('never waits while it is behind, and does not hurry afterwards to make up for it', function (): void {
    $clock = new MadeUpClock;
    $pace = $clock->pace(0.12);
    for ($i = 0; $i < 20; ++$i) {
        $clock->now += 0.09;
        $pace->sent(0.05);
    }
    expect($clock->waited)->toBe([]);
    // The machine is free again: the lead builds up from here, not from the start.
    for ($i = 0; $i < 20; ++$i) {
        $clock->now += 0.001;
        $pace->sent(0.05);
    }
    expect(array_sum($clock->waited))->toEqualWithDelta(20 * 0.049 - 0.12, 0.06);
});

it('waits for exactly what it is too far ahead', function (): void {
    $clock = new MadeUpClock;
    $clock->pace(0.1)->sent(0.35);
    expect($clock->waited)->toHaveCount(1)->and($clock->waited[0])->toEqualWithDelta(0.25, 1e-9);
});

it('stays further ahead where the engine has little time to spare', function (): void {
    $clock = new MadeUpClock;
    $pace = $clock->pace(0.12);
    $ahead = 0.0;
    foreach ([[0.8, 0.25], [0.2, 0.12]] as [$load, $lead]) {
        for ($i = 0; $i < 200; ++$i) {
            $clock->now += $load * 0.05;
            $pace->sent(0.05, $load);
        }
        expect(end($clock->waited))->toBeGreaterThan(0.0);
        $ahead = 0.05 * 200 * ($lead === 0.25 ? 1 : 2) - ($clock->now - 1000.0);
        expect($ahead)->toBeBetween($lead === 0.25 ? 0.23 : 0.08 - 1e-6, $lead + 1e-6);
    }
});
