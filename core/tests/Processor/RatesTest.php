<?php

declare(strict_types=1);

use Hafen\Processor\ParameterValues;
use Hafen\Processor\ProcessorCatalogue;
use Hafen\Processor\Setting;
use Hafen\Tests\Support\Signal;

// Sessions run at other rates than 48 kHz: what holds there holds for every processor at these too.

dataset('processors at other rates', static function (): iterable {
    foreach (ProcessorCatalogue::standard()->effects() as $id) {
        foreach ([44100, 96000] as $rate) {
            yield "{$id} at {$rate}" => [$id, $rate];
        }
    }
});

it('gives the same whatever the block length, at other rates', function (string $id, int $rate): void {
    $left = Signal::noise(5000, 71);
    $right = Signal::noise(5000, 72);
    $whole = Signal::through(Signal::processor($id, Signal::busy($id), $rate), $left, $right, 5000);
    foreach ([63, 512] as $size) {
        $parts = Signal::through(Signal::processor($id, Signal::busy($id), $rate), $left, $right, $size);
        expect($parts->left)->toBe($whole->left)->and($parts->right)->toBe($whole->right);
    }
})->with('processors at other rates');

it('declares the latency it has, before and after it is made', function (string $id, int $rate): void {
    $catalogue = ProcessorCatalogue::standard();
    $setting = new Setting($rate, 120.0);
    $processor = Signal::processor($id, Signal::busy($id), $rate);
    expect($processor->latency())->toBe($catalogue->latency($id, Signal::busy($id), $setting))->toBeGreaterThanOrEqual(0)
        // A tenth of a second is more than anybody would wait for.
        ->toBeLessThan(intdiv($rate, 10));
})->with('processors at other rates');

it('has died away by 60 dB after the tail it declares, at other rates', function (string $id, int $rate): void {
    $processor = Signal::processor($id, Signal::busy($id), $rate);
    $length = intdiv($rate, 2);
    $sounding = Signal::through($processor, Signal::noise($length, 73), Signal::noise($length, 74), 4096);
    $tail = $processor->latency() + $processor->tail();
    Signal::through($processor, $still = array_fill(0, $tail, 0.0), $still, 4096);
    $after = Signal::through($processor, $still = array_fill(0, 2048, 0.0), $still);
    expect(max(Signal::rms($after->left), Signal::rms($after->right())))
        ->toBeLessThan(1e-3 * Signal::rms(array_slice($sounding->left, intdiv($length, 2))));
})->with('processors at other rates');

/** Samples by which an impulse comes out of a processor, after its declared latency; 40 dB below its loudest counts as nothing. */
function onsetAfterLatency(string $id, array $parameters, int $rate): int
{
    $processor = Signal::processor($id, $parameters, $rate);
    $out = Signal::through($processor, [...array_fill(0, 100, 0.0), ...Signal::impulse($rate, 0.5)], blockSize: 512);
    $both = array_map(static fn (float $l, float $r): float => max(abs($l), abs($r)), $out->left, $out->right());
    $least = 0.01 * max($both);
    foreach ($both as $i => $level) {
        if ($level > $least) {
            return $i - 100 - $processor->latency();
        }
    }

    return PHP_INT_MAX;
}

// What sounds wet comes when its settings say, counted from the latency it declares: mixed with the dry sound it is in time.
it('brings its wet sound when it says', function (string $id, array $parameters, float $least, float $most, int $rate): void {
    expect(onsetAfterLatency($id, $parameters, $rate) / $rate * 1000.0)->toBeGreaterThanOrEqual($least)->toBeLessThanOrEqual($most);
})->with([
    ['echo', ['unit' => 'ms', 'time' => 40.0], 39.9, 40.6],
    ['echo', ['unit' => 'note', 'note' => '1/16'], 124.9, 125.7],
    ['reverb', ['pre-delay' => 30.0], 30.0, 60.0],
    ['room', ['pre-delay' => 20.0], 19.9, 45.0],
    ['hall', ['pre-delay' => 20.0], 19.9, 70.0],
    ['plate', ['pre-delay' => 20.0], 19.9, 45.0],
    ['spring', [], 0.0, 60.0],
    ['convolution', ['response' => 'container', 'pre-delay' => 25.0], 24.0, 35.0],
    ['micro-delay', ['left' => 7.0, 'right' => 7.0], 6.9, 7.1],
    ['chorus', ['amount' => 60.0], -0.05, 0.05],
    ['flanger', ['amount' => 50.0], -0.05, 0.05],
    ['phaser', ['amount' => 50.0], -0.05, 0.05],
    ['ensemble', ['amount' => 50.0], -0.05, 0.05],
    // The horn comes nearer and goes away again: half a millisecond is 16 cm.
    ['rotary', [], -0.6, 12.0],
    ['tremolo', ['depth' => 20.0], -0.05, 0.05],
    ['multiband-compressor', [], -0.1, 0.3],
    ['de-esser', [], -0.3, 0.3],
    ['transient-shaper', [], -0.05, 0.05],
    ['sweep-filter', ['frequency' => 16000.0], -0.1, 0.1],
    ['telephone', ['low' => 60.0, 'high' => 12000.0], -0.1, 0.2],
    ['graphic-eq-3', [], -0.05, 0.05],
    ['graphic-eq-31', [], -0.05, 0.05],
    ['channels', ['routing' => 'swap'], -0.05, 0.05],
    ['polarity', [], -0.05, 0.05],
    ['bit-reducer', ['bits' => 16.0], -0.05, 0.1],
])->with([44100, 48000, 96000]);

it('is set in units, not in samples: frequencies and times are the same at every rate', function (string $id, array $parameters, float $frequency, float $decibels): void {
    foreach ([44100, 48000, 96000] as $rate) {
        $samples = Signal::sine($frequency, $rate, 0.25, $rate);
        $out = Signal::through(Signal::processor($id, $parameters, $rate), $samples)->left;
        $gain = 20 * log10(Signal::amplitudeAt(array_slice($out, intdiv($rate, 2)), $frequency, $rate) / 0.25);
        expect($gain)->toEqualWithDelta($decibels, 0.1, "{$id} at {$rate}");
    }
    // Source: Butterworth, 3.01 dB at the corner; the others are set to what they give.
})->with([
    ['filter', ['type' => 'high-pass', 'frequency' => 200.0, 'slope' => '24dB'], 200.0, -3.01],
    ['filter', ['type' => 'low-pass', 'frequency' => 1000.0, 'slope' => '12dB'], 1000.0, -3.01],
    ['parametric-eq', ['bell-3-frequency' => 1000.0, 'bell-3-gain' => 6.0], 1000.0, 6.0],
    ['parametric-eq', ['low-shelf-frequency' => 800.0, 'low-shelf-gain' => -5.0], 60.0, -5.0],
    ['graphic-eq-10', ['band-1000' => 6.0], 1000.0, 6.0],
    ['gain', ['gain' => -7.0], 500.0, -7.0],
]);

it('answers to its parameters at every rate with the same values', function (string $id): void {
    // The spec knows no rate: what a document holds means the same in every session.
    $spec = ProcessorCatalogue::standard()->spec($id);
    $values = ParameterValues::of($spec, Signal::busy($id));
    foreach (Signal::busy($id) as $parameter => $value) {
        expect($spec->parameter((string) $parameter)?->objection($value))->toBeNull()
            ->and($values->toArray()[$parameter])->toBe($value);
    }
})->with(ProcessorCatalogue::standard()->effects());
