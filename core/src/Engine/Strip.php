<?php

declare(strict_types=1);

namespace Hafen\Engine;

use Hafen\Audio\Block;
use Hafen\Audio\Decibel;
use Hafen\Dsp\DelayLine;
use Hafen\Dsp\GainRamp;
use Hafen\Metering\Meter;
use Hafen\Routing\PanLaw;
use Hafen\Session\Channel;

/**
 * One channel at work, in the order of the design: source, trim, inserts, fader and pan, inserts after the fader, and the
 * delay that lines it up with the others. It lives on from one revision to the next, so that what sounds goes on sounding.
 */
final class Strip
{
    /** @var list<Slot> */
    public array $slots = [];

    /** @var list<Slot> */
    public array $postSlots = [];

    public readonly Meter $source;

    public readonly Meter $preFader;

    public readonly Meter $postFader;

    private readonly GainRamp $trim;

    private readonly GainRamp $left;

    private readonly GainRamp $right;

    /** Closes for a moment while the row is rebuilt. */
    private readonly GainRamp $gate;

    private readonly DelayLine $alignment;

    private int $nanoseconds = 0;

    public function __construct(
        public readonly string $id,
        public readonly ?ClipPlayer $clips,
        int $sampleRate,
    ) {
        $this->source = new Meter;
        $this->preFader = new Meter;
        $this->postFader = new Meter;
        $this->trim = new GainRamp(1.0, $sampleRate);
        $this->left = new GainRamp(1.0, $sampleRate);
        $this->right = new GainRamp(1.0, $sampleRate);
        $this->gate = new GainRamp(1.0, $sampleRate, 5.0);
        $this->alignment = new DelayLine(0);
    }

    public function configure(Channel $channel, float $panLaw, bool $audible): void
    {
        $this->trim->towards(Decibel::toGain($channel->trim->gain) * ($channel->trim->invert ? -1.0 : 1.0));
        $fader = $audible ? Decibel::toGain($channel->fader) : 0.0;
        [$left, $right] = PanLaw::gains($channel->width, $channel->pan, $panLaw);
        $this->left->towards($fader * $left);
        $this->right->towards($fader * $right);
    }

    public function align(int $samples): void
    {
        $this->alignment->resize($samples);
    }

    /** Everything is where it was set to be, at once. */
    public function settle(): void
    {
        foreach ([$this->trim, $this->left, $this->right, $this->gate] as $ramp) {
            $ramp->settle();
        }
        foreach ($this->allSlots() as $slot) {
            $slot->settle();
        }
    }

    public function reset(): void
    {
        foreach ($this->allSlots() as $slot) {
            $slot->reset();
        }
        $this->alignment->reset();
    }

    /**
     * Has every tap count only what belongs to a stretch of the session.
     *
     * @param  int  $late  samples by which this channel's source comes late itself
     */
    public function measureOnly(int $from, int $to, int $late): void
    {
        $limit = fn (Meter $meter, string $stage) => $meter->limitTo($from + $late + $this->latencyTo($stage), $to + $late + $this->latencyTo($stage));
        $limit($this->source, Tap::SOURCE);
        foreach ($this->allSlots() as $slot) {
            $limit($slot->meter, "insert:{$slot->id}");
        }
        $limit($this->preFader, Tap::PRE_FADER);
        $limit($this->postFader, Tap::POST_FADER);
    }

    public function closeGate(): void
    {
        $this->gate->towards(0.0);
    }

    public function openGate(): void
    {
        $this->gate->towards(1.0);
    }

    public function latency(): int
    {
        return array_sum(array_map(static fn (Slot $slot): int => $slot->latency(), $this->allSlots()));
    }

    /** Latency from the source to a tap of this channel. */
    public function latencyTo(string $stage): int
    {
        $latency = 0;
        if ($stage === Tap::SOURCE) {
            return 0;
        }
        foreach ($this->slots as $slot) {
            $latency += $slot->latency();
            if ($stage === "insert:{$slot->id}") {
                return $latency;
            }
        }
        if ($stage === Tap::PRE_FADER) {
            return $latency;
        }
        foreach ($this->postSlots as $slot) {
            $latency += $slot->latency();
            if ($stage === "insert:{$slot->id}") {
                return $latency;
            }
        }

        return $latency;
    }

    /** Samples this channel can go on sounding after its source stopped. */
    public function tail(): int
    {
        return array_sum(array_map(static fn (Slot $slot): int => $slot->tail(), $this->allSlots()));
    }

    /**
     * Works a block through the channel.
     *
     * @param  int  $place  in the session of the first sample, as the sources count
     * @param  array<string, ?Block>  $taken  taps somebody listens to, by key; filled here with copies
     * @return bool false when the output was not a number and the channel has been silenced
     */
    public function process(Block $block, int $place, bool $metered, array &$taken): bool
    {
        $start = hrtime(true);
        $this->trim->process($block);
        if ($metered) {
            $this->source->measure($block, $place);
        }
        $this->take(Tap::SOURCE, $block, $taken);
        foreach ($this->slots as $slot) {
            $slot->process($block, $place, $metered);
            $this->take("insert:{$slot->id}", $block, $taken);
        }
        if ($metered) {
            $this->preFader->measure($block, $place);
        }
        $this->take(Tap::PRE_FADER, $block, $taken);
        $this->fade($block);
        foreach ($this->postSlots as $slot) {
            $slot->process($block, $place, $metered);
            $this->take("insert:{$slot->id}", $block, $taken);
        }
        $sound = $this->postFader->measure($block, $place);
        if (! $sound) {
            $this->silence($block);
        }
        $this->gate->process($block);
        $this->take(Tap::POST_FADER, $block, $taken);
        $this->alignment->process($block);
        $this->nanoseconds += hrtime(true) - $start;

        return $sound;
    }

    /** Time spent for this channel elsewhere, such as reading its files. */
    public function addNanoseconds(int $nanoseconds): void
    {
        $this->nanoseconds += $nanoseconds;
    }

    /** Time spent since last asked, in nanoseconds. */
    public function takeNanoseconds(): int
    {
        $nanoseconds = $this->nanoseconds;
        $this->nanoseconds = 0;

        return $nanoseconds;
    }

    /** @return list<Slot> */
    public function allSlots(): array
    {
        return [...$this->slots, ...$this->postSlots];
    }

    private function fade(Block $block): void
    {
        if ($this->left->gain() === $this->right->gain() && $this->left->target() === $this->right->target()) {
            // Both ramps walk the same way; the right one only has to keep up.
            if ($this->left->moving()) {
                $this->right->next($block->frames());
            }
            $this->left->process($block);

            return;
        }
        $block->widen();
        $left = Block::mono($block->left);
        $right = Block::mono($block->right);
        $block->left = $block->right = [];
        $this->left->process($left);
        $this->right->process($right);
        $block->left = $left->left;
        $block->right = $right->left;
    }

    private function silence(Block $block): void
    {
        $block->left = array_fill(0, $block->frames(), 0.0);
        $block->right = [];
        $block->mono = true;
        $this->reset();
    }

    /** @param  array<string, ?Block>  $taken */
    private function take(string $stage, Block $block, array &$taken): void
    {
        if ($taken === []) {
            return;
        }
        $key = "{$this->id}:{$stage}";
        if (array_key_exists($key, $taken)) {
            $taken[$key] = clone $block;
        }
    }
}
