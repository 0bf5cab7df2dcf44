<?php

declare(strict_types=1);

use Hafen\Audio\Block;
use Hafen\Hardware\InputPort;
use Hafen\Hardware\InterfaceProfile;
use Hafen\Hardware\Outboard\Rack;
use Hafen\Hardware\Outboard\Unit;
use Hafen\Hardware\Ping;
use Hafen\Hardware\PingFailed;
use Hafen\Hardware\PlugKind;
use Hafen\Hardware\SimulatedInterface;
use Hafen\Processor\Setting;
use Hafen\Session\Hardware\HardwareLoop;
use Hafen\Tests\Support\Signal;

/** @param  array<string, float|string|bool>  $knobs */
function rackOf(string $unit, array $knobs = [], int $buffer = 128, bool $inverted = false): InterfaceProfile
{
    $profile = InterfaceProfile::standard()->withBuffer($buffer);
    $isStereo = Rack::specs()[$unit]->isStereo;

    return $profile->withUnit($profile->units[$unit]->withPorts($isStereo ? 'hw:7-8' : 'hw:7', $isStereo ? 'in:7-8' : 'in:7')->withKnobs($knobs)->withInverted($inverted));
}

function loopThrough(string $unit): HardwareLoop
{
    $isStereo = Rack::specs()[$unit]->isStereo;

    return new HardwareLoop('l1', 'Loop', $isStereo ? 'hw:7-8' : 'hw:7', $isStereo ? 'in:7-8' : 'in:7', $unit);
}

function pinged(InterfaceProfile $profile, HardwareLoop $loop, int $sampleRate = 48000): Hafen\Hardware\PingResult
{
    return (new Ping(new SimulatedInterface($profile, $sampleRate, 96.0, static fn (): null => null), $sampleRate))->measure($loop);
}

// The delay is that of the stand-in by definition: in ms, beside two buffers and 44 samples of the converters. So is the level: of the unit, and of the knobs that turn it.
it('measures the delay of each unit to a tenth of a sample, its level and its polarity', function (string $unit, array $knobs, float $milliseconds, float $level, int $sampleRate, int $buffer, bool $inverted): void {
    $found = pinged(rackOf($unit, $knobs, $buffer, $inverted), loopThrough($unit), $sampleRate);
    expect($found->delay->samples)->toEqualWithDelta(2 * $buffer + 44 + $milliseconds / 1000 * $sampleRate, 0.1)
        ->and($found->delay->buffer)->toBe($buffer)
        ->and($found->level)->toEqualWithDelta($level, 0.1)
        ->and($found->isInverted)->toBe($inverted);
})->with([
    ['spring-tank', ['mix' => 0.0], 3.15, -1.4, 48000, 128, false],
    ['spring-tank', ['mix' => 5.0, 'dwell' => 8.0], 3.15, -1.4 + 20 * log10(0.5), 44100, 32, true],
    ['tube-leveller', ['reduction' => 0.0, 'warmth' => 0.0], 2.2, 0.7, 48000, 2048, false],
    ['tube-leveller', ['reduction' => 0.0, 'warmth' => 0.0, 'output' => -6.0], 2.2, -5.3, 96000, 64, true],
    ['tape-loop', [], 4.4, -0.8, 48000, 512, false],
    ['tape-loop', ['echo' => 10.0, 'time' => 60.0], 4.4, -0.8, 44100, 128, true],
    ['passive-equaliser', [], 1.9, -0.3, 48000, 256, false],
    ['passive-equaliser', [], 1.9, -0.3, 88200, 1024, true],
]);

it('says when nothing comes back, and when what comes back clips', function (): void {
    $loop = new HardwareLoop('l1', 'Far room', 'hw:8', 'in:8');
    expect(fn () => pinged(InterfaceProfile::standard(), $loop))->toThrow(PingFailed::class, 'Nothing comes back through Far room');
    // A performer who plays on is no echo.
    expect(fn () => pinged(InterfaceProfile::standard(), new HardwareLoop('l1', 'Far room', 'hw:8', 'in:1')))->toThrow(PingFailed::class, 'Nothing comes back');
    $loud = InterfaceProfile::standard()->withInput(8, new InputPort('Back', PlugKind::Cable, 40.0, output: 8));
    expect(fn () => pinged($loud, $loop))->toThrow(PingFailed::class, 'clips at the converter');
});

it('measures with the trims of the loop, and its polarity', function (): void {
    $profile = InterfaceProfile::standard()->withInput(8, new InputPort('Back', PlugKind::Cable, output: 8));
    $found = pinged($profile, (new HardwareLoop('l1', 'Cable', 'hw:8', 'in:8'))->with(['sendTrim' => -10.0, 'returnTrim' => 4.0, 'invert' => true]));
    expect($found->level)->toEqualWithDelta(-6.0, 0.05)->and($found->isInverted)->toBeTrue()->and($found->delay->samples)->toEqualWithDelta(300.0, 0.02);
});

it('has units that hum and hiss as loud as they say while nothing goes in, and are the same in any blocks', function (string $id): void {
    $spec = Rack::specs()[$id];
    $unit = Unit::named($id, [], new Setting(48000, 96.0));
    $energy = 0.0;
    for ($i = 0; $i < 100; ++$i) {
        $block = new Block(array_fill(0, 480, 0.0), [], true);
        $unit->process($block);
        $energy += Hafen\Audio\Samples::energy($block->left);
    }
    $wanted = 10 ** ($spec->hum / 10) + 10 ** ($spec->hiss / 10);
    expect(10 * log10($energy / 48000 / $wanted))->toEqualWithDelta(0.0, 0.3);
    $sound = Signal::noise(12000, 7, 0.2);
    $whole = new Block($sound, [], true);
    Unit::named($id, [], new Setting(48000, 96.0))->process($whole);
    $other = Unit::named($id, [], new Setting(48000, 96.0));
    $parts = [];
    for ($at = 0; $at < 12000; $at += $frames) {
        $frames = min(17 + $at % 500, 12000 - $at);
        $part = new Block(array_slice($sound, $at, $frames), [], true);
        $other->process($part);
        $parts = [...$parts, ...$part->left];
    }
    expect(max(array_map(static fn (float $a, float $b): float => abs($a - $b), $whole->left, $parts)))->toBeLessThan(1e-9);
})->with(array_keys(Rack::specs()));
