<?php

declare(strict_types=1);

use Hafen\Session\Channel\ChannelKind;
use Hafen\Session\Channel\ChannelTrim;
use Hafen\Session\Channel\Send;
use Hafen\Session\Channel\Width;
use Hafen\Session\Session;
use Hafen\Survey\LoudestMoment;
use Hafen\Tests\Support\MemoryLibrary;
use Hafen\Tests\Support\Mix;
use Hafen\Tests\Support\RandomRouting;

function loudestOf(Session $session, MemoryLibrary $library): ?LoudestMoment
{
    return Mix::survey($session, $library)->loudest();
}

it('finds the loudest sample of what enters the main, and whose it is', function (): void {
    $bump = static fn (int $at, float $height): array => array_map(static fn (int $i): float => $i === $at ? $height : 0.0, range(0, 3999));
    $library = new MemoryLibrary([
        'cello' => [array_map(static fn (float $x): float => $x + 0.1, $bump(1234, -0.9))],
        'bass' => [$bump(1234, -0.3)],
        'drum' => [$bump(3000, 0.7)],
    ]);
    $session = Mix::session([
        Mix::track('cello', [Mix::insert('i1', 'limiter', ['look-ahead' => '5ms'], on: false)], Width::Stereo, 4000),
        Mix::track('bass', [], Width::Stereo, 4000)->withSends([new Send('n1', 'plate', -6.0)]),
        Mix::track('drum', [], Width::Stereo, 4000),
        Mix::bus('plate', ChannelKind::Return),
    ], [Mix::insert('i2', 'limiter')], 4000);
    $moment = loudestOf($session, $library);
    $half = 10 ** (-6 / 20);
    expect($moment?->position)->toBe(1234)
        ->and($moment->value)->toEqualWithDelta(-0.8 - 0.3 - 0.3 * $half, 1e-12)
        ->and($moment->contributions)->toEqualWithDelta(['cello' => -0.8, 'bass' => -0.3, 'plate' => -0.3 * $half, 'drum' => 0.0], 1e-12)
        ->and(array_keys($moment->contributions))->toBe(['cello', 'bass', 'plate', 'drum'])
        ->and(array_sum($moment->shares()))->toEqualWithDelta(1.0, 1e-12);
    // The trim of the main turns it over and down, and all shares with it.
    $turned = loudestOf($session->withChannel($session->main()->withTrim(new ChannelTrim(-6.0, true))), $library);
    expect($turned?->position)->toBe(1234)->and($turned->value)->toEqualWithDelta(-$moment->value * $half, 1e-12)
        ->and(array_keys($turned->contributions))->toBe(['cello', 'bass', 'plate', 'drum']);
});

it('adds up to the peak the main\'s source tap holds, in any routing', function (int $seed): void {
    [$session, $library] = RandomRouting::make($seed, 25, 900);
    $main = $session->main()->id;
    $result = Mix::survey($session, $library);
    $moment = $result->loudest();
    $peak = $result->taps["{$main}:source"]->peak;
    if ($peak === 0.0) {
        expect($moment === null || $moment->value === 0.0)->toBeTrue();

        return;
    }
    $sound = Mix::render($session, $library, tap: "{$main}:source");
    expect(abs($moment->value))->toEqualWithDelta($peak, 1e-9)
        ->and(array_sum($moment->contributions))->toEqualWithDelta($moment->value, 1e-9)
        ->and(max(abs($sound->left[$moment->position]), abs($sound->right[$moment->position])))->toEqualWithDelta($peak, 1e-9);
})->with(range(701, 730));

it('has nothing to say of a silent main', function (): void {
    expect(loudestOf(Mix::session([], length: 1000), new MemoryLibrary([])))->toBeNull();
});

it('shares out the energy that enters the main, by band, and through amounts that move', function (): void {
    $tone = static fn (float $frequency): array => [array_map(static fn (int $i): float => 0.3 * sin(2 * M_PI * $frequency * $i / 48000), range(0, 47999))];
    $library = new MemoryLibrary(['low' => $tone(60.0), 'mud' => $tone(300.0), 'high' => $tone(3000.0)]);
    $session = Mix::session([
        Mix::track('low', [], Width::Stereo)->withFader(-6.0),
        Mix::track('mud', [], Width::Stereo),
        // Only by its send, which is open for half of the time.
        Mix::track('high', [], Width::Stereo)->withOutput('none')->withSends([new Send('n1', 'room')])->withAutomation([
            new Hafen\Session\Automation\AutomationLane(Hafen\Session\Automation\AutomationTarget::fromString('send:n1'), [new Hafen\Session\Automation\AutomationPoint(23999, 0.0), new Hafen\Session\Automation\AutomationPoint(24000, null)]),
        ]),
        Mix::bus('room', ChannelKind::Return),
    ]);
    $shares = Hafen\Headroom\EnergyShares::of($session, Mix::survey($session, $library))->channels;
    $low = 10 ** (-6 / 10);
    $all = $low + 1.0 + 0.5;
    expect($shares['low']['all'])->toEqualWithDelta($low / $all, 0.01)
        ->and($shares['mud']['all'])->toEqualWithDelta(1 / $all, 0.01)
        ->and($shares['room']['all'])->toEqualWithDelta(0.5 / $all, 0.01)
        ->and($shares['low']['low'])->toBeGreaterThan(0.98)
        ->and($shares['mud']['mud'])->toBeGreaterThan(0.98)
        ->and($shares['room']['above'])->toBeGreaterThan(0.95);
});
