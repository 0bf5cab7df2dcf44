<?php

declare(strict_types=1);

namespace Hafen\Engine;

use Hafen\Audio\Block;
use Hafen\Audio\Decibel;
use Hafen\Audio\Samples;
use Hafen\Hardware\NoInterface;
use Hafen\Metering\Meter;
use Hafen\Session\Channel\Channel;
use Hafen\Session\Hardware\HardwareLoop;
use Hafen\Session\Insert\HardwareInsert;

/**
 * One hardware loop at work: each block goes out at the audio interface, and what went out earlier comes in; mixed with a dry copy as late
 * as that, switched without a click. What comes back of sound that is mono is made mono.
 */
final class HardwareRunner implements InsertRunner
{
    use MeteredInsert;

    private readonly DryWet $share;

    private readonly GainAutomation $automation;

    private HardwareLoop $loop;

    private LivePlayer $return;

    private int $inputLatency = 0;

    /**
     * @param  LivePlayer  $return  what comes back, see {@see HardwareLoop::$return}
     * @param  ?InterfaceBlocks  $sends  where it goes out; null where another engine sends in place of this one
     */
    public function __construct(public readonly string $id, HardwareLoop $loop, LivePlayer $return, private readonly ?InterfaceBlocks $sends, private readonly int $sampleRate)
    {
        $this->loop = $loop;
        $this->return = $return;
        $this->meter = new Meter;
        $this->share = new DryWet($sampleRate, $loop->latency());
        $this->automation = new GainAutomation($sampleRate);
    }

    /** Whether it comes back at another port. */
    public function returnsAt(string $port): bool
    {
        return $this->return->port === $port;
    }

    /** @param  ?float  $fade  ms in which changes are reached; null is the usual time */
    public function configure(HardwareInsert $insert, HardwareLoop $loop, Channel $channel, int $inputLatency, ?float $fade = null): void
    {
        $this->loop = $loop;
        $this->inputLatency = $inputLatency;
        [$moving, $target] = AutomationLaws::share($channel, $insert, $this->sampleRate);
        $this->automation->follow($moving);
        if ($target > 0.0 && $this->share->isIdle()) {
            $this->share->fill($loop->latency());
        }
        $this->share->towards($target, $fade);
        $this->share->resize($loop->latency());
    }

    public function latency(): int
    {
        return $this->loop->latency();
    }

    public function tail(): int
    {
        return (int) ceil($this->loop->tail / 1000.0 * $this->sampleRate);
    }

    /** A unit hums and hisses on. */
    public function isSettled(): bool
    {
        return false;
    }

    public function settle(): void
    {
        $this->share->settle();
        $this->automation->settle();
    }

    public function reset(): void
    {
        $this->share->reset();
    }

    public function process(Block $block, int $sourcePosition, bool $metered, ?StageTaps $taps): void
    {
        $taps?->pass(Tap::beforeStage($this->id), $block);
        $start = hrtime(true);
        $block->isSilent = false;
        $this->share->process($block, $this->through(...), $this->automation->isIdle() ? null : $this->automation->gains($sourcePosition - $this->inputLatency, $block->frames()));
        $this->nanoseconds += hrtime(true) - $start;
        $metered && $this->meter->measure($block, $sourcePosition);
        $taps?->pass("insert:{$this->id}", $block);
    }

    /** @throws NoInterface */
    private function through(Block $block): void
    {
        if (! $this->return->isConnected()) {
            throw NoInterface::for($this->loop);
        }
        $gain = Decibel::toGain($this->loop->sendTrim);
        foreach ($this->loop->outputs() as $side => $port) {
            $sound = match (true) {
                $block->mono => $block->left,
                ! $this->loop->isStereo() => Samples::mid($block->left, $block->right),
                default => $side === 0 ? $block->left : $block->right,
            };
            $this->sends?->send($port, Samples::scale($sound, $gain));
        }
        $back = $this->return->read($block->frames());
        $gain = Decibel::toGain($this->loop->returnTrim) * ($this->loop->invert ? -1.0 : 1.0);
        $block->left = Samples::scale($block->mono ? Samples::mid($back->left, $back->right()) : $back->left, $gain);
        if (! $block->mono) {
            $block->right = Samples::scale($back->right(), $gain);
        }
    }
}
