<?php

declare(strict_types=1);

namespace Hafen\Processor\Space;

use Hafen\Audio\Block;
use Hafen\Dsp\Delay\PreDelay;
use Hafen\Dsp\Filter\BiquadCascade;
use Hafen\Dsp\Filter\BiquadCoefficients;
use Hafen\Dsp\Reverb\Diffuser;
use Hafen\Dsp\Reverb\FeedbackNetwork;
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
 * A room: pre-delay, two diffusing all-passes a side, and a feedback network of eight delays.
 *
 * Sources: J.-M. Jot, A. Chaigne, AES 1991 (see {@see FeedbackNetwork}); M. R. Schroeder, JAES 1962 (see {@see Diffuser}). `decay` is T60 at
 * low and middle frequencies; at the damping frequency it has fallen to half.
 */
final class Reverb implements Processor
{
    use NoLatency;

    /** Lengths of the lines in ms at size 100 %; no two in a simple ratio. */
    private const LINES = [31.71, 37.11, 40.23, 44.14, 50.83, 57.31, 64.69, 72.97];

    private const DIFFUSERS = [[4.77, 7.13], [5.39, 8.31]];

    private const DIFFUSION = 0.62;

    private const LONGEST_PRE_DELAY = 250.0;

    private readonly PreDelay $preDelay;

    private readonly Diffuser $left;

    private readonly Diffuser $right;

    private readonly FeedbackNetwork $network;

    private float $decay = 2.0;

    private readonly BiquadCascade $tone;

    public static function spec(): ProcessorSpec
    {
        return new ProcessorSpec(
            'reverb',
            'Reverb',
            'Reverb', 'Space',
            'A room around the sound.',
            [
                ParameterSpec::number('pre-delay', 'Pre-delay', 'ms', 0.0, self::LONGEST_PRE_DELAY, 15.0, step: 1.0),
                ParameterSpec::number('size', 'Size', '%', 20.0, 150.0, 80.0, step: 1.0),
                ParameterSpec::number('decay', 'Decay', 's', 0.2, 12.0, 1.8, Scale::Logarithmic, 0.1),
                ParameterSpec::frequency('damping', 'Damping', 6000.0, 1000.0),
                ParameterSpec::frequency('low-cut', 'Low cut', 150.0, 20.0, 1000.0),
                ParameterSpec::frequency('high-cut', 'High cut', 12000.0, 1000.0),
                ParameterSpec::number('width', 'Width', '%', 0.0, 100.0, 100.0, step: 1.0),
            ],
            wetOnly: true,
            widens: true,
            synonyms: ['room', 'hall', 'plate', 'ambience', 'space'],
        );
    }

    public static function label(ParameterValues $values): string
    {
        return 'Reverb '.number_format($values->number('decay'), 1, '.', '').' s';
    }

    public static function chip(ParameterValues $values): ChipLabel
    {
        return ChipLabel::seconds('Reverb', $values->number('decay'));
    }

    public static function picture(ParameterValues $values, Setting $setting): Picture
    {
        $decay = $values->number('decay') * 1000.0;
        $pre = $values->number('pre-delay');
        $span = max(1000.0, $decay + $pre);
        $damped = $decay / 2.0;

        return new Picture(
            'Decay',
            new Axis('ms', 0.0, round($span), Scale::Linear),
            new Axis('dB', -60.0, 0.0, Scale::Linear),
            [
                ['label' => 'middle', 'points' => [[$pre, -60.0], [$pre, 0.0], [$pre + $decay, -60.0]]],
                ['label' => 'at the damping frequency', 'points' => [[$pre, 0.0], [$pre + $damped, -60.0]]],
            ],
            [['label' => '', 'x' => $pre, 'y' => 0.0, 'xParameter' => 'pre-delay', 'yParameter' => null]],
        );
    }

    public function __construct(private readonly Setting $setting)
    {
        $this->preDelay = new PreDelay(self::LONGEST_PRE_DELAY, $setting->sampleRate);
        $this->left = new Diffuser(self::DIFFUSERS[0], self::DIFFUSION, $setting->sampleRate);
        $this->right = new Diffuser(self::DIFFUSERS[1], self::DIFFUSION, $setting->sampleRate);
        $this->network = new FeedbackNetwork(self::LINES, 1.5, $setting->sampleRate);
        $this->tone = new BiquadCascade;
    }

    public function set(ParameterValues $values): void
    {
        $rate = $this->setting->sampleRate;
        $this->decay = $values->number('decay');
        $this->preDelay->set($values->number('pre-delay'));
        $this->network->set($values->number('size') / 100.0, $this->decay, $values->number('damping'), $values->number('width') / 100.0);
        $this->tone->set([
            'low-cut' => BiquadCoefficients::highPass($values->number('low-cut'), M_SQRT1_2, $rate),
            'high-cut' => BiquadCoefficients::lowPass($values->number('high-cut'), M_SQRT1_2, $rate),
        ]);
    }

    public function process(Block $block): void
    {
        $this->preDelay->process($block);
        $block->widen();
        [$block->left, $block->right] = $this->network->process($this->left->process($block->left), $this->right->process($block->right));
        $this->tone->process($block);
    }

    public function reset(): void
    {
        foreach ([$this->preDelay, $this->left, $this->right, $this->network, $this->tone] as $part) {
            $part->reset();
        }
    }

    public function tail(): int
    {
        return $this->preDelay->length() + (int) ceil($this->decay * $this->setting->sampleRate);
    }
}
