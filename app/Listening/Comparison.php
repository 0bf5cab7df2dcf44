<?php

declare(strict_types=1);

namespace App\Listening;

use App\Plans\PlanDesk;
use Hafen\Audio\Block;
use Hafen\Audio\Crossfade;
use Hafen\Audio\Decibel;
use Hafen\Document\JsonNode;
use Hafen\Document\SessionCodec;
use Hafen\Edit\EditRefused;
use Hafen\Edit\Insert\SetInsertOn;
use Hafen\Edit\Insert\SetParameters;
use Hafen\Edit\Insert\SetRow;
use Hafen\Edit\Refusals\NoSuchInsert;
use Hafen\Engine\Compiler;
use Hafen\Engine\Engine;
use Hafen\Engine\LevelMatch;
use Hafen\Engine\Loop;
use Hafen\Engine\Parallel\ProcessStarter;
use Hafen\Engine\Tap;
use Hafen\Note\HeldKeys;
use Hafen\Refusal;
use Hafen\Routing\UnitPlaces;
use Hafen\Session\Insert\ProcessorInsert;
use Hafen\Session\Session;

/** The other side of what is heard: the session with a bypass, another setting or remedies, on an engine of its own and level matched. */
final class Comparison
{
    /** Part of a gain by which it must move to be told again, about 0.1 dB. */
    private const AUDIBLE = 0.012;

    private ?Engine $other = null;

    private ?LevelMatch $match = null;

    /** What the other side made and is not given yet: its blocks end elsewhere where it is later, as loops begin anew by the sources. */
    private Block $waiting;

    /** Samples since it was begun. */
    private int $given = 0;

    /** Where the crossfade stands: 1 is the session itself, 0 the other side. */
    private float $side = 1.0;

    /** Gain of the level match that was told last. */
    private float $toldGain = 1.0;

    private int $sampleRate = 1;

    public function __construct(private readonly PlanDesk $plans, private readonly SessionCodec $sessions)
    {
        $this->waiting = Block::silence(0);
    }

    public function isOn(): bool
    {
        return $this->other !== null;
    }

    public function end(): void
    {
        $this->other = $this->match = null;
        $this->side = 1.0;
    }

    /**
     * Begins a comparison where the engine of the session stands.
     *
     * @param  array{insert?: string, parameters?: array<string, mixed>, row?: string, plan?: int}  $compare
     * @param  int  $block  frames of a block of the session's engine
     *
     * @throws Refusal when what is compared is not there
     */
    public function begin(array $compare, Session $session, Compiler $compiler, ProcessStarter $processes, Tap $tap, bool $besideMain, ?Loop $loop, int $block): void
    {
        $this->end();
        $this->other = $processes->engineToPlay($compiler->beside(), $this->otherSide($session, $compare), metered: false, blockSize: $block);
        $this->match = new LevelMatch($session->sampleRate);
        $this->sampleRate = $session->sampleRate;
        $this->other->listenAt($tap, $besideMain);
        $this->other->loopOver($loop);
    }

    /** @param  int  $preRoll  samples to run before the position */
    public function start(int $position, int $preRoll): void
    {
        $this->other?->start($position, $preRoll);
        $this->waiting = Block::silence(0);
        $this->given = 0;
    }

    /**
     * Goes on with a changed session.
     *
     * @param  array{insert?: string, parameters?: array<string, mixed>, row?: string, plan?: int}  $compare
     *
     * @throws EditRefused when what is compared is gone
     * @throws Refusal
     */
    public function change(Session $session, array $compare): void
    {
        $this->other?->change($this->otherSide($session, $compare));
    }

    public function hold(?HeldKeys $held): void
    {
        $this->other?->hold($held);
    }

    public function listenAt(Tap $tap, bool $besideMain): void
    {
        $this->other?->listenAt($tap, $besideMain);
    }

    public function loopOver(?Loop $loop): void
    {
        $this->other?->loopOver($loop);
    }

    /**
     * Gives the side that is wanted.
     *
     * @param  Block  $one  of the session itself; it is changed
     * @param  int  $position  in the session of its first sample
     * @param  int  $side  1 the session itself, 2 the other side
     */
    public function heard(Block $one, int $position, int $side): Block
    {
        if ($this->other === null || $this->match === null) {
            return $one;
        }
        $two = $this->otherBlock($this->other, $position, $one->frames());
        $this->match->apply($one, $two);
        // Over one block from side to side, so that switching is not heard itself.
        $target = $side === 2 ? 0.0 : 1.0;
        Crossfade::mix($one, $two, $this->side, $target);
        $this->side = $target;

        return $one;
    }

    /** The next frames of the other side. Where an edit or a loop led it elsewhere it begins anew beside the session. */
    private function otherBlock(Engine $other, int $position, int $frames): Block
    {
        if ($this->waiting->frames() === 0 && $other->position() !== $position && $this->given > $this->sampleRate) {
            $this->start($position, (int) (ListeningStream::SHORT_RUN_IN * $this->sampleRate));
        }
        while ($this->waiting->frames() < $frames) {
            $next = $other->next();
            $this->waiting = new Block([...$this->waiting->left, ...$next->left], [...$this->waiting->right, ...$next->right]);
        }
        $block = $this->waiting->part(0, $frames);
        $this->waiting = $this->waiting->part($frames, $this->waiting->frames() - $frames);
        $this->given += $frames;

        return $block;
    }

    /** Whether the gain of the level match moved by what can be heard since it was told. */
    public function hasMoved(): bool
    {
        return $this->match !== null && abs($this->match->gain() - $this->toldGain) > self::AUDIBLE * $this->toldGain;
    }

    /** @return array{kind: 'compare', side: int, gain: ?float} the gain of the level match in dB */
    public function notice(int $side): array
    {
        $this->toldGain = $this->match?->gain() ?? 1.0;

        return ['kind' => 'compare', 'side' => $side, 'gain' => Decibel::fromGain($this->toldGain)];
    }

    /**
     * @param  array{insert?: string, parameters?: array<string, mixed>, row?: string, plan?: int}  $compare
     *
     * @throws Refusal
     */
    private function otherSide(Session $session, array $compare): Session
    {
        $other = $this->changed($session, $compare);
        $loop = UnitPlaces::fedOtherwise($session, $other);

        return $loop === null ? $other : throw CannotCompare::before($loop->name);
    }

    /**
     * @param  array{insert?: string, parameters?: array<string, mixed>, row?: string, plan?: int}  $compare
     *
     * @throws Refusal
     */
    private function changed(Session $session, array $compare): Session
    {
        if (isset($compare['plan'])) {
            return $this->plans->made($session, $compare['plan']);
        }
        if (isset($compare['insert'], $compare['parameters'])) {
            // The same insert with another setting.
            $insert = $session->locate($compare['insert'])?->insert;
            $processor = $insert instanceof ProcessorInsert ? $insert->processor : throw NoSuchInsert::withId($compare['insert']);

            return (new SetParameters($compare['insert'], $this->sessions->parameters(new JsonNode((object) $compare['parameters']), $processor)))->apply($session);
        }
        if (isset($compare['insert'])) {
            return (new SetInsertOn([$compare['insert']], false))->apply($session);
        }

        return (new SetRow([$compare['row'] ?? ''], false))->apply($session);
    }
}
