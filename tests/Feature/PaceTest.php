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
        expect($ahead)->toEqualWithDelta($lead, 0.02);
    }
});
