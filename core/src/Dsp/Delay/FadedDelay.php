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

    /** @var list<float> the last samples, the newest at the end */
    private array $past;

    private int $from = 0;

    private int $length = 0;

    private int $wanted = 0;

    /** Samples still to fade. */
    private int $left = 0;

    private bool $used = false;

    /** @param  int  $room  the longest delay in samples */
    public function __construct(private readonly int $room)
    {
        $this->past = array_fill(0, $room, 0.0);
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
        $line = [...$this->past, ...$samples];
        $frames = count($samples);
        $this->past = array_slice($line, $frames);
        $out = [];
        for ($done = 0; $done < $frames; $done = $end) {
            if ($this->left === 0) {
                $end = $frames;
                $out[] = array_slice($line, $this->room + $done - $this->length, $frames - $done);

                continue;
            }
            $end = min($frames, $done + $this->left);
            $out[] = $this->faded($line, $done, $end);
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
        $this->past = array_fill(0, $this->room, 0.0);
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
     * @param  list<float>  $line
     * @return list<float>
     */
    private function faded(array $line, int $from, int $to): array
    {
        $faded = [];
        $gone = self::FADE - $this->left;
        $old = $this->room - $this->from;
        $new = $this->room - $this->length;
        for ($i = $from; $i < $to; ++$i) {
            $before = $line[$old + $i];
            $faded[] = $before + ($gone + $i - $from + 1) / self::FADE * ($line[$new + $i] - $before);
        }

        return $faded;
    }
}
