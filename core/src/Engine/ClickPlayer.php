<?php

declare(strict_types=1);

namespace Hafen\Engine;

use Hafen\Audio\Block;
use Hafen\Audio\Decibel;

/** A click on each beat, higher on the first of four: short sines that die away, at places that depend on the tempo alone. */
final class ClickPlayer
{
    private const FREQUENCY = 1000.0;

    private const FIRST = 1600.0;

    /** Length of a click in ms, and how soon it dies away. */
    private const LENGTH = 40.0;

    private const DECAY = 8.0;

    private const BEATS = 4;

    /** @param  float  $tempo  beats a minute */
    public function __construct(private readonly int $sampleRate, private readonly float $tempo)
    {
    }

    /**
     * Adds the clicks of a range.
     *
     * @param  int  $position  in the session of the first sample; before its start as well, for a count-in
     * @param  float  $gain  of its peaks, in dBFS
     */
    public function add(Block $block, int $position, float $gain): void
    {
        $frames = $block->frames();
        $every = 60.0 / $this->tempo * $this->sampleRate;
        $length = (int) (self::LENGTH / 1000.0 * $this->sampleRate);
        $peak = Decibel::toGain($gain);
        for ($beat = (int) floor(($position - $length) / $every); ; ++$beat) {
            $at = (int) round($beat * $every) - $position;
            if ($at >= $frames) {
                break;
            }
            if ($at + $length <= 0) {
                continue;
            }
            $block->isSilent = false;
            $turn = 2.0 * M_PI * ((($beat % self::BEATS) + self::BEATS) % self::BEATS === 0 ? self::FIRST : self::FREQUENCY) / $this->sampleRate;
            $fall = 1000.0 / (self::DECAY * $this->sampleRate);
            for ($i = max(0, $at), $end = min($frames, $at + $length); $i < $end; ++$i) {
                $click = $peak * exp(-$fall * ($i - $at)) * sin($turn * ($i - $at));
                $block->left[$i] += $click;
                if (! $block->mono) {
                    $block->right[$i] += $click;
                }
            }
        }
    }
}
