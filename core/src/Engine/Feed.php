<?php

declare(strict_types=1);

namespace Hafen\Engine;

use Hafen\Audio\Block;
use Hafen\Audio\Decibel;
use Hafen\Dsp\Delay\DelayLine;
use Hafen\Dsp\Gain\StereoGain;
use Hafen\Routing\PanLaw;
use Hafen\Routing\Route;
use Hafen\Session\Channel\Channel;
use Hafen\Session\Channel\Send;
use Hafen\Session\Channel\TapPoint;
use Hafen\Session\Channel\Width;

/** Runs a route: reads a tap of one strip, delays it to alignment, and applies its gain. */
final class Feed implements Contribution
{
    private readonly StereoGain $level;

    private readonly GainAutomation $automation;

    private readonly DelayLine $alignment;

    /** Latency at its gain stage in samples. */
    private int $inputLatency = 0;

    private Strip $from;

    private string $stage = Tap::POST_FADER;

    private bool $keepsParts = false;

    /** @var ?array{array{list<float>, float}, ?array{list<float>, float}} */
    private ?array $lastParts = null;

    /** @var ?array{?Send, ?float, string, Strip, Channel, float, int, int} what it was configured with last */
    private ?array $configured = null;

    /** Frames of silence that have come, one after another. */
    private int $quiet = 0;

    public function __construct(private readonly int $sampleRate)
    {
        $this->level = new StereoGain(0.0, $sampleRate, 8.0);
        $this->automation = new GainAutomation($sampleRate);
        $this->alignment = new DelayLine(0);
    }

    /**
     * @param  int  $delay  samples
     * @param  int  $inputLatency  samples by which sound comes late to the tap
     */
    public function configure(Route $route, Strip $from, Channel $channel, float $panLaw, int $delay, int $inputLatency): void
    {
        $send = $route->send;
        $from->keep($route->tap->value);
        $configured = [$send, $route->performer, $route->tap->value, $from, $channel, $panLaw, $delay, $inputLatency];
        if ($this->configured === $configured) {
            return;
        }
        $this->configured = $configured;
        $this->inputLatency = $inputLatency + $delay;
        $this->from = $from;
        $this->stage = $route->tap->value;
        if ($send === null) {
            $this->level->towards(1.0, 1.0);
            $this->automation->follow(null);
        } else {
            $law = AutomationLaws::send($channel, $send->id, $this->sampleRate);
            $this->automation->follow($law);
            $gain = $send->on ? Decibel::toGain($law === null ? $route->gain() : $route->performer) : 0.0;
            // Before the fader a mono channel has not been panned yet: the send does it, by the same law, so that taking a
            // send before the fader instead of after it changes nothing while the fader stands at 0.
            $width = $route->tap === TapPoint::PostFader ? Width::Stereo : $channel->width;
            [$left, $right] = PanLaw::gains($width, $send->pan, $panLaw);
            $this->level->towards($gain * $left, $gain * $right);
        }
        $this->alignment->resize($delay);
    }

    /** Fades to silence before it is removed. */
    public function close(): void
    {
        $this->configured = null;
        $this->level->towards(0.0, 0.0);
    }

    public function moving(): bool
    {
        return $this->level->moving();
    }

    public function settle(): void
    {
        $this->level->settle();
        $this->automation->settle();
    }

    public function reset(): void
    {
        $this->alignment->reset();
        $this->quiet = 0;
    }

    public function from(): string
    {
        return $this->from->id();
    }

    /** Returns its output block. */
    public function take(int $sourcePosition, int $frames): Block
    {
        $block = $this->from->passing($this->stage, $frames);
        if ($this->rests($block)) {
            return $block;
        }
        $block = clone $block;
        $block->isSilent = false;
        $this->alignment->process($block);
        $this->automation->process($block, $sourcePosition - $this->inputLatency);
        $this->level->process($block);

        return $block;
    }

    /** Remembers what it gave last. */
    public function keepParts(): void
    {
        $this->keepsParts = true;
    }

    /** @return ?array{array{list<float>, float}, ?array{list<float>, float}} what {@see parts()} gave last, where it is to be remembered */
    public function lastParts(): ?array
    {
        return $this->lastParts;
    }

    public function parts(int $position, int $frames): ?array
    {
        $parts = $this->partsOf($position, $frames);
        $this->lastParts = $this->keepsParts ? $parts : null;

        return $parts;
    }

    /** @return ?array{array{list<float>, float}, ?array{list<float>, float}} */
    private function partsOf(int $sourcePosition, int $frames): ?array
    {
        $block = $this->from->passing($this->stage, $frames);
        if ($this->rests($block)) {
            return null;
        }
        if ($this->alignment->length() > 0 || $this->alignment->changing() || ! $this->automation->isIdle()) {
            $block = clone $block;
        }
        $this->alignment->process($block);
        $this->automation->process($block, $sourcePosition - $this->inputLatency);

        return $this->level->parts($block);
    }

    /** Whether a block is silence, all that came before has left the delay, and nothing moves. */
    private function rests(Block $block): bool
    {
        $rests = $block->isSilent && $this->quiet >= $this->alignment->length() && ! $this->alignment->changing() && ! $this->level->moving() && $this->automation->isIdle();
        $this->quiet = $block->isSilent ? $this->quiet + $block->frames() : 0;

        return $rests;
    }
}
