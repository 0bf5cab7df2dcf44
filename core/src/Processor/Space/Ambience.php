<?php

declare(strict_types=1);

namespace Hafen\Processor\Space;

use Hafen\Audio\Block;
use Hafen\Audio\Samples;
use Hafen\Dsp\Delay\PreDelay;
use Hafen\Dsp\Filter\BiquadCascade;
use Hafen\Dsp\Filter\BiquadCoefficients;
use Hafen\Dsp\Reverb\Diffuser;
use Hafen\Dsp\Reverb\FeedbackNetwork;
use Hafen\Dsp\Reverb\Reflections;
use Hafen\Processor\Axis;
use Hafen\Processor\ChipLabel;
use Hafen\Processor\NoLatency;
use Hafen\Processor\ParameterSpec;
use Hafen\Processor\ParameterValues;
use Hafen\Processor\Picture;
use Hafen\Processor\Scale;
use Hafen\Processor\Setting;

/**
 * What room, hall and plate share: pre-delay, first reflections, diffusion, a feedback network that wanders, tone.
 */
trait Ambience
{
    use NoLatency;

    private readonly PreDelay $preDelay;

    private readonly Reflections $reflections;

    private readonly Diffuser $left;

    private readonly Diffuser $right;

    private readonly FeedbackNetwork $network;

    private readonly BiquadCascade $tone;

    /** @var list<array{float, float, float}> the reflections at a size of 1: ms, amplitude factor left and right */
    private readonly array $echoes;

    private float $decay = 1.0;

    private float $early = 1.0;

    private float $lateLevel = 1.0;

    /** @return array{lines: non-empty-list<float>, left: list<float>, right: list<float>, diffusion: float, wander: float} ms */
    abstract private static function build(): array;

    /**
     * The reflections at a size of 1.
     *
     * @return list<array{float, float, float}> ms, amplitude factor left and right
     */
    abstract private static function echoes(): array;

    /** @return list<ParameterSpec> */
    private static function ambienceParameters(float $preDelay, float $size, float $decay, float $longest, float $damping, float $lowCut, float $highCut, float $early): array
    {
        return [
            ParameterSpec::number('pre-delay', 'Pre-delay', 'ms', 0.0, 250.0, $preDelay, step: 1.0),
            ParameterSpec::number('size', 'Size', '%', 40.0, 150.0, $size, step: 1.0),
            ParameterSpec::number('decay', 'Decay', 's', 0.1, $longest, $decay, Scale::Logarithmic, 0.01),
            ParameterSpec::frequency('damping', 'Damping', $damping, 1000.0),
            ParameterSpec::number('early', 'Early to late', '%', 0.0, 100.0, $early, step: 1.0),
            ParameterSpec::number('movement', 'Movement', '%', 0.0, 100.0, 30.0, step: 1.0),
            ParameterSpec::frequency('low-cut', 'Low cut', $lowCut, 20.0, 1000.0),
            ParameterSpec::frequency('high-cut', 'High cut', $highCut, 1000.0),
            ParameterSpec::number('width', 'Width', '%', 0.0, 100.0, 100.0, step: 1.0),
        ];
    }

    public static function label(ParameterValues $values): string
    {
        return self::spec()->name.' '.number_format($values->number('decay'), 1, '.', '').' s';
    }

    public static function chip(ParameterValues $values): ChipLabel
    {
        return ChipLabel::seconds(self::spec()->shortName, $values->number('decay'));
    }

    public static function picture(ParameterValues $values, Setting $setting): Picture
    {
        $decay = $values->number('decay') * 1000.0;
        $pre = $values->number('pre-delay');
        $early = $values->number('early') / 100.0;
        $curves = [
            ['label' => 'middle', 'points' => [[$pre, -60.0], [$pre, 0.0], [$pre + $decay, -60.0]]],
            ['label' => 'at the damping frequency', 'points' => [[$pre, 0.0], [$pre + $decay / 2.0, -60.0]]],
        ];
        foreach ($early > 0.0 ? self::echoes() : [] as $i => [$lateLevel, $left, $right]) {
            $at = round($pre + $lateLevel * $values->number('size') / 100.0, 2);
            $curves[] = ['label' => 'reflection '.($i + 1), 'points' => [[$at, -60.0], [$at, round(20.0 * log10(max(1e-3, $early * hypot($left, $right))), 2)]]];
        }

        return new Picture(
            'Decay',
            new Axis('ms', 0.0, round(max(300.0, $decay + $pre)), Scale::Linear),
            new Axis('dB', -60.0, 0.0, Scale::Linear),
            $curves,
            [['label' => '', 'x' => $pre, 'y' => 0.0, 'xParameter' => 'pre-delay', 'yParameter' => null]],
        );
    }

    public function __construct(private readonly Setting $setting)
    {
        $rate = $setting->sampleRate;
        $build = self::build();
        $this->preDelay = new PreDelay(250.0, $rate);
        $this->echoes = self::echoes();
        $this->reflections = new Reflections(1.5 * max([1.0, ...array_column($this->echoes, 0)]), $rate);
        $this->left = new Diffuser($build['left'], $build['diffusion'], $rate);
        $this->right = new Diffuser($build['right'], $build['diffusion'], $rate);
        $this->network = new FeedbackNetwork($build['lines'], 1.5, $rate);
        $this->tone = new BiquadCascade;
    }

    public function set(ParameterValues $values): void
    {
        $rate = $this->setting->sampleRate;
        $this->decay = $values->number('decay');
        $size = $values->number('size') / 100.0;
        $this->preDelay->set($values->number('pre-delay'));
        $early = $values->number('early') / 100.0;
        $this->early = min(1.0, 2.0 * $early);
        $this->lateLevel = min(1.0, 2.0 - 2.0 * $early);
        $this->reflections->set(array_map(static fn (array $echo): array => [$echo[0] * $size, $echo[1], $echo[2]], $this->echoes));
        $this->network->set($size, $this->decay, $values->number('damping'), $values->number('width') / 100.0, self::build()['wander'] * $values->number('movement') / 100.0);
        $this->tone->set([
            'low-cut' => BiquadCoefficients::highPass($values->number('low-cut'), M_SQRT1_2, $rate),
            'high-cut' => BiquadCoefficients::lowPass($values->number('high-cut'), M_SQRT1_2, $rate),
        ]);
    }

    public function at(int $position): void
    {
        $this->network->at($position);
    }

    public function process(Block $block): void
    {
        $this->preDelay->process($block);
        $early = $this->reflections->process(Samples::mid($block->left, $block->right));
        [$left, $right] = $this->network->process($this->left->process($block->left), $this->right->process($block->right));
        $block->left = Samples::addScaled(Samples::scale($left, $this->lateLevel), $early[0], $this->early);
        $block->right = Samples::addScaled(Samples::scale($right, $this->lateLevel), $early[1], $this->early);
        $this->tone->process($block);
    }

    public function reset(): void
    {
        foreach ([$this->preDelay, $this->reflections, $this->left, $this->right, $this->network, $this->tone] as $part) {
            $part->reset();
        }
    }

    public function tail(): int
    {
        return $this->preDelay->length() + (int) ceil(($this->decay + 0.05) * $this->setting->sampleRate);
    }
}
