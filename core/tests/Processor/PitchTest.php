<?php

declare(strict_types=1);

use Hafen\Dsp\Pitch\PitchTracker;
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

/** A chord of three notes with their overtones, and the lines it is made of. @return array{list<float>, list<float>} */
function majorChord(int $length): array
{
    $sound = array_fill(0, $length, 0.0);
    $lines = [];
    foreach ([220.0, 277.18, 329.63] as $note) {
        foreach ([1, 2, 3] as $overtone) {
            $lines[] = $note * $overtone;
            $sound = Hafen\Audio\Samples::add($sound, Signal::sine($note * $overtone, $length, 0.12 / $overtone));
        }
    }

    return [$sound, $lines];
}

// Source: the lines of numpy's spectrum: what does not lie at a line of the shifted chord is what the method adds.
it('keeps chords clear where it is made for them', function (float $semitones): void {
    [$chord, $lines] = majorChord(144_000);
    $ratio = 2 ** ($semitones / 12);
    $added = static fn (string $material): array => Reference::python(<<<'PYTHON'
        x = np.array(data["x"]); x = x[48000:48000+65536]; s = np.abs(np.fft.rfft(x*np.blackman(len(x))))**2; f = np.fft.rfftfreq(len(x), 1/48000)
        near = np.any([np.abs(f-a) < 6 for a in data["a"]], axis=0)
        cents = [1200*np.log2(np.sum(f[k]*s[k])/np.sum(s[k])/a) for a in data["a"] for k in [np.abs(f-a) < 6]]
        print(json.dumps([10*np.log10(np.sum(s[~near])/np.sum(s)), float(np.max(np.abs(cents)))]))
        PYTHON, ['x' => Signal::through(Signal::processor('pitch-shift', ['semitones' => $semitones, 'material' => $material]), $chord)->left, 'a' => array_map(static fn (float $line): float => $line * $ratio, $lines)]);
    [$rest, $cents] = $added('chords');
    expect($rest)->toBeLessThan(-40.0)->and($cents)->toBeLessThan(2.0)->and($added('notes')[0])->toBeGreaterThan($rest + 10.0);
})->with([4.0, -5.0, 12.0, -12.0]);

it('works chords the same in whatever blocks they come, on one side or two', function (): void {
    [$chord] = majorChord(30_000);
    $values = ['semitones' => 5.0, 'material' => 'chords'];
    $whole = Signal::through(Signal::processor('pitch-shift', $values), $chord, blockSize: 512)->left;
    foreach ([1000, 64] as $size) {
        expect(Signal::through(Signal::processor('pitch-shift', $values), $chord, blockSize: $size)->left === $whole)->toBeTrue("blocks of {$size}");
    }
    $both = Signal::through(Signal::processor('pitch-shift', $values), $chord, $chord);
    $used = Signal::processor('pitch-shift', $values);
    Signal::through($used, Signal::noise(9000, 3));
    $used->reset();
    $off = static fn (array $side): float => Signal::peak(Hafen\Audio\Samples::addScaled($side, $whole, -1.0));
    expect($off($both->left))->toBeLessThan(1e-12)->and($off($both->right))->toBeLessThan(1e-12)
        ->and(Signal::through($used, $chord)->left === $whole)->toBeTrue('after a reset')
        ->and($used->latency())->toBe(4096);
});

it('keeps what lies between the sides between them, and an attack in its place', function (): void {
    [$chord] = majorChord(96_000);
    $right = Hafen\Audio\Samples::scale($chord, -0.25);
    $out = Signal::through(Signal::processor('pitch-shift', ['semitones' => -3.0, 'material' => 'chords']), $chord, $right);
    expect(Signal::rms(Hafen\Audio\Samples::addScaled($out->right, $out->left, 0.25)))->toBeLessThan(1e-9 * Signal::rms($out->left) + 1e-12);
    $click = Signal::through(Signal::processor('pitch-shift', ['semitones' => 7.0, 'material' => 'chords']), [...array_fill(0, 20_000, 0.0), ...Signal::impulse(28_000)])->left;
    $loudest = (int) array_search(max(array_map(abs(...), $click)), array_map(abs(...), $click), true);
    expect(abs($loudest - 20_000 - 4096))->toBeLessThan(480)
        ->and(Signal::rms(array_slice($click, 20_000, 3000)))->toBeLessThan(0.1 * Signal::rms(array_slice($click, 23_000, 3000)));
});

it('lets a sound through whole when nothing is shifted, whatever it is made for', function (string $material): void {
    $noise = Signal::noise(24_000, 5);
    $out = Signal::through(Signal::processor('pitch-shift', ['material' => $material]), $noise)->left;
    $late = Signal::processor('pitch-shift', ['material' => $material])->latency();
    foreach ([0, 777, 12_345] as $i) {
        expect($out[$i + $late])->toEqualWithDelta($noise[$i], 1e-9);
    }
})->with(['notes', 'chords']);
