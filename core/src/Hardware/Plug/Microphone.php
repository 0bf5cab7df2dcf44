<?php

declare(strict_types=1);

namespace Hafen\Hardware\Plug;

/**
 * A browser's microphone. Its sound comes in pieces, so it is read a margin behind what came last. Where it runs dry, or falls far behind, it
 * goes on at the margin again; while it is recorded it stays in step, so that a take lies where it was played.
 */
final class Microphone implements Plug
{
    /** Seconds it is read behind what came last: some pieces, and the unevenness of their way. */
    private const MARGIN = 0.18;

    /** The same while it is recorded, so that a piece that is held up leaves no gap. */
    private const RECORDED_MARGIN = 0.8;

    /** Seconds behind which it is brought back to the margin. */
    private const FURTHEST = 0.5;

    /** Frames over which sound opens after a jump. */
    private const FADE = 64;

    private ?int $at = null;

    private string $id = '';

    private bool $isKept = false;

    /** Frame the last block began with; null where it was silent. */
    private ?int $began = null;

    private ?MicrophoneHead $head = null;

    public function __construct(private readonly MicrophonePipe $pipe, private readonly int $sampleRate)
    {
    }

    /** Goes back to the margin of what is recorded, and stays in step from there on; or no longer. */
    public function keep(bool $isKept): void
    {
        $this->at = $isKept === $this->isKept ? $this->at : null;
        $this->isKept = $isKept;
    }

    public function isKept(): bool
    {
        return $this->isKept;
    }

    /** Goes on so many frames further on, as what is heard was held up. */
    public function advance(int $frames): void
    {
        $this->at = $this->at === null ? null : max(0, $this->at + $frames);
    }

    /** Sample of the session that was heard while the first frame of the last block was captured; null where that is not known. */
    public function heard(): ?float
    {
        return $this->began === null ? null : $this->head?->heardAt($this->began);
    }

    /** Seconds from the microphone to the engine, of the last block; null while nothing comes. */
    public function age(): ?float
    {
        return $this->began === null ? null : $this->head?->age($this->began, microtime(true));
    }

    /**
     * What comes next after the last block, once it is there; silence where it does not come in time.
     *
     * @return list<float>
     */
    public function rest(int $frames): array
    {
        $at = $this->at;
        if ($at === null || $this->head === null) {
            return array_fill(0, $frames, 0.0);
        }
        $until = microtime(true) + $frames / $this->sampleRate + self::MARGIN;
        while ($this->head->id === $this->id && $this->head->written < $at + $frames && $this->head->isOpen(microtime(true)) && microtime(true) < $until) {
            usleep(10_000);
            $this->head = $this->pipe->head() ?? $this->head;
        }
        $this->at = $at + $frames;

        return $this->pipe->read($this->head, $at, $frames);
    }

    public function sound(int $at, int $frames): array
    {
        $head = $this->pipe->head();
        $this->began = null;
        if ($head === null || $head->rate !== $this->sampleRate || ! $head->isOpen(microtime(true))) {
            // What is recorded stays in step: the page may come back in a moment.
            $this->at = $this->isKept && $this->at !== null ? $this->at + $frames : null;

            return array_fill(0, $frames, 0.0);
        }
        $here = $head->id === $this->id ? $this->at : null;
        $behind = $here === null ? null : $head->written - $here;
        $jumps = $behind === null || (! $this->isKept && ($behind < $frames || $behind > self::FURTHEST * $this->sampleRate));
        $from = $jumps ? max(0, $head->written - (int) (($this->isKept ? self::RECORDED_MARGIN : self::MARGIN) * $this->sampleRate)) : (int) $here;
        $this->head = $head;
        $this->id = $head->id;
        $this->began = $from;
        $this->at = $from + $frames;
        $sound = $this->pipe->read($head, $from, $frames);
        for ($i = 0; $jumps && $i < min($frames, self::FADE); ++$i) {
            $sound[$i] *= $i / self::FADE;
        }

        return $sound;
    }
}
