<?php

declare(strict_types=1);

use Hafen\Hardware\Converter;
use Hafen\Hardware\InputPort;
use Hafen\Hardware\InterfaceProfile;
use Hafen\Hardware\LevelAdvice;
use Hafen\Hardware\Plug\Part;
use Hafen\Hardware\Plug\Performer;
use Hafen\Hardware\PlugKind;
use Hafen\Hardware\SimulatedInterface;
use Hafen\Hardware\Timecode;
use Hafen\Tests\Support\Signal;

function interfaceOf(InterfaceProfile $profile, int $sampleRate = 48000): SimulatedInterface
{
    return new SimulatedInterface($profile, $sampleRate, 96.0, static fn (): null => null);
}

it('brings back through a cable what goes out, as late as buffer and converters make it', function (int $buffer): void {
    $profile = InterfaceProfile::standard()->withBuffer($buffer)->withInput(4, new InputPort('Back', PlugKind::Cable, output: 3));
    $interface = interfaceOf($profile);
    $sound = Signal::noise(20 * $buffer + 6000, 5, 0.5);
    $back = [];
    $late = $profile->latency()->roundTrip();
    // 24 and 20 samples of its converters, one buffer each way.
    expect($late)->toBe(2 * $buffer + 44);
    // Blocks of the buffer, and some that are shorter, as at the end of a loop.
    for ($at = 0, $number = 0; $at < count($sound); $at += $frames, ++$number) {
        $frames = min($number % 5 === 3 ? 17 : $buffer, count($sound) - $at);
        $interface->capture($frames);
        $back = [...$back, ...$interface->input(4)];
        $interface->play([3 => array_slice($sound, $at, $frames), 1 => array_fill(0, $frames, 0.25)], $frames, $at);
    }
    expect(array_slice($back, 0, $late))->each->toBe(0.0);
    foreach (range($late, count($back) - 1) as $i) {
        // Converted twice to 24 bits: half a step each.
        expect(abs($back[$i] - $sound[$i - $late]))->toBeLessThan(1.5 / 8_388_608);
    }
})->with(InterfaceProfile::BUFFERS);

it('clips at the converters and counts it, behind the gain of the amplifier', function (): void {
    $converter = new Converter;
    // One step below full scale is the highest number of 24 bits (two's complement).
    expect($converter->convert([0.5, 1.0, -1.0, 1.5, -1.5, 1e-8], 1.0))->toBe([0.5, 8_388_607 / 8_388_608, -1.0, 8_388_607 / 8_388_608, -1.0, 0.0]);
    $reading = $converter->read();
    expect($reading->clipped)->toBe(3)->and($reading->peak)->toBe(1.0)
        ->and($converter->read()->clipped)->toBe(0);
    expect($converter->convert([0.3], 4.0))->toBe([8_388_607 / 8_388_608])->and($converter->read()->clipped)->toBe(1);
});

it('has performers who play along with what they hear, at any place and in any blocks', function (Part $part, int $sampleRate): void {
    $performer = new Performer($part, $sampleRate, 96.0);
    $whole = $performer->sound(0, 2 * $sampleRate);
    $parts = [];
    for ($at = 0; $at < 2 * $sampleRate; $at += $frames) {
        $frames = min(33 + $at % 700, 2 * $sampleRate - $at);
        $parts = [...$parts, ...$performer->sound($at, $frames)];
    }
    expect($parts)->toBe($whole)
        // Level as said, and never louder; endless: the same bars come again after twelve.
        ->and(Signal::peak($whole))->toBeGreaterThan(0.2 * $part->loudest())->toBeLessThan(2.0 * $part->loudest());
    $round = (int) (12 * 2.5 * $sampleRate);
    $again = $performer->sound($round + 1000, 500);
    foreach ($performer->sound($round + $round + 1000, 500) as $i => $sample) {
        expect($sample)->toEqualWithDelta($again[$i], 1e-9);
    }
})->with([[Part::Voice, 48000], [Part::Guitar, 44100], [Part::Vibraphone, 96000]]);

it('hears the performer as late as the way out and the way in, wherever the session jumps', function (): void {
    $profile = InterfaceProfile::standard()->withBuffer(64)->withInput(1, new InputPort('Guitar', PlugKind::Guitar, 20.0));
    $interface = interfaceOf($profile);
    $late = $profile->latency()->roundTrip();
    $performer = new Performer(Part::Guitar, 48000, 96.0);
    $came = $expected = [];
    foreach ([...range(0, 40), ...range(500, 540)] as $block) {
        $interface->capture(64);
        $came = [...$came, ...$interface->input(1)];
        $interface->play([], 64, 64 * $block);
        $expected = [...$expected, ...$performer->sound(64 * $block, 64)];
    }
    foreach (range($late, count($came) - 1) as $i) {
        expect($came[$i])->toEqualWithDelta($expected[$i - $late] * 10.0, 1e-6);
    }
});

it('plays on while nothing plays, by its own clock', function (): void {
    $interface = interfaceOf(InterfaceProfile::standard());
    $peak = 0.0;
    for ($block = 0; $block < 400; ++$block) {
        $interface->capture(128);
        $peak = max($peak, Signal::peak($interface->input(1)));
        $interface->play([], 128, null);
    }
    expect($peak)->toBeGreaterThan(0.05)->and($interface->readings()[1]->peak)->toBe($peak)
        ->and($interface->readings()[1]->peak)->toBe(0.0)
        ->and($interface->input(9))->toBe(array_fill(0, 128, 0.0));
});

it('goes on with other plugs and gains', function (): void {
    $profile = InterfaceProfile::standard()->withInput(5, new InputPort('Tone', PlugKind::Tone));
    $interface = interfaceOf($profile, 44100);
    $interface->capture(128);
    // Peaks at -18 dBFS.
    expect(Signal::peak($interface->input(5)))->toEqualWithDelta(10 ** (-18 / 20), 1e-3);
    $interface->play([], 128, null);
    $interface->configure($profile->withInput(5, new InputPort('Tone', PlugKind::Tone, 20.0)));
    $interface->capture(128);
    expect($interface->readings()[5]->clipped)->toBeGreaterThan(20);
    $interface->configure($profile->withInput(5, new InputPort('Gone')));
    $interface->play([], 128, null);
    $interface->capture(128);
    expect($interface->input(5))->toBe(array_fill(0, 128, 0.0));
});

it('knows where the session was, stretch by stretch', function (): void {
    $timecode = new Timecode;
    expect($timecode->between(-50, 20))->toBe([[-50, 20, null]]);
    $timecode->add(0, 100, 1000);
    $timecode->add(100, 100, 1100);
    $timecode->add(200, 100, null);
    $timecode->add(300, 100, 7000);
    expect($timecode->between(-10, 60))->toBe([[-10, 10, null], [0, 50, 1000]])
        ->and($timecode->between(150, 200))->toBe([[150, 50, 1150], [200, 100, null], [300, 50, 7000]])
        ->and($timecode->between(390, 20))->toBe([[390, 10, 7090], [400, 10, null]]);
});

// Source: practice; peaks from -12 to -6 dBFS, the average near -18.
it('says what to change at an input after its loudest passage', function (array $readings, float $gain, float $change, string $says): void {
    $advice = LevelAdvice::of($readings, $gain);
    expect($advice->change)->toEqualWithDelta($change, 1e-9)->and($advice->text)->toContain($says);
})->with([
    'healthy' => [[[-9.0, -19.0, 0], [-20.0, -26.0, 0]], 30.0, 0.0, 'a healthy level'],
    'too soft: the average to -18' => [[[-26.0, -34.0, 0]], 20.0, 16.0, 'turn it up by 16.0 dB'],
    'too soft, with high peaks: the peaks to -6' => [[[-20.0, -40.0, 0]], 20.0, 14.0, 'turn it up by 14.0 dB'],
    'too loud, and dense: the peaks to -12 at least' => [[[-2.0, -5.0, 0]], 20.0, -10.0, 'turn it down by 10.0 dB'],
    'clipped' => [[[0.0, -6.0, 41], [-3.0, -9.0, 2]], 40.0, -12.0, '43 samples were clipped'],
    'silence' => [[[null, null, 0], [-70.0, -80.0, 0]], 20.0, 0.0, 'Nothing came in'],
    'rests do not count' => [[[-26.0, -34.0, 0], ...array_fill(0, 50, [null, null, 0])], 20.0, 16.0, 'turn it up'],
    'as far as it goes' => [[[-40.0, -49.0, 0]], 50.0, 10.0, 'goes no further'],
    'not at all' => [[[-40.0, -49.0, 0]], 60.0, 0.0, 'goes no further'],
]);
