<?php

declare(strict_types=1);

namespace Hafen\Processor\Space;

use Hafen\Audio\Block;
use Hafen\Audio\Samples;
use Hafen\Dsp\Filter\BiquadCascade;
use Hafen\Dsp\Filter\BiquadCoefficients;
use Hafen\Dsp\Filter\Butterworth;
use Hafen\Processor\Axis;
use Hafen\Processor\ChipLabel;
use Hafen\Processor\NoLatency;
use Hafen\Processor\ParameterSpec;
use Hafen\Processor\ParameterValues;
use Hafen\Processor\Picture;
use Hafen\Processor\Processor;
use Hafen\Processor\ProcessorSpec;
use Hafen\Processor\Scale;
use Hafen\Processor\Setting;

/**
 * Two coiled springs: dark, dripping, each echo a chirp.
 *
 * Source: V. Välimäki, J. Parker, J. S. Abel, "Parametric spring reverberation effect", JAES 2010: a chain of first-order all-passes inside a
 * loop disperses the sound, the highest frequencies of its band last; it runs at a quarter of the rate, below 5 kHz,
 * with Butterworth filters before and after. Both springs hear the middle; each comes out on its side.
 */
final class Spring implements Processor
{
    use NoLatency;

    /** Loop in ms and all-pass coefficient of the two springs. */
    private const SPRINGS = [[41.3, 0.72], [53.9, 0.76]];

    private const STAGES = 56;

    private const LONGEST_MILLISECONDS = 90.0;

    /** One sample in so many is kept. */
    private const DIVISION = 4;

    private readonly BiquadCascade $before;

    private readonly BiquadCascade $after;

    /** @var list<list<float>> ring of each spring's loop */
    private array $rings = [];

    /** @var list<list<array{float, float, float, float}>> state of each spring's all-passes, four by four */
    private array $states = [];

    /** @var list<float> state of each spring's damping */
    private array $lows = [0.0, 0.0];

    private int $writeIndex = 0;

    /** Samples since the last one kept. */
    private int $count = 0;

    private readonly int $room;

    /** @var non-empty-list<int> */
    private array $lengths = [1, 1];

    /** @var list<float> */
    private array $gains = [0.0, 0.0];

    private float $damping = 0.5;

    private float $decay = 2.0;

    private float $width = 1.0;

    public static function spec(): ProcessorSpec
    {
        return new ProcessorSpec(
            'spring',
            'Spring',
            'Spring', 'Space',
            'Two springs that drip.',
            [
                ParameterSpec::number('decay', 'Decay', 's', 0.3, 6.0, 2.0, Scale::Logarithmic, 0.1),
                ParameterSpec::number('tension', 'Tension', '%', 60.0, 160.0, 100.0, step: 1.0),
                ParameterSpec::frequency('damping', 'Damping', 3000.0, 500.0, 5000.0),
                ParameterSpec::frequency('low-cut', 'Low cut', 150.0, 20.0, 800.0),
                ParameterSpec::number('width', 'Width', '%', 0.0, 100.0, 70.0, step: 1.0),
            ],
            wetOnly: true,
            widens: true,
            synonyms: ['reverb', 'space', 'drip', 'guitar', 'dub', 'surf'],
        );
    }

    public static function label(ParameterValues $values): string
    {
        return 'Spring '.number_format($values->number('decay'), 1, '.', '').' s';
    }

    public static function chip(ParameterValues $values): ChipLabel
    {
        return ChipLabel::seconds('Spring', $values->number('decay'));
    }

    public static function picture(ParameterValues $values, Setting $setting): Picture
    {
        $decay = $values->number('decay') * 1000.0;
        $curves = [];
        foreach (self::SPRINGS as $spring => [$loop]) {
            $points = [];
            $time = 100.0 * $loop / $values->number('tension');
            for ($at = $time; $at <= $decay; $at += 2.0 * $time) {
                array_push($points, [round($at, 1), -60.0], [round($at, 1), round(-60.0 * $at / $decay, 2)], [round($at, 1), -60.0]);
            }
            $curves[] = ['label' => $spring === 0 ? 'left spring' : 'right spring', 'points' => $points];
        }

        return new Picture('Echoes of the springs', new Axis('ms', 0.0, round($decay), Scale::Linear), new Axis('dB', -60.0, 0.0, Scale::Linear), $curves);
    }

    public function __construct(private readonly Setting $setting)
    {
        $rate = $setting->sampleRate;
        $this->room = (int) ceil(self::LONGEST_MILLISECONDS * $rate / self::DIVISION / 1000.0) + 2;
        $this->before = new BiquadCascade;
        $this->after = new BiquadCascade;
        $band = [];
        foreach (Butterworth::lowPass(0.42 * $rate / self::DIVISION, 8, $rate) as $i => $section) {
            $band["band {$i}"] = $section;
        }
        $this->before->set($band);
        $this->reset();
    }

    public function set(ParameterValues $values): void
    {
        $rate = $this->setting->sampleRate;
        $this->decay = $values->number('decay');
        $this->damping = 1.0 - exp(-2.0 * M_PI * $values->number('damping') * self::DIVISION / $rate);
        $this->width = $values->number('width') / 100.0;
        $lengths = $gains = [];
        foreach (self::SPRINGS as [$milliseconds]) {
            $length = min($this->room - 1, (int) round($milliseconds * 100.0 / $values->number('tension') * $rate / self::DIVISION / 1000.0));
            $lengths[] = $length;
            // The ends of a spring turn the wave over.
            $gains[] = -(10.0 ** (-3.0 * $length * self::DIVISION / $rate / $this->decay));
        }
        $this->lengths = $lengths;
        $this->gains = $gains;
        $sections = ['low-cut' => BiquadCoefficients::highPass($values->number('low-cut'), M_SQRT1_2, $rate)];
        foreach (Butterworth::lowPass(0.42 * $rate / self::DIVISION, 8, $rate) as $i => $section) {
            $sections["band {$i}"] = $section;
        }
        $this->after->set($sections);
    }

    public function process(Block $block): void
    {
        $mid = Block::mono(Samples::mid($block->left, $block->right()));
        $this->before->process($mid);
        $frames = $block->frames();
        $kept = [];
        $first = (self::DIVISION - $this->count) % self::DIVISION;
        for ($i = $first; $i < $frames; $i += self::DIVISION) {
            $kept[] = $mid->left[$i];
        }
        $sides = [];
        $writeIndex = $this->writeIndex;
        foreach ([0, 1] as $spring) {
            $this->writeIndex = $writeIndex;
            $sides[] = $this->stretched($this->run($spring, $kept), $first, $frames);
        }
        $this->count = ($this->count + $frames) % self::DIVISION;
        $near = 0.5 + 0.5 * $this->width;
        $far = 0.5 - 0.5 * $this->width;
        $block->left = Samples::addScaled(Samples::scale($sides[0], $near), $sides[1], $far);
        $block->right = Samples::addScaled(Samples::scale($sides[1], $near), $sides[0], $far);
        $block->mono = false;
        $this->after->process($block);
    }

    public function reset(): void
    {
        $this->before->reset();
        $this->after->reset();
        $this->rings = [array_fill(0, $this->room, 0.0), array_fill(0, $this->room, 0.0)];
        $this->states = array_fill(0, 2, array_fill(0, intdiv(self::STAGES, 4), [0.0, 0.0, 0.0, 0.0]));
        $this->lows = [0.0, 0.0];
        $this->writeIndex = $this->count = 0;
    }

    public function tail(): int
    {
        return (int) ceil(($this->decay + 0.1) * $this->setting->sampleRate);
    }

    /**
     * One spring over the samples kept; its loop is longer than any range worked at once.
     *
     * @param  list<float>  $samples
     * @return list<float>
     */
    private function run(int $spring, array $samples): array
    {
        $out = [];
        foreach (array_chunk($samples, max(1, min($this->lengths))) as $piece) {
            $ring = $this->rings[$spring];
            $this->rings[$spring] = [];
            $n = count($piece);
            $gain = $this->gains[$spring];
            $damping = $this->damping;
            $low = $this->lows[$spring];
            $room = $this->room;
            $read = $this->writeIndex - $this->lengths[$spring];
            if ($read < 0) {
                $read += $room;
            }
            for ($i = 0; $i < $n; ++$i) {
                $low += $damping * ($ring[$read] - $low) + 1e-280 - 1e-280;
                $piece[$i] += $gain * $low;
                if (++$read === $room) {
                    $read = 0;
                }
            }
            $this->lows[$spring] = $low;
            foreach ($this->states[$spring] as $stage => $state) {
                [$piece, $this->states[$spring][$stage]] = self::disperse(array_values($piece), self::SPRINGS[$spring][1], $state);
            }
            $writeIndex = $this->writeIndex;
            for ($i = 0; $i < $n; ++$i) {
                $ring[$writeIndex] = $piece[$i];
                $out[] = $piece[$i];
                if (++$writeIndex === $room) {
                    $writeIndex = 0;
                }
            }
            $this->rings[$spring] = $ring;
            $this->writeIndex = $writeIndex;
        }

        return $out;
    }

    /**
     * Four all-passes, one after another: so each sample is fetched and put back once for four of them.
     *
     * @param  list<float>  $x
     * @param  array{float, float, float, float}  $state
     * @return array{list<float>, array{float, float, float, float}}
     */
    private static function disperse(array $x, float $c, array $state): array
    {
        [$first, $second, $third, $fourth] = $state;
        for ($i = 0, $n = count($x); $i < $n; ++$i) {
            $v = $x[$i];
            $y = $c * $v + $first + 1e-280 - 1e-280;
            $first = $v - $c * $y;
            $v = $c * $y + $second + 1e-280 - 1e-280;
            $second = $y - $c * $v;
            $y = $c * $v + $third + 1e-280 - 1e-280;
            $third = $v - $c * $y;
            $v = $c * $y + $fourth + 1e-280 - 1e-280;
            $fourth = $y - $c * $v;
            $x[$i] = $v;
        }

        return [$x, [$first, $second, $third, $fourth]];
    }

    /**
     * Back to the full rate: the samples kept, and silence between them for the filter after to fill.
     *
     * @param  list<float>  $samples
     * @return list<float>
     */
    private function stretched(array $samples, int $first, int $frames): array
    {
        $out = array_fill(0, $frames, 0.0);
        for ($k = 0, $i = $first; $i < $frames; ++$k, $i += self::DIVISION) {
            $out[$i] = self::DIVISION * $samples[$k];
        }

        return $out;
    }
}
