<?php

declare(strict_types=1);

namespace Hafen\Dsp\Delay;

use Hafen\Audio\Block;

/**
 * Delays both sides of a path by a whole number of samples. A change of the delay is faded over a block, as soon as the
 * samples a longer one needs have been heard.
 */
final class DelayLine
{
    /** @var list<float> the last samples, oldest first */
    private array $left;

    /** @var list<float> */
    private array $right;

    /** Delay that is being left, while it is. */
    private ?int $before = null;

    /** Samples to come before there are enough for the new delay. */
    private int $wanting = 0;

    private bool $used = false;

    public function __construct(private int $length)
    {
        $this->left = $this->right = self::silence($length);
    }

    public function length(): int
    {
        return $this->length;
    }

    /** Whether the next block fades from one delay to another. */
    public function changing(): bool
    {
        return $this->before !== null;
    }

    /** Changes the delay; the newest samples are kept. */
    public function resize(int $length): void
    {
        if ($length === $this->length) {
            return;
        }
        if ($this->used) {
            $this->before ??= $this->length;
            $this->wanting = max(0, $length - count($this->left));
        }
        $kept = max($length, $this->before ?? 0);
        $this->left = self::fitted($this->left, $kept);
        $this->right = self::fitted($this->right, $kept);
        $this->length = $length;
    }

    public function reset(): void
    {
        $this->left = $this->right = self::silence($this->length);
        $this->before = null;
        $this->wanting = 0;
        $this->used = false;
    }

    public function process(Block $block): void
    {
        if ($this->length === 0 && $this->before === null) {
            $this->used = true;

            return;
        }
        if ($block->mono && $this->left !== $this->right) {
            // What is still to come out was two sides.
            $block->widen();
        }
        $frames = $block->frames();
        $fades = $this->before !== null && $this->wanting <= intdiv($frames, 2);
        $block->left = $this->run($block->left, $this->left, $fades);
        if ($block->mono) {
            $this->right = $this->left;
        } else {
            $block->right = $this->run($block->right, $this->right, $fades);
        }
        $this->wanting = max(0, $this->wanting - $frames);
        if ($fades) {
            $this->before = null;
        }
        $this->used = true;
    }

    /**
     * @param  list<float>  $samples
     * @param  list<float>  $history
     * @param  bool  $fades  to the new delay, now
     * @return list<float>
     */
    private function run(array $samples, array &$history, bool $fades): array
    {
        $frames = count($samples);
        $kept = count($history);
        if ($this->before === null && $kept <= $frames) {
            // The usual case, with as little copied as can be.
            $out = array_merge($history, array_slice($samples, 0, $frames - $kept));
            $history = array_slice($samples, $frames - $kept);

            return $out;
        }
        $all = [...$history, ...$samples];
        $keep = $fades || $this->before === null ? $this->length : $kept;
        $history = $keep === 0 ? [] : array_slice($all, -$keep);
        if ($this->before === null) {
            return array_slice($all, $kept - $this->length, $frames);
        }
        $out = array_slice($all, $kept - $this->before, $frames);
        if ($fades) {
            $new = array_slice($all, $kept - $this->length, $frames);
            for ($i = $this->wanting; $i < $frames; ++$i) {
                $out[$i] += ($i + 1 - $this->wanting) / ($frames - $this->wanting) * ($new[$i] - $out[$i]);
            }
        }

        return $out;
    }

    /** @return list<float> */
    private static function silence(int $length): array
    {
        return $length > 0 ? array_fill(0, $length, 0.0) : [];
    }

    /**
     * @param  list<float>  $samples
     * @return list<float>
     */
    private static function fitted(array $samples, int $length): array
    {
        $missing = $length - count($samples);

        return $missing >= 0
            ? [...self::silence($missing), ...$samples]
            : array_slice($samples, -$missing);
    }
}
