<?php

declare(strict_types=1);

use Hafen\Audio\AudioFormat;
use Hafen\Audio\Block;
use Hafen\Audio\SampleFormat;
use Hafen\Audio\WavReader;
use Hafen\Audio\WavWriter;
use Hafen\Demo\FerryTerminal;
use Hafen\Dsp\Filter\BiquadCascade;
use Hafen\Dsp\Filter\Butterworth;
use Hafen\Metering\KWeighting;
use Hafen\Metering\Loudness;
use Hafen\Metering\LoudnessMeter;
use Hafen\Metering\Meter;
use Hafen\Metering\TruePeakMeter;
use Hafen\Tests\Support\Reference;
use Hafen\Tests\Support\Signal;

/** A meter that has heard a stereo 1 kHz sine at these levels for these times. @param  list<array{float, float}>  $parts dBFS, seconds */
function loudnessOf(array $parts, int $rate = 48000, float $frequency = 1000.0): Loudness
{
    $meter = new LoudnessMeter($rate);
    $n = 0;
    foreach ($parts as [$level, $seconds]) {
        $gain = 10 ** ($level / 20);
        for ($left = (int) round($seconds * $rate); $left > 0; $left -= 4096) {
            $samples = [];
            for ($i = min(4096, $left); $i > 0; --$i) {
                $samples[] = $gain * sin(2 * M_PI * $frequency * $n++ / $rate);
            }
            $meter->measure(new Block($samples, $samples));
        }
    }

    return $meter->read();
}

// Source: the table of ITU-R BS.1770 for 48 kHz (m).
it('weights with the published coefficients at 48 kHz', function (): void {
    ['head' => $head, 'high-pass' => $high] = KWeighting::sections(48000);
    expect([$head->b0, $head->b1, $head->b2, $head->a1, $head->a2])->toEqualWithDelta([1.53512485958697, -2.69169618940638, 1.19839281085285, -1.69065929318241, 0.73248077421585], 1e-8)
        ->and([$high->b0, $high->b1, $high->b2, $high->a1, $high->a2])->toEqualWithDelta([1.0, -2.0, 1.0, -1.99004745483398, 0.99007225036621], 1e-8);
});

// Source: ITU-R BS.1770: a full-scale sine of 997 Hz on one channel reads -3.01 LKFS (m).
it('reads -3.01 for a full-scale sine on one side', function (int $rate): void {
    $meter = new LoudnessMeter($rate);
    for ($s = 0; $s < 5; ++$s) {
        $sine = array_map(static fn (int $i): float => sin(2 * M_PI * 997 * ($i + $s * $rate) / $rate), range(0, $rate - 1));
        $meter->measure(new Block($sine, array_fill(0, $rate, 0.0)));
    }
    expect($meter->read()->integrated)->toEqualWithDelta(-3.01, 0.02)
        ->and($meter->momentary())->toEqualWithDelta(-3.01, 0.02)
        ->and($meter->shortTerm())->toEqualWithDelta(-3.01, 0.02);
})->with([44100, 48000, 96000]);

// Source: EBU Tech 3341, cases 1 to 5 (m), synthesised as described there; case 6 is for five channels.
it('reads the EBU cases within a tenth', function (array $parts, float $expected): void {
    expect(loudnessOf($parts)->integrated)->toEqualWithDelta($expected, 0.1);
})->with([
    'case 1' => [[[-23.0, 20.0]], -23.0],
    'case 2' => [[[-33.0, 20.0]], -33.0],
    'case 3' => [[[-36.0, 10.0], [-23.0, 60.0], [-36.0, 10.0]], -23.0],
    'case 4' => [[[-72.0, 10.0], [-36.0, 10.0], [-23.0, 60.0], [-36.0, 10.0], [-72.0, 10.0]], -23.0],
    'case 5' => [[[-26.0, 20.0], [-20.0, 20.1], [-26.0, 20.0]], -23.0],
]);

// Source: EBU Tech 3342, cases 1 to 4 (m).
it('reads the ranges of the EBU within one', function (array $parts, float $expected): void {
    expect(loudnessOf($parts)->range)->toEqualWithDelta($expected, 1.0);
})->with([
    'case 1' => [[[-20.0, 20.0], [-30.0, 20.0]], 10.0],
    'case 2' => [[[-20.0, 20.0], [-15.0, 20.0]], 5.0],
    'case 3' => [[[-40.0, 20.0], [-20.0, 20.0]], 20.0],
    'case 4' => [[[-50.0, 20.0], [-35.0, 20.0], [-20.0, 20.0], [-35.0, 20.0], [-50.0, 20.0]], 15.0],
]);

it('has nothing to say of silence, nor of what is too short', function (): void {
    expect(loudnessOf([[-300.0, 5.0]]))->toEqual(new Loudness(null, null, null, null))
        ->and(loudnessOf([[-20.0, 0.3]])->integrated)->toBeNull();
});

it('reads the same however the sound is cut into blocks', function (): void {
    $noise = Signal::noise(60000, 9);
    $read = static function (int $size) use ($noise): Loudness {
        $meter = new LoudnessMeter(48000);
        foreach (array_chunk($noise, $size) as $chunk) {
            $meter->measure(Block::mono($chunk));
        }

        return $meter->read();
    };
    expect($read(64)->integrated)->toEqualWithDelta($read(5000)->integrated, 1e-9);
});

// Source: ffmpeg's ebur128 filter, within 0.1 LU and 0.2 dB.
it('agrees with ffmpeg on loudness, range and true peak', function (): void {
    $path = sys_get_temp_dir().'/hafen-loudness-'.bin2hex(random_bytes(4)).'.wav';
    $writer = WavWriter::create($path, new AudioFormat(48000, 2, SampleFormat::Float32));
    $meter = new LoudnessMeter(48000);
    $peaks = new TruePeakMeter;
    $band = new BiquadCascade;
    $band->set(array_combine(['a', 'b', 'c', 'd'], Butterworth::lowPass(13000.0, 8, 48000)));
    foreach (range(0, 29) as $second) {
        $swell = 0.05 + 0.9 * (0.5 + 0.5 * sin($second / 3.0)) ** 2;
        // Nothing near half the rate, where interpolating filters differ.
        $band->process($block = new Block(Signal::noise(48000, 100 + $second), Signal::noise(48000, 200 + $second)));
        $left = array_map(static fn (float $x): float => $swell * $x, $block->left);
        $right = array_map(static fn (float $x): float => 0.6 * $swell * $x, $block->right);
        $writer->write([$left, $right]);
        $meter->measure(new Block($left, $right));
        $peaks->measure(new Block($left, $right));
    }
    $writer->close();
    $said = Reference::run(['ffmpeg', '-hide_banner', '-nostats', '-i', $path, '-af', 'ebur128=peak=true', '-f', 'null', '-'], 'ffmpeg');
    unlink($path);
    $summary = substr($said, (int) strrpos($said, 'Summary:'));
    $figure = static fn (string $name): float => preg_match("/\\b{$name}:\\s+(-?[\\d.]+)/", $summary, $found) === 1 ? (float) $found[1] : NAN;
    $loudness = $meter->read();
    expect($loudness->integrated)->toEqualWithDelta($figure('I'), 0.1)
        ->and($loudness->range)->toEqualWithDelta($figure('LRA'), 0.5)
        ->and($peaks->level())->toEqualWithDelta($figure('Peak'), 0.2);
});

// Source: EBU Tech 3341, cases 15 to 19 (m): sines at a quarter of the rate and the like, 0.5 of full scale and 1.41.
it('finds the peaks between samples', function (float $cycles, float $phase, float $amplitude, float $expected): void {
    $meter = new TruePeakMeter;
    $sine = [];
    for ($i = 0; $i < 48000; ++$i) {
        // In and out over a while, so that no edge rings.
        $fade = min(1.0, $i / 4000, (48000 - $i) / 4000);
        $sine[] = $fade * $amplitude * sin(2 * M_PI * $cycles * $i + $phase);
    }
    $meter->measure(Block::mono($sine));
    expect($meter->level())->toBeLessThan($expected + 0.2)->toBeGreaterThan($expected - 0.4);
})->with([
    'fs/4, 0 degrees' => [1 / 4, 0.0, 0.5, -6.0],
    'fs/4, 45 degrees' => [1 / 4, M_PI / 4, 0.5, -6.0],
    'fs/6, 60 degrees' => [1 / 6, M_PI / 3, 0.5, -6.0],
    'fs/8, 67.5 degrees' => [1 / 8, M_PI * 67.5 / 180, 0.5, -6.0],
    'fs/4, 45 degrees, above full scale' => [1 / 4, M_PI / 4, 1.41, 3.0],
]);

it('reads the demo tracks as ffmpeg does', function (string $track): void {
    $path = sys_get_temp_dir().'/hafen-track-'.bin2hex(random_bytes(4)).'.wav';
    (new FerryTerminal)->write($track, $path);
    $file = WavReader::open($path);
    $loudness = new LoudnessMeter(48000);
    $truePeak = new TruePeakMeter;
    $meter = new Meter;
    $silence = array_fill(0, 48000, 0.0);
    for ($at = 0; $at < $file->frames(); $at += 48000) {
        $sides = $file->read($at, 48000);
        // A file of one side is one loudspeaker to ffmpeg.
        $block = new Block($sides[0], $sides[1] ?? array_slice($silence, 0, count($sides[0])));
        $loudness->measure($block);
        $truePeak->measure($block);
        $meter->measure($block, $at);
    }
    $said = Reference::run(['ffmpeg', '-hide_banner', '-nostats', '-i', $path, '-af', 'ebur128=peak=true+sample,astats=measure_perchannel=none', '-f', 'null', '-'], 'ffmpeg');
    unlink($path);
    $summary = substr($said, (int) strrpos($said, 'Summary:'));
    $all = static fn (string $pattern): array => array_map(floatval(...), preg_match_all($pattern, $said, $found) > 0 ? $found[1] : ['nan']);
    preg_match_all('/Peak:\s+(-?[\d.]+)/', $summary, $peaks);
    $reading = $meter->read();
    $read = $loudness->read();
    expect($read->integrated)->toEqualWithDelta($all('/\bI:\s+(-?[\d.]+) LUFS/')[count($all('/\bI:\s+(-?[\d.]+) LUFS/')) - 1], 0.1)
        ->and($read->highestMomentary)->toEqualWithDelta(max($all('/\bM:\s*(-?[\d.]+)/')), 0.15)
        ->and($read->highestShortTerm)->toEqualWithDelta(max($all('/\bS:\s*(-?[\d.]+)/')), 0.15)
        ->and($reading->peakLevel())->toEqualWithDelta((float) $peaks[1][0], 0.06)
        ->and($truePeak->level())->toEqualWithDelta((float) $peaks[1][1], 0.2)
        // Over both sides; ffmpeg's is over those the file has.
        ->and($reading->rmsLevel())->toEqualWithDelta($all('/RMS level dB:\s*(-?[\d.]+)/')[0] - ($file->channels() === 1 ? 3.01 : 0.0), 0.05);
})->with(array_keys(FerryTerminal::voices()));
