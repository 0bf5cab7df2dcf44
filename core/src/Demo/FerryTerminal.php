<?php

declare(strict_types=1);

namespace Hafen\Demo;

use Hafen\Audio\AudioFormat;
use Hafen\Audio\Dither;
use Hafen\Audio\SampleFormat;
use Hafen\Audio\UnableToWriteAudioFile;
use Hafen\Audio\WavWriter;
use Hafen\Session\BusSource;
use Hafen\Session\Channel;
use Hafen\Session\ChannelKind;
use Hafen\Session\ChannelTrim;
use Hafen\Session\Clip;
use Hafen\Session\ClipSource;
use Hafen\Session\ProcessorInsert;
use Hafen\Session\Session;
use Hafen\Session\Width;

/**
 * The demo session: an invented four-piece in the waiting hall of an island ferry, with a choir, an announcement and the
 * hall itself. It is mixed a little too hot on purpose.
 */
final readonly class FerryTerminal
{
    private Score $score;

    public function __construct()
    {
        $this->score = new Score;
    }

    /** @return array<string, Voice> by channel id */
    public static function voices(): array
    {
        return [
            'accordion' => new Accordion,
            'bass' => new UprightBass,
            'cello' => new Cello,
            'drum' => new FrameDrum,
            'shaker' => new Shaker,
            'choir' => new Choir,
            'announcement' => new Announcement,
            'hall' => new HallAmbience,
        ];
    }

    /**
     * Makes one track's file, 24-bit.
     *
     * @throws UnableToWriteAudioFile
     */
    public function write(string $id, string $path): void
    {
        $sides = self::voices()[$id]->play($this->score);
        $peak = 1e-9;
        foreach ($sides as $side) {
            $peak = max($peak, ...array_map(abs(...), $side));
        }
        // Recorded as people record: the loudest sample of each track a few dB below full scale.
        $gain = 10.0 ** (self::level($id) / 20.0) / $peak;
        $writer = WavWriter::create($path, new AudioFormat($this->score->sampleRate, count($sides), SampleFormat::Int24), null, new Dither);
        for ($at = 0, $frames = count($sides[0]); $at < $frames; $at += 4096) {
            $writer->write(array_map(
                static fn (array $side): array => array_map(static fn (float $sample): float => $sample * $gain, array_slice($side, $at, 4096)),
                $sides,
            ));
        }
        $writer->close();
    }

    /** @param  callable(string): string  $file the `file` of a clip for each channel id */
    public function session(callable $file): Session
    {
        $i = 0;
        $insert = static function (string $processor, array $parameters = [], float $mix = 1.0, bool $on = true) use (&$i): ProcessorInsert {
            ++$i;

            /** @var array<string, float|string|bool> $parameters */
            return new ProcessorInsert("i{$i}", $processor, $on, $mix, $parameters);
        };

        return new Session('Ferry Terminal', $this->score->sampleRate, $this->score->tempo, -3.0, $this->score->frames(), [
            $this->track($file, 'accordion', 'Accordion', Width::Stereo, -3.0, 1.0, 0.0, [
                $insert('filter', ['frequency' => 110.0]),
                $insert('parametric-eq', ['bell-2-frequency' => 420.0, 'bell-2-gain' => -3.0, 'high-shelf-gain' => 2.0]),
                $insert('echo', ['note' => '1/8.', 'feedback' => 30.0, 'ping-pong' => true], 0.12),
            ]),
            $this->track($file, 'bass', 'Upright bass', Width::Mono, -3.0, 2.0, 0.0, [
                $insert('filter', ['frequency' => 35.0, 'slope' => '24dB']),
                $insert('compressor', ['threshold' => -22.0, 'ratio' => 3.0, 'attack' => 14.0, 'release' => 160.0, 'make-up' => 3.0]),
                $insert('drive', ['drive' => 6.0, 'tone' => 6000.0, 'output' => -5.0], 0.35),
            ]),
            $this->track($file, 'cello', 'Cello', Width::Mono, -4.0, 0.0, -0.35, [
                $insert('filter', ['frequency' => 60.0]),
                $insert('parametric-eq', ['bell-2-frequency' => 260.0, 'bell-2-gain' => -2.5, 'bell-3-frequency' => 2200.0, 'bell-3-gain' => 2.0]),
                $insert('reverb', ['decay' => 1.9, 'pre-delay' => 24.0], 0.22),
            ]),
            $this->track($file, 'drum', 'Frame drum', Width::Mono, 0.0, 0.5, 0.1, [
                $insert('parametric-eq', ['bell-1-frequency' => 85.0, 'bell-1-gain' => 2.0, 'bell-2-frequency' => 330.0, 'bell-2-gain' => -4.0]),
                $insert('compressor', ['threshold' => -16.0, 'ratio' => 4.0, 'attack' => 18.0, 'release' => 90.0, 'make-up' => 2.0]),
            ]),
            $this->track($file, 'shaker', 'Shaker', Width::Mono, -6.0, -9.0, 0.45, [
                $insert('filter', ['frequency' => 400.0]),
            ]),
            $this->track($file, 'choir', 'Choir', Width::Stereo, -2.0, -2.5, 0.0, [
                $insert('filter', ['frequency' => 140.0]),
                $insert('reverb', ['decay' => 3.2, 'size' => 110.0, 'damping' => 4500.0], 0.4),
            ]),
            $this->track($file, 'announcement', 'Announcement', Width::Mono, -4.0, -8.0, 0.25, [
                $insert('filter', ['frequency' => 350.0, 'slope' => '24dB']),
                $insert('filter', ['type' => 'low-pass', 'frequency' => 3300.0, 'slope' => '24dB']),
                $insert('compressor', ['threshold' => -24.0, 'ratio' => 5.0, 'make-up' => 4.0], on: false),
            ]),
            $this->track($file, 'hall', 'Hall ambience', Width::Stereo, 0.0, -10.0, 0.0, []),
            new Channel(
                'main',
                ChannelKind::Main,
                'Main',
                Width::Stereo,
                new BusSource,
                inserts: [
                    $insert('compressor', ['threshold' => -12.0, 'ratio' => 1.6, 'knee' => 12.0, 'attack' => 30.0, 'release' => 250.0, 'detector' => 'rms', 'make-up' => 3.0]),
                    $insert('limiter', ['ceiling' => -1.0], on: false),
                ],
                output: 'hw:1-2',
            ),
        ]);
    }

    /**
     * @param  callable(string): string  $file
     * @param  list<ProcessorInsert>  $inserts
     */
    private function track(callable $file, string $id, string $name, Width $width, float $trim, float $fader, float $pan, array $inserts): Channel
    {
        return new Channel(
            $id,
            ChannelKind::Track,
            $name,
            $width,
            new ClipSource([new Clip('k1', $file($id), 0, 0, $this->score->frames())]),
            new ChannelTrim($trim),
            true,
            $inserts,
            $fader,
            $pan,
        );
    }

    /** Loudest sample of a track in dBFS. */
    private static function level(string $id): float
    {
        return match ($id) {
            'bass', 'drum' => -4.0,
            'hall' => -14.0,
            'announcement' => -7.0,
            'choir' => -9.0,
            default => -6.0,
        };
    }
}
