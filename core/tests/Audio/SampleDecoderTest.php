<?php

declare(strict_types=1);

use Hafen\Audio\AudioFormat;
use Hafen\Audio\SampleDecoder;
use Hafen\Audio\SampleEncoder;
use Hafen\Audio\SampleFormat;
use Hafen\Audio\WavReader;
use Hafen\Audio\WavWriter;
use Hafen\Metering\FlatTops;
use Hafen\Tests\Support\Signal;

// Source: the samples decoded and looked at one by one.
it('never overlooks a sample at full scale in the bytes of a file', function (SampleFormat $format, int $channels): void {
    mt_srand(7);
    $encoder = new SampleEncoder($format);
    $calm = 0;
    for ($round = 0; $round < 300; ++$round) {
        $samples = array_map(static fn (float $x): float => 0.98 * $x, Signal::noise(64 * $channels, $round + 1, 1.0));
        if ($round % 3 > 0) {
            $samples[mt_rand(0, count($samples) - 1)] = [1.0, -1.0, 32767 / 32768, -32767 / 32768, 0.99998, -0.999985, 32766 / 32768, 1.5][mt_rand(0, 7)];
        }
        $bytes = $encoder->encode($samples);
        $highest = array_filter(SampleDecoder::decode($bytes, $format), static fn (float $x): bool => abs($x) >= 32767 / 32768 && abs($x) <= 1.0);
        $mayBe = SampleDecoder::mayBeFull($bytes, $format);
        expect($mayBe || $highest === [])->toBeTrue("round {$round}");
        $calm += $mayBe ? 0 : 1;
    }
    // It is of use: most quiet files are told from their bytes.
    expect($calm)->toBeGreaterThan($format === SampleFormat::Float64 || $format === SampleFormat::Int32 || $format === SampleFormat::Int8 ? -1 : 80);
})->with([
    [SampleFormat::Int16, 1], [SampleFormat::Int16, 2], [SampleFormat::Int24, 1], [SampleFormat::Int24, 2], [SampleFormat::Float32, 2], [SampleFormat::Int32, 1], [SampleFormat::Float64, 1],
]);

it('finds the same flat tops in a file as in its samples', function (SampleFormat $format): void {
    $path = sys_get_temp_dir().'/full-'.bin2hex(random_bytes(4)).'.wav';
    $left = array_map(static fn (float $x): float => 0.9 * $x, Signal::noise(60_000, 5, 1.0));
    $right = $left;
    // One run within a block that is read at once, one across two of them, one too short.
    foreach ([[1000, 4], [16_382, 5], [40_000, 2]] as [$at, $length]) {
        for ($i = 0; $i < $length; ++$i) {
            $right[$at + $i] = $i % 2 === 0 ? 1.0 : 0.99998;
        }
    }
    $writer = WavWriter::create($path, new AudioFormat(48000, 2, $format));
    $writer->write([$left, $right]);
    $writer->close();
    $found = FlatTops::in(WavReader::open($path), 0, 60_000);
    unlink($path);
    expect($found)->toBe([1000, 16_382]);
})->with([SampleFormat::Int24, SampleFormat::Float32, SampleFormat::Int32]);

// Source: the interleaved samples, taken apart one by one.
it('decodes any number of channels and frames into the same sides', function (SampleFormat $format): void {
    $encoder = new SampleEncoder($format);
    foreach ([1, 2, 3, 6] as $channels) {
        foreach ([1, 2, 5, 64, 377, 1000] as $frames) {
            $bytes = $encoder->encode(Signal::noise($channels * $frames, $frames, 0.9));
            $samples = SampleDecoder::decode($bytes, $format);
            $sides = array_map(static fn (int $channel): array => array_map(static fn (int $i): float => $samples[$channels * $i + $channel], range(0, $frames - 1)), range(0, $channels - 1));
            expect(SampleDecoder::sides($bytes, $format, $channels))->toBe($sides);
        }
    }
})->with(SampleFormat::cases());
