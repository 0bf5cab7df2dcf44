<?php

declare(strict_types=1);

namespace Hafen\Processor\Keyed;

use Hafen\Audio\Block;
use Hafen\Note\NoteEvent;
use Hafen\Note\NoteEventKind;

/** For effects that follow notes: keeps the keys that are down, and works the sound between one event and the next. */
trait WorksOnHeldKeys
{
    /** @var array<int, float> velocity by key, in the order in which they were pressed */
    private array $held = [];

    /** @var list<NoteEvent> of the next block */
    private array $events = [];

    public function follow(array $events): void
    {
        $this->events = $events;
    }

    public function process(Block $block): void
    {
        $events = $this->events;
        $this->events = [];
        $at = 0;
        $frames = $block->frames();
        $left = $right = [];
        $isWide = false;
        foreach ([...$events, null] as $event) {
            $to = $event->at ?? $frames;
            if ($to > $at) {
                $part = $at === 0 && $to === $frames ? $block : $block->part($at, $to - $at);
                $part->isSilent = false;
                $this->work($part);
                if ($part === $block) {
                    $this->taken($event);

                    return;
                }
                $left[] = $part->left;
                $right[] = $part->right();
                $isWide = $isWide || ! $part->mono;
                $at = $to;
            }
            $this->taken($event);
        }
        $block->left = array_merge(...$left);
        $block->mono = ! $isWide;
        $block->right = $isWide ? array_merge(...$right) : [];
    }

    /** Works on sound during which the keys stay as they are. */
    abstract private function work(Block $block): void;

    /** Is told of each key that goes down. */
    private function pressed(int $key, float $velocity): void
    {
    }

    private function taken(?NoteEvent $event): void
    {
        if ($event === null) {
            return;
        }
        if ($event->kind === NoteEventKind::AllOff) {
            $this->held = [];
        } elseif ($event->isOff()) {
            unset($this->held[$event->key]);
        } elseif ($event->isOn()) {
            unset($this->held[$event->key]);
            $this->held[$event->key] = $event->value;
            $this->pressed($event->key, $event->value);
        }
    }
}
