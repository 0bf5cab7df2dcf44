<?php

declare(strict_types=1);

use Hafen\Audio\Block;
use Hafen\Dsp\Filter\BiquadCoefficients;
use Hafen\Edit\EditRefused;
use Hafen\Engine\Tap;
use Hafen\Headroom\InsertWatch;
use Hafen\Metering\BandRanges;
use Hafen\Metering\BandWeights;
use Hafen\Metering\PowerWindows;
use Hafen\Metering\ThirdOctaves;
use Hafen\Processor\ProcessorCatalogue;
use Hafen\Session\Channel\Width;
use Hafen\Session\Insert\SplitBy;
use Hafen\Session\Session;
use Hafen\Tests\Support\MemoryLibrary;
use Hafen\Tests\Support\Mix;
use Hafen\Tests\Support\Reference;
use Hafen\Tests\Support\Signal;

require_once __DIR__.'/../Support/edited.php';

/** Noise that swells and fades. @return list<float> */
function breathing(int $count, int $seed, float $seconds): array
{
    return array_map(static fn (float $x, int $i): float => $x * 10.0 ** (-0.6 + 0.6 * sin(2 * M_PI * $i / (48000 * $seconds))), Signal::noise($count, $seed), range(0, $count - 1));
}

// Source: numpy.fft over the same windows, numpy.percentile; edges of the bands after IEC 61260-1, base ten.
it('finds the quiet and the loud moments of every band as numpy does', function (): void {
    $left = breathing(480000, 7, 1.7);
    $right = breathing(480000, 8, 2.9);
    $windows = new PowerWindows(4096);
    $bell = BiquadCoefficients::bandPass(700.0, 2.0, 48000);
    $ranges = new BandRanges([...ThirdOctaves::weights(48000, 4096), 'bell' => BandWeights::through($bell, 48000, 48000 / 4096, 2049)], 4096);
    for ($at = 0; $at < 480000; $at += 500) {
        foreach ($windows->take(new Block(array_slice($left, $at, 500), array_slice($right, $at, 500))) as [$a, $b]) {
            $ranges->add($a, $b);
        }
    }
    $theirs = Reference::python(<<<'PY'
        n = 4096
        w = np.sin(np.pi*(np.arange(n)+0.5)/n)**2
        b, a = sig.iirpeak(700, 2, fs=48000)
        bell = np.abs(sig.freqz(b, a, np.arange(n//2+1)*48000/n, fs=48000)[1])**2
        levels = []
        x = [np.concatenate([np.zeros(n//2), np.array(s)]) for s in data]
        for at in range(0, len(x[0])-n+1, n//2):
            p = sum(np.abs(np.fft.rfft(s[at:at+n]*w))**2 for s in x)/(0.375*n*n)
            f = np.arange(n//2+1)*48000/n
            row = []
            for k in range(14, 44):
                lo, hi = 10**((k-.5)/10), min(24000, 10**((k+.5)/10))
                inside = np.clip((np.minimum(hi, f+24000/n) - np.maximum(lo, f-24000/n))*n/48000, 0, 1)
                row.append(10*np.log10((p*inside).sum()))
            levels.append(row + [10*np.log10((p*bell).sum())])
        l = np.array(levels)
        at = lambda q: [np.percentile(c[c >= c.max()-40], q, method="inverted_cdf") for c in l.T]
        print(json.dumps([l[-1].tolist(), at(9.3), at(10.7), at(94.3), at(95.7)]))
        PY, [$left, $right]);
    $ours = array_values($ranges->read());
    expect(count($ours))->toBe(31);
    foreach ($ours as $i => $range) {
        expect($range->now)->toEqualWithDelta($theirs[0][$i], 0.01, "now, band {$i}")
            // Levels are counted in steps of half a dB, and one window more or less changes the rank.
            ->and($range->quiet)->toBeGreaterThan($theirs[1][$i] - 0.26, "quiet, band {$i}")->toBeLessThan($theirs[2][$i] + 0.26, "quiet, band {$i}")
            ->and($range->loud)->toBeGreaterThan($theirs[3][$i] - 0.26, "loud, band {$i}")->toBeLessThan($theirs[4][$i] + 0.26, "loud, band {$i}")
            ->and($range->dynamics())->toBeGreaterThan(8.0);
    }
});

it('does not take pauses for quiet moments', function (): void {
    $ranges = new BandRanges(['all' => BandWeights::between(0.0, 24000.0, 48000 / 4096, 2049)], 4096);
    $windows = new PowerWindows(4096);
    foreach ([0.5, 0.0, 1e-6, 0.05] as $amplitude) {
        $tone = Signal::sine(1000.0, 96000, $amplitude);
        foreach ($windows->take(Block::mono($tone)) as [$left, $right]) {
            $ranges->add($left, $right);
        }
    }
    $all = $ranges->read()['all'];
    expect($all->quiet)->toEqualWithDelta(-29.0, 0.5)->and($all->loud)->toEqualWithDelta(-9.0, 0.5)->and($all->now)->toEqualWithDelta(-29.0, 0.05);
    expect((new BandRanges(['all' => BandWeights::between(0.0, 100.0, 10.0, 50)], 512))->read()['all'])->toEqual(new Hafen\Metering\BandRange(null, null, null));
});

/** What a watch has seen after the session played. */
function watchedFor(InsertWatch $watch, Session $session, MemoryLibrary $library, int $blocks = 94): InsertWatch
{
    $engine = Mix::engine($session, $library);
    $engine->watch(...$watch->taps());
    $engine->start(0);
    for ($i = 0; $i < $blocks; ++$i) {
        $engine->next();
        $seen = $engine->watched();
        [$before, $after] = array_map(static fn (Tap $tap): Block => $seen[$tap->id()], $watch->taps());
        $watch->look($before, $after);
    }

    return $watch;
}

/** Index of the third of an octave around 1 kHz. */
const KILOHERTZ = 16;

it('shows what comes into an equaliser and what leaves it, by third and by band', function (): void {
    $tone = [...Signal::sine(1000.0, 24000, 0.5), ...Signal::sine(1000.0, 24000, 0.05)];
    $library = new MemoryLibrary(['voice' => [$tone]]);
    $session = Mix::session([Mix::track('voice', [
        Mix::insert('i1', 'gain', ['gain' => -6.0]),
        Mix::insert('i2', 'parametric-eq', ['bell-3-frequency' => 1000.0, 'bell-3-gain' => 9.0, 'bell-3-q' => 1.0]),
    ])]);
    $watch = watchedFor(new InsertWatch($session, 'i2', ProcessorCatalogue::standard()), $session, $library);
    $in = -9.0 - 6.0;
    expect($watch->frequencies()[KILOHERTZ])->toEqualWithDelta(1000.0, 0.01);
    $before = $watch->before()[KILOHERTZ];
    $after = $watch->after()[KILOHERTZ];
    expect($before->loud)->toEqualWithDelta($in, 0.5)->and($before->quiet)->toEqualWithDelta($in - 20.0, 0.5)
        ->and($after->loud)->toEqualWithDelta($in + 9.0, 0.5)->and($after->quiet)->toEqualWithDelta($in - 11.0, 0.5)
        // Far from the tone there is only the click of the step.
        ->and($watch->before()[KILOHERTZ - 12]->loud)->toBeLessThan($in - 40.0);
    $bands = $watch->bands();
    expect(array_keys($bands))->toBe(['low-shelf', 'bell-1', 'bell-2', 'bell-3', 'bell-4', 'high-shelf'])
        // Source: |H| of the band-pass of the cookbook at one octave and a bit below its centre.
        ->and($bands['bell-3']->loud)->toEqualWithDelta($in, 0.5)
        ->and($bands['bell-4']->loud)->toEqualWithDelta($in + 20 * log10(BiquadCoefficients::bandPass(5000.0, 1.0, 48000)->magnitude(1000.0, 48000)), 0.5)
        ->and($bands['high-shelf']->loud)->toBeLessThan($in - 30.0);
});

it('begins anew what a change makes untrue, and keeps the rest', function (): void {
    $library = new MemoryLibrary(['voice' => [Signal::sine(1000.0, 48000, 0.5)]]);
    $session = Mix::session([Mix::track('voice', [Mix::insert('i2', 'parametric-eq')])]);
    $watch = watchedFor(new InsertWatch($session, 'i2', ProcessorCatalogue::standard()), $session, $library);
    $moved = edited($session, ['type' => 'set-parameter', 'insert' => 'i2', 'parameter' => 'bell-1-frequency', 'value' => 300.0]);
    $watch->follow($moved);
    expect($watch->before()[KILOHERTZ]->loud)->not->toBeNull()
        ->and($watch->after()[KILOHERTZ]->loud)->toBeNull()
        ->and($watch->bands()['bell-1']->loud)->toBeNull()
        ->and($watch->bands()['bell-3']->loud)->not->toBeNull();
    // What comes after it, and what is not heard there at all, changes nothing of it.
    $watch = watchedFor(new InsertWatch($moved, 'i2', ProcessorCatalogue::standard()), $moved, $library);
    $watch->follow($moved = edited($moved, ['type' => 'set-fader', 'channels' => ['voice'], 'gain' => -9.0]));
    $watch->follow($moved = edited($moved, ['type' => 'rename-channel', 'channel' => 'voice', 'name' => 'Voice again']));
    expect($watch->before()[KILOHERTZ]->loud)->not->toBeNull()->and($watch->after()[KILOHERTZ]->loud)->not->toBeNull()->and($watch->bands()['bell-1']->loud)->not->toBeNull();
    $watch->follow(edited($moved, ['type' => 'set-trim', 'channels' => ['voice'], 'gain' => -12.0]));
    expect($watch->before()[KILOHERTZ]->loud)->toBeNull()->and($watch->bands()['bell-3']->loud)->toBeNull();
    expect(fn () => $watch->follow(edited($moved, ['type' => 'remove-inserts', 'inserts' => ['i2']])))->toThrow(EditRefused::class);
});

it('watches what a band of a split brings to an insert in it', function (): void {
    $library = new MemoryLibrary(['voice' => [array_map(static fn (float $a, float $b): float => $a + $b, Signal::sine(100.0, 48000, 0.3), Signal::sine(5000.0, 48000, 0.3))]]);
    $session = Mix::session([Mix::track('voice', [Mix::split('s1', [
        new Hafen\Session\Insert\Branch('b1', 'Low', inserts: [Mix::insert('i1', 'graphic-eq-10')]),
        new Hafen\Session\Insert\Branch('b2', 'High'),
    ], SplitBy::Frequency, 700.0)], Width::Stereo)]);
    $watch = watchedFor(new InsertWatch($session, 'i1', ProcessorCatalogue::standard()), $session, $library);
    expect($watch->before()[6]->loud)->toEqualWithDelta(20 * log10(0.3) - 3.0, 0.6)
        ->and($watch->before()[23]->loud)->toBeLessThan(-50.0)
        ->and($watch->bands())->toBe([]);
});
