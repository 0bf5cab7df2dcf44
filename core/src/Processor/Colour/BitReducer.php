<?php

declare(strict_types=1);

namespace Hafen\Processor\Colour;

use Hafen\Audio\Block;
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
 * Fewer bits and a lower sample rate, on purpose with all that folds back.
 *
 * Source: arithmetic: rounding to the steps of a word of so many bits; each sample held until the lower clock ticks again, counted from
 * the first sample on.
 */
final class BitReducer implements Processor, Settles
{
    use NoLatency;

    private float $steps = 0.0;

    private float $ratio = 1.0;

    private int $count = 0;

    private float $heldLeft = 0.0;

    private float $heldRight = 0.0;

    private bool $wasMono = true;

    public static function spec(): ProcessorSpec
    {
        return new ProcessorSpec(
            'bit-reducer',
            'Bit and rate reducer',
            'Bits', 'Colour',
            'Fewer bits, fewer samples a second.',
            [
                ParameterSpec::number('bits', 'Bits', '', 1.0, 24.0, 8.0, step: 0.5),
                ParameterSpec::frequency('rate', 'Sample rate', 48000.0, 500.0, 48000.0),
            ],
            levelDependent: true,
            synonyms: ['crush', 'lo-fi', 'bitcrush', 'decimate', 'sampler', 'aliasing'],
        );
    }

    public static function label(ParameterValues $values): string
    {
        return round($values->number('bits'), 1).' bit'.($values->number('rate') < 48000.0 ? ' '.round($values->number('rate') / 1000.0, 1).'k' : '');
    }

    public static function chip(ParameterValues $values): ChipLabel
    {
        return new ChipLabel('Bits', round($values->number('bits'), 1).' bit');
    }

    public static function picture(ParameterValues $values, Setting $setting): Picture
    {
        $steps = 2.0 ** ($values->number('bits') - 1.0);
        $points = [];
        for ($x = -1.0; $x < 1.001; $x += 0.005) {
            $points[] = [round($x, 3), round(floor($x * $steps + 0.5) / $steps, 5)];
        }

        return new Picture('Wave in, wave out', new Axis('in', -1.0, 1.0, Scale::Linear), new Axis('out', -1.1, 1.1, Scale::Linear), [['label' => 'curve', 'points' => $points]]);
    }

    public function __construct(private readonly Setting $setting)
    {
    }

    public function set(ParameterValues $values): void
    {
        $this->steps = $values->number('bits') >= 24.0 ? 0.0 : 2.0 ** ($values->number('bits') - 1.0);
        $this->ratio = $values->number('rate') >= 48000.0 ? 1.0 : min(1.0, $values->number('rate') / $this->setting->sampleRate);
    }

    public function process(Block $block): void
    {
        if (! $block->mono && $this->wasMono) {
            $this->heldRight = $this->heldLeft;
        } elseif ($block->mono && ! $this->wasMono && $this->heldLeft !== $this->heldRight) {
            // The sides hold what was two.
            $block->widen();
        }
        $this->wasMono = $block->mono;
        $frames = $block->frames();
        [$block->left, $this->heldLeft] = self::reduced($block->left, $this->heldLeft, $this->steps, $this->ratio, $this->count);
        if (! $block->mono) {
            [$block->right, $this->heldRight] = self::reduced($block->right, $this->heldRight, $this->steps, $this->ratio, $this->count);
        }
        $this->count += $frames;
    }

    public function reset(): void
    {
        $this->count = 0;
        $this->heldLeft = $this->heldRight = 0.0;
        $this->wasMono = true;
    }

    public function isSettled(): bool
    {
        // A lower clock ticks on.
        return $this->ratio >= 1.0;
    }

    public function tail(): int
    {
        return 0;
    }

    /**
     * @param  list<float>  $samples
     * @return array{list<float>, float} what comes out, the value held last
     */
    private static function reduced(array $samples, float $held, float $steps, float $ratio, int $count): array
    {
        $n = count($samples);
        if ($steps > 0.0) {
            for ($i = 0; $i < $n; ++$i) {
                $samples[$i] = floor($samples[$i] * $steps + 0.5) / $steps;
            }
        }
        if ($ratio < 1.0) {
            for ($i = 0; $i < $n; ++$i) {
                $at = $ratio * ($count + $i);
                if ($at - (int) $at < $ratio) {
                    $held = $samples[$i];
                }
                $samples[$i] = $held;
            }
        }

        return [$samples, $held];
    }
}
