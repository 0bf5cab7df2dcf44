<?php

declare(strict_types=1);

use Hafen\Audio\Block;
use Hafen\Dsp\Gain\GainComputer;
use Hafen\Dsp\Saturation\Oversampler;
use Hafen\Processor\ChipLabel;
use Hafen\Processor\ParameterKind;
use Hafen\Processor\ParameterValues;
use Hafen\Processor\ProcessorCatalogue;
use Hafen\Processor\Space\EchoDelay;
use Hafen\Tests\Support\Reference;
use Hafen\Tests\Support\Signal;

dataset('processors', static fn (): array => ProcessorCatalogue::standard()->effects());

it('gives the same whatever the block length', function (string $id): void {
    $left = Signal::noise(9000, 21);
    $right = Signal::noise(9000, 22);
    $whole = Signal::through(Signal::processor($id, Signal::busy($id)), $left, $right, 9000);
    foreach ([64, 500, 4096] as $size) {
        $parts = Signal::through(Signal::processor($id, Signal::busy($id)), $left, $right, $size);
        expect($parts->left)->toBe($whole->left)->and($parts->right)->toBe($whole->right);
    }
})->with('processors');

it('does on a mono block what it does on two equal sides', function (string $id): void {
    $samples = Signal::noise(4000, 23);
    $mono = Signal::through(Signal::processor($id, Signal::busy($id)), $samples);
    $stereo = Signal::through(Signal::processor($id, Signal::busy($id)), $samples, $samples);
    expect($mono->left)->toBe($stereo->left)->and($mono->right())->toBe($stereo->right);
})->with('processors');

it('goes on without a break when a mono path becomes wide', function (string $id): void {
    $samples = Signal::noise(4000, 24);
    $processor = Signal::processor($id, Signal::busy($id));
    $first = Block::mono(array_slice($samples, 0, 2000));
    $processor->process($first);
    $second = new Block(array_slice($samples, 2000), array_slice($samples, 2000));
    $processor->process($second);
    $whole = Signal::through(Signal::processor($id, Signal::busy($id)), $samples, $samples);
    expect($second->right)->toBe(array_slice($whole->right, 2000));
})->with('processors');

it('starts anew after a reset', function (string $id): void {
    $samples = Signal::noise(3000, 25);
    $processor = Signal::processor($id, Signal::busy($id));
    $once = Signal::through($processor, $samples, $samples);
    $processor->reset();
    expect(Signal::through($processor, $samples, $samples)->left)->toBe($once->left);
})->with('processors');

it('stays finite at both ends of every parameter, with noise, a square, silence and impulses', function (string $id): void {
    $catalogue = ProcessorCatalogue::standard();
    $square = array_map(static fn (int $i): float => intdiv($i, 60) % 2 === 0 ? 1.0 : -1.0, range(0, 2999));
    $signals = [Signal::noise(3000, 26, 1.0), $square, array_fill(0, 3000, 0.0), Signal::impulse(3000)];
    foreach ($catalogue->spec($id)->parameters as $parameter) {
        $ends = match ($parameter->kind) {
            ParameterKind::Number => [$parameter->min, $parameter->max],
            ParameterKind::Choice => array_map(strval(...), array_keys($parameter->choices)),
            ParameterKind::Toggle => [true, false],
            ParameterKind::AudioFile => ['', 'missing.wav'],
        };
        foreach ($ends as $end) {
            $processor = Signal::processor($id, [...Signal::busy($id), $parameter->id => $end]);
            foreach ($signals as $signal) {
                $out = Signal::through($processor, $signal, $signal);
                expect(is_finite(array_sum($out->left)) && is_finite(array_sum($out->right)))->toBeTrue("{$parameter->id} at ".var_export($end, true))
                    ->and(Signal::peak($out->left))->toBeLessThan(2000.0);
            }
        }
    }
})->with('processors');

it('makes nothing of silence, at either end of every parameter', function (string $id): void {
    $settings = [Signal::busy($id)];
    foreach (ProcessorCatalogue::standard()->spec($id)->parameters as $parameter) {
        foreach (match ($parameter->kind) {
            ParameterKind::Number => [$parameter->min, $parameter->max],
            ParameterKind::Choice => array_map(strval(...), array_keys($parameter->choices)),
            ParameterKind::Toggle => [true, false],
            ParameterKind::AudioFile => [],
        } as $end) {
            $settings[] = [...Signal::busy($id), $parameter->id => $end];
        }
    }
    foreach ($settings as $setting) {
        $out = Signal::through(Signal::processor($id, $setting), array_fill(0, 2000, 0.0));
        expect(max(Signal::peak($out->left), Signal::peak($out->right())))->toBeLessThan(1e-12, (string) json_encode($setting));
    }
})->with('processors');

it('is as late as it says', function (string $id): void {
    // Neutral settings, so that the impulse comes through whole.
    $processor = Signal::processor($id, match ($id) {
        'drive' => ['drive' => 0.0, 'shape' => 100.0, 'output' => 0.0],
        'filter' => ['frequency' => 20.0, 'slope' => '6dB'],
        'limiter' => ['look-ahead' => '5ms'],
        'distortion' => ['drive' => 0.0, 'output' => 0.0, 'tone' => 20000.0],
        'tape-stage' => ['drive' => -12.0, 'speed' => '76cm'],
        'amplifier' => ['gain' => 0.0, 'cabinet' => 'none', 'tight' => 20.0],
        'pitch-correction' => ['amount' => 0.0],
        'vibrato' => ['depth' => 0.0],
        default => [],
    });
    $out = Signal::through($processor, Signal::impulse(4800, 0.5))->left;
    $loudest = (int) array_search(Signal::peak($out), array_map(abs(...), $out), true);
    expect($loudest)->toBe($processor->latency());
})->with([
    'gain', 'filter', 'parametric-eq', 'compressor', 'limiter', 'drive', 'tilt', 'width', 'balance', 'graphic-eq-10', 'gate', 'micro-delay',
    'distortion', 'tube-stage', 'waveshaper', 'tape-stage', 'console-stage', 'amplifier', 'vibrato', 'pitch-shift', 'formant-shift', 'pitch-correction',
]);

it('has died away by 60 dB after the tail it declares', function (string $id): void {
    $processor = Signal::processor($id, Signal::busy($id));
    $noise = Signal::noise(24000, 27);
    $sounding = Signal::through($processor, $noise, Signal::noise(24000, 28), 4096);
    $tail = $processor->latency() + $processor->tail();
    Signal::through($processor, $still = array_fill(0, $tail, 0.0), $still, 4096);
    $after = Signal::through($processor, $still = array_fill(0, 2048, 0.0), $still);
    expect(max(Signal::rms($after->left), Signal::rms($after->right())))->toBeLessThan(1e-3 * Signal::rms(array_slice($sounding->left, 12000)));
})->with('processors');

it('gives the same with the JIT on and off', function (): void {
    $code = 'require "vendor/autoload.php"; use Hafen\\Tests\\Support\\Signal; $l = Signal::noise(6000, 1); $r = Signal::noise(6000, 2); $h = [];'
        .'foreach (Hafen\\Processor\\ProcessorCatalogue::standard()->effects() as $id) { $p = Signal::processor($id, Signal::busy($id)); for ($i = 0; $i < 3; ++$i) { $b = Signal::through($p, $l, $r); } $h[$id] = hash("xxh128", pack("e*", ...$b->left).pack("e*", ...$b->right)); }'
        .'$h["jit"] = (opcache_get_status(false)["jit"]["on"] ?? false); echo json_encode($h);';
    $run = static fn (string $jit): array => (array) json_decode((string) shell_exec('PHP_INI_SCAN_DIR=:config/php '.PHP_BINARY." -d opcache.jit={$jit} -r ".escapeshellarg($code)), true);
    $on = $run('tracing');
    $off = $run('off');
    expect($on['jit'])->toBeTrue()->and($off['jit'])->toBeFalse();
    unset($on['jit'], $off['jit']);
    expect($on)->not->toBe([])->toBe($off);
});

// Source: Giannoulis, Massberg, Reiss, JAES 2012, eq. 4: hard knee -20 dB, 4:1, -8 dB in gives -17 dB out.
it('compresses along the published curve', function (): void {
    expect((new GainComputer(-20.0, 4.0, 0.0))->output(-8.0))->toEqualWithDelta(-17.0, 1e-9);
    $soft = new GainComputer(-20.0, 4.0, 10.0);
    foreach ([-25.0, -22.5, -20.0, -17.0, -15.0] as $level) {
        expect($soft->output($level))->toEqualWithDelta($level + (1 / 4 - 1) * ($level + 20 + 5) ** 2 / 20, 1e-9);
    }
    // And the processor settles there: a level that does not change is turned down by the curve.
    $constant = array_fill(0, 48000, 10 ** (-8 / 20));
    $out = Signal::through(Signal::processor('compressor', ['threshold' => -20.0, 'ratio' => 4.0, 'knee' => 0.0, 'attack' => 1.0]), $constant)->left;
    expect(20 * log10((float) end($out)))->toEqualWithDelta(-17.0, 0.01);
});

it('attacks and releases in the times set', function (): void {
    $samples = [...array_fill(0, 48000, 0.5), ...array_fill(0, 48000, 0.01)];
    $out = Signal::through(Signal::processor('compressor', ['threshold' => -26.0, 'ratio' => 20.0, 'knee' => 0.0, 'attack' => 50.0, 'release' => 200.0]), $samples)->left;
    $reduction = static fn (int $at): float => 20 * log10($samples[$at] / $out[$at]);
    $final = $reduction(47999);
    // 63 % of the change after the attack time. Both smoothers follow each other, so two exponentials fall together in the release:
    // (r e^(-t/r) - a e^(-t/a)) / (r - a) is left after t.
    $left = (200 * exp(-1) - 50 * exp(-4)) / 150;
    expect($reduction(2400) / $final)->toEqualWithDelta(1 - exp(-1), 0.01)
        ->and($reduction(48000 + 9600) / $final)->toEqualWithDelta($left, 0.001);
});

it('lets no sample above the ceiling', function (): void {
    $signal = array_map(static fn (float $s, int $i): float => $s * (1 + 3 * sin($i / 900) ** 8), Signal::noise(48000, 9, 1.0), range(0, 47999));
    foreach (['1ms', '10ms'] as $lookAhead) {
        $out = Signal::through(Signal::processor('limiter', ['ceiling' => -3.0, 'gain' => 12.0, 'look-ahead' => $lookAhead, 'release' => 20.0]), $signal, Signal::noise(48000, 10, 2.0));
        expect(max(Signal::peak($out->left), Signal::peak($out->right)))->toBeLessThanOrEqual(10 ** (-3 / 20));
    }
});

it('leaves what stays below the ceiling alone, only later', function (): void {
    $signal = Signal::noise(4800, 11, 0.5);
    $limiter = Signal::processor('limiter', ['ceiling' => -1.0]);
    $out = Signal::through($limiter, $signal)->left;
    for ($i = $limiter->latency(); $i < 4800; ++$i) {
        expect($out[$i])->toBe($signal[$i - $limiter->latency()]);
    }
});

// Source: the signals of EBU Tech 3341 cases 15-19 (from memory), measured by scipy.signal.resample_poly at 16 times the rate.
it('lets no inter-sample peak above the ceiling by 0.1 dB in true-peak mode', function (): void {
    $outputs = [];
    foreach ([[4, 45], [6, 60], [8, 67.5], [4, 0], [48, 10]] as [$divisor, $phase]) {
        $signal = Signal::sine(48000 / $divisor, 24000, 1.41, 48000, deg2rad($phase));
        $outputs[] = Signal::through(Signal::processor('limiter', ['ceiling' => -1.0, 'true-peak' => true]), $signal)->left;
    }
    $peaks = Reference::python('print(json.dumps([float(np.max(np.abs(sig.resample_poly(np.array(x), 16, 1)[16000:-16000]))) for x in data["x"]]))', ['x' => $outputs]);
    foreach ($peaks as $peak) {
        expect(20 * log10($peak))->toBeLessThan(-0.9)->toBeGreaterThan(-1.6);
    }
});

// Source: Fourier series of a clipped sine: odd harmonics only; aliases are what lies between the harmonics.
it('clips to odd harmonics with aliases 60 dB down', function (): void {
    $out = Signal::through(Signal::processor('drive', ['drive' => 20.0, 'shape' => 100.0, 'output' => 0.0]), Signal::sine(1500.0, 96000))->left;
    $steady = array_slice($out, 48000);
    $first = Signal::amplitudeAt($steady, 1500.0);
    expect($first)->toBeGreaterThan(1.2);
    foreach ([3000.0, 6000.0, 9000.0] as $even) {
        expect(20 * log10(Signal::amplitudeAt($steady, $even) / $first))->toBeLessThan(-80.0);
    }
    expect(20 * log10(Signal::amplitudeAt($steady, 4500.0) / $first))->toBeGreaterThan(-12.0);
    // Every whole frequency that is not a multiple of 1500 Hz holds nothing but aliases.
    $worst = 0.0;
    for ($frequency = 100.0; $frequency < 20000.0; $frequency += 100.0) {
        if (fmod($frequency, 1500.0) > 1.0) {
            $worst = max($worst, Signal::amplitudeAt($steady, $frequency));
        }
    }
    expect(20 * log10($worst / $first))->toBeLessThan(-60.0);
});

it('makes even harmonics with bias and leaves no direct current', function (): void {
    $out = array_slice(Signal::through(Signal::processor('drive', ['drive' => 12.0, 'bias' => 30.0]), Signal::sine(1000.0, 144000, 0.5))->left, 96000);
    expect(Signal::amplitudeAt($out, 2000.0))->toBeGreaterThan(0.02)->and(abs(array_sum($out) / count($out)))->toBeLessThan(1e-3);
});

// Source: arithmetic: a quarter lasts 60000/tempo ms, dotted x 1.5, triplet x 2/3.
it('repeats in note values', function (string $note, float $tempo, float $milliseconds): void {
    expect(EchoDelay::milliseconds(ParameterValues::of(EchoDelay::spec(), ['note' => $note]), $tempo))->toEqualWithDelta($milliseconds, 1e-9);
    $out = Signal::through(Signal::processor('echo', ['note' => $note, 'feedback' => 0.0], 48000, $tempo), Signal::impulse(100_000))->left;
    expect(array_search(1.0, $out, true))->toBe((int) round($milliseconds * 48));
})->with([['1/2', 120.0, 1000.0], ['1/4', 120.0, 500.0], ['1/8.', 120.0, 375.0], ['1/4t', 120.0, 1000 / 3 * 1.0], ['1/4', 96.0, 625.0]]);

it('throws repeats from side to side', function (): void {
    $out = Signal::through(Signal::processor('echo', ['unit' => 'ms', 'time' => 10.0, 'feedback' => 50.0, 'ping-pong' => true, 'damping' => 20000.0, 'low-cut' => 20.0]), Signal::impulse(2400));
    expect($out->left[480])->toBe(1.0)->and($out->right[480])->toBe(0.0)
        ->and($out->right[960])->toBeGreaterThan(0.3)->and(abs($out->left[960]))->toBeLessThan(0.01)
        ->and($out->left[1440])->toBeGreaterThan(0.05);
});

// Source: ISO 3382, Schroeder 1965: T30 by backward integration, in the octave around 1 kHz (filter: scipy.signal.butter).
it('decays in the time set', function (float $decay, float $size): void {
    $length = (int) (48000 * ($decay * 1.2 + 0.3));
    $out = Signal::through(Signal::processor('reverb', ['decay' => $decay, 'size' => $size, 'damping' => 20000.0, 'high-cut' => 20000.0]), Signal::impulse($length), blockSize: 4096);
    $t60 = Reference::python(<<<'PYTHON'
        sos = sig.butter(3, [707, 1414], "bandpass", fs=48000, output="sos")
        def t30(x):
            e = np.cumsum(sig.sosfilt(sos, np.array(x))[::-1]**2)[::-1]; d = 10*np.log10(e/e[0]+1e-30)
            a, b = np.argmax(d < -5), np.argmax(d < -35)
            return -60/np.polyfit(np.arange(a, b)/48000, d[a:b], 1)[0]
        print(json.dumps([t30(data["l"]), t30(data["r"])]))
        PYTHON, ['l' => $out->left, 'r' => $out->right]);
    foreach ($t60 as $measured) {
        expect($measured)->toEqualWithDelta($decay, 0.1 * $decay);
    }
})->with([[0.6, 60.0], [1.8, 80.0], [4.0, 120.0]]);

it('damps high frequencies to half the time', function (): void {
    $out = Signal::through(Signal::processor('reverb', ['decay' => 2.0, 'damping' => 4000.0, 'high-cut' => 20000.0]), Signal::impulse(96000), blockSize: 4096)->left;
    $t60 = Reference::python(<<<'PYTHON'
        sos = sig.butter(4, [3700, 4300], "bandpass", fs=48000, output="sos"); e = np.cumsum(sig.sosfilt(sos, np.array(data["x"]))[::-1]**2)[::-1]; d = 10*np.log10(e/e[0]+1e-30)
        a, b = np.argmax(d < -5), np.argmax(d < -30); print(json.dumps(-60/np.polyfit(np.arange(a, b)/48000, d[a:b], 1)[0]))
        PYTHON, ['x' => $out]);
    expect($t60)->toEqualWithDelta(1.0, 0.15);
});

it('does nothing at neutral settings', function (string $id, array $parameters): void {
    $left = Signal::noise(2000, 31, 0.3);
    $right = Signal::noise(2000, 32, 0.3);
    $out = Signal::through(Signal::processor($id, $parameters), $left, $right);
    expect($out->left)->toBe($left)->and($out->right)->toBe($right);
})->with([
    ['gain', []], ['parametric-eq', []], ['compressor', ['threshold' => 0.0]], ['chorus', ['amount' => 0.0]], ['polarity', ['inverted' => 'none']], ['balance', []],
    ['width', []], ['tremolo', ['depth' => 0.0]], ['graphic-eq-3', []], ['graphic-eq-10', []], ['graphic-eq-31', []], ['tilt', []], ['gate', ['threshold' => -80.0, 'range' => 0.0]],
    ['transient-shaper', []], ['micro-delay', []], ['flanger', ['amount' => 0.0]], ['phaser', ['amount' => 0.0, 'feedback' => 0.0]], ['ensemble', ['amount' => 0.0]],
    ['bit-reducer', ['bits' => 24.0]],
]);

it('draws what it does', function (): void {
    $catalogue = ProcessorCatalogue::standard();
    $setting = new Hafen\Processor\Setting(48000, 120.0);
    $picture = $catalogue->picture('parametric-eq', ['bell-3-frequency' => 1500.0, 'bell-3-gain' => 9.0], $setting);
    $highest = array_reduce($picture->curves[0]['points'], static fn (array $best, array $p): array => $p[1] > $best[1] ? $p : $best, [0, -99]);
    expect($highest[1])->toEqualWithDelta(9.0, 0.05)->and($highest[0])->toEqualWithDelta(1500.0, 40.0);
    foreach ($catalogue->ids() as $id) {
        json_encode($catalogue->picture($id, [], $setting)?->toArray(), JSON_THROW_ON_ERROR);
        expect($catalogue->label($id, []))->not->toBe('');
    }
});

it('has an oversampler whose delay is declared by the drive', function (): void {
    expect(Signal::processor('drive')->latency())->toBe(Oversampler::DELAY);
});

it('wavers three copies as far as it says, a third of a turn apart', function (): void {
    // A slow ramp comes out of a delay as the same ramp, later: half of what comes out is the mean of three delays.
    $ramp = array_map(static fn (int $i): float => $i / 96000, range(0, 95999));
    $out = Signal::through(Signal::processor('chorus', ['rate' => 0.5, 'depth' => 0.0, 'delay' => 10.0, 'amount' => 100.0]), $ramp);
    expect($out->left[50000])->toEqualWithDelta(0.5 * $ramp[50000] + 0.5 * sqrt(3) * $ramp[50000 - 480], 1e-9);
    // One sine a third of a turn from the next: together they stand still.
    $moving = Signal::through(Signal::processor('chorus', ['rate' => 0.5, 'depth' => 8.0, 'delay' => 10.0, 'amount' => 100.0]), $ramp);
    expect($moving->left[50000])->toEqualWithDelta(0.5 * $ramp[50000] + 0.5 * sqrt(3) * $ramp[50000 - 672], 1e-6);
    // Against a delay of the same length by numpy, at one moment of the first copy and both others.
    $noise = array_map(static fn (int $i): float => sin($i / 9.0) + 0.4 * sin($i / 23.0), range(0, 47999));
    $out = Signal::through(Signal::processor('chorus', ['rate' => 2.0, 'depth' => 6.0, 'delay' => 8.0, 'amount' => 100.0]), $noise);
    $expected = Reference::python('i = np.arange(48000); f = lambda t: np.sin(t / 9.0) + 0.4 * np.sin(t / 23.0)
d = lambda k, a: (8 + 3 * (1 + np.sin(2 * np.pi * (2.0 * i / 48000 + k / 3) + a))) * 48
y = [0.5 * f(i) + 0.5 / np.sqrt(3) * sum(f(i - d(k, a)) for k in range(3)) for a in (0, np.pi / 2)]
print(json.dumps([[float(y[s][n]) for n in data["at"]] for s in (0, 1)]))', ['at' => $at = [5000, 12345, 30000, 47000]]);
    foreach ($at as $k => $i) {
        expect($out->left[$i])->toEqualWithDelta($expected[0][$k], 1e-4)->and($out->right[$i])->toEqualWithDelta($expected[1][$k], 1e-4);
    }
});

it('is where it would be had it run from the start', function (): void {
    $one = Signal::processor('chorus', Signal::busy('chorus'));
    $two = Signal::processor('chorus', Signal::busy('chorus'));
    assert($two instanceof Hafen\Processor\Positioned);
    $noise = Signal::noise(20000, 5);
    $whole = Signal::through($one, $noise);
    $two->at(10000);
    $late = Signal::through($two, array_slice($noise, 10000));
    expect($late->left[9000])->toEqualWithDelta($whole->left[19000], 1e-9)->and($late->right[9000])->toEqualWithDelta($whole->right[19000], 1e-9);
});

it('does to a louder sound what it did, with what follows the level moved along', function (string $id, float $by): void {
    $spec = ProcessorCatalogue::standard()->spec($id);
    $values = Signal::busy($id);
    $moved = $values;
    foreach ($spec->followsLevel as $parameter => $factor) {
        $moved[$parameter] = (float) ($values[$parameter] ?? $spec->parameter($parameter)->default) + $factor * $by;
        expect($moved[$parameter])->toBeGreaterThanOrEqual($spec->parameter($parameter)->min)->toBeLessThanOrEqual($spec->parameter($parameter)->max);
    }
    $gain = 10.0 ** ($by / 20.0);
    $sound = array_map(static fn (float $x, int $i): float => $x * ($i % 9000 < 5000 ? 1.0 : 0.15), Signal::noise(24000, 11, 0.4), range(0, 23999));
    $plain = Signal::through(Signal::processor($id, $values), $sound)->left;
    $louder = Signal::through(Signal::processor($id, $moved), Hafen\Audio\Samples::scale($sound, $gain))->left;
    $off = Hafen\Audio\Samples::addScaled(Hafen\Audio\Samples::scale($louder, 1.0 / $gain), $plain, -1.0);
    expect(20 * log10(max(1e-12, Signal::rms($off)) / Signal::rms($plain)))->toBeLessThan(-60.0)
        // And without it, it does something else.
        ->and(20 * log10(Signal::rms(Hafen\Audio\Samples::addScaled(Hafen\Audio\Samples::scale(Signal::through(Signal::processor($id, $values), Hafen\Audio\Samples::scale($sound, $gain))->left, 1.0 / $gain), $plain, -1.0)) / Signal::rms($plain)))->toBeGreaterThan(-58.0);
})->with(array_values(array_map(static fn ($spec): string => $spec->id, array_filter(ProcessorCatalogue::standard()->specs(), static fn ($spec): bool => $spec->followsLevel !== []))))->with([-6.0, 4.0]);

it('says on a chip what an insert is and its main figure, in two short lines, whatever it is set to', function (string $id): void {
    $catalogue = ProcessorCatalogue::standard();
    $spec = $catalogue->spec($id);
    expect(mb_strlen($spec->shortName))->toBeLessThanOrEqual(ChipLabel::LONGEST_NAME);
    mt_srand(crc32($id));
    for ($i = 0; $i < 60; ++$i) {
        $values = [];
        foreach ($spec->parameters as $parameter) {
            $values[$parameter->id] = match ($parameter->kind) {
                ParameterKind::Number => [$parameter->min, $parameter->max, $parameter->min + ($parameter->max - $parameter->min) * mt_rand(0, 1000) / 1000][mt_rand(0, 2)],
                ParameterKind::Choice => (string) array_rand($parameter->choices),
                ParameterKind::Toggle => mt_rand(0, 1) === 1,
                ParameterKind::AudioFile => '',
            };
        }
        $chip = $catalogue->chip($id, $values);
        expect(mb_strlen($chip->name))->toBeBetween(2, ChipLabel::LONGEST_NAME)
            ->and(mb_strlen($chip->figure))->toBeBetween(1, ChipLabel::LONGEST_FIGURE, "{$id}: {$chip->figure}")
            ->and($chip->figure)->not->toContain('-0')->not->toMatch('/-\\d/');
    }
})->with(ProcessorCatalogue::standard()->effects());

it('says the figure people look for', function (string $id, array $parameters, string $name, string $figure): void {
    $chip = ProcessorCatalogue::standard()->chip($id, $parameters);
    expect([$chip->name, $chip->figure])->toBe([$name, $figure]);
})->with([
    ['filter', ['frequency' => 110.0], 'HP', '110 Hz'],
    ['filter', ['type' => 'low-pass', 'frequency' => 12345.0], 'LP', '12 kHz'],
    ['compressor', ['ratio' => 3.2], 'Comp', '3.2:1'],
    ['drive', ['drive' => 6.0], 'Drive', '+6 dB'],
    ['limiter', ['ceiling' => -1.5], 'Limit', "\u{2212}1.5 dB"],
    ['gate', ['ratio' => 2.0, 'threshold' => -40.0], 'Expand', "\u{2212}40 dB"],
    ['parametric-eq', ['bell-1-gain' => -3.0, 'high-pass' => true], 'EQ', '2 bands'],
    ['parametric-eq', [], 'EQ', 'flat'],
    ['pitch-correction', ['key' => 'd', 'scale' => 'minor'], 'Tune', 'D min'],
    ['echo', ['note' => '1/8.'], 'Echo', '1/8.'],
    ['flanger', ['rate' => 0.25], 'Flange', '0.25 Hz'],
]);

// What a remedy makes of a session is worked out from its recordings where a sound only becomes louder or softer on the way.
it('passes a gain on as it is where it does not depend on level', function (string $id, float $gain): void {
    $left = [...Signal::noise(9600, 5), ...Signal::sine(220.0, 9600, 0.4), ...array_fill(0, 4800, 0.0)];
    $right = [...Signal::noise(9600, 6), ...Signal::sine(331.0, 9600, 0.3), ...array_fill(0, 4800, 0.0)];
    $scaled = static fn (array $samples): array => array_map(static fn (float $sample): float => $gain * $sample, $samples);
    $one = Signal::through(Signal::processor($id, Signal::busy($id)), $left, $right);
    $two = Signal::through(Signal::processor($id, Signal::busy($id)), $scaled($left), $scaled($right));
    $most = max(Signal::peak($one->left), Signal::peak($one->right()));
    expect($most)->toBeGreaterThan(1e-4);
    // Its envelopes have a floor, which shows where it begins: less than a hundredth of a dB.
    $within = $gain * $most * ($id === 'transient-shaper' ? 1e-3 : 1e-9);
    foreach ([[$one->left, $two->left], [$one->right(), $two->right()]] as [$a, $b]) {
        foreach ($a as $i => $sample) {
            if (abs($gain * $sample - $b[$i]) > $within) {
                expect($b[$i])->toEqualWithDelta($gain * $sample, $within, "{$id} at {$i}");
            }
        }
    }
})->with(array_values(array_filter(ProcessorCatalogue::standard()->effects(), static fn (string $id): bool => ! ProcessorCatalogue::standard()->spec($id)->levelDependent)))->with([0.0316, 3.7]);
