<?php

declare(strict_types=1);

use Hafen\Tests\Support\Reference;
use Hafen\Tests\Support\Signal;

/** Highest and lowest cents of a 1 kHz tone sent through. @param  array<string, float|string|bool>  $parameters @return array{float, float} */
function centsOf(string $id, array $parameters, int $length = 144_000): array
{
    return Reference::python(<<<'PYTHON'
        x = np.array(data["x"])[24000:]
        f = np.diff(np.unwrap(np.angle(sig.hilbert(x))))*48000/2/np.pi
        f = sig.filtfilt(*sig.butter(2, 200, fs=48000), f)[4000:-4000]
        print(json.dumps([float(1200*np.log2(f.max()/1000)), float(1200*np.log2(f.min()/1000))]))
        PYTHON, ['x' => Signal::through(Signal::processor($id, $parameters), Signal::sine(1000.0, $length))->left]);
}

// Source: Doppler; the momentary frequency by scipy.signal.hilbert.
it('bends the pitch by the cents set', function (float $rate, float $depth): void {
    [$highest, $lowest] = centsOf('vibrato', ['rate' => $rate, 'depth' => $depth]);
    expect($highest)->toEqualWithDelta($depth, 0.04 * $depth + 0.2)->and($lowest)->toEqualWithDelta(-$depth, 0.04 * $depth + 0.2);
})->with([[5.0, 20.0], [6.0, 50.0], [3.0, 10.0]]);

it('stands exactly in the middle of its delay when still', function (string $id, array $parameters): void {
    $in = Signal::noise(4000, 61);
    $processor = Signal::processor($id, $parameters);
    $out = Signal::through($processor, $in)->left;
    for ($i = $processor->latency(); $i < 4000; ++$i) {
        expect($out[$i])->toBe($in[$i - $processor->latency()]);
    }
})->with([['vibrato', ['depth' => 0.0]], ['pitch-shift', []], ['formant-shift', []], ['pitch-correction', ['amount' => 0.0]]]);

// Source: theory: a copy t late combs; notches at odd multiples of 1/(2 t), 1 ms here.
it('combs where theory says', function (): void {
    $out = Signal::through(Signal::processor('flanger', ['delay' => 1.0, 'depth' => 0.0, 'feedback' => 0.0]), Signal::impulse(8192))->left;
    $levels = Reference::python('_, h = sig.freqz(data["x"], 1, [500, 1000, 1500, 2500], fs=48000); print(json.dumps((20*np.log10(np.abs(h)+1e-9)).tolist()))', ['x' => $out]);
    expect($levels[0])->toBeLessThan(-60.0)->and($levels[1])->toEqualWithDelta(0.0, 0.01)->and($levels[2])->toBeLessThan(-60.0)->and($levels[3])->toBeLessThan(-60.0);
});

// Source: n first-order all-passes turn by n times 180 degrees in all, so half as many notches as stages; by scipy.signal.freqz.
it('has half as many notches as stages, where the all-passes say', function (string $stages): void {
    $out = Signal::through(Signal::processor('phaser', ['stages' => "{$stages}-stages", 'low' => 1000.0, 'high' => 1000.0, 'feedback' => 0.0]), Signal::impulse(16384))->left;
    [$notches, $worst] = Reference::python(<<<'PYTHON'
        f = np.geomspace(5, 23900, 60000); _, h = sig.freqz(data["x"], 1, f, fs=48000)
        k = np.tan(np.pi*1000/48000); c = (k-1)/(k+1); _, a = sig.freqz([c, 1], [1, c], f, fs=48000)
        ours = np.abs(h); theirs = np.abs(0.5 + 0.5*a**int(data["n"]))
        print(json.dumps([int(np.sum((theirs[1:-1] < theirs[:-2]) & (theirs[1:-1] < theirs[2:]) & (ours[1:-1] < 0.02))), float(np.max(np.abs(ours-theirs)))]))
        PYTHON, ['x' => $out, 'n' => $stages]);
    expect($notches)->toBe((int) $stages / 2)->and($worst)->toBeLessThan(1e-6);
})->with(['4', '6', '12']);

it('spreads its players over so many cents', function (): void {
    // All of the sound from one player: two voices, fully spread, leave one on each side.
    $out = Signal::through(Signal::processor('ensemble', ['voices' => 2.0, 'detune' => 20.0, 'amount' => 100.0]), Signal::sine(1000.0, 240_000));
    // The dry half is taken out again.
    $wet = array_map(static fn (float $y, float $x): float => $y - 0.5 * $x, $out->left, Signal::sine(1000.0, 240_000));
    [$highest] = Reference::python('x = np.array(data["x"])[24000:]; f = np.diff(np.unwrap(np.angle(sig.hilbert(x))))*48000/2/np.pi; f = sig.filtfilt(*sig.butter(2, 200, fs=48000), f)[4000:-4000]; print(json.dumps([float(1200*np.log2(f.max()/1000))]))', ['x' => $wet]);
    expect($highest)->toBeGreaterThan(12.0)->toBeLessThan(21.0);
});

it('turns horn and drum at their speeds, and comes up to speed', function (): void {
    $envelope = static fn (string $speed, float $tone, int $length = 240_000): array => Reference::python('x = np.abs(sig.hilbert(np.array(data["x"])[48000:])); x = x - x.mean(); s = np.abs(np.fft.rfft(x*np.hanning(len(x)), 8*len(x))); f = np.fft.rfftfreq(8*len(x), 1/48000); k = (f > 0.3) & (f < 20); print(json.dumps([float(f[k][np.argmax(s[k])])]))', ['x' => Signal::through(Signal::processor('rotary', ['speed' => $speed]), Signal::sine($tone, $length))->left]);
    expect($envelope('fast', 3000.0)[0])->toEqualWithDelta(6.7, 0.1)->and($envelope('fast', 200.0)[0])->toEqualWithDelta(5.7, 0.1);
    // From slow to fast: faster after three seconds than after a tenth.
    $processor = Signal::processor('rotary', ['speed' => 'slow']);
    Signal::through($processor, Signal::sine(3000.0, 24000));
    $processor->set(Hafen\Processor\ParameterValues::of($processor::spec(), ['speed' => 'fast']));
    $turns = static fn (array $x): int => count(array_filter(range(1, intdiv(count($x), 240) - 2), static function (int $k) use ($x): bool {
        $peak = static fn (int $k): float => Signal::peak(array_slice($x, 240 * $k, 240));

        return $peak($k) > $peak($k - 1) && $peak($k) >= $peak($k + 1);
    }));
    $first = $turns(Signal::through($processor, Signal::sine(3000.0, 24000))->left);
    Signal::through($processor, Signal::sine(3000.0, 144_000));
    expect($turns(Signal::through($processor, Signal::sine(3000.0, 48000))->left))->toBeGreaterThanOrEqual(6)->toBeGreaterThan($first);
});
