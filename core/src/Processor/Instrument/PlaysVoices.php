<?php

declare(strict_types=1);

namespace Hafen\Processor\Instrument;

use Hafen\Audio\Block;
use Hafen\Note\NoteEvent;

/** For instruments that play {@see Voices}: their sound takes the place of what comes in. */
trait PlaysVoices
{
    private readonly Voices $voices;

    /** @var list<NoteEvent> of the next block */
    private array $events = [];

    public function notes(array $events): void
    {
        $this->events = $events;
    }

    public function at(int $position): void
    {
        $this->voices->at($position);
        $this->right()?->at($position);
    }

    public function process(Block $block): void
    {
        $events = $this->events;
        $this->events = [];
        $frames = $block->frames();
        $block->mono = true;
        $block->right = [];
        $right = $this->right();
        if ($events === [] && $this->isSettled()) {
            $block->left = array_fill(0, $frames, 0.0);

            return;
        }
        $block->left = $this->voices->play($events, $frames);
        if ($right !== null) {
            $block->right = $right->play($events, $frames);
            $block->mono = false;
        }
    }

    public function isSettled(): bool
    {
        return $this->voices->isSilent() && $this->right()?->isSilent() !== false;
    }

    /** The same of the right side; null where both sides are the same. */
    private function right(): ?Voices
    {
        return null;
    }
}
