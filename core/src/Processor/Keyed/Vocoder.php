<?php

declare(strict_types=1);

namespace Hafen\Processor\Keyed;

use Hafen\Audio\Block;
use Hafen\Audio\Samples;
use Hafen\Dsp\Filter\BiquadCoefficients;
use Hafen\Dsp\Noise;
use Hafen\Dsp\Oscillator\BandLimitedWave;
use Hafen\Note\Note;
use Hafen\Processor\ChipLabel;
use Hafen\Processor\FollowsNotes;
use Hafen\Processor\NoLatency;
use Hafen\Processor\ParameterSpec;
use Hafen\Processor\ParameterValues;
use Hafen\Processor\Picture;
use Hafen\Processor\Positioned;
use Hafen\Processor\Processor;
use Hafen\Processor\ProcessorSpec;
use Hafen\Processor\Scale;
use Hafen\Processor\Setting;

/**
 * The held notes sound from a bank of saws, shaped by the passing voice: band by band as loud as the voice is there.
 *
 * Source: H. Dudley's channel vocoder. The bands lie evenly in octaves from 120 Hz to 8 kHz, each a band-pass of the Audio EQ Cookbook that
 * is as wide as the bands are apart; a band follows the voice by its amplitude with a one-pole attack and release.
 */
final class Vocoder implements FollowsNotes, Positioned, Processor
{
    use NoLatency;
    use WorksOnHeldKeys;

    public const LOWEST = 120.0;

    public const HIGHEST = 8000.0;

    private const MOST_KEYS = 8;

    /** @var list<BiquadCoefficients> */
    private array $bands = [];

    /** @var list<array{float, float, float, float, float}> of each band: two states for the voice, two for the carrier, its envelope */
    private array $states = [];

    /** @var array<int, float> place in the cycle of each key that sounds, 0 to 1 */
    private array $phases = [];

    private float $attack = 1.0;

    private float $release = 1.0;

    private float $gain = 1.0;

    private float $noise = 0.0;

    /** Sample of the session. */
    private int $position = 0;

    public static function spec(): ProcessorSpec
    {
        return new ProcessorSpec(
            'vocoder',
            'Vocoder',
            'Vocod', 'Pitch',
            'Notes that speak with the voice that passes.',
            [
                ParameterSpec::number('bands', 'Bands', '', 8.0, 24.0, 16.0, step: 1.0),
                ParameterSpec::number('attack', 'Attack', 'ms', 0.5, 100.0, 4.0, Scale::Logarithmic, 0.1),
                ParameterSpec::number('release', 'Release', 'ms', 5.0, 500.0, 35.0, Scale::Logarithmic, 1.0),
                ParameterSpec::number('noise', 'Breath', '%', 0.0, 100.0, 10.0, step: 1.0),
                ParameterSpec::decibels('level', 'Level', -24.0, 24.0, 6.0),
            ],
            levelDependent: true,
            synonyms: ['robot', 'talk', 'carrier', 'voice', 'bands', 'notes', 'midi'],
            followsNotes: true,
            needsNotes: true,
        );
    }

    public static function label(ParameterValues $values): string
    {
        return 'Vocoder '.round($values->number('bands')).' bands';
    }

    public static function chip(ParameterValues $values): ChipLabel
    {
        return new ChipLabel('Vocod', round($values->number('bands')).' bands');
    }

    public static function picture(ParameterValues $values, Setting $setting): ?Picture
    {
        return null;
    }

    /**
     * Centre frequencies in Hz of a number of bands.
     *
     * @return list<float>
     */
    public static function centres(int $bands): array
    {
        return array_map(static fn (int $band): float => self::LOWEST * (self::HIGHEST / self::LOWEST) ** ($band / ($bands - 1)), range(0, $bands - 1));
    }

    public function __construct(private readonly Setting $setting)
    {
    }

    public function set(ParameterValues $values): void
    {
        $bands = (int) round($values->number('bands'));
        if (count($this->bands) !== $bands) {
            $octaves = log(self::HIGHEST / self::LOWEST, 2.0) / ($bands - 1);
            // Source: Q of a band that is so many octaves wide, 1 / (2 sinh(ln 2 / 2 * width)).
            $q = 1.0 / (2.0 * sinh(M_LN2 / 2.0 * $octaves));
            $this->bands = array_map(fn (float $centre): BiquadCoefficients => BiquadCoefficients::bandPass(min($centre, 0.45 * $this->setting->sampleRate), $q, $this->setting->sampleRate), self::centres($bands));
            $this->states = array_fill(0, $bands, [0.0, 0.0, 0.0, 0.0, 0.0]);
        }
        $step = fn (float $milliseconds): float => 1.0 - exp(-1000.0 / ($milliseconds * $this->setting->sampleRate));
        $this->attack = $step($values->number('attack'));
        $this->release = $step($values->number('release'));
        $this->gain = 10.0 ** ($values->number('level') / 20.0);
        $this->noise = $values->number('noise') / 100.0;
    }

    public function at(int $position): void
    {
        $this->position = $position;
    }

    public function reset(): void
    {
        $this->held = $this->phases = [];
        $this->states = array_fill(0, count($this->bands), [0.0, 0.0, 0.0, 0.0, 0.0]);
        $this->position = 0;
    }

    public function isSettled(): bool
    {
        return $this->held === [];
    }

    public function tail(): int
    {
        return intdiv($this->setting->sampleRate, 2);
    }

    private function work(Block $block): void
    {
        $voice = $block->mono ? $block->left : Samples::mid($block->left, $block->right);
        $carrier = $this->carrier(count($voice));
        $this->position += count($voice);
        $sound = array_fill(0, count($voice), 0.0);
        foreach ($this->bands as $b => $band) {
            $sound = $this->band($b, $band, $voice, $carrier, $sound);
        }
        $block->left = $sound;
        $block->right = [];
        $block->mono = true;
    }

    /** @return list<float> the saws of the keys that are held, and breath */
    private function carrier(int $frames): array
    {
        $carrier = array_fill(0, $frames, 0.0);
        $keys = array_slice($this->held, -self::MOST_KEYS, null, true);
        $this->phases = array_intersect_key($this->phases, $keys);
        $size = BandLimitedWave::SIZE;
        foreach ($keys as $key => $velocity) {
            $frequency = Note::frequency((float) $key);
            $cycle = BandLimitedWave::cycle('saw', $frequency, $this->setting->sampleRate);
            $phase = $this->phases[$key] ?? 0.0;
            $step = $frequency / $this->setting->sampleRate;
            for ($i = 0; $i < $frames; ++$i) {
                $at = $phase * $size;
                $whole = (int) $at;
                $carrier[$i] += $velocity * ($cycle[$whole] + ($at - $whole) * ($cycle[$whole + 1] - $cycle[$whole]));
                $phase += $step;
                $phase -= (int) $phase;
            }
            $this->phases[$key] = $phase;
        }
        if ($this->noise > 0.0 && $keys !== []) {
            foreach (Noise::at($this->position)->samples($frames) as $i => $sample) {
                $carrier[$i] += $this->noise * $sample;
            }
        }

        return $carrier;
    }

    /**
     * @param  list<float>  $voice
     * @param  list<float>  $carrier
     * @param  list<float>  $sound
     * @return list<float>
     */
    private function band(int $index, BiquadCoefficients $band, array $voice, array $carrier, array $sound): array
    {
        [$b0, $b1, $b2, $a1, $a2] = [$band->b0, $band->b1, $band->b2, $band->a1, $band->a2];
        [$v1, $v2, $c1, $c2, $envelope] = $this->states[$index];
        $attack = $this->attack;
        $release = $this->release;
        // Half of pi: an amplitude from the mean of what is rectified.
        $gain = M_PI_2 * $this->gain;
        for ($i = 0, $n = count($voice); $i < $n; ++$i) {
            $x = $voice[$i];
            $y = $b0 * $x + $v1;
            $v1 = $b1 * $x - $a1 * $y + $v2;
            $v2 = $b2 * $x - $a2 * $y;
            $y = $y < 0.0 ? -$y : $y;
            $envelope += ($y > $envelope ? $attack : $release) * ($y - $envelope);
            $x = $carrier[$i];
            $y = $b0 * $x + $c1;
            $c1 = $b1 * $x - $a1 * $y + $c2;
            $c2 = $b2 * $x - $a2 * $y;
            $sound[$i] += $gain * $envelope * $y;
        }
        $this->states[$index] = [abs($v1) < 1e-200 ? 0.0 : $v1, abs($v2) < 1e-200 ? 0.0 : $v2, abs($c1) < 1e-200 ? 0.0 : $c1, abs($c2) < 1e-200 ? 0.0 : $c2, $envelope];

        return $sound;
    }
}
