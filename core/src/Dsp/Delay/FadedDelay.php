<?php

declare(strict_types=1);

namespace Hafen\Dsp\Delay;

use Hafen\Dsp\Gain\GainRamp;

/**
 * Delays one side of a path by a whole number of samples. A change is faded over {@see self::FADE} samples from where it was made,
 * whatever the blocks; one that comes while another is under way waits for it.
 */
final class FadedDelay
{
    private const FADE = GainRamp::STEP;

    private Past $past;

    private int $from = 0;

    private int $length = 0;

    private int $wanted = 0;

    /** Samples still to fade. */
    private int $left = 0;

    private bool $used = false;

    /** @param  int  $room  the longest delay in samples */
    public function __construct(private readonly int $room)
    {
        $this->past = new Past($room);
    }

    /** A copy goes on by itself from what was heard. */
    public function __clone()
    {
        $this->past = clone $this->past;
    }

    public function set(int $length): void
    {
        $this->wanted = $length;
        if (! $this->used) {
            $this->from = $this->length = $length;
        } elseif ($this->left === 0 && $length !== $this->length) {
            $this->begin();
        }
    }

    /** The longer of the delays that are heard. */
    public function length(): int
    {
        return max($this->from, $this->length, $this->wanted);
    }

    /**
     * @param  list<float>  $samples
     * @return list<float>
     */
    public function process(array $samples): array
    {
        $this->used = true;
        $frames = count($samples);
        $this->past->push($samples);
        $out = [];
        for ($done = 0; $done < $frames; $done = $end) {
            if ($this->left === 0) {
                $end = $frames;
                $out[] = $this->past->from($this->length + $frames - $done, $frames - $done);

                continue;
            }
            $end = min($frames, $done + $this->left);
            $out[] = $this->faded($frames - $done, $end - $done);
            $this->left -= $end - $done;
            if ($this->left === 0) {
                $this->from = $this->length;
                if ($this->wanted !== $this->length) {
                    $this->begin();
                }
            }
        }

        return array_merge(...$out);
    }

    public function reset(): void
    {
        $this->past = new Past($this->room);
        $this->from = $this->length = $this->wanted;
        $this->left = 0;
        $this->used = false;
    }

    private function begin(): void
    {
        $this->from = $this->length;
        $this->length = $this->wanted;
        $this->left = self::FADE;
    }

    /**
     * @param  int  $ago  samples between the first and the end of what came last
     * @return list<float>
     */
    private function faded(int $ago, int $frames): array
    {
        $gone = self::FADE - $this->left;
        $old = $this->past->from($this->from + $ago, $frames);
        $new = $this->past->from($this->length + $ago, $frames);
        for ($i = 0; $i < $frames; ++$i) {
            $old[$i] += ($gone + $i + 1) / self::FADE * ($new[$i] - $old[$i]);
        }

        return $old;
    }
}
