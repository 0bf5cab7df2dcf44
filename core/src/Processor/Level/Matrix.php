<?php

declare(strict_types=1);

namespace Hafen\Processor\Level;

use Hafen\Audio\Block;
use Hafen\Dsp\Gain\StereoMatrix;
use Hafen\Processor\NoLatency;
use Hafen\Processor\ParameterValues;
use Hafen\Processor\Setting;

/** What processors share that make both sides of both sides by four factors, and nothing else. */
trait Matrix
{
    use NoLatency;

    private readonly StereoMatrix $matrix;

    public function __construct(Setting $setting)
    {
        $this->matrix = new StereoMatrix($setting->sampleRate);
    }

    /** @return array{float, float, float, float} left and right of the left, left and right of the right */
    abstract private static function factors(ParameterValues $values): array;

    public function set(ParameterValues $values): void
    {
        $this->matrix->towards(...self::factors($values));
    }

    public function process(Block $block): void
    {
        $this->matrix->process($block);
    }

    public function reset(): void
    {
        $this->matrix->settle();
    }

    public function tail(): int
    {
        return 0;
    }
}
