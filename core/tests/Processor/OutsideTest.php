<?php

declare(strict_types=1);

use Hafen\Tests\Support\Reference;
use Hafen\Tests\Support\Signal;

/** What a filter of ffmpeg makes of two sides at 48 kHz. @param  list<float>  $left @param  list<float>  $right @return array{list<float>, list<float>} */
function byFfmpeg(string $filter, array $left, array $right): array
{
    return Reference::python(<<<'PY'
        import subprocess
        x = np.column_stack([data["l"], data["r"]]).astype("<f8")
        run = subprocess.run(["ffmpeg", "-hide_banner", "-loglevel", "error", "-f", "f64le", "-ar", "48000", "-ac", "2", "-i", "-", "-af", data["f"], "-f", "f64le", "-ac", "2", "-"], input=x.tobytes(), capture_output=True)
        if run.returncode: raise SystemExit(run.stderr.decode())
        y = np.frombuffer(run.stdout, "<f8").reshape(-1, 2)
        print(json.dumps([y[:, 0].tolist(), y[:, 1].tolist()]))
        PY, ['l' => $left, 'r' => $right, 'f' => $filter]);
}

/** RMS in dB of what comes out once all has settled. @param  list<float>  $samples */
function settledLevel(array $samples): float
{
    return 20 * log10(max(1e-9, Signal::rms(array_slice($samples, -12000))));
}

function steadyThrough(string $processor, array $parameters, float $level): float
{
    return settledLevel(Signal::through(Signal::processor($processor, $parameters), Signal::sine(1000.0, 60000, 10 ** ($level / 20)))->left);
}

// Source: ffmpeg's acompressor, a hard knee, peaks; sines that stand still.
it('turns down as ffmpeg does', function (float $level): void {
    $tone = Signal::sine(1000.0, 60000, 10 ** ($level / 20));
    [$theirs] = byFfmpeg('acompressor=threshold=0.1:ratio=4:attack=0.1:release=400:knee=1:makeup=1:detection=peak', $tone, $tone);
    $ours = steadyThrough('compressor', ['threshold' => -20.0, 'ratio' => 4.0, 'attack' => 0.1, 'release' => 400.0, 'knee' => 0.0, 'detector' => 'peak'], $level);
    expect($ours)->toEqualWithDelta(settledLevel($theirs), 0.6);
})->with([-30.0, -14.0, -8.0, -1.0]);

// Source: ffmpeg's agate; sines that stand still above and below the threshold.
it('closes as ffmpeg does', function (float $level): void {
    $tone = Signal::sine(1000.0, 60000, 10 ** ($level / 20));
    [$theirs] = byFfmpeg('agate=threshold=0.1:ratio=3:range=0.001:attack=0.1:release=400:knee=1:detection=peak', $tone, $tone);
    $ours = steadyThrough('gate', ['threshold' => -20.0, 'ratio' => 3.0, 'range' => 60.0, 'hysteresis' => 0.0, 'hold' => 0.0, 'attack' => 0.1, 'release' => 400.0], $level);
    expect($ours)->toEqualWithDelta(settledLevel($theirs), 1.0);
})->with([-10.0, -26.0, -32.0]);

// Source: ffmpeg's stereotools, which scales the middle and the side.
it('widens as ffmpeg does', function (float $width): void {
    $left = Signal::noise(4000, 81);
    $right = Signal::noise(4000, 82);
    $ours = Signal::through(Signal::processor('width', ['width' => $width]), $left, $right);
    $theirs = byFfmpeg(sprintf('stereotools=mlev=1:slev=%.4f:softclip=0', $width / 100.0), $left, $right);
    foreach ([0, 999, 3999] as $i) {
        expect($ours->left[$i])->toEqualWithDelta($theirs[0][$i], 1e-5)->and($ours->right[$i])->toEqualWithDelta($theirs[1][$i], 1e-5);
    }
})->with([20.0, 60.0, 150.0]);

// Source: ffmpeg's pan and adelay.
it('swaps, sums and delays as ffmpeg does', function (string $processor, array $parameters, string $filter): void {
    $left = Signal::noise(6000, 83);
    $right = Signal::noise(6000, 84);
    $ours = Signal::through(Signal::processor($processor, $parameters), $left, $right);
    $theirs = byFfmpeg($filter, $left, $right);
    foreach ([300, 1000, 4321, 5999] as $i) {
        expect($ours->left[$i])->toEqualWithDelta($theirs[0][$i], 1e-6)->and($ours->right()[$i])->toEqualWithDelta($theirs[1][$i], 1e-6);
    }
})->with([
    'swap' => ['channels', ['routing' => 'swap'], 'pan=stereo|c0=c1|c1=c0'],
    'mono' => ['channels', ['routing' => 'mono'], 'pan=stereo|c0=0.5*c0+0.5*c1|c1=0.5*c0+0.5*c1'],
    'delay' => ['micro-delay', ['left' => 5.0, 'right' => 12.5], 'adelay=240S|600S'],
    'polarity' => ['polarity', ['inverted' => 'right'], 'pan=stereo|c0=c0|c1=-1*c1'],
]);

// Source: sox's echo: one repeat, at the time and the level set.
it('repeats as sox does', function (): void {
    $sound = [...Signal::noise(3000, 85, 0.3), ...array_fill(0, 15000, 0.0)];
    $ours = Signal::through(Signal::processor('echo', ['unit' => 'ms', 'time' => 200.0, 'feedback' => 0.0, 'damping' => 20000.0, 'low-cut' => 20.0]), $sound)->left;
    $theirs = Reference::python(<<<'PY'
        import subprocess
        run = subprocess.run(["sox", "-t", "f64", "-r", "48000", "-c", "1", "-", "-t", "f64", "-", "echo", "1", "1", "200", "1"], input=np.array(data).astype("<f8").tobytes(), capture_output=True)
        y = np.frombuffer(run.stdout, "<f8"); x = np.array(data); d = y[:len(x)] - x
        print(json.dumps([int(np.argmax(np.abs(sig.correlate(d, x[:3000], "valid")))), float(np.sqrt(np.mean(d[9600:12600]**2)))]))
        PY, $sound);
    $at = Reference::python('x = np.array(data["x"]); y = np.array(data["y"]); print(json.dumps([int(np.argmax(np.abs(sig.correlate(y, x[:3000], "valid")))), float(np.sqrt(np.mean(y[9600:12600]**2)))]))', ['x' => $sound, 'y' => $ours]);
    expect($at[0])->toBe($theirs[0])->and(20 * log10($at[1] / $theirs[1]))->toEqualWithDelta(0.0, 1.0);
});
