<?php

declare(strict_types=1);

use Hafen\Session\Channel\Width;
use Hafen\Session\Insert\Branch;
use Hafen\Session\Insert\Insert;
use Hafen\Session\Insert\Split;
use Hafen\Session\Insert\SplitBy;
use Hafen\Session\Session;
use Hafen\Tests\Support\MemoryLibrary;
use Hafen\Tests\Support\Mix;
use Hafen\Tests\Support\Reference;
use Hafen\Tests\Support\Signal;

function withRow(Insert ...$row): Session
{
    return Mix::session([Mix::track('choir', array_values($row), Width::Stereo, 16384)], length: 16384);
}

function choirNoise(): MemoryLibrary
{
    return new MemoryLibrary(['choir' => [Signal::noise(16384, 5), Signal::noise(16384, 6)]]);
}

// Source: 20 log10 2.
it('adds 6.02 dB when two equal branches join', function (): void {
    $plain = Mix::render(withRow(), choirNoise());
    $split = Mix::render(withRow(Mix::split('s1', [new Branch('b1', 'Dry'), new Branch('b2', 'Again')])), choirNoise());
    expect(20 * log10(Signal::rms($split->left) / Signal::rms($plain->left)))->toEqualWithDelta(6.0206, 1e-4);
});

it('nulls against the plain path when nothing is done', function (Split $split): void {
    expect(Mix::difference(Mix::render(withRow($split), choirNoise()), Mix::render(withRow(), choirNoise())))->toBeLessThan(1e-15);
})->with([
    'one branch' => [fn () => Mix::split('s1', [new Branch('b1', 'Only')])],
    'two at -6.02 dB' => [fn () => Mix::split('s1', [new Branch('b1', 'A', -20 * log10(2)), new Branch('b2', 'B', -20 * log10(2))])],
    'left and right' => [fn () => Mix::split('s1', [new Branch('b1', 'Left'), new Branch('b2', 'Right')], SplitBy::LeftRight)],
    'mid and side' => [fn () => Mix::split('s1', [new Branch('b1', 'Mid'), new Branch('b2', 'Side')], SplitBy::MidSide)],
    'late branches that do nothing' => [fn () => Mix::split('s1', [
        new Branch('b1', 'A', -20 * log10(2), inserts: [Mix::insert('i1', 'limiter', on: false), Mix::insert('i2', 'drive', on: false)]),
        new Branch('b2', 'B', -20 * log10(2), inserts: [Mix::split('s2', [new Branch('b3', 'Left'), new Branch('b4', 'Right', inserts: [Mix::insert('i3', 'limiter', on: false)])], SplitBy::LeftRight)]),
    ])],
    'switched off' => [fn () => Mix::split('s1', [new Branch('b1', 'A', 6.0, inserts: [Mix::insert('i1', 'limiter')]), new Branch('b2', 'B')])->withOn(false)],
    'turned over twice' => [fn () => Mix::split('s1', [new Branch('b1', 'A', invert: true, inserts: [Mix::insert('i1', 'gain', ['polarity' => 'inverted'])])])],
    'one soloed of three' => [fn () => Mix::split('s1', [new Branch('b1', 'A'), new Branch('b2', 'B', solo: true), new Branch('b3', 'C', solo: true, mute: true)])],
]);

// Source: S. H. Linkwitz and E. R. Riley, JAES 1976; bands against scipy.signal.butter squared; sum flat within 0.01 dB.
it('splits by frequency as scipy does, flat when nothing is done', function (int $rate, array $crossovers): void {
    $bands = count($crossovers) + 1;
    $length = 32768;
    $library = new MemoryLibrary(['choir' => [Signal::impulse($length, 1.0)]], $rate);
    $branches = array_map(static fn (int $n): Branch => new Branch("b{$n}", "Band {$n}"), range(1, $bands));
    $track = Mix::track('choir', [Mix::split('s1', $branches, SplitBy::Frequency, ...$crossovers)], Width::Stereo, $length);
    $session = new Session('Bands', $rate, 120.0, -3.0, $length, Mix::session([$track])->channels);
    $sounds = ['sum' => Mix::render($session, $library)->left];
    foreach ($branches as $index => $branch) {
        $sounds[$index] = Mix::render($session, $library, tap: "choir:branch:{$branch->id}")->left;
    }
    $result = Reference::python(<<<'PY'
        from scipy import signal
        rate, cross = data['rate'], data['crossovers']
        f = np.geomspace(20, 0.45 * rate, 300)
        def response(x):
            x = np.asarray(x)
            return signal.freqz(x, worN=f, fs=rate)[1]
        def half(kind, at):
            b, a = signal.butter(2, at, kind, fs=rate)
            return signal.freqz(b, a, worN=f, fs=rate)[1] ** 2
        total = response(data['sounds']['sum'])
        flat = float(np.max(np.abs(20 * np.log10(np.abs(total)))))
        worst = 0.0
        at = []
        for band in range(len(cross) + 1):
            wanted = np.ones(len(f), complex)
            for index, frequency in enumerate(cross):
                if index < band:
                    wanted = wanted * half('highpass', frequency)
                elif index == band:
                    wanted = wanted * half('lowpass', frequency)
            got = np.abs(response(data['sounds'][str(band)]))
            loud = np.abs(wanted) > 1e-3
            worst = max(worst, float(np.max(np.abs(20 * np.log10(got[loud] / np.abs(wanted[loud]))))))
        low = np.abs(signal.freqz(data['sounds']['0'], worN=[cross[0]], fs=rate)[1][0])
        print(json.dumps({'flat': flat, 'worst': worst, 'cross': float(20 * np.log10(low))}))
        PY, ['rate' => $rate, 'crossovers' => $crossovers, 'sounds' => $sounds]);
    expect($result['flat'])->toBeLessThan(0.01)->and($result['worst'])->toBeLessThan(0.01);
    if ($bands === 2) {
        expect($result['cross'])->toEqualWithDelta(-6.0206, 0.001);
    }
})->with([
    [48000, [400.0]],
    [44100, [250.0, 2500.0]],
    [96000, [150.0, 800.0, 4000.0]],
]);

it('moves a crossover and a level while playing without a click', function (): void {
    $library = new MemoryLibrary(['choir' => [Signal::sine(300.0, 48000, 0.4)]]);
    $at = static fn (float $crossover, float $gain): Session => withRow(Mix::split('s1', [new Branch('b1', 'Low', $gain), new Branch('b2', 'High')], SplitBy::Frequency, $crossover));
    $sounds = [];
    foreach ([64, 512] as $size) {
        $engine = Mix::engine($at(200.0, 0.0), $library, $size);
        $engine->start(0);
        Mix::take($engine, 4096);
        $engine->change($at(3000.0, -12.0));
        $sounds[] = $out = Mix::take($engine, 8192)->left;
        for ($i = 1; $i < 8192; ++$i) {
            expect(abs($out[$i] - $out[$i - 1]))->toBeLessThan(0.03);
        }
    }
    expect($sounds[0])->toEqual($sounds[1]);
});

it('turns a split off and on while playing without a click or a shift in time', function (): void {
    $library = new MemoryLibrary(['choir' => [Signal::sine(300.0, 48000, 0.4)]]);
    $split = Mix::split('s1', [new Branch('b1', 'A', -20 * log10(2)), new Branch('b2', 'B', -20 * log10(2), inserts: [Mix::insert('i1', 'limiter', ['ceiling' => 0.0])])]);
    $engine = Mix::engine(withRow($split), $library);
    $engine->start(0);
    $expected = Mix::render(withRow(), $library)->left;
    $at = 0;
    foreach ([$split->withOn(false), $split, $split->withOn(false), $split] as $next) {
        $out = Mix::take($engine, 2048)->left;
        foreach ($out as $i => $sample) {
            expect($sample)->toEqualWithDelta($expected[$at + $i], 1e-12);
        }
        $at += 2048;
        $engine->change(withRow($next));
    }
});

it('renders splits the same at every block length', function (): void {
    $session = withRow(
        Mix::split('s1', [
            new Branch('b1', 'Low', inserts: [Mix::insert('i1', 'compressor')]),
            new Branch('b2', 'High', -3.0, 0.3, inserts: [Mix::insert('i2', 'drive'), Mix::split('s2', [new Branch('b3', 'Mid'), new Branch('b4', 'Side', 2.0, inserts: [Mix::insert('i3', 'parametric-eq', ['bell-1-gain' => 5.0])])], SplitBy::MidSide)]),
        ], SplitBy::Frequency, 700.0),
    );
    $reference = Mix::render($session, choirNoise(), 512);
    foreach ([64, 4096] as $size) {
        expect(Mix::render($session, choirNoise(), $size))->toEqual($reference);
    }
});
