<?php

declare(strict_types=1);

use Hafen\Tests\Support\Reference;
use Hafen\Tests\Support\Signal;

/** Left and right out of a processor for two different sides. @param  array<string, float|string|bool>  $parameters @return array{list<float>, list<float>, list<float>, list<float>} */
function sidesThrough(string $id, array $parameters): array
{
    $left = Signal::noise(2000, 41);
    $right = Signal::noise(2000, 42);
    $out = Signal::through(Signal::processor($id, $parameters), $left, $right);

    return [$left, $right, $out->left, $out->right()];
}

it('turns sides over', function (): void {
    [$left, $right, $outLeft, $outRight] = sidesThrough('polarity', ['inverted' => 'right']);
    expect($outLeft)->toBe($left)->and($outRight)->toBe(array_map(static fn (float $x): float => -$x, $right));
});

// Source: practice: -3.01 dB a side in the middle, constant power over the whole way.
it('pans with constant power', function (float $position): void {
    $sine = Signal::sine(1000.0, 4800);
    $out = Signal::through(Signal::processor('balance', ['mode' => 'pan', 'position' => $position]), $sine);
    $power = Signal::rms($out->left) ** 2 + Signal::rms($out->right()) ** 2;
    expect(10 * log10($power / Signal::rms($sine) ** 2))->toEqualWithDelta(0.0, 1e-6);
    if ($position === 0.0) {
        expect(20 * log10(Signal::rms($out->left) / Signal::rms($sine)))->toEqualWithDelta(-3.0103, 1e-3);
    }
})->with([-100.0, -37.0, 0.0, 55.0, 100.0]);

it('balances by turning down the side that is left', function (): void {
    [$left, $right, $outLeft, $outRight] = sidesThrough('balance', ['position' => 25.0]);
    expect($outRight)->toBe($right)->and($outLeft[77])->toEqualWithDelta(0.75 * $left[77], 1e-12);
});

it('makes the sound narrow, wide and mono by its middle and its sides', function (): void {
    [$left, $right, $outLeft, $outRight] = sidesThrough('width', ['width' => 0.0]);
    expect($outLeft)->toBe($outRight)->and($outLeft[5])->toEqualWithDelta(($left[5] + $right[5]) / 2, 1e-12);
    [$left, $right, $outLeft, $outRight] = sidesThrough('width', ['width' => 200.0]);
    expect($outLeft[5] - $outRight[5])->toEqualWithDelta(2 * ($left[5] - $right[5]), 1e-12)
        ->and($outLeft[5] + $outRight[5])->toEqualWithDelta($left[5] + $right[5], 1e-12);
});

// Source: a second-order Butterworth, by scipy.signal.butter.
it('narrows below a frequency', function (): void {
    $left = Signal::sine(60.0, 48000, 0.5);
    $out = Signal::through(Signal::processor('width', ['narrow' => true, 'frequency' => 120.0]), $left, array_map(static fn (float $x): float => -$x, $left));
    $expected = Reference::python('b, a = sig.butter(2, 120, "highpass", fs=48000); print(json.dumps(abs(sig.freqz(b, a, [60], fs=48000)[1][0])))', []);
    expect(Signal::rms(array_slice($out->left, 24000)) / Signal::rms(array_slice($left, 24000)))->toEqualWithDelta($expected, 1e-3);
});

it('routes sides', function (string $routing, float $left, float $right): void {
    $out = Signal::through(Signal::processor('channels', ['routing' => $routing]), array_fill(0, 64, 1.0), array_fill(0, 64, 0.25));
    expect($out->left[63])->toEqualWithDelta($left, 1e-12)->and($out->right()[63])->toEqualWithDelta($right, 1e-12);
})->with([['swap', 0.25, 1.0], ['mono', 0.625, 0.625], ['left', 1.0, 1.0], ['right', 0.25, 0.25], ['side', 0.375, 0.375], ['encode', 0.625, 0.375], ['decode', 1.25, 0.75]]);

it('encodes to middle and side and back again without a trace', function (): void {
    [$left, $right, $mid, $side] = sidesThrough('channels', ['routing' => 'encode']);
    $out = Signal::through(Signal::processor('channels', ['routing' => 'decode']), $mid, $side);
    expect(max(array_map(static fn (float $a, float $b): float => abs($a - $b), $out->left, $left)))->toBeLessThan(1e-12)
        ->and(max(array_map(static fn (float $a, float $b): float => abs($a - $b), $out->right, $right)))->toBeLessThan(1e-12);
});

// Source: sox's tremolo, the same sine on the gain but for where it starts: depth and rate of the two agree.
it('moves the level as sox does', function (): void {
    $file = sys_get_temp_dir().'/hafen-tremolo-'.getmypid();
    $ones = array_fill(0, 48000, 0.5);
    $out = Signal::through(Signal::processor('tremolo', ['rate' => 5.0, 'depth' => 60.0]), $ones)->left;
    $theirs = Reference::python('import subprocess, soundfile; soundfile.write(data["f"]+".wav", np.full(48000, 0.5), 48000, subtype="FLOAT"); subprocess.run(["sox", data["f"]+".wav", "-e", "float", "-b", "32", data["f"]+"o.wav", "tremolo", "5", "60"], check=True); x = soundfile.read(data["f"]+"o.wav")[0]; print(json.dumps([float(x.min()), float(x.max()), float(np.argmax(np.abs(np.fft.rfft(x - x.mean()))))]))', ['f' => $file]);
    $spectrum = Reference::python('x = np.array(data["x"]); print(json.dumps([float(x.min()), float(x.max()), float(np.argmax(np.abs(np.fft.rfft(x - x.mean()))))]))', ['x' => $out]);
    expect($spectrum[0])->toEqualWithDelta($theirs[0], 1e-3)->and($spectrum[1])->toEqualWithDelta($theirs[1], 1e-3)->and($spectrum[2])->toBe($theirs[2]);
    array_map(unlink(...), ["{$file}.wav", "{$file}o.wav"]);
});

it('moves from side to side half a turn apart', function (): void {
    $out = Signal::through(Signal::processor('tremolo', ['rate' => 2.0, 'depth' => 100.0, 'apart' => 180.0]), array_fill(0, 24000, 1.0));
    foreach ([1000, 6000, 11111] as $at) {
        expect($out->left[$at] + $out->right[$at])->toEqualWithDelta(1.0, 1e-9);
    }
});

it('goes where the session is, not where playing began', function (string $id): void {
    $samples = Signal::noise(12000, 43);
    // An envelope takes longer to forget than this lasts.
    $setting = $id === 'sweep-filter' ? ['depth' => 2.0, 'rate' => 6.0, 'envelope' => 0.0] : Signal::busy($id);
    $whole = Signal::through(Signal::processor($id, $setting), $samples, $samples);
    $late = Signal::processor($id, $setting);
    $late->at(6000);
    $part = Signal::through($late, array_slice($samples, 6000), array_slice($samples, 6000));
    // After what was heard before has died away, both move alike.
    $worst = 0.0;
    for ($i = 4000; $i < 6000; ++$i) {
        $worst = max($worst, abs($part->left[$i] - $whole->left[6000 + $i]));
    }
    expect($worst)->toBeLessThan(1e-3);
})->with(['tremolo', 'sweep-filter', 'phaser', 'vibrato', 'ensemble', 'rotary', 'chorus']);
