<?php

declare(strict_types=1);

namespace Hafen\Engine;

use Hafen\Metering\TapReading;
use Hafen\Note\HeldKeys;
use Hafen\Session\Session;

/** Works the channels of a session that one process has: all of them, or some while other processes work the rest. */
final class Section
{
    private Plan $plan;

    /** @var list<Feed|ChannelStrip> what goes silent before a change is taken */
    private array $closing = [];

    /** @var array<array-key, true> channels nobody hears, by id */
    private array $asleep = [];

    /** @var ?array<array-key, true> channels whose every tap is read, by id; null is all of them */
    private ?array $metered = null;

    /** @var array<array-key, StageTaps> what somebody listens to of channels that were worked a stretch at a time, by channel id */
    private array $stretches = [];

    /** @var list<Fault> */
    private array $faults = [];

    private int $framesTimed = 0;

    private ?HeldKeys $held = null;

    /**
     * @param  ?Excerpt  $excerpt  the channels to be worked here; all of them where it is left out
     * @param  Elsewhere  $elsewhere  what other processes work
     */
    public function __construct(private readonly Compiler $compiler, Session $session, ?Excerpt $excerpt = null, Elsewhere $elsewhere = new Elsewhere)
    {
        $this->plan = $compiler->compile($session, null, $excerpt, $elsewhere);
    }

    public function plan(): Plan
    {
        return $this->plan;
    }

    /** Clears the state of all channels, and jumps to their values. */
    public function reset(): void
    {
        foreach ($this->plan->strips as $strip) {
            $strip->reset();
            $strip->settle();
        }
    }

    /** Lets live inputs in, or keeps them out. */
    public function openInputs(bool $isOpen): void
    {
        foreach ($this->plan->strips as $strip) {
            $strip->input->live?->close(! $isOpen);
        }
    }

    /** Fades out what another revision takes apart here. */
    public function close(PlanChange $change): void
    {
        $this->closing = [
            ...array_values(array_intersect_key($this->plan->feeds, array_flip($change->gone))),
            // Those that sleep are silent already, and would never be done with fading out.
            ...array_values(array_diff_key(array_intersect_key($this->plan->strips, array_flip($change->rebuilt)), $this->asleep)),
        ];
        foreach ($this->closing as $closing) {
            $closing->close();
        }
    }

    public function isClosing(): bool
    {
        foreach ($this->closing as $closing) {
            if ($closing->moving()) {
                return true;
            }
        }

        return false;
    }

    /** Goes on with another revision, and opens what was closed for it. */
    public function change(Session $session, ?Excerpt $excerpt = null, Elsewhere $elsewhere = new Elsewhere): void
    {
        $this->plan = $this->compiler->compile($session, $this->plan, $excerpt, $elsewhere);
        $this->closing = [];
        foreach ($this->plan->strips as $strip) {
            $strip->open();
        }
        $this->hold($this->held);
    }

    /** Plays keys that somebody holds, from the next block on; null is none. */
    public function hold(?HeldKeys $held): void
    {
        $this->held = $held;
        foreach ($this->plan->strips as $strip) {
            $strip->hold($held);
        }
    }

    /**
     * Leaves channels out that nobody hears, and clears the state of those that are heard again.
     *
     * @param  array<array-key, true>  $asleep  by channel id; see {@see Plan::asleep()}
     */
    public function sleep(array $asleep): void
    {
        foreach (array_map(strval(...), array_keys(array_diff_key($this->asleep, $asleep))) as $woken) {
            $this->plan->strip($woken)?->reset();
            foreach ($this->plan->feeds as $feed) {
                if ($feed->from() === $woken) {
                    $feed->reset();
                }
            }
        }
        $this->asleep = $asleep;
    }

    /**
     * Reads every tap of these channels only; of others the end alone.
     *
     * @param  ?array<array-key, true>  $channels  by id; null is all of them
     */
    public function meterOnly(?array $channels): void
    {
        $before = $this->metered;
        $this->metered = $channels;
        // Discards what they read before they were left out.
        foreach ($before === null ? [] : $this->plan->strips as $id => $strip) {
            if (! isset($before[$id]) && $this->isMetered($id)) {
                foreach ($strip->meters() as $stage => $meter) {
                    if ($stage !== Tap::POST_FADER) {
                        $meter->read();
                    }
                }
            }
        }
    }

    /**
     * Works strips for one block. Those that do not wait for live sound work the whole stretch at its first piece.
     *
     * @param  array<array-key, ChannelStrip>  $strips  some of this plan, in its order
     * @param  array<array-key, StageTaps>  $taps  by channel id; filled with what somebody listens to
     */
    public function process(array $strips, Piece $piece, bool $metered, array $taps): void
    {
        if (! $piece->isWhole()) {
            $ahead = array_intersect_key($this->plan->ahead, $strips);
            if ($ahead !== []) {
                $this->processAhead($ahead, $piece, $metered, $taps);
            }
            $strips = array_diff_key($strips, $ahead);
        }
        $this->work($strips, $piece->position(), $piece->frames, $metered, $taps);
    }

    /**
     * @param  array<array-key, ChannelStrip>  $strips  in the order of the plan
     * @param  array<array-key, StageTaps>  $taps  by channel id
     */
    private function processAhead(array $strips, Piece $piece, bool $metered, array $taps): void
    {
        if ($piece->isFirst()) {
            $this->stretches = array_map(static fn (StageTaps $wanted): StageTaps => $wanted->emptied(), array_intersect_key($taps, $strips));
            $this->work($strips, $piece->start, $piece->stretch, $metered, $this->stretches);
        }
        foreach (array_diff_key($strips, $this->asleep) as $id => $strip) {
            $strip->passPiece($piece);
            if (isset($taps[$id], $this->stretches[$id])) {
                $taps[$id]->passPiece($this->stretches[$id], $piece);
            }
        }
    }

    /**
     * @param  array<array-key, ChannelStrip>  $strips  in the order of the plan
     * @param  int  $position  of the first sample, as the sources count
     * @param  array<array-key, StageTaps>  $taps  by channel id
     */
    private function work(array $strips, int $position, int $frames, bool $metered, array $taps): void
    {
        foreach ($strips as $id => $strip) {
            if (isset($this->asleep[$id])) {
                continue;
            }
            if (! $strip->process($position, $frames, $metered && $this->isMetered($id), $taps[$id] ?? null)) {
                $this->faults[] = new Fault((string) $id, $position);
            }
        }
    }

    /** Takes note that a block is done. */
    public function processed(int $frames): void
    {
        $this->framesTimed += $frames;
    }

    /** @return list<Fault> since last asked */
    public function faults(): array
    {
        $faults = $this->faults;
        $this->faults = [];

        return $faults;
    }

    /** @return list<string> all taps; {@see readings()} are of some of them, in this order */
    public function tapIds(): array
    {
        $keys = [];
        foreach ($this->plan->strips as $id => $strip) {
            foreach (array_keys($strip->meters()) as $stage) {
                $keys[] = "{$id}:{$stage}";
            }
        }

        return $keys;
    }

    /** @return array<string, TapReading> what the meters read since last asked, by tap id; see {@see meterOnly()} */
    public function readings(): array
    {
        $readings = [];
        foreach ($this->plan->strips as $id => $strip) {
            if (! $this->isMetered($id)) {
                $readings["{$id}:".Tap::POST_FADER] = $strip->endMeter()->read();

                continue;
            }
            foreach ($strip->meters() as $stage => $meter) {
                $readings["{$id}:{$stage}"] = $meter->read();
            }
        }

        return $readings;
    }

    /** @return list<string> keys of {@see loads()}, in its order */
    public function loadIds(): array
    {
        $keys = [];
        foreach ($this->plan->strips as $id => $strip) {
            $keys[] = (string) $id;
            $keys[] = "{$id}:reading";
            foreach (array_keys($strip->runners()) as $stage) {
                $keys[] = "{$id}:{$stage}";
            }
        }

        return $keys;
    }

    /**
     * Returns and resets the load, compute time over audio time: of channels by id, of inserts by "channel:insert:ID", of reading
     * clips, frozen files and what others feed by "channel:reading".
     *
     * @return array<string, float> 1.0 is the whole of one core
     */
    public function loads(): array
    {
        $audio = $this->nanosecondsOfAudio();
        $this->framesTimed = 0;
        $loads = [];
        foreach ($this->plan->strips as $id => $strip) {
            $loads[$id] = self::share($strip->takeNanoseconds(), $audio);
            $loads["{$id}:reading"] = self::share($strip->takeReadingNanoseconds(), $audio);
            foreach ($strip->runners() as $stage => $runner) {
                $loads["{$id}:{$stage}"] = self::share($runner->takeNanoseconds(), $audio);
            }
        }

        return $loads;
    }

    /**
     * Returns the load of each channel's fader and all that comes after it, by channel id; {@see loads()} resets it.
     *
     * @return array<string, float> 1.0 is the whole of one core
     */
    public function loadsAfterFader(): array
    {
        $audio = $this->nanosecondsOfAudio();

        return array_map(static fn (ChannelStrip $strip): float => self::share($strip->nanosecondsAfterFader(), $audio), $this->plan->strips);
    }

    private function isMetered(int|string $channel): bool
    {
        return $this->metered === null || isset($this->metered[$channel]);
    }

    private function nanosecondsOfAudio(): float
    {
        return $this->framesTimed * 1e9 / $this->plan->session->sampleRate;
    }

    private static function share(int $nanoseconds, float $audio): float
    {
        return $audio > 0 ? $nanoseconds / $audio : 0.0;
    }
}
