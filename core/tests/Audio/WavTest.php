<?php

declare(strict_types=1);

use Hafen\Audio\AudioFormat;
use Hafen\Audio\BroadcastExtension;
use Hafen\Audio\SampleFormat;
use Hafen\Audio\UnableToWriteAudioFile;
use Hafen\Audio\UnreadableAudioFile;
use Hafen\Audio\WavReader;
use Hafen\Audio\WavWriter;
use Hafen\Tests\Support\Reference;
use Hafen\Tests\Support\Signal;

function temporaryWav(): string
{
    return sys_get_temp_dir().'/hafen-wav-'.bin2hex(random_bytes(6)).'.wav';
}

/** @param  list<list<float>>  $sides */
function writeWav(string $path, array $sides, SampleFormat $format, int $rate = 48000, ?BroadcastExtension $bext = null, int $riffLimit = 0xFFFFFFFF): WavWriter
{
    $writer = WavWriter::create($path, new AudioFormat($rate, count($sides), $format), $bext, null, $riffLimit);
    for ($at = 0; $at < count($sides[0]); $at += 1000) {
        $writer->write(array_map(static fn (array $side): array => array_slice($side, $at, 1000), $sides));
    }
    $writer->close();

    return $writer;
}

dataset('formats', [
    '8 bit' => [SampleFormat::Int8, 1 / 128],
    '16 bit' => [SampleFormat::Int16, 1 / 32768],
    '24 bit' => [SampleFormat::Int24, 1 / 8388608],
    '32 bit' => [SampleFormat::Int32, 1 / 2147483648],
    '32-bit float' => [SampleFormat::Float32, 1e-7],
    '64-bit float' => [SampleFormat::Float64, 1e-15],
]);

it('reads back what it wrote, from any place', function (SampleFormat $format, float $step): void {
    $path = temporaryWav();
    $sides = [Signal::noise(5003, 7, 0.9), Signal::noise(5003, 8, 0.4)];
    writeWav($path, $sides, $format);
    $reader = WavReader::open($path);
    expect($reader->frames())->toBe(5003)->and($reader->channels())->toBe(2)->and($reader->sampleRate())->toBe(48000);
    foreach ([[0, 5003], [17, 100], [4990, 40], [-20, 60], [6000, 5]] as [$from, $count]) {
        $read = $reader->read($from, $count);
        foreach ($sides as $channel => $side) {
            expect($read[$channel])->toHaveCount($count);
            for ($i = 0; $i < $count; $i += 7) {
                expect($read[$channel][$i])->toEqualWithDelta($side[$from + $i] ?? 0.0, $step);
            }
        }
    }
    unlink($path);
})->with('formats');

// Source: python3-soundfile (libsndfile), an implementation of RIFF/WAVE that is not ours.
it('writes files soundfile reads identically', function (): void {
    $side = Signal::noise(999, 3, 0.8);
    $paths = [];
    foreach (SampleFormat::cases() as $format) {
        writeWav($paths[$format->value] = temporaryWav(), [$side, $side], $format, 44100);
    }
    $read = Reference::python(
        'import soundfile; r = {k: soundfile.read(p, dtype="float64", always_2d=True) for k, p in data["paths"].items()}; print(json.dumps({k: {"rate": x[1], "left": x[0][:,0].tolist()} for k, x in r.items()}))',
        ['paths' => $paths],
    );
    foreach ($paths as $format => $path) {
        expect($read[$format]['rate'])->toBe(44100)
            ->and(WavReader::open($path)->read(0, 999)[0])->toBe(array_map(floatval(...), $read[$format]['left']));
        unlink($path);
    }
});

// Source: files written by libsndfile, in every coding it has for WAV and RF64.
it('reads files soundfile writes', function (): void {
    $files = [];
    foreach ([
        ['WAV', 'PCM_U8'], ['WAV', 'PCM_16'], ['WAV', 'PCM_24'], ['WAV', 'PCM_32'], ['WAV', 'FLOAT'], ['WAV', 'DOUBLE'],
        ['WAVEX', 'PCM_24'], ['WAVEX', 'FLOAT'], ['RF64', 'PCM_16'], ['RF64', 'FLOAT'],
    ] as [$container, $subtype]) {
        $files[] = [temporaryWav(), $container, $subtype];
    }
    $values = Reference::python(<<<'PYTHON'
        import soundfile
        x = np.sin(np.arange(700)*0.05)*0.7
        out = []
        for path, container, subtype in data["files"]:
            soundfile.write(path, np.stack([x, -x], 1), 48000, format=container, subtype=subtype)
            out.append(soundfile.read(path, dtype="float64")[0][:,1].tolist())
        print(json.dumps(out))
        PYTHON, ['files' => $files]);
    foreach ($files as $i => [$path]) {
        expect(WavReader::open($path)->read(0, 700)[1])->toBe(array_map(floatval(...), $values[$i]));
        unlink($path);
    }
});

it('becomes RF64 when it grows past the limit of RIFF', function (): void {
    $path = temporaryWav();
    $side = Signal::noise(2000);
    writeWav($path, [$side], SampleFormat::Int16, riffLimit: 2000);
    expect(file_get_contents($path, length: 4))->toBe('RF64')
        ->and(WavReader::open($path)->frames())->toBe(2000);
    // Source: sndfile-info (libsndfile) reads the ds64 chunk.
    expect(Reference::run(['sndfile-info', $path], 'sndfile-programs'))->toContain('RF64')->toContain('Frames      : 2000');
    unlink($path);
});

it('keeps the broadcast extension and its time reference', function (): void {
    $path = temporaryWav();
    $bext = new BroadcastExtension('Waiting hall', 'Hafen', 'REF', '2026-11-24', '12:00:00', 7_000_000_123);
    writeWav($path, [[0.0, 0.5]], SampleFormat::Int24, bext: $bext);
    $read = WavReader::open($path)->header->broadcast;
    expect($read?->description)->toBe('Waiting hall')->and($read?->timeReference)->toBe(7_000_000_123)->and($read?->originationDate)->toBe('2026-11-24');
    expect(Reference::run(['sndfile-info', '--broadcast', $path], 'sndfile-programs'))->toContain('Waiting hall')->toContain('0x'.dechex(7_000_000_123));
    unlink($path);
});

it('clips at full scale in fixed point only, and counts it', function (): void {
    $path = temporaryWav();
    expect(writeWav($path, [[1.5, -1.5, 0.5]], SampleFormat::Int16)->clipped())->toBe(2)
        ->and(WavReader::open($path)->read(0, 3)[0][0])->toEqualWithDelta(1.0, 1e-4)
        ->and(writeWav($path, [[1.5, -1.5, 0.5]], SampleFormat::Float32)->clipped())->toBe(0)
        ->and(WavReader::open($path)->read(0, 3)[0][0])->toBe(1.5);
    unlink($path);
});

it('refuses broken files and says at which byte', function (callable $break, string $says): void {
    $path = temporaryWav();
    writeWav($path, [[0.1, 0.2, 0.3], [0.1, 0.2, 0.3]], SampleFormat::Int16);
    file_put_contents($path, $break((string) file_get_contents($path)));
    try {
        WavReader::open($path);
        test()->fail('It was taken.');
    } catch (UnreadableAudioFile $refusal) {
        expect($refusal->getMessage())->toContain($says);
    } finally {
        unlink($path);
    }
})->with([
    'empty' => [fn (string $b): string => '', 'empty'],
    'a text' => [fn (string $b): string => 'Dear Sir or Madam, enclosed', 'should start "RIFF"'],
    'a RIFF of another kind' => [fn (string $b): string => substr_replace($b, 'AVI ', 8, 4), 'at byte 8'],
    'cut inside the header' => [fn (string $b): string => substr($b, 0, 30), 'at byte 12'],
    'cut inside the samples' => [fn (string $b): string => substr($b, 0, -4), 'Truncated: the "data" chunk says 12 bytes, but 8 follow (at byte 80)'],
    'a chunk longer than the file' => [fn (string $b): string => substr_replace($b, pack('V', 0x7FFFFFFF), 16, 4), 'says 2147483647 bytes'],
    'no channels' => [fn (string $b): string => substr_replace($b, pack('v', 0), 58, 2), '0 channels'],
    'an unknown coding' => [fn (string $b): string => substr_replace($b, pack('v', 85), 56, 2), 'Coding 85'],
    'mislabelled frames' => [fn (string $b): string => substr_replace($b, pack('v', 6), 68, 2), 'Mislabelled'],
    'an absurd rate' => [fn (string $b): string => substr_replace($b, pack('V', 1), 60, 4), 'sample rate of 1 Hz'],
]);

it('never ends in anything but a refusal, whatever bytes are broken', function (): void {
    $path = temporaryWav();
    writeWav($path, [Signal::noise(50)], SampleFormat::Int24, bext: new BroadcastExtension('x'));
    $bytes = (string) file_get_contents($path);
    mt_srand(99);
    $refused = 0;
    for ($round = 0; $round < 400; ++$round) {
        $broken = $bytes;
        for ($k = mt_rand(1, 6); $k > 0; --$k) {
            $broken[mt_rand(0, min(120, strlen($broken) - 1))] = chr(mt_rand(0, 255));
        }
        file_put_contents($path, mt_rand(0, 3) === 0 ? substr($broken, 0, mt_rand(0, strlen($broken))) : $broken);
        try {
            $reader = WavReader::open($path);
            $reader->read(0, 10);
        } catch (UnreadableAudioFile) {
            ++$refused;
        }
    }
    unlink($path);
    expect($refused)->toBeGreaterThan(100);
});

it('says so when a file cannot be created or the disk is full', function (): void {
    expect(fn () => writeWav('/nowhere/x.wav', [[0.0]], SampleFormat::Int16))->toThrow(UnableToWriteAudioFile::class, 'cannot be created');
    // The system's own notice is silenced in the writer; the test runner would show it all the same.
    set_error_handler(static fn (): bool => true);
    expect(fn () => writeWav('/dev/full', [Signal::noise(9000)], SampleFormat::Int16))->toThrow(UnableToWriteAudioFile::class);
    restore_error_handler();
});
