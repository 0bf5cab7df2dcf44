<?php

declare(strict_types=1);

namespace Hafen\Tests\Support;

use Hafen\Audio\Block;
use Hafen\Processor\ChipLabel;
use Hafen\Processor\HoldsSidechain;
use Hafen\Processor\NoLatency;
use Hafen\Processor\ParameterValues;
use Hafen\Processor\Picture;
use Hafen\Processor\Processor;
use Hafen\Processor\ProcessorSpec;
use Hafen\Processor\Setting;
use Hafen\Processor\TakesSidechain;

/** Multiplies each sample with the middle of what it listens to: nothing shows more sharply whether that comes in time. */
final class Follower implements Processor, TakesSidechain
{
    use HoldsSidechain;
    use NoLatency;

    public static function spec(): ProcessorSpec
    {
        return new ProcessorSpec('follower', 'Follower', 'Follow', 'Level', 'Follows what it listens to.', [], levelDependent: true, takesSidechain: true);
    }

    public static function label(ParameterValues $values): string
    {
        return 'Follower';
    }

    public static function chip(ParameterValues $values): ChipLabel
    {
        return new ChipLabel('Follow');
    }

    public static function picture(ParameterValues $values, Setting $setting): ?Picture
    {
        return null;
    }

    public function __construct(Setting $setting)
    {
    }

    public function set(ParameterValues $values): void
    {
    }

    public function process(Block $block): void
    {
        $heard = $this->heard($block);
        $key = [$heard->left, $heard->right()];
        foreach ($key[0] as $i => $left) {
            $middle = 0.5 * ($left + $key[1][$i]);
            $block->left[$i] *= $middle;
            if (! $block->mono) {
                $block->right[$i] *= $middle;
            }
        }
    }

    public function reset(): void
    {
    }

    public function tail(): int
    {
        return 0;
    }
}
