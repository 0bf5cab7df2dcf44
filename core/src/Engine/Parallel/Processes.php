<?php

declare(strict_types=1);

namespace Hafen\Engine\Parallel;

use Hafen\Engine\AudioLibrary;
use Hafen\Engine\Elsewhere;
use Hafen\Engine\Fault;
use Hafen\Engine\Parallel\Message\OpenSection;
use Hafen\Engine\Piece;
use Hafen\Engine\PlanChange;
use Hafen\Engine\StageTaps;
use Hafen\Engine\Tap;
use Hafen\Metering\TapReading;
use Hafen\Note\HeldKeys;
use Hafen\Processor\ProcessorCatalogue;
use Hafen\Session\Session;

/**
 * The other processes of an engine: each works some channels of the session, all at the same block. They end with the engine.
 *
 * One that dies is replaced where the engine plays; its channels fade in again. Where a file is made nothing may be missing: then its
 * end is refused.
 */
final class Processes
{
    /** Processes that may die, one after another, before it is not put down to bad luck. */
    private const MOST_REPLACED = 5;

    /** @var list<RemoteSection> */
    private array $sections = [];

    private Cut $cut;

    private Session $session;

    private bool $metered = false;

    private bool $isAhead = false;

    /** @var array{list<Tap>, array<array-key, true>, array<array-key, true>} what is listened to, who sleeps, and who reads */
    private array $listening = [[], [], []];

    /** @var ?array<array-key, true> channels whose every tap is read, by id; null is all of them */
    private ?array $meteredChannels = null;

    /** @var ?array{int, int} position and frames of the block that was begun last */
    private ?array $begun = null;

    private ?HeldKeys $held = null;

    private int $replaced = 0;

    private int $replacedAtAll = 0;

    /**
     * @param  string  $php  path of PHP
     * @param  int  $number  of processes, the first included
     * @param  bool  $replaces  whether one that dies is replaced
     */
    public function __construct(
        private readonly ProcessorCatalogue $processors,
        private readonly AudioLibrary $library,
        private readonly string $php,
        private readonly int $number,
        private readonly bool $replaces,
    ) {
        $this->cut = Cut::nothing();
    }

    public function __destruct()
    {
        foreach ($this->sections as $section) {
            $section->end();
        }
    }

    /**
     * Starts them with the channels they are to work; {@see opened()} waits for them.
     *
     * @param  int  $blockSize  frames of the longest block
     *
     * @throws ProcessGone when there cannot be so many
     */
    public function open(Session $session, int $blockSize, bool $metered): void
    {
        $this->session = $session;
        $this->metered = $metered;
        $this->cut = Cut::into($this->number, $session);
        // All are started before the first is waited for.
        foreach ($this->cut->parts as $part) {
            $this->sections[] = new RemoteSection($this->php, $part, $blockSize);
        }
        foreach ($this->sections as $section) {
            $section->open($this->opening($section, false));
        }
    }

    /**
     * @throws ProcessGone
     * @throws SectionRefused when a recording is gone
     */
    public function opened(): void
    {
        foreach ($this->sections as $section) {
            $section->compiled();
        }
    }

    /** What they work, as the engine takes it in. */
    public function elsewhere(): Elsewhere
    {
        $strips = $sums = [];
        foreach ($this->sections as $section) {
            $strips += $section->strips();
            $sums = [...$sums, ...$section->sums()];
        }

        return new Elsewhere($strips, $sums);
    }

    public function reset(): void
    {
        foreach ($this->sections as $section) {
            $this->keeping($section, static fn () => $section->reset());
        }
    }

    /** @return list<string> channels that another process works or sums with another revision; they fade out before */
    public function moving(Session $session): array
    {
        return $this->cut->moving($this->session, $session);
    }

    public function close(PlanChange $change): void
    {
        foreach ($this->sections as $section) {
            $this->keeping($section, static fn () => $section->close($change));
        }
    }

    public function isClosing(): bool
    {
        foreach ($this->sections as $section) {
            if ($section->isClosing()) {
                return true;
            }
        }

        return false;
    }

    /** Lets them go on with another revision; {@see changed()} waits until they have. */
    public function change(Session $session): void
    {
        $this->session = $session;
        $this->cut = $this->cut->after($session);
        foreach ($this->sections as $number => $section) {
            $this->keeping($section, fn () => $section->change($session, $this->cut->parts[$number]));
        }
    }

    /** @throws SectionRefused when a recording is gone */
    public function changed(): void
    {
        foreach ($this->sections as $section) {
            $this->keeping($section, static fn () => $section->compiled());
        }
    }

    /**
     * @param  list<Tap>  $taps
     * @param  array<array-key, true>  $asleep  by channel id
     * @param  array<array-key, true>  $reading  channels of the engine's own process that take in what feeds them, by id
     */
    public function listen(array $taps, array $asleep, array $reading): void
    {
        $this->listening = [$taps, $asleep, $reading];
        foreach ($this->sections as $section) {
            $this->keeping($section, static fn () => $section->listen($taps, $asleep, $reading));
        }
    }

    /** @param  ?array<array-key, true>  $channels  those whose every tap is read, by id; null is all of them */
    public function meterOnly(?array $channels): void
    {
        $this->meteredChannels = $channels;
        foreach ($this->sections as $section) {
            $this->keeping($section, static fn () => $section->meterOnly($channels));
        }
    }

    /** Lets them play keys that somebody holds; null is none. */
    public function hold(?HeldKeys $held): void
    {
        $this->held = $held;
        foreach ($this->sections as $section) {
            $this->keeping($section, static fn () => $section->hold($held));
        }
    }

    /** Whether they have begun a block that the engine has not. */
    public function isAhead(): bool
    {
        return $this->isAhead;
    }

    /**
     * Lets them begin a block.
     *
     * @param  int  $position  of its first sample, as the sources count
     * @param  bool  $ahead  whether the engine has yet to begin it
     */
    public function begin(int $position, int $frames, bool $ahead = false): void
    {
        $this->begun = [$position, $frames];
        $this->isAhead = $ahead && $this->sections !== [];
        foreach ($this->sections as $section) {
            $this->keeping($section, static fn () => $section->begin($position, $frames));
        }
    }

    /** Waits for the block they have begun. */
    public function finish(): void
    {
        foreach ($this->sections as $section) {
            $this->keeping($section, function () use ($section): void {
                // One that replaces another has not begun it.
                if ($this->begun !== null && ! $section->hasBegun()) {
                    $section->begin(...$this->begun);
                }
                $section->finish();
            });
        }
        $this->begun = null;
        $this->isAhead = false;
    }

    /**
     * Gives a piece of the block that is there.
     *
     * @param  array<array-key, StageTaps>  $taps  by channel id; filled with what somebody listens to
     */
    public function passPiece(Piece $piece, array $taps): void
    {
        foreach ($this->sections as $section) {
            $section->passPiece($piece, $taps);
        }
    }

    /** @return int processes that were replaced since last asked */
    public function takeReplaced(): int
    {
        $replaced = $this->replaced;
        $this->replaced = 0;

        return $replaced;
    }

    /** @return list<int> ids of the processes */
    public function ids(): array
    {
        return array_map(static fn (RemoteSection $section): int => $section->processId(), $this->sections);
    }

    /** @return list<Fault> since last asked */
    public function faults(): array
    {
        return array_merge(...array_map(static fn (RemoteSection $section): array => $section->faults(), $this->sections));
    }

    /** @return array<string, string> why frozen channels play live, by channel id */
    public function unplayable(): array
    {
        $unplayable = [];
        foreach ($this->sections as $section) {
            $unplayable += $section->unplayable();
        }

        return $unplayable;
    }

    /** @return list<string> */
    public function tapIds(): array
    {
        return array_merge(...array_map(static fn (RemoteSection $section): array => $section->tapIds(), $this->sections));
    }

    /** @return array<string, TapReading> of the last few blocks, by tap id; see {@see RemoteSection::readings()} */
    public function readings(): array
    {
        return array_merge(...array_map(static fn (RemoteSection $section): array => $section->readings(), $this->sections));
    }

    /** @return list<string> */
    public function loadIds(): array
    {
        return array_merge(...array_map(static fn (RemoteSection $section): array => $section->loadIds(), $this->sections));
    }

    /** @return array<string, float> of the last few blocks, by load id */
    public function loads(): array
    {
        $loads = [];
        foreach ($this->sections as $section) {
            $loads += $section->loads();
        }

        return $loads;
    }

    /**
     * Does something with a section; where its process has ended, with another one in its place that begins where the engine stands.
     *
     * @param  callable(): void  $work
     */
    private function keeping(RemoteSection $section, callable $work): void
    {
        try {
            $work();
        } catch (ProcessGone $gone) {
            if (! $this->replaces || ++$this->replacedAtAll > self::MOST_REPLACED) {
                throw $gone;
            }
            ++$this->replaced;
            $section->replace();
            $section->open($this->opening($section, true));
            $section->compiled();
            $section->listen(...$this->listening);
            $section->meterOnly($this->meteredChannels);
            $section->hold($this->held);
            $work();
        }
    }

    private function opening(RemoteSection $section, bool $fadesIn): OpenSection
    {
        return new OpenSection($this->processors->classes(), $this->library, $this->session, $section->part(), $this->metered, $fadesIn);
    }
}
