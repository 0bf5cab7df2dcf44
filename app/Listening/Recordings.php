<?php

declare(strict_types=1);

namespace App\Listening;

use App\Media\DiskFull;
use App\Takes\CannotRecord;
use App\Takes\RecordWish;
use Hafen\Audio\Block;
use Hafen\Audio\UnableToWriteAudioFile;
use Hafen\Engine\Engine;
use Hafen\Engine\Tap;
use Hafen\Hardware\AudioInterface;
use Hafen\Refusal;
use Hafen\Session\Session;
use Illuminate\Contracts\Container\Container;

/** All a listener records at once, each onto a track of its own. */
final class Recordings
{
    /** @var list<RecordWish> */
    private array $wishes = [];

    /** @var list<Recording> */
    private array $running = [];

    /** @var list<Recording> that ended, while something of them is on its way */
    private array $ending = [];

    /** @param  bool  $hasPlacer  another process looks for what was recorded */
    public function __construct(private readonly Container $container, private readonly bool $hasPlacer)
    {
    }

    public function isOn(): bool
    {
        return $this->running !== [] || $this->ending !== [];
    }

    /** Whether anything is recorded that comes in at an input. */
    public function takeInputs(): bool
    {
        return $this->ending !== [] || array_filter($this->wishes, static fn (RecordWish $wish): bool => $wish->tap === RecordWish::INPUT) !== [];
    }

    /**
     * Begins to record from the next block on, or ends; what was recorded is put on its tracks then. Goes on where nothing else is wanted.
     *
     * @param  list<RecordWish>  $wishes
     * @param  ?array{from: int, to: ?int}  $punch  what of it is kept
     * @param  ?AudioInterface  $interface  that is open
     */
    public function follow(array $wishes, ?array $punch, int $storedId, Session $session, Engine $engine, ?AudioInterface $interface): void
    {
        if ($wishes == $this->wishes) {
            return;
        }
        $this->endEnding();
        foreach ($this->running as $recording) {
            if ($wishes === [] && ! $recording->isWhole()) {
                $this->ending[] = $recording;
            } else {
                $recording->end($this->hasPlacer);
            }
        }
        $this->running = [];
        $engine->record(...array_filter(array_map(static fn (RecordWish $wish): ?Tap => $wish->tap(), $wishes)));
        $this->wishes = $wishes;
        foreach ($wishes as $wish) {
            $recording = $this->container->make(Recording::class);
            $recording->begin($storedId, $wish, $punch, $session, $engine, $interface);
            $this->running[] = $recording;
        }
    }

    /**
     * Takes in the block the engine made last.
     *
     * @param  Block  $heard  what came out of it
     * @param  int  $source  position of its first sample, as the sources count
     *
     * @throws CannotRecord when the disk is full; what was recorded until then is kept
     */
    public function take(Engine $engine, Block $heard, int $source, int $sampleRate): void
    {
        try {
            $this->takeBlock($engine, $heard, $source, $sampleRate);
        } catch (DiskFull|UnableToWriteAudioFile $full) {
            throw CannotRecord::goOn($full);
        }
    }

    /** @throws Refusal */
    private function takeBlock(Engine $engine, Block $heard, int $source, int $sampleRate): void
    {
        foreach ($this->running as $recording) {
            $recording->take($engine, $heard, $source, $sampleRate);
        }
        $ending = [];
        foreach ($this->ending as $recording) {
            $recording->takeOn($engine, $heard, $source, $sampleRate);
            if ($recording->isWhole()) {
                $recording->end($this->hasPlacer);
            } else {
                $ending[] = $recording;
            }
        }
        $this->ending = $ending;
    }

    /** Something else is recorded: what is still on its way is left out. */
    private function endEnding(): void
    {
        $ending = $this->ending;
        $this->ending = [];
        array_walk($ending, fn (Recording $recording) => $recording->end($this->hasPlacer));
    }

    /** @return array{kind: 'recording', takes: list<array{channel: ?string, seconds: float, peak: ?float, drawn: list<float>, left: float}>} */
    public function notice(int $sampleRate): array
    {
        // All of them share the disk.
        $count = max(1, count($this->running));

        return ['kind' => 'recording', 'takes' => array_map(static function (Recording $recording) use ($sampleRate, $count): array {
            $soFar = $recording->soFar($sampleRate);

            return [...$soFar, 'left' => floor($soFar['left'] / $count)];
        }, $this->running)];
    }

    /** Nobody listens any more: puts what was recorded on its tracks. */
    public function end(): void
    {
        $running = [...$this->running, ...$this->ending];
        $this->running = $this->ending = $this->wishes = [];
        foreach ($running as $recording) {
            $recording->takeRest();
            $recording->end($this->hasPlacer);
        }
    }
}
