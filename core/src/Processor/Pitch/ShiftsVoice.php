<?php

declare(strict_types=1);

namespace Hafen\Processor\Pitch;

use Closure;
use Hafen\Audio\Block;
use Hafen\Dsp\Delay\DelayLine;
use Hafen\Dsp\Pitch\PitchSynchronous;
use Hafen\Processor\ParameterValues;
use Hafen\Processor\Setting;

/** What processors share that move the pitch of one voice, period by period. */
trait ShiftsVoice
{
    private readonly PitchSynchronous $voice;

    /** The sound itself, as late as the voice. */
    private readonly DelayLine $plain;

    public function __construct(private readonly Setting $setting)
    {
        $this->voice = new PitchSynchronous($setting->sampleRate);
        $this->plain = new DelayLine(PitchSynchronous::delay($setting->sampleRate));
    }

    public static function latencyOf(ParameterValues $values, Setting $setting): int
    {
        return PitchSynchronous::delay($setting->sampleRate);
    }

    public function latency(): int
    {
        return PitchSynchronous::delay($this->setting->sampleRate);
    }

    public function isSettled(): bool
    {
        // Where it splices, and which period it looks at, goes on with time.
        return false;
    }

    public function tail(): int
    {
        return 2 * PitchSynchronous::delay($this->setting->sampleRate);
    }

    public function reset(): void
    {
        $this->voice->reset();
        $this->plain->reset();
    }

    /**
     * @param  Closure(?float): float  $ratio  of the pitch out to the pitch in, from its period in samples; null where there is none
     * @param  float  $formants  ratio by which the formants move
     * @param  bool  $isMoved  false lets the sound itself through
     */
    private function shift(Block $block, Closure $ratio, float $formants, bool $isMoved): void
    {
        $plain = clone $block;
        $this->plain->process($plain);
        $this->voice->process($block, $ratio, $formants);
        if (! $isMoved) {
            $block->left = $plain->left;
            $block->right = $plain->right;
            $block->mono = $plain->mono;
        }
    }
}
