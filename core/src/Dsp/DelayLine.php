<?php

declare(strict_types=1);

namespace Hafen\Dsp;

use Hafen\Audio\Block;

/** Delays both sides of a path by a whole number of samples. */
final class DelayLine
{
    /** @var list<float> the last samples, oldest first */
    private array $left;

    /** @var list<float> */
    private array $right;

    public function __construct(private int $length)
    {
        $this->left = $this->right = $length > 0 ? array_fill(0, $length, 0.0) : [];
    }

    public function length(): int
    {
        return $this->length;
    }

    /** Changes the delay; the newest samples are kept. */
    public function resize(int $length): void
    {
        if ($length === $this->length) {
            return;
        }
        $this->left = self::fitted($this->left, $length);
        $this->right = self::fitted($this->right, $length);
        $this->length = $length;
    }

    public function reset(): void
    {
        $this->left = $this->right = $this->length > 0 ? array_fill(0, $this->length, 0.0) : [];
    }

    public function process(Block $block): void
    {
        if ($this->length === 0) {
            return;
        }
        $frames = $block->frames();
        $left = [...$this->left, ...$block->left];
        $this->left = array_slice($left, $frames);
        $block->left = array_slice($left, 0, $frames);
        if ($block->mono) {
            $this->right = $this->left;

            return;
        }
        $right = [...$this->right, ...$block->right];
        $this->right = array_slice($right, $frames);
        $block->right = array_slice($right, 0, $frames);
    }

    /**
     * @param  list<float>  $samples
     * @return list<float>
     */
    private static function fitted(array $samples, int $length): array
    {
        $missing = $length - count($samples);

        return $missing >= 0
            ? [...array_fill(0, $missing, 0.0), ...$samples]
            : array_slice($samples, -$missing);
    }
}
