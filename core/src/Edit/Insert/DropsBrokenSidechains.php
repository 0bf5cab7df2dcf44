<?php

declare(strict_types=1);

namespace Hafen\Edit\Insert;

use Hafen\Edit\Edit;
use Hafen\Edit\Sound\Sounds;
use Hafen\Edit\Split\Selectors;
use Hafen\Routing\SessionGraph;
use Hafen\Session\Channel\ChannelKind;
use Hafen\Session\Insert\ProcessorInsert;
use Hafen\Session\Insert\Selector;
use Hafen\Session\Insert\Split;
use Hafen\Session\Session;
use Hafen\Session\Sound\SoundSwitch;

/** Applies an edit, then removes sidechains whose source is gone or would close a loop, and lets go of note channels that are gone. */
final readonly class DropsBrokenSidechains implements Edit
{
    public function __construct(public Edit $edit)
    {
    }

    public function apply(Session $session): Session
    {
        $after = self::withoutGoneNotes($this->edit->apply($session));
        foreach ($after->channels as $channel) {
            foreach ($channel->allInserts() as $insert) {
                $sidechain = $insert->sidechain();
                if ($sidechain !== null && $after->channel($sidechain->channel) === null) {
                    $after = self::withoutSidechain($after, $insert->id());
                }
            }
        }
        while (($listener = self::inLoop($after)) !== null) {
            $after = self::withoutSidechain($after, $listener);
        }

        return $after;
    }

    public function label(Session $before): string
    {
        return $this->edit->label($before);
    }

    public function touches(Session $before): array
    {
        return $this->edit->touches($before);
    }

    private static function withoutGoneNotes(Session $session): Session
    {
        $isGone = static fn (?string $channel): bool => $channel !== null && $session->channel($channel)?->kind !== ChannelKind::Note;
        $after = $session;
        foreach ($session->channels as $channel) {
            foreach ($channel->allInserts() as $insert) {
                if ($insert instanceof ProcessorInsert && $isGone($insert->notes)) {
                    $after = ProcessorInserts::change($after, $insert->id, static fn (ProcessorInsert $one): ProcessorInsert => $one->withNotes(null));
                }
                if ($insert instanceof Split && $isGone($insert->selector?->notes?->channel)) {
                    $after = Selectors::change($after, $insert->id, static fn (Selector $selector): Selector => $selector->withNotes(null));
                }
            }
            foreach ($channel->sounds as $switch) {
                if ($isGone($switch->notes?->channel)) {
                    $after = Sounds::change($after, $switch->id, static fn (SoundSwitch $one): SoundSwitch => $one->withNotes(null));
                }
            }
        }

        return $after;
    }

    /** An insert whose listening closes a loop. */
    private static function inLoop(Session $session): ?string
    {
        foreach (SessionGraph::routes($session)->loop() ?? [] as $route) {
            if ($route->insert !== null) {
                return $route->insert;
            }
        }

        return null;
    }

    private static function withoutSidechain(Session $session, string $insert): Session
    {
        return ProcessorInserts::change($session, $insert, static fn (ProcessorInsert $one): ProcessorInsert => $one->withSidechain(null));
    }
}
