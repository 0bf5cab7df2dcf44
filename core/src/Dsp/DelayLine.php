<?php

declare(strict_types=1);

namespace Hafen\Dsp;

use Hafen\Audio\Block;

/** Delays both sides of a path by a whole number of samples; a change of the delay is faded over one block. */
final class DelayLine
{
    /** @var list<float> the last samples, oldest first */
    private array $left;

    /** @var list<float> */
    private array $right;

    /** Delay that is being left, while it is. */
    private ?int $before = null;

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
        $this->used = false;
    }

    public function process(Block $block): void
    {
        if ($this->length === 0 && $this->before === null) {
            $this->used = true;

            return;
        }
        $mono = $block->mono;
        $block->left = $this->run($block->left, $this->left);
        if ($mono) {
            $this->right = $this->left;
        } else {
            $block->right = $this->run($block->right, $this->right);
        }
        $this->before = null;
        $this->used = true;
    }

    /**
     * @param  list<float>  $samples
     * @param  list<float>  $history
     * @return list<float>
     */
    private function run(array $samples, array &$history): array
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
        $history = $this->length === 0 ? [] : array_slice($all, -$this->length);
        $out = array_slice($all, $kept - $this->length, $frames);
        if ($this->before !== null) {
            $old = array_slice($all, $kept - $this->before, $frames);
            for ($i = 0; $i < $frames; ++$i) {
                $out[$i] = $old[$i] + ($i + 1) / $frames * ($out[$i] - $old[$i]);
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
