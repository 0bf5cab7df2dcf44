<?php

declare(strict_types=1);

namespace Hafen\Session\Insert;

/**
 * Notes that move a selector: each puts it where its key or velocity lies between `from`, which is 0 %, and `to`, which is 100 %. It stays
 * there until the next note.
 */
final readonly class SelectorNotes
{
    /** The longest glide in ms. */
    public const LONGEST_GLIDE = 5000.0;

    /**
     * @param  string  $channel  id of the note channel
     * @param  int  $from  key or velocity; other than `to`, and may be above it
     * @param  float  $glide  ms from one place to the next
     */
    public function __construct(public string $channel, public NoteValue $value = NoteValue::Key, public int $from = 36, public int $to = 84, public float $glide = 20.0)
    {
    }

    /**
     * Where a note puts the selector.
     *
     * @param  int  $velocity  0 to 127
     * @return float 0 to 1
     */
    public function place(int $key, int $velocity): float
    {
        $value = $this->value === NoteValue::Key ? $key : $velocity;

        return max(0.0, min(1.0, ($value - $this->from) / ($this->to - $this->from)));
    }
}
