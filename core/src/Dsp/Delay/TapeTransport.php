<?php

declare(strict_types=1);

namespace Hafen\Dsp\Delay;

use Hafen\Audio\Block;
use Hafen\Dsp\Lfo;

/**
 * How evenly a tape runs: a slow wow and a quick flutter, each an LFO on the delay.
 *
 * Source: a delay that swings by D at f bends the speed by 2 pi f D; how much is own, after what machines in good and in poor
 * condition are measured at (from memory). The middle of the delay is 1 ms.
 */
final class TapeTransport
{
    /** By condition: share by which wow and flutter change the speed each way. */
    private const UNEVENNESS = ['steady' => [0.0, 0.0], 'good' => [0.0004, 0.0006], 'worn' => [0.0025, 0.0018]];

    private const WOW_HERTZ = 0.55;

    private const FLUTTER_HERTZ = 8.7;

    private readonly Lfo $wow;

    private readonly Lfo $flutter;

    private readonly WaveringSides $sides;

    /** Samples by which each LFO moves the delay. */
    private float $slow = 0.0;

    private float $quick = 0.0;

    public function __construct(private readonly int $sampleRate)
    {
        $this->wow = new Lfo;
        $this->flutter = new Lfo;
        $this->wow->rate(self::WOW_HERTZ, $sampleRate);
        $this->flutter->rate(self::FLUTTER_HERTZ, $sampleRate);
        $this->sides = new WaveringSides(2 * self::middle($sampleRate));
    }

    /** Samples by which a condition makes the sound late. */
    public static function delay(string $condition, int $sampleRate): int
    {
        return $condition === 'steady' ? 0 : self::middle($sampleRate);
    }

    /** @param  string  $condition  "steady", "good" or "worn" */
    public function set(string $condition): void
    {
        [$wow, $flutter] = self::UNEVENNESS[$condition];
        if ($flutter > 0.0 && $this->quick === 0.0) {
            $this->sides->reset();
        }
        $this->slow = $wow * $this->sampleRate / (2.0 * M_PI * self::WOW_HERTZ);
        $this->quick = $flutter * $this->sampleRate / (2.0 * M_PI * self::FLUTTER_HERTZ);
    }

    public function at(int $position): void
    {
        $this->wow->at($position);
        $this->flutter->at($position);
    }

    public function process(Block $block): void
    {
        $frames = $block->frames();
        [$phase, $turn, $since] = $this->wow->angle();
        [$quickPhase, $quickTurn, $quickSince] = $this->flutter->angle();
        $this->wow->advance($frames);
        $this->flutter->advance($frames);
        if ($this->quick === 0.0) {
            return;
        }
        $delays = [];
        $middle = (float) self::middle($this->sampleRate);
        $slow = $this->slow;
        $quick = $this->quick;
        for ($i = 0; $i < $frames; ++$i) {
            $delays[] = $middle + $slow * sin($phase + $turn * ($since + $i)) + $quick * sin($quickPhase + $quickTurn * ($quickSince + $i));
        }
        $this->sides->process($block, $delays);
    }

    public function reset(): void
    {
        $this->wow->reset();
        $this->flutter->reset();
        $this->sides->reset();
    }

    private static function middle(int $sampleRate): int
    {
        return (int) round($sampleRate / 1000.0);
    }
}
