<?php

declare(strict_types=1);

namespace Hafen\Processor\NoteEffect;

use Hafen\Audio\Block;
use Hafen\Note\NoteEvent;
use Hafen\Note\NoteEventKind;
use Hafen\Processor\ParameterValues;
use Hafen\Processor\Picture;
use Hafen\Processor\Setting;

/** For note effects: sound passes as it is, and what is planned is played when its sample comes. */
trait WorksOnNotes
{
    private int $position = 0;

    /** @var list<NoteEvent> planned, by samples of the session, in their order */
    private array $planned = [];

    public static function picture(ParameterValues $values, Setting $setting): ?Picture
    {
        return null;
    }

    public static function latencyOf(ParameterValues $values, Setting $setting): int
    {
        return 0;
    }

    public function latency(): int
    {
        return 0;
    }

    public function tail(): int
    {
        return 0;
    }

    public function process(Block $block): void
    {
    }

    public function at(int $position): void
    {
        $this->position = $position;
    }

    /** Plans an event at a sample of the session. */
    private function plan(NoteEvent $event): void
    {
        $this->planned = NoteEvent::sorted([...$this->planned, $event]);
    }

    /**
     * Takes what is planned before a sample of the session, counted from the start of the block.
     *
     * @return list<NoteEvent>
     */
    private function due(int $before, int $start): array
    {
        $due = [];
        while ($this->planned !== [] && $this->planned[0]->at < $before) {
            $event = array_shift($this->planned);
            $due[] = $event->at(max(0, $event->at - $start));
        }

        return $due;
    }

    private static function endsAll(NoteEvent $event): bool
    {
        return $event->kind === NoteEventKind::AllOff;
    }
}
