<?php

declare(strict_types=1);

use Hafen\Engine\Compiler;
use Hafen\Load\ChannelLoad;
use Hafen\Load\FewestBy;
use Hafen\Load\FreezeForecast;
use Hafen\Load\FreezePlan;
use Hafen\Load\FreezePlanner;
use Hafen\Load\LoadMeasure;
use Hafen\Load\SessionLoad;
use Hafen\Session\Channel\ChannelKind;
use Hafen\Session\Channel\Width;
use Hafen\Session\Session;
use Hafen\Tests\Support\Freezes;
use Hafen\Tests\Support\MemoryLibrary;
use Hafen\Tests\Support\Mix;
use Hafen\Tests\Support\Signal;

/** @param  array<string, float>  $loads  by channel; the main takes 0.05, each reads and fades for 0.01 */
function measuredAs(Session $session, array $loads): SessionLoad
{
    $channels = array_map(static fn (float $load): ChannelLoad => new ChannelLoad($load, 0.005, 0.005, ['x' => $load - 0.01]), [...$loads, 'main' => 0.05]);

    return new SessionLoad(array_sum($loads) + 0.06, $channels, 4.0);
}

/** @param  array<string, float>  $loads */
function planOf(Session $session, array $loads, float $target, FewestBy $by = FewestBy::Channels): FreezePlan
{
    return (new FreezePlanner($session, measuredAs($session, $loads)))->plan($target, $by);
}

it('takes as few channels as it can, or as little time', function (): void {
    $session = Mix::session(array_map(static fn (string $id) => Mix::track($id), ['a', 'b', 'c', 'd']));
    $loads = ['a' => 0.5, 'b' => 0.3, 'c' => 0.25, 'd' => 0.02];
    expect(planOf($session, $loads, 0.7)->channels)->toBe(['a'])
        ->and(planOf($session, $loads, 0.5)->channels)->toBe(['a', 'b'])
        // Half a second of sound for each tenth of load: what saves less takes less time.
        ->and(planOf($session, $loads, 0.9, FewestBy::Time)->channels)->toBe(['c'])
        ->and(planOf($session, $loads, 2.0)->channels)->toBe([])
        ->and(planOf($session, $loads, 0.7)->after)->toEqualWithDelta(1.13 - 0.5 + 0.005 + 0.0075, 1e-9);
});

it('knows that the tracks of a frozen group sleep, and says when freezing cannot get there', function (): void {
    $session = Mix::session([Mix::track('a')->withOutput('group'), Mix::track('b')->withOutput('group'), Mix::track('c'), Mix::bus('group', ChannelKind::Group)]);
    $loads = ['a' => 0.3, 'b' => 0.3, 'c' => 0.35, 'group' => 0.1];
    $plan = planOf($session, $loads, 0.5);
    expect($plan->channels)->toBe(['group'])->and($plan->isReached)->toBeTrue()
        ->and((new FreezeForecast($session, measuredAs($session, $loads)))->seconds('group'))->toEqualWithDelta(0.7, 1e-9);
    $most = planOf($session, $loads, 0.01);
    expect($most->isReached)->toBeFalse()->and($most->channels)->toBe(['group', 'c'])->and($most->after)->toBeGreaterThan(0.06);
});

// Source: the load measured again once the plan is made real.
it('predicts the load after a plan within 5 points of what is measured then', function (): void {
    $library = new MemoryLibrary(['one' => [Signal::noise(96000, 1, 0.3)], 'two' => [Signal::noise(96000, 2, 0.3), Signal::noise(96000, 3, 0.3)]]);
    $session = Mix::session([
        Mix::track('one', [Mix::insert('i1', 'drive'), Mix::insert('i2', 'reverb')], Width::Mono, 96000),
        Mix::track('two', [Mix::insert('i3', 'drive'), Mix::insert('i4', 'drive'), Mix::insert('i5', 'compressor')], Width::Stereo, 96000),
    ], [Mix::insert('i6', 'limiter')], 96000);
    $measure = new LoadMeasure(new Compiler(Mix::processors(), $library));
    $load = $measure->measure($session, 1.0);
    assert($load !== null);
    $plan = (new FreezePlanner($session, $load))->plan(0.2 * $load->total, FewestBy::Channels);
    expect($plan->channels)->not->toBe([]);
    $frozen = array_reduce($plan->channels, static fn (Session $session, string $id): Session => Freezes::freeze($session, $library, $id), $session);
    expect($measure->measure($frozen, 1.0)?->total)->toEqualWithDelta($plan->after, 0.05);
});
