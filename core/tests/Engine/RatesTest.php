<?php

declare(strict_types=1);

use Hafen\Audio\Block;
use Hafen\Audio\Crossfade;
use Hafen\Engine\LevelMatch;
use Hafen\Engine\Loop;
use Hafen\Session\Channel\Width;
use Hafen\Session\Session;
use Hafen\Survey\TimeRange;
use Hafen\Tests\Support\MemoryLibrary;
use Hafen\Tests\Support\Mix;
use Hafen\Tests\Support\NaiveMix;
use Hafen\Tests\Support\RandomRouting;
use Hafen\Tests\Support\Signal;

/** The same session at another rate. */
function atRate(Session $session, int $rate): Session
{
    return new Session($session->name, $rate, $session->tempo, $session->panLaw, $session->length, $session->channels);
}

// Source: the order of a channel and the rules of sends, solo and mute, worked out sample by sample in NaiveMix.
it('routes as every path says at other rates', function (int $seed, int $rate): void {
    [$session, , $files] = RandomRouting::make($seed, 20);
    $session = atRate($session, $rate);
    $library = new MemoryLibrary($files, $rate);
    $naive = new NaiveMix($session, $files);
    foreach ([[$session->main()->id, 'post-fader'], [$session->channels[0]->id, 'pre-fader']] as [$channel, $stage]) {
        $sound = Mix::render($session, $library, 200, "{$channel}:{$stage}");
        $worst = 0.0;
        foreach ($naive->at($channel, $stage) as $i => [$left, $right]) {
            $worst = max($worst, abs($sound->left[$i] - $left), abs($sound->right[$i] - $right));
        }
        expect($worst)->toBeLessThan(1e-9, "{$channel}:{$stage} of routing {$seed} at {$rate}");
    }
})->with(range(301, 308))->with([44100, 96000, 192000]);

it('surveys at other rates what it plays there', function (int $rate): void {
    $length = 2 * $rate;
    $session = atRate(Mix::session([
        Mix::track('cello', [Mix::insert('i1', 'filter', ['frequency' => 300.0]), Mix::insert('i2', 'compressor', ['threshold' => -30.0])], Width::Stereo, $length),
        Mix::track('bass', [Mix::insert('i3', 'drive', ['drive' => 12.0])], Width::Mono, $length),
    ], [Mix::insert('i4', 'limiter')], $length), $rate);
    $library = new MemoryLibrary(['cello' => [Signal::noise($length, 5, 0.4), Signal::noise($length, 6, 0.4)], 'bass' => [Signal::noise($length, 7, 0.4)]], $rate);
    $survey = Mix::survey($session, $library);
    foreach (['cello:source', 'cello:insert:i2', 'bass:pre-fader', 'main:post-fader'] as $tap) {
        $sound = Mix::render($session, $library, 512, $tap);
        $peak = max(Signal::peak($sound->left), Signal::peak($sound->right()));
        expect($survey->taps[$tap]->peak)->toEqualWithDelta($peak, 1e-9, $tap);
    }
    expect($survey->loudness()?->integrated)->not->toBeNull()
        ->and($survey->load($session))->toBeGreaterThan(0.0)
        ->and($survey->staleTaps($session))->toBe([]);
})->with([44100, 96000]);

it('reads files of another rate in time and in tune', function (int $rate): void {
    // A tone of a second recorded at 44.1 kHz, in a session at another rate.
    $tone = Signal::sine(1000.0, 44100, 0.5, 44100);
    $session = atRate(Mix::session([Mix::track('tone', [], Width::Mono, $rate)], length: $rate), $rate);
    $sound = Mix::render($session, new MemoryLibrary(['tone' => [$tone]], 44100));
    $middle = array_slice($sound->left, intdiv($rate, 4), intdiv($rate, 2));
    $expected = 0.5 * 10 ** (-3.0103 / 20);
    expect(Signal::amplitudeAt($middle, 1000.0, $rate))->toEqualWithDelta($expected, 0.002)
        ->and(Signal::amplitudeAt($middle, 1010.0, $rate))->toBeLessThan(0.01);
})->with([48000, 88200, 96000]);

it('takes no shorter loop than a tenth of a second, whatever the rate', function (): void {
    expect(Loop::shortest(44100))->toBe(4410)->and(Loop::shortest(48000))->toBe(4800)->and(Loop::shortest(192000))->toBe(19200)
        ->and(fn () => new Loop(5, 5))->toThrow(InvalidArgumentException::class);
});

it('looks around a moment in seconds, within the session', function (): void {
    $session = atRate(Mix::session([Mix::track('cello')], length: 96000), 96000);
    expect(TimeRange::around($session, 48000))->toEqual(new TimeRange(43200, 52800, 1.5))
        ->and(TimeRange::around($session, 0)->from)->toBe(0)
        ->and(TimeRange::around($session, 96000)->to)->toBe(96000)
        ->and(TimeRange::around($session, 10_000_000)->frames())->toBeGreaterThan(0);
});

it('matches the level of two sides within a tenth of a dB, and by 24 dB at most', function (float $by, float $expected): void {
    $match = new LevelMatch(48000);
    for ($i = 0; $i < 400; ++$i) {
        $one = new Block(Signal::noise(512, 1 + $i, 0.3), Signal::noise(512, 900 + $i, 0.3));
        $two = new Block(array_map(static fn (float $x): float => $x * $by, $one->left), array_map(static fn (float $x): float => $x * $by, $one->right()));
        $match->apply($one, $two);
    }
    expect(20 * log10($match->gain()))->toEqualWithDelta($expected, 0.1)
        ->and(20 * log10(Signal::rms($two->left) / Signal::rms($one->left)))->toEqualWithDelta($expected + 20 * log10($by), 0.1);
})->with([[0.5, 6.02], [2.0, -6.02], [1.0, 0.0], [1e-3, 24.0], [100.0, -24.0]]);

it('does not take silence for a level', function (): void {
    $match = new LevelMatch(48000);
    for ($i = 0; $i < 20; ++$i) {
        $match->apply(new Block(Signal::noise(512, $i), Signal::noise(512, $i)), $two = Block::silence(512));
        expect($match->gain())->toBe(1.0);
    }
});

it('fades from one sound to another in a straight line, from where it was', function (): void {
    $ones = array_fill(0, 100, 1.0);
    $block = new Block($ones, array_fill(0, 100, -1.0));
    Crossfade::mix($block, new Block(array_fill(0, 100, 0.0), array_fill(0, 100, 0.0)), 0.25, 0.75);
    expect($block->left[0])->toEqualWithDelta(0.255, 1e-12)->and($block->left[99])->toBe(0.75)->and($block->right[99])->toBe(-0.75);
    $same = new Block($ones, $ones);
    Crossfade::mix($same, new Block($ones, $ones), 0.0, 1.0);
    expect($same->left)->toBe($ones);
});
