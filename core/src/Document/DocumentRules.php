<?php

declare(strict_types=1);

namespace Hafen\Document;

use Hafen\Routing\LoopClosed;
use Hafen\Routing\RouteKind;
use Hafen\Routing\SessionGraph;
use Hafen\Session\Channel\Channel;
use Hafen\Session\Channel\ChannelKind;
use Hafen\Session\Hardware\HardwareLoop;
use Hafen\Session\Insert\HardwareInsert;
use Hafen\Session\Insert\Insert;
use Hafen\Session\Insert\Inserts;
use Hafen\Session\Insert\ProcessorInsert;
use Hafen\Session\Insert\Row;
use Hafen\Session\Insert\Split;
use Hafen\Session\Session;

/** What a schema cannot say of a document: one main, ids that stand once, ways that lead somewhere and not in a circle. */
final class DocumentRules
{
    /**
     * @throws InvalidDocument with the JSON pointer of the place
     */
    public static function check(Session $session): void
    {
        $mains = array_filter($session->channels, static fn (Channel $channel): bool => $channel->kind === ChannelKind::Main);
        if (count($mains) !== 1) {
            throw InvalidDocument::at('/channels', count($mains).' channels of kind "main"; exactly one is needed');
        }
        self::unique(array_map(static fn (Channel $channel): string => $channel->id, $session->channels), '/channels');
        self::hardware($session);
        $seen = [];
        foreach ($session->channels as $index => $channel) {
            $pointer = "/channels/{$index}";
            foreach (Row::cases() as $row) {
                self::rowIds($channel->row($row), "{$pointer}/{$row->value}", $seen);
            }
            foreach ($channel->sends as $s => $send) {
                self::once("send {$send->id}", "{$pointer}/sends/{$s}/id", $send->id, 'send', $seen);
            }
            foreach ($channel->macros as $m => $macro) {
                self::once("macro {$macro->id}", "{$pointer}/macros/{$m}/id", $macro->id, 'macro', $seen);
            }
            foreach ($channel->sounds as $w => $switch) {
                self::once("sound {$switch->id}", "{$pointer}/sounds/{$w}/id", $switch->id, 'sound switch', $seen);
                foreach ($switch->sounds as $k => $sound) {
                    self::once("sound {$sound->id}", "{$pointer}/sounds/{$w}/sounds/{$k}/id", $sound->id, 'sound', $seen);
                }
            }
            self::sidechains($session, $channel, $pointer);
            self::steered($session, $channel, $pointer);
            self::hardwareOf($session, $channel, $pointer);
            self::output($session, $channel, "{$pointer}/output");
            self::sends($session, $channel, "{$pointer}/sends");
            foreach ($channel->performer->tracks ?? [] as $t => $track) {
                if ($session->channel($track) === null) {
                    throw InvalidDocument::at("{$pointer}/performer/tracks/{$t}", "Found \"{$track}\"; allowed is the id of a channel");
                }
            }
            $tapped = $channel->source->tapped();
            if ($tapped !== null && $session->channel($tapped->channel) === null) {
                throw InvalidDocument::at("{$pointer}/source/channel", "Found \"{$tapped->channel}\"; allowed is the id of a channel");
            }
        }
        self::loops($session);
    }

    private static function hardware(Session $session): void
    {
        self::unique(array_map(static fn (HardwareLoop $loop): string => $loop->id, $session->loops), '/loops');
        foreach ($session->loops as $index => $loop) {
            foreach (array_slice($session->loops, 0, $index) as $other) {
                if ($loop->sharesPortsWith($other)) {
                    throw InvalidDocument::at("/loops/{$index}", "The loops \"{$other->name}\" and \"{$loop->name}\" share a port; each has ports of its own");
                }
            }
        }
    }

    private static function hardwareOf(Session $session, Channel $channel, string $pointer): void
    {
        foreach (Row::cases() as $row) {
            foreach (Inserts::all($channel->row($row)) as $insert) {
                if ($insert instanceof HardwareInsert && $session->loop($insert->loop) === null) {
                    throw InvalidDocument::at("{$pointer}/{$row->value}", "Insert \"{$insert->id}\" goes through \"{$insert->loop}\"; allowed is the id of a loop");
                }
            }
        }
    }

    /** Inserts, selectors and sound switches follow the notes of note channels. */
    private static function steered(Session $session, Channel $channel, string $pointer): void
    {
        $followed = [];
        foreach ($channel->allInserts() as $insert) {
            $notes = $insert instanceof ProcessorInsert ? $insert->notes : ($insert instanceof Split ? $insert->selector?->notes?->channel : null);
            $followed += $notes === null ? [] : ["insert \"{$insert->id()}\"" => $notes];
        }
        foreach ($channel->sounds as $switch) {
            $followed += $switch->notes === null ? [] : ["sound switch \"{$switch->id}\"" => $switch->notes->channel];
        }
        foreach ($followed as $what => $notes) {
            if ($session->channel($notes)?->kind !== ChannelKind::Note) {
                throw InvalidDocument::at($pointer, "The {$what} follows the notes of \"{$notes}\"; allowed is the id of a note channel");
            }
        }
    }

    private static function sidechains(Session $session, Channel $channel, string $pointer): void
    {
        foreach ($channel->allInserts() as $insert) {
            $sidechain = $insert->sidechain();
            if ($sidechain !== null && $session->channel($sidechain->channel) === null) {
                $row = in_array($insert, Inserts::all($channel->postInserts), true) ? 'postInserts' : 'inserts';
                throw InvalidDocument::at("{$pointer}/{$row}", "Insert \"{$insert->id()}\" listens to \"{$sidechain->channel}\"; allowed is the id of a channel");
            }
        }
    }

    /**
     * A row by itself.
     *
     * @param  list<Insert>  $row
     *
     * @throws InvalidDocument where an id stands twice
     */
    public static function row(array $row, string $pointer): void
    {
        $seen = [];
        self::rowIds($row, $pointer, $seen);
    }

    /** @param  list<string>  $ids */
    public static function unique(array $ids, string $pointer): void
    {
        foreach ($ids as $index => $id) {
            if (array_search($id, $ids, true) !== $index) {
                throw InvalidDocument::at("{$pointer}/{$index}/id", "The id \"{$id}\" stands twice");
            }
        }
    }

    /**
     * @param  list<Insert>  $row
     * @param  array<string, true>  $seen
     */
    private static function rowIds(array $row, string $pointer, array &$seen): void
    {
        foreach ($row as $i => $insert) {
            self::once("insert {$insert->id()}", "{$pointer}/{$i}/id", $insert->id(), 'insert', $seen);
            foreach ($insert->branches() as $b => $branch) {
                self::once("branch {$branch->id}", "{$pointer}/{$i}/branches/{$b}/id", $branch->id, 'branch', $seen);
                self::rowIds($branch->inserts, "{$pointer}/{$i}/branches/{$b}/inserts", $seen);
            }
        }
    }

    /** @param  array<string, true>  $seen */
    private static function once(string $entry, string $pointer, string $id, string $what, array &$seen): void
    {
        if (isset($seen[$entry])) {
            throw InvalidDocument::at($pointer, "The id \"{$id}\" stands twice; {$what} ids are unique in a session");
        }
        $seen[$entry] = true;
    }

    private static function output(Session $session, Channel $channel, string $pointer): void
    {
        if ($channel->output === 'none') {
            return;
        }
        $isPair = str_starts_with($channel->output, 'hw:');
        if ($channel->kind->endsAtInterface()) {
            if (! $isPair) {
                throw InvalidDocument::at($pointer, "Found \"{$channel->output}\"; a {$channel->kind->word()} goes to an interface pair such as \"hw:1-2\", or \"none\"");
            }
        } elseif ($isPair) {
            throw InvalidDocument::at($pointer, "Found \"{$channel->output}\"; only the main and cues go to the interface");
        } elseif ($session->channel($channel->output)?->kind->takesOutputs() !== true) {
            throw InvalidDocument::at($pointer, "Found \"{$channel->output}\"; allowed is the id of a group, a return or the main, or \"none\"");
        }
    }

    private static function sends(Session $session, Channel $channel, string $pointer): void
    {
        if ($channel->sends !== [] && $channel->kind === ChannelKind::Cue) {
            throw InvalidDocument::at($pointer, 'A cue has no sends; it ends at its own output');
        }
        foreach ($channel->sends as $index => $send) {
            if ($session->channel($send->to)?->kind->takesSends() !== true) {
                throw InvalidDocument::at("{$pointer}/{$index}/to", "Found \"{$send->to}\"; allowed is the id of a return, a cue or a group");
            }
        }
    }

    private static function loops(Session $session): void
    {
        $loop = SessionGraph::routes($session)->loop();
        if ($loop === null || $loop === []) {
            return;
        }
        $closing = $loop[count($loop) - 1];
        $index = array_search(in_array($closing->kind, [RouteKind::Tap, RouteKind::Sidechain], true) ? $closing->to : $closing->from, array_map(static fn (Channel $channel): string => $channel->id, $session->channels), true);
        $pointer = match ($closing->kind) {
            RouteKind::Tap => 'source',
            RouteKind::Sidechain => 'inserts',
            RouteKind::Output => 'output',
            RouteKind::Send => 'sends',
        };
        throw InvalidDocument::at("/channels/{$index}/{$pointer}", 'This closes a loop: '.LoopClosed::text($session, $loop));
    }
}
