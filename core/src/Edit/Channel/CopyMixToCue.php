<?php

declare(strict_types=1);

namespace Hafen\Edit\Channel;

use Hafen\Edit\Channels;
use Hafen\Edit\Edit;
use Hafen\Edit\Refusals\NotACue;
use Hafen\Routing\SessionGraph;
use Hafen\Session\Channel\Channel;
use Hafen\Session\Channel\ChannelKind;
use Hafen\Session\Channel\Send;
use Hafen\Session\Channel\TapPoint;
use Hafen\Session\FreshIds;
use Hafen\Session\Session;

/**
 * Starts a cue from the main mix: every track that comes to the main is sent to the cue before its fader, at the amount and
 * place the faders and the pan give it now, groups on the way included; what is muted is sent switched off. From then on
 * nothing done to the mix is heard in the cue. Returns stay out: what they carry follows the faders. So does what the cue itself feeds.
 */
final readonly class CopyMixToCue implements Edit
{
    private const LOUDEST = 24.0;

    public function __construct(public string $cue)
    {
    }

    public function apply(Session $session): Session
    {
        $cue = Channels::find($session, $this->cue);
        if ($cue->kind !== ChannelKind::Cue) {
            throw NotACue::named($cue->name, $cue->kind->word());
        }
        $ids = FreshIds::of($session);
        foreach ($session->channels as $channel) {
            $way = self::wayToMain($session, $channel);
            if ($channel->kind->isBus() || $way === null) {
                continue;
            }
            $faders = array_map(static fn (Channel $on): ?float => $on->fader, $way);
            $gain = in_array(null, $faders, true) ? null : round(max(-120.0, min(self::LOUDEST, array_sum($faders))), 3);
            $muted = array_filter($way, static fn (Channel $on): bool => $on->mute) !== [];
            $send = new Send($channel->sendTo($cue->id)->id ?? $ids->send(), $cue->id, $gain, TapPoint::PreFader, ! $muted, $channel->pan);
            $with = $session->withChannel($channel->withSend($send));
            // What takes its sound from the cue, or listens to it, cannot be sent there.
            $session = SessionGraph::routes($with)->loop() === null ? $with : $session;
        }

        return $session;
    }

    public function label(Session $before): string
    {
        return 'Copy the main mix to '.Channels::named($before, [$this->cue]);
    }

    public function touches(Session $before): array
    {
        $paths = ["channels/{$this->cue}/feeds"];
        foreach ($before->channels as $channel) {
            // What inserts listen to decides whose send would close a loop.
            array_push($paths, "channels/{$channel->id}/sends/{$this->cue}", "channels/{$channel->id}/row");
            $send = $channel->sendTo($this->cue);
            if ($send !== null) {
                $paths[] = "sends/{$send->id}";
            }
        }

        return $paths;
    }

    /**
     * The channel and the groups its output goes through, up to the main.
     *
     * @return ?list<Channel> null when it does not come there
     */
    private static function wayToMain(Session $session, Channel $channel): ?array
    {
        $way = [];
        while ($channel->kind !== ChannelKind::Main) {
            $way[] = $channel;
            $next = $session->channel($channel->output);
            if ($next === null) {
                return null;
            }
            $channel = $next;
        }

        return $way;
    }
}
