<?php

declare(strict_types=1);

use Hafen\Dsp\PitchTracker;
use Hafen\Tests\Support\Reference;
use Hafen\Tests\Support\Signal;

/** A sung vowel: pulses at a pitch through three resonances. @return list<float> */
function vowel(float $frequency, int $length, int $rate = 48000): array
{
    return Reference::python(<<<'PYTHON'
        n, f, r = data["n"], data["f"], data["r"]; t = np.arange(n)/r; x = np.zeros(n)
        for k in range(1, int(5000/f)): x += np.cos(2*np.pi*k*f*t + 0.3*k*k)
        y = np.zeros(n)
        for c, w, g in ((650, 90, 1.0), (1100, 110, 0.6), (2600, 160, 0.3)):
            b, a = sig.iirpeak(c, c/w, fs=r); y += g*sig.lfilter(b, a, x)
        print(json.dumps((0.3*y/np.max(np.abs(y))).tolist()))
        PYTHON, ['n' => $length, 'f' => $frequency, 'r' => $rate]);
}

/** The spectral line nearest to a pitch, within a semitone, by numpy's FFT of the middle of a sound. @param  list<float>  $samples */
function fundamentalOf(array $samples, float $near): float
{
    return Reference::python(<<<'PYTHON'
        x = np.array(data["x"]); x = x[len(x)//3:len(x)//3+24000]; s = np.abs(np.fft.rfft(x*np.hanning(len(x)), 16*len(x))); f = np.fft.rfftfreq(16*len(x), 1/48000)
        k = (f > 0.943*data["f"]) & (f < 1.06*data["f"]); print(json.dumps(float(f[k][np.argmax(s[k])])))
        PYTHON, ['x' => $samples, 'f' => $near]);
}

/** Middle of the spectrum in Hz. @param  list<float>  $samples */
function centroidOf(array $samples): float
{
    return Reference::python('f, p = sig.welch(np.array(data["x"])[24000:], 48000, nperseg=8192); print(json.dumps(float(np.sum(f*p)/np.sum(p))))', ['x' => $samples]);
}

function centsBetween(float $a, float $b): float
{
    return 1200 * log($a / $b, 2);
}

it('finds the pitch of a voice within a few cents', function (float $frequency, int $rate): void {
    $tracker = new PitchTracker($rate);
    $period = $tracker->period(array_slice(vowel($frequency, 3 * $tracker->window, $rate), $tracker->window, $tracker->window));
    expect(abs(centsBetween($rate / $period, $frequency)))->toBeLessThan(3.0);
})->with([[82.4, 48000], [146.8, 48000], [220.0, 44100], [440.0, 48000], [783.99, 48000], [220.0, 96000]]);

it('finds no pitch in noise or silence', function (): void {
    $tracker = new PitchTracker(48000);
    expect($tracker->period(Signal::noise($tracker->window, 71)))->toBeNull()->and($tracker->period(array_fill(0, $tracker->window, 0.0)))->toBeNull();
});

// Source: A4 = 440 Hz, twelve equal steps (practice); measured by autocorrelation in numpy; within 5 cents.
it('draws a voice to the scale', function (float $sung, float $note, array $parameters): void {
    $out = Signal::through(Signal::processor('pitch-correction', ['response' => 0.0, ...$parameters]), vowel($sung, 72000))->left;
    expect(abs(centsBetween(fundamentalOf($out, $note), $note)))->toBeLessThan(5.0);
})->with([
    [452.0, 440.0, []],
    [214.0, 220.0, []],
    // 36 cents above C sharp: in C major the way is to D.
    [283.0, 293.66, ['key' => 'c', 'scale' => 'major']],
    [283.0, 277.18, ['key' => 'd', 'scale' => 'major']],
    [425.0, 424.78 * 1.0, ['reference' => 450.0, 'key' => 'a', 'scale' => 'chromatic']],
]);

it('goes half of the way, and slowly', function (): void {
    $half = Signal::through(Signal::processor('pitch-correction', ['response' => 0.0, 'amount' => 50.0]), vowel(225.0, 72000))->left;
    expect(centsBetween(fundamentalOf($half, 222.5), 225.0))->toEqualWithDelta(0.5 * centsBetween(220.0, 225.0), 5.0);
});

// Source: ratio 2^(n/12), by autocorrelation in numpy.
it('shifts a voice and keeps its formants', function (float $semitones): void {
    $in = vowel(180.0, 96000);
    $out = Signal::through(Signal::processor('formant-shift', ['semitones' => $semitones]), $in)->left;
    expect(abs(centsBetween(fundamentalOf($out, 180.0 * 2 ** ($semitones / 12)), 180.0 * 2 ** ($semitones / 12))))->toBeLessThan(8.0);
    // The middle of the spectrum stays, where a plain shift would take it along; level within 3 dB.
    expect(centroidOf($out) / centroidOf($in))->toEqualWithDelta(1.0, 0.12)
        ->and(20 * log10(Signal::rms(array_slice($out, 24000)) / Signal::rms(array_slice($in, 24000))))->toEqualWithDelta(0.0, 3.0);
})->with([-5.0, 4.0, 7.0]);

it('moves formants by themselves', function (): void {
    $in = vowel(180.0, 96000);
    $out = Signal::through(Signal::processor('formant-shift', ['formants' => 6.0]), $in)->left;
    expect(abs(centsBetween(fundamentalOf($out, 180.0), 180.0)))->toBeLessThan(8.0)->and(centroidOf($out))->toBeGreaterThan(1.2 * centroidOf($in));
});

// Source: ratio 2^(n/12), by the highest line of numpy's spectrum.
it('shifts any sound by the ratio set', function (float $semitones, float $cents): void {
    $chord = array_map(static fn (float $a, float $b): float => $a + $b, Signal::sine(440.0, 144_000, 0.3), Signal::sine(1320.0, 144_000, 0.2));
    $out = Signal::through(Signal::processor('pitch-shift', ['semitones' => $semitones, 'cents' => $cents]), $chord)->left;
    $ratio = 2 ** (($semitones + $cents / 100) / 12);
    [$low, $high] = Reference::python('x = np.array(data["x"])[24000:]; s = np.abs(np.fft.rfft(x*np.hanning(len(x)), 8*len(x))); f = np.fft.rfftfreq(8*len(x), 1/48000); print(json.dumps([float(f[k][np.argmax(s[k])]) for k in [(f > a*0.94) & (f < a*1.06) for a in data["a"]]]))', ['x' => $out, 'a' => [440 * $ratio, 1320 * $ratio]]);
    expect(abs(centsBetween($low, 440 * $ratio)))->toBeLessThan(5.0)->and(abs(centsBetween($high, 1320 * $ratio)))->toBeLessThan(5.0)
        ->and(20 * log10(Signal::rms(array_slice($out, 24000)) / Signal::rms($chord)))->toEqualWithDelta(0.0, 1.5);
})->with([[12.0, 0.0], [-12.0, 0.0], [3.0, 0.0], [-4.0, -30.0]]);
