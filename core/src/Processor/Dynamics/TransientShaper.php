<?php

declare(strict_types=1);

namespace Hafen\Processor\Dynamics;

use Hafen\Audio\Block;
use Hafen\Audio\Decibel;
use Hafen\Audio\Samples;
use Hafen\Dsp\Gain\SteppedGain;
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
use Hafen\Processor\Settles;

/**
 * Makes the attack of each sound stronger or softer, and what rings on after it, whatever the level.
 *
 * Source: the difference in dB of a fast and a slow envelope (practice, from memory): while the fast one leads it is attack,
 * while it lags it is sustain. Both are one-pole followers of the peak of both sides; the gain is held within 18 dB and
 * smoothed over 1 ms.
 */
final class TransientShaper implements Processor, Settles
{
    use NoLatency;

    private const MOST = 18.0;

    /** Amplitude added to every level, so that silence is no transient. */
    private const FLOOR = 1e-6;

    private float $attack = 0.0;

    private float $sustain = 0.0;

    private float $speed = 20.0;

    /** @var array{float, float, float, float} fast, slow, late envelope, gain in dB */
    private array $state = [self::FLOOR, self::FLOOR, self::FLOOR, 0.0];

    private readonly SteppedGain $output;

    public static function spec(): ProcessorSpec
    {
        return new ProcessorSpec(
            'transient-shaper',
            'Transient shaper',
            'Trans', 'Dynamics',
            'More or less attack, more or less ring, whatever the level.',
            [
                ParameterSpec::number('attack', 'Attack', '%', -100.0, 100.0, 0.0, step: 1.0),
                ParameterSpec::number('sustain', 'Sustain', '%', -100.0, 100.0, 0.0, step: 1.0),
                ParameterSpec::number('speed', 'Length of attack', 'ms', 5.0, 100.0, 20.0, Scale::Logarithmic, 1.0),
                ParameterSpec::decibels('output', 'Output', -24.0, 12.0, 0.0),
            ],
            synonyms: ['punch', 'drum', 'snap', 'envelope', 'dynamics'],
        );
    }

    public static function label(ParameterValues $values): string
    {
        return 'Transients';
    }

    public static function chip(ParameterValues $values): ChipLabel
    {
        return ChipLabel::percent('Trans', $values->number('attack'));
    }

    /** A hit that rings, as it comes and as it leaves. */
    public static function picture(ParameterValues $values, Setting $setting): Picture
    {
        $rate = $setting->sampleRate;
        $shaper = new self($setting);
        $shaper->set($values);
        $before = [];
        for ($i = 0, $n = intdiv($rate, 4); $i < $n; ++$i) {
            $age = $i - $n / 10;
            $before[] = $age < 0.0 ? 0.0 : 0.25 * exp(-$age / (0.06 * $rate)) * (1.0 + exp(-$age / (0.008 * $rate)));
        }
        $after = Block::mono($before);
        $shaper->process($after);

        return new Picture('A hit that rings', new Axis('ms', 0.0, 250.0, Scale::Linear), new Axis('dB', -48.0, 12.0, Scale::Linear), [self::curve('unchanged', $before, $rate), self::curve('shaped', $after->left, $rate)]);
    }

    public function __construct(private readonly Setting $setting)
    {
        $this->output = new SteppedGain($setting->sampleRate);
    }

    public function set(ParameterValues $values): void
    {
        $this->attack = $values->number('attack') / 100.0;
        $this->sustain = $values->number('sustain') / 100.0;
        $this->speed = $values->number('speed');
        $this->output->set($values->number('output'));
    }

    public function process(Block $block): void
    {
        if ($this->attack !== 0.0 || $this->sustain !== 0.0) {
            $gains = $this->gains($block->left, $block->right());
            $block->left = Samples::multiply($block->left, $gains);
            if (! $block->mono) {
                $block->right = Samples::multiply($block->right, $gains);
            }
        }
        $this->output->process($block);
    }

    public function reset(): void
    {
        $this->state = [self::FLOOR, self::FLOOR, self::FLOOR, 0.0];
        $this->output->settle();
    }

    public function isSettled(): bool
    {
        [$fast, $slow, $sustained, $gain] = $this->state;

        return max($fast, $slow, $sustained) < (1.0 + 1e-9) * self::FLOOR && abs($gain) < 1e-9;
    }

    public function tail(): int
    {
        return 0;
    }

    /**
     * @param  list<float>  $left
     * @param  list<float>  $right
     * @return list<float>
     */
    private function gains(array $left, array $right): array
    {
        [$fast, $slow, $sustained, $gain] = $this->state;
        $rate = $this->setting->sampleRate;
        $quick = exp(-1000.0 / (0.5 * $rate));
        $rise = exp(-1000.0 / ($this->speed * $rate));
        $fall = exp(-1000.0 / (15.0 * $rate));
        $ring = exp(-1000.0 / (250.0 * $rate));
        $smooth = exp(-1000.0 / (1.0 * $rate));
        $attack = $this->attack;
        $sustain = $this->sustain;
        $toDecibels = 20.0 / M_LN10;
        $toNatural = M_LN10 / 20.0;
        $gains = [];
        for ($i = 0, $n = count($left); $i < $n; ++$i) {
            $l = abs($left[$i]);
            $r = abs($right[$i]);
            $level = ($l > $r ? $l : $r) + self::FLOOR;
            // Fast up and down; slow up; slow down.
            $fast = $level + ($level > $fast ? $quick : $fall) * ($fast - $level);
            $slow = $level + ($level > $slow ? $rise : $fall) * ($slow - $level);
            $sustained = $level + ($level > $sustained ? $quick : $ring) * ($sustained - $level);
            $wanted = $toDecibels * ($attack * log($fast / $slow) + $sustain * log($sustained / $fast));
            $wanted = $wanted > self::MOST ? self::MOST : ($wanted < -self::MOST ? -self::MOST : $wanted);
            $gain = $wanted + $smooth * ($gain - $wanted) + 1e-280 - 1e-280;
            $gains[] = exp($toNatural * $gain);
        }
        $this->state = [$fast, $slow, $sustained, $gain];

        return $gains;
    }

    /**
     * @param  list<float>  $samples
     * @return array{label: string, points: list<array{float, float}>} level in dB over milliseconds
     */
    private static function curve(string $label, array $samples, int $rate): array
    {
        $points = [];
        for ($i = 0, $n = count($samples); $i < $n; $i += intdiv($n, 180)) {
            $points[] = [round(1000.0 * $i / $rate, 2), round(Decibel::fromGain(max(1e-3, $samples[$i])) ?? -60.0, 2)];
        }

        return ['label' => $label, 'points' => $points];
    }
}
