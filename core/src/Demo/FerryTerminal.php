<?php

declare(strict_types=1);

namespace Hafen\Demo;

use Hafen\Audio\AudioFormat;
use Hafen\Audio\Dither;
use Hafen\Audio\SampleFormat;
use Hafen\Audio\SampleLoops;
use Hafen\Audio\UnableToWriteAudioFile;
use Hafen\Audio\WavWriter;
use Hafen\Hardware\InterfaceProfile;
use Hafen\Hardware\Outboard\Rack;
use Hafen\Session\Channel\Channel;
use Hafen\Session\Channel\ChannelKind;
use Hafen\Session\Channel\ChannelTrim;
use Hafen\Session\Channel\Performer;
use Hafen\Session\Channel\Send;
use Hafen\Session\Channel\TapPoint;
use Hafen\Session\Channel\Width;
use Hafen\Session\Hardware\HardwareLoop;
use Hafen\Session\Hardware\MeasuredDelay;
use Hafen\Session\Hardware\Recall;
use Hafen\Session\Insert\Branch;
use Hafen\Session\Insert\HardwareInsert;
use Hafen\Session\Insert\Insert;
use Hafen\Session\Insert\ProcessorInsert;
use Hafen\Session\Insert\Split;
use Hafen\Session\Insert\SplitBy;
use Hafen\Session\Session;
use Hafen\Session\Source\BusSource;
use Hafen\Session\Source\Clip;
use Hafen\Session\Source\ClipSource;
use Hafen\Session\Source\LiveInput;

/**
 * The demo session: an invented four-piece in the waiting hall of an island ferry, with a choir, an announcement and the
 * hall itself. Faults are left in on purpose: the main is a little too hot, the plate is part dry on its return, two
 * branches are equal, an echo does not follow its fader, and the ambience rumbles. A singer is plugged into the first input.
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
            'accordion-left' => new Accordion(0),
            'accordion-right' => new Accordion(1),
            'accordion-body' => new AccordionBody,
            'bass' => new UprightBass,
            'cello' => new Cello,
            'drum' => new FrameDrum,
            'shaker' => new Shaker,
            'choir' => new Choir,
            'announcement' => new Announcement,
            'hall-ambience' => new HallAmbience,
        ];
    }

    /**
     * Makes one track's file, 24-bit.
     *
     * @throws UnableToWriteAudioFile
     */
    public function write(string $id, string $path): void
    {
        SampleLoops::check();
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

        $n = 0;
        $send = static function (string $to, float $gain, TapPoint $tap = TapPoint::PostFader, float $pan = 0.0) use (&$n): Send {
            return new Send('n'.++$n, $to, $gain, $tap, true, $pan);
        };
        $cue = static fn (float $gain, float $pan = 0.0): Send => $send('cue-cello', $gain, TapPoint::PreFader, $pan);

        $session = new Session('Ferry Terminal', $this->score->sampleRate, $this->score->tempo, -3.0, $this->score->frames(), [
            $this->track($file, 'accordion-left', 'Accordion L', Width::Mono, -3.0, 0.0, -0.7, [
                $insert('filter', ['frequency' => 110.0]),
            ], [$cue(-9.0, -0.4)], 'reeds'),
            $this->track($file, 'accordion-right', 'Accordion R', Width::Mono, -3.0, 0.0, 0.7, [
                $insert('filter', ['frequency' => 110.0]),
            ], [$cue(-9.0, 0.4)], 'reeds'),
            $this->track($file, 'accordion-body', 'Accordion body', Width::Mono, -5.0, -6.0, 0.0, [
                $insert('filter', ['frequency' => 90.0]),
                $insert('parametric-eq', ['bell-2-frequency' => 410.0, 'bell-2-gain' => -4.0]),
            ], [], 'reeds'),
            $this->track($file, 'bass', 'Upright bass', Width::Mono, -3.0, 2.0, 0.0, [
                $insert('filter', ['frequency' => 35.0, 'slope' => '24dB']),
                $insert('compressor', ['threshold' => -22.0, 'ratio' => 3.0, 'attack' => 14.0, 'release' => 160.0, 'make-up' => 3.0]),
                $insert('drive', ['drive' => 6.0, 'tone' => 6000.0, 'output' => -5.0], 0.35),
            ], [$send('plate', -24.0), $cue(-6.0)]),
            $this->track($file, 'cello', 'Cello', Width::Mono, -4.0, 0.0, -0.35, [
                $insert('filter', ['frequency' => 60.0]),
                $insert('parametric-eq', ['bell-2-frequency' => 260.0, 'bell-2-gain' => -2.5, 'bell-3-frequency' => 2200.0, 'bell-3-gain' => 2.0]),
                $insert('reverb', ['decay' => 0.6, 'size' => 20.0, 'pre-delay' => 4.0], 0.18),
                new HardwareInsert('h1', 'l1', mix: 0.4),
            ], [$send('hall', -16.0), $cue(-3.0)]),
            $this->track($file, 'drum', 'Frame drum', Width::Mono, 0.0, -0.5, 0.1, [
                $insert('parametric-eq', ['bell-1-frequency' => 85.0, 'bell-1-gain' => 2.0, 'bell-2-frequency' => 330.0, 'bell-2-gain' => -4.0]),
                new Split('s1', [
                    new Branch('b1', 'Dry'),
                    new Branch('b2', 'Crush', -9.0, inserts: [
                        $insert('compressor', ['threshold' => -34.0, 'ratio' => 10.0, 'attack' => 2.0, 'release' => 80.0, 'make-up' => 14.0]),
                        $insert('drive', ['drive' => 12.0, 'tone' => 5000.0, 'output' => -8.0]),
                    ]),
                ]),
            ], [$send('plate', -18.0), $cue(-12.0)]),
            $this->track($file, 'shaker', 'Shaker', Width::Mono, -6.0, -9.0, 0.45, [
                $insert('filter', ['frequency' => 400.0]),
            ], [$send('plate', -21.0)]),
            // Its cue follows the fader: every move in the mix is heard in the cellist's headphones.
            $this->track($file, 'choir', 'Choir', Width::Stereo, -2.0, -2.5, 0.0, [
                $insert('filter', ['frequency' => 140.0]),
                new Split('s2', [
                    new Branch('b3', 'Low', inserts: [
                        $insert('compressor', ['threshold' => -30.0, 'ratio' => 2.5, 'attack' => 25.0, 'release' => 220.0]),
                    ]),
                    new Branch('b4', 'High', 1.0, inserts: [
                        $insert('parametric-eq', ['high-shelf-gain' => 2.5]),
                    ]),
                ], by: SplitBy::Frequency, crossovers: [520.0]),
            ], [$send('hall', -9.0), $send('plate', -14.0), $send('cue-cello', -11.5)]),
            $this->track($file, 'announcement', 'Announcement', Width::Mono, -4.0, -14.0, 0.25, [
                $insert('filter', ['frequency' => 350.0, 'slope' => '24dB']),
                $insert('filter', ['type' => 'low-pass', 'frequency' => 3300.0, 'slope' => '24dB']),
                // Two equal branches: 6.02 dB louder than one would think.
                new Split('s3', [new Branch('b5', 'Horn A'), new Branch('b6', 'Horn B')]),
                $insert('compressor', ['threshold' => -24.0, 'ratio' => 5.0, 'make-up' => 4.0], on: false),
                // Taken before the fader: the echo stays when the announcement is turned down.
            ], [$send('echo', -15.0, TapPoint::PreFader)]),
            $this->track($file, 'hall-ambience', 'Hall ambience', Width::Stereo, 0.0, -10.0, 0.0, []),
            $this->bus(ChannelKind::Group, 'reeds', 'Reeds', -4.0, [
                $insert('parametric-eq', ['bell-3-frequency' => 1800.0, 'bell-3-gain' => -2.0, 'high-shelf-gain' => 2.0]),
            ], [$send('plate', -14.0), $send('echo', -20.0)], 'main'),
            $this->bus(ChannelKind::Return, 'plate', 'Plate', -3.0, [
                // Left part dry on a return: every send to it makes the dry sound louder too.
                $insert('reverb', ['decay' => 1.8, 'pre-delay' => 18.0, 'size' => 60.0], 0.4),
            ], [], 'wash'),
            $this->bus(ChannelKind::Return, 'hall', 'Hall', 0.0, [
                $insert('reverb', ['decay' => 3.2, 'size' => 110.0, 'damping' => 4500.0]),
            ], [], 'wash'),
            $this->bus(ChannelKind::Return, 'echo', 'Echo', -2.0, [
                $insert('echo', ['note' => '1/8.', 'feedback' => 30.0, 'ping-pong' => true]),
                $insert('filter', ['frequency' => 400.0]),
            ], [$send('plate', -18.0)], 'wash'),
            // Not solo-safe: whoever solos the choir loses its hall.
            $this->bus(ChannelKind::Return, 'wash', 'Wash', -2.0, [
                $insert('filter', ['frequency' => 250.0]),
                $insert('filter', ['type' => 'low-pass', 'frequency' => 9000.0]),
                $insert('parametric-eq', ['bell-2-frequency' => 800.0, 'bell-2-gain' => 1.5]),
            ], [], 'main')->withSoloSafe(false),
            $this->bus(ChannelKind::Cue, 'cue-cello', 'Cue Cello', 0.0, [], [], 'hw:3-4')->withPerformer(new Performer(['cello'])),
            $this->bus(ChannelKind::Main, 'main', 'Main', 0.0, [
                $insert('compressor', ['threshold' => -12.0, 'ratio' => 1.6, 'knee' => 12.0, 'attack' => 30.0, 'release' => 250.0, 'detector' => 'rms', 'make-up' => 4.0]),
                $insert('limiter', ['ceiling' => -1.0], on: false),
            ], [], 'hw:1-2'),
        ]);

        return Bars::in(PlayingControls::on(self::with($session->withLoops([self::spring($this->score->sampleRate)]), 'hall-ambience', (new Channel(
            'voice', ChannelKind::Track, 'Voice', Width::Mono, new ClipSource([], new LiveInput('in:1')),
            inserts: [
                $insert('pitch-correction', ['key' => 'd', 'scale' => 'minor', 'response' => 60.0, 'amount' => 80.0]),
                $insert('filter', ['frequency' => 90.0]),
                $insert('compressor', ['threshold' => -24.0, 'ratio' => 3.0, 'attack' => 8.0, 'release' => 120.0, 'make-up' => 4.0]),
            ],
            fader: -3.0,
            sends: [$send('plate', -12.0), $send('radio', -15.0)],
        )), 'echo', $this->bus(ChannelKind::Return, 'radio', 'Radio', -4.0, [
            $insert('telephone', ['honk' => 4.0]),
            $insert('drive', ['drive' => 14.0, 'output' => -10.0]),
        ], [], 'main'))), $this->score);
    }

    /** The spring tank of the stand-in's rack, as a ping finds it with the buffer the interface comes with. */
    private static function spring(int $sampleRate): HardwareLoop
    {
        $profile = InterfaceProfile::standard();
        $unit = Rack::specs()['spring-tank'];
        $samples = $profile->latency()->roundTrip() + $unit->delay / 1000.0 * $sampleRate;

        return new HardwareLoop(
            'l1', $unit->name, (string) $profile->units[$unit->id]->send, (string) $profile->units[$unit->id]->return, $unit->id,
            returnTrim: 4.5,
            tail: $unit->tail,
            delay: new MeasuredDelay(round($samples, 2), $profile->buffer),
            recall: new Recall($unit->positions([]), 'Springs under the bow, no more than that.'),
        );
    }

    /** The session with a channel put behind one, and another behind another. */
    private static function with(Session $session, string $behind, Channel $channel, string $behindOther, Channel $other): Session
    {
        $channels = [];
        foreach ($session->channels as $known) {
            array_push($channels, $known, ...($known->id === $behind ? [$channel] : []), ...($known->id === $behindOther ? [$other] : []));
        }

        return $session->withChannels($channels);
    }

    /**
     * @param  callable(string): string  $file
     * @param  list<Insert>  $inserts
     * @param  list<Send>  $sends
     */
    private function track(callable $file, string $id, string $name, Width $width, float $trim, float $fader, float $pan, array $inserts, array $sends = [], string $output = 'main'): Channel
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
            output: $output,
            sends: $sends,
        );
    }

    /**
     * @param  list<Insert>  $inserts
     * @param  list<Send>  $sends
     */
    private function bus(ChannelKind $kind, string $id, string $name, float $fader, array $inserts, array $sends, string $output): Channel
    {
        return new Channel(
            $id,
            $kind,
            $name,
            Width::Stereo,
            new BusSource,
            inserts: $inserts,
            fader: $fader,
            soloSafe: $kind === ChannelKind::Return,
            output: $output,
            sends: $sends,
        );
    }

    /** Loudest sample of a track in dBFS. */
    private static function level(string $id): float
    {
        return match ($id) {
            'bass', 'drum' => -4.0,
            'hall-ambience' => -14.0,
            'accordion-body' => -9.0,
            'announcement' => -7.0,
            'choir' => -9.0,
            default => -6.0,
        };
    }
}
