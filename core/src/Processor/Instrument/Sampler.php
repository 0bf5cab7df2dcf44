<?php

declare(strict_types=1);

namespace Hafen\Processor\Instrument;

use Hafen\Audio\Decibel;
use Hafen\Processor\ChipLabel;
use Hafen\Processor\NoLatency;
use Hafen\Processor\ParameterSpec;
use Hafen\Processor\ParameterValues;
use Hafen\Processor\Picture;
use Hafen\Processor\Positioned;
use Hafen\Processor\Processor;
use Hafen\Processor\ProcessorSpec;
use Hafen\Processor\Scale;
use Hafen\Processor\Setting;
use Hafen\Processor\TakesNotes;

/** Up to three recordings, each for its keys and velocities, all with one loop and envelope. */
final class Sampler implements Positioned, Processor, TakesNotes
{
    use NoLatency;
    use PlaysVoices {
        right as private noRight;
    }

    private const ZONES = 3;

    private const MOST_VOICES = 24;

    private const LONGEST_SECONDS = 30;

    /** @var array<string, array{list<float>, list<float>}> both sides of recordings that are loaded, by name */
    private array $recordings = [];

    /** @var list<SampleZone> */
    private array $zones = [];

    /** @var list<SampleZone> of the right side; nothing where all recordings are mono */
    private array $rightZones = [];

    private readonly Voices $rightVoices;

    private ParameterValues $values;

    private string $made = '';

    public static function spec(): ProcessorSpec
    {
        $parameters = [];
        for ($n = 1; $n <= self::ZONES; ++$n) {
            $number = static fn (string $id, string $label, float $min, float $default): ParameterSpec => ParameterSpec::number("{$id}-{$n}", $label, '', $min, 127.0, $default, step: 1.0, group: "Recording {$n}");
            array_push(
                $parameters,
                ParameterSpec::audioFile("recording-{$n}", 'Recording', "Recording {$n}"),
                $number('root', 'Its key', 0.0, 60.0),
                $number('lowest', 'From key', 0.0, 0.0),
                $number('highest', 'To key', 0.0, 127.0),
                $number('softest', 'From velocity', 1.0, 1.0),
                $number('hardest', 'To velocity', 1.0, 127.0),
            );
        }

        return new ProcessorSpec(
            'sampler',
            'Sampler',
            'Sampl', 'Instrument',
            'Plays recordings at the pitch of notes.',
            [
                ...$parameters,
                ParameterSpec::toggle('loop', 'Loop', false, 'Loop'),
                ParameterSpec::number('loop-start', 'From', '%', 0.0, 99.0, 50.0, group: 'Loop'),
                ParameterSpec::number('loop-end', 'To', '%', 1.0, 100.0, 100.0, group: 'Loop'),
                ParameterSpec::number('loop-fade', 'Fade', '%', 0.0, 100.0, 0.0, step: 1.0, group: 'Loop'),
                ParameterSpec::number('attack', 'Attack', 'ms', 0.5, 5000.0, 1.0, Scale::Logarithmic, 0.5, 'Loudness'),
                ParameterSpec::number('decay', 'Decay', 'ms', 1.0, 10000.0, 1000.0, Scale::Logarithmic, 1.0, 'Loudness'),
                ParameterSpec::number('sustain', 'Sustain', '%', 0.0, 100.0, 100.0, step: 1.0, group: 'Loudness'),
                ParameterSpec::number('release', 'Release', 'ms', 1.0, 10000.0, 200.0, Scale::Logarithmic, 1.0, 'Loudness'),
                ParameterSpec::number('velocity', 'By velocity', '%', 0.0, 100.0, 70.0, step: 1.0, group: 'Loudness'),
                ParameterSpec::decibels('level', 'Level', -40.0, 12.0, -3.0, 'Loudness'),
            ],
            synonyms: ['sample', 'recording', 'drum', 'pad', 'notes', 'midi', 'instrument'],
            widens: true,
            takesNotes: true,
        );
    }

    public static function label(ParameterValues $values): string
    {
        return 'Sampler, '.self::chip($values)->figure;
    }

    public static function chip(ParameterValues $values): ChipLabel
    {
        $used = count(array_filter(range(1, self::ZONES), static fn (int $n): bool => $values->text("recording-{$n}") !== ''));

        return new ChipLabel('Sampl', $used === 0 ? 'no file' : ($used === 1 ? '1 file' : "{$used} files"));
    }

    public static function picture(ParameterValues $values, Setting $setting): ?Picture
    {
        return null;
    }

    public function __construct(private readonly Setting $setting)
    {
        $this->voices = new Voices($this->voice(...), self::MOST_VOICES, $setting->sampleRate);
        $this->rightVoices = new Voices(fn (int $key, float $velocity): ?Voice => $this->voiceOf($this->rightZones, $key, $velocity), self::MOST_VOICES, $setting->sampleRate);
    }

    public function set(ParameterValues $values): void
    {
        $this->values = $values;
        $made = serialize(array_diff_key($values->toArray(), ['attack' => 0, 'decay' => 0, 'sustain' => 0, 'release' => 0, 'velocity' => 0, 'level' => 0]));
        if ($made !== $this->made) {
            $this->made = $made;
            $wasStereo = $this->rightZones !== [];
            [$this->zones, $this->rightZones] = $this->zones($values);
            if ($wasStereo !== ($this->rightZones !== [])) {
                $this->reset();
            }
        }
    }

    public function tail(): int
    {
        return (int) ceil(max($this->values->number('attack'), 1.5 * $this->values->number('release')) / 1000.0 * $this->setting->sampleRate);
    }

    public function reset(): void
    {
        $this->voices->reset();
        $this->rightVoices->reset();
    }

    private function right(): ?Voices
    {
        return $this->rightZones === [] ? $this->noRight() : $this->rightVoices;
    }

    /** @return array{list<SampleZone>, list<SampleZone>} of both sides; nothing of the right where all are mono */
    private function zones(ParameterValues $values): array
    {
        $zones = [[], []];
        $names = [];
        $isStereo = false;
        for ($n = 1; $n <= self::ZONES; ++$n) {
            $name = $names[] = $values->text("recording-{$n}");
            $recording = $name === '' ? [[], []] : $this->recordings[$name] ??= $this->recording($name);
            $isStereo = $isStereo || $recording[0] !== $recording[1];
            foreach (count($recording[0]) > 2 ? $recording : [] as $side => $samples) {
                $key = static fn (string $id): int => (int) round($values->number("{$id}-{$n}"));
                $loop = self::loop($values, count($samples));
                $zones[$side][] = new SampleZone($loop === null ? $samples : self::faded($samples, $loop, $values->number('loop-fade') / 100.0), $key('root'), $key('lowest'), $key('highest'), $key('softest'), $key('hardest'), $loop);
            }
        }
        $this->recordings = array_intersect_key($this->recordings, array_flip($names));

        return $isStereo ? $zones : [$zones[0], []];
    }

    /** @return ?array{int, int} */
    private static function loop(ParameterValues $values, int $length): ?array
    {
        $from = (int) round($values->number('loop-start') / 100.0 * ($length - 1));
        $to = (int) round($values->number('loop-end') / 100.0 * ($length - 1));

        return $values->on('loop') && $to > $from + 16 ? [$from, $to] : null;
    }

    /**
     * The end of a loop goes over into what comes before its start, and what follows it is what follows its start: it is read on there.
     *
     * @param  list<float>  $samples
     * @param  array{int, int}  $loop
     * @param  float  $share  of the loop, 0 to 1
     * @return list<float>
     */
    private static function faded(array $samples, array $loop, float $share): array
    {
        [$from, $to] = $loop;
        $length = min($from, (int) round($share * ($to - $from)));
        $faded = $samples;
        for ($i = 1; $i <= $length; ++$i) {
            $weight = ($length + 1 - $i) / ($length + 1);
            $faded[$to - $i] = $weight * $samples[$from - $i] + (1.0 - $weight) * $samples[$to - $i];
        }
        for ($i = 0; $i < 3 && $to + $i < count($samples); ++$i) {
            $faded[$to + $i] = $samples[$from + $i];
        }

        return array_values($faded);
    }

    /** @return array{list<float>, list<float>} nothing where it cannot be read */
    private function recording(string $name): array
    {
        [$left, $right] = $this->setting->audioFiles?->read($name, $this->setting->sampleRate, self::LONGEST_SECONDS * $this->setting->sampleRate) ?? [[], []];

        return [$left, $right];
    }

    private function voice(int $key, float $velocity): ?Voice
    {
        return $this->voiceOf($this->zones, $key, $velocity);
    }

    /** @param  list<SampleZone>  $zones */
    private function voiceOf(array $zones, int $key, float $velocity): ?Voice
    {
        $values = $this->values;
        foreach ($zones as $zone) {
            if ($zone->plays($key, $velocity)) {
                $gain = Decibel::toGain($values->number('level')) * (1.0 - $values->number('velocity') / 100.0 * (1.0 - $velocity));
                $envelope = Envelope::of($values->number('attack') / 1000.0, $values->number('decay') / 1000.0, $values->number('sustain') / 100.0, $values->number('release') / 1000.0, $this->setting->sampleRate);

                return new SamplerVoice($zone, $key, $gain, $envelope, $this->setting->sampleRate);
            }
        }

        return null;
    }
}
