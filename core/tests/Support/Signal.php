<?php

declare(strict_types=1);

namespace Hafen\Tests\Support;

use Hafen\Audio\Block;
use Hafen\Demo\Noise;
use Hafen\Processor\Processor;
use Hafen\Processor\ProcessorCatalogue;
use Hafen\Processor\Setting;

/** Signals to test with. */
final class Signal
{
    /** @return list<float> */
    public static function sine(float $frequency, int $count, float $amplitude = 1.0, int $rate = 48000, float $phase = 0.0): array
    {
        $samples = [];
        for ($i = 0; $i < $count; ++$i) {
            $samples[] = $amplitude * sin(2 * M_PI * $frequency * $i / $rate + $phase);
        }

        return $samples;
    }

    /** @return list<float> */
    public static function impulse(int $count, float $amplitude = 1.0): array
    {
        $samples = array_fill(0, $count, 0.0);
        $samples[0] = $amplitude;

        return $samples;
    }

    /** @return list<float> */
    public static function noise(int $count, int $seed = 1, float $amplitude = 0.5): array
    {
        return array_map(static fn (float $sample): float => $sample * $amplitude, (new Noise($seed))->samples($count));
    }

    /**
     * Runs a processor over a signal in blocks of a size.
     *
     * @param  list<float>  $left
     * @param  ?list<float>  $right  null is mono
     */
    public static function through(Processor $processor, array $left, ?array $right = null, int $blockSize = 512): Block
    {
        $out = new Block([], [], $right === null);
        for ($at = 0, $n = count($left); $at < $n; $at += $blockSize) {
            $block = new Block(array_slice($left, $at, $blockSize), $right === null ? [] : array_slice($right, $at, $blockSize), $right === null);
            $processor->process($block);
            if ($out->mono && ! $block->mono) {
                $out->widen();
            }
            $out->left = [...$out->left, ...$block->left];
            $out->right = $out->mono ? [] : [...$out->right, ...$block->right()];
        }

        return $out;
    }

    /** @param  array<string, float|string|bool>  $parameters */
    public static function processor(string $id, array $parameters = [], int $rate = 48000, float $tempo = 120.0): Processor
    {
        return ProcessorCatalogue::standard()->make($id, $parameters, new Setting($rate, $tempo));
    }

    /** @param  list<float>  $samples */
    public static function peak(array $samples): float
    {
        return max(max($samples), -min($samples));
    }

    /** @param  list<float>  $samples */
    public static function rms(array $samples): float
    {
        return sqrt(array_sum(array_map(static fn (float $sample): float => $sample * $sample, $samples)) / count($samples));
    }

    /**
     * Amplitude of one frequency in a signal that holds a whole number of its periods.
     *
     * @param  list<float>  $samples
     */
    public static function amplitudeAt(array $samples, float $frequency, int $rate = 48000): float
    {
        $re = $im = 0.0;
        foreach ($samples as $i => $sample) {
            $re += $sample * cos(2 * M_PI * $frequency * $i / $rate);
            $im += $sample * sin(2 * M_PI * $frequency * $i / $rate);
        }

        return 2 * hypot($re, $im) / count($samples);
    }
}
