<?php

declare(strict_types=1);

namespace Hafen\Engine;

use Hafen\Audio\Block;
use Hafen\Audio\Samples;

/** A recording, louder or softer by a factor. */
final readonly class ScaledReplay implements Replay
{
    private function __construct(private Replay $recording, private float $gain)
    {
    }

    public static function of(Replay $recording, float $gain): Replay
    {
        return $gain === 1.0 ? $recording : new self($recording, $gain);
    }

    public function read(int $sourcePosition, int $frames): Block
    {
        $block = $this->recording->read($sourcePosition, $frames);
        $block->left = Samples::scale($block->left, $this->gain);
        if (! $block->mono) {
            $block->right = Samples::scale($block->right, $this->gain);
        }

        return $block;
    }
}
