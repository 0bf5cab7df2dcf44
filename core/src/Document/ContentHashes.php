<?php

declare(strict_types=1);

namespace Hafen\Document;

use Hafen\Processor\ProcessorCatalogue;
use Hafen\Routing\Route;
use Hafen\Routing\RouteKind;
use Hafen\Routing\SessionGraph;
use Hafen\Session\Automation\AutomationKind;
use Hafen\Session\Automation\AutomationLane;
use Hafen\Session\Automation\ControlCurves;
use Hafen\Session\Automation\NoteSteering;
use Hafen\Session\Channel\Channel;
use Hafen\Session\Channel\TapPoint;
use Hafen\Session\Hardware\HardwareLoop;
use Hafen\Session\Insert\Branch;
use Hafen\Session\Insert\Insert;
use Hafen\Session\Insert\Inserts;
use Hafen\Session\Insert\ProcessorInsert;
use Hafen\Session\Session;
use Hafen\Session\Source\ClipSource;
use Hafen\Session\Source\NoteSource;
use WeakMap;

/**
 * Content hashes of the channels of a session, up to the fader and after it. A hash is made from everything that can be heard
 * there and from the hashes of what feeds it: channels of the same hash sound the same, in whichever revision they stand.
 *
 * A freeze is known by the hash of what was frozen. A channel whose freeze is fresh has the hash it would have unfrozen; one
 * whose freeze is stale has the hash of its file.
 */
final class ContentHashes
{
    /** Changes when the engine makes other sound of the same document: all freezes are stale then. */
    private const SOUND = 1;

    /** @var ?WeakMap<Session, array{ProcessorCatalogue, self}> */
    private static ?WeakMap $known = null;

    /** @var array<string, string> by channel id: up to the fader, as it would be unfrozen */
    private array $live = [];

    /** @var array<string, string> by channel id: up to the fader, as it plays */
    private array $upToFader = [];

    /** @var array<string, string> by channel id: after the fader and the inserts behind it */
    private array $fromFader = [];

    /** @var array<string, string> by channel id: what of a channel cannot be changed while it is frozen */
    private array $locked = [];

    /** @var array<string, bool> by id of frozen channels */
    private array $fresh = [];

    private readonly int $length;

    private function __construct(Session $session, ProcessorCatalogue $processors)
    {
        // The session itself is not kept: it is the key under which the hashes are known, and goes when nobody has it any more.
        $this->length = $session->length;
        // What notes move is heard as it moves.
        $session = NoteSteering::lanes($session);
        $withoutSolos = null;
        $codec = new SessionCodec($processors);
        $routes = SessionGraph::routes($session);
        $alignment = SessionGraph::alignment($session, $processors);
        $audibility = SessionGraph::audibility($session);
        $common = [$session->sampleRate, $session->tempo, $session->panLaw];
        foreach ($routes->order() as $id) {
            $channel = $session->channel($id);
            assert($channel !== null);
            $heard = self::heard($codec->channelToArray($channel));
            if ($channel->source instanceof ClipSource) {
                // Files are made of the clips; what is plugged in changes none of them.
                $heard['source'] = self::heard(SourceCodec::sourceToArray($channel->source->withInput(null)));
            }
            if ($channel->source instanceof NoteSource) {
                $heard['source'] = SourceCodec::sourceToArray($channel->source);
            }
            $feeds = $behind = $bus = [];
            foreach ([...$routes->into($id), ...$routes->sidechainsInto($id)] as $route) {
                $from = $route->tap === TapPoint::PostFader ? $this->fromFader : $this->upToFader;
                $feed = [self::feed($route, $session), self::isSilent($route, $session) ? '' : $from[$route->from], $alignment->delay($route)];
                match (true) {
                    $route->isBehindFader($session) => $behind[$route->id()] = $feed,
                    $route->kind === RouteKind::Output || $route->kind === RouteKind::Send => $bus[$route->id()] = $feed,
                    default => $feeds[$route->id()] = $feed,
                };
            }
            ksort($feeds, SORT_STRING);
            ksort($behind, SORT_STRING);
            ksort($bus, SORT_STRING);
            $this->locked[$id] = self::hashOf([
                $common, $channel->kind->value, $feeds,
                array_intersect_key($heard, array_flip(['width', 'source', 'trim', 'insertsOn', 'inserts', 'aligned'])),
                ...self::lanes($channel, static fn (AutomationLane $lane): bool => self::isAbout($lane, $channel->inserts)),
                ...self::hands($channel),
                ...self::steering($session, $channel),
            ]);
            $loops = self::loops($session, $channel);
            $this->live[$id] = self::hashOf([$this->locked[$id], $bus, $alignment->arrival[$id], ...$loops]);
            $this->upToFader[$id] = $this->live[$id];
            if ($channel->frozen !== null) {
                $isSame = $this->has($id, $channel->frozen->hash);
                // A solo elsewhere silences a group and what feeds it: nothing of it is heard, and its freeze is as good as it was.
                if (! $isSame && ! $audibility->has($id) && self::hasSolos($session)) {
                    $withoutSolos ??= new self(self::withoutSolos($session), $processors);
                    $this->fresh[$id] = $withoutSolos->has($id, $channel->frozen->hash);
                } else {
                    $this->fresh[$id] = $isSame;
                }
                $this->upToFader[$id] = $isSame ? $this->live[$id] : self::hashOf(['frozen', $channel->frozen->file, $channel->frozen->hash, $session->sampleRate]);
            }
            if ($channel->off) {
                $this->upToFader[$id] = self::hashOf(['off', $common]);
            }
            $this->fromFader[$id] = self::hashOf([
                $this->upToFader[$id], $audibility->has($id), ...($behind === [] ? [] : [$behind]),
                array_intersect_key($heard, array_flip(['fader', 'pan', 'postInserts'])),
                ...$loops,
                ...self::lanes($channel, static fn (AutomationLane $lane): bool => $lane->target->kind !== AutomationKind::Send && ! self::isOfHand($lane) && ! self::isAbout($lane, $channel->inserts)),
                ...self::hands($channel),
            ]);
        }
    }

    public static function of(Session $session, ProcessorCatalogue $processors): self
    {
        $known = self::$known ??= new WeakMap();
        if (! isset($known[$session]) || $known[$session][0] !== $processors) {
            $known[$session] = [$processors, new self($session, $processors)];
        }

        return $known[$session][1];
    }

    /** The hash of what a channel plays up to its fader. */
    public function upToFader(string $channel): string
    {
        return $this->upToFader[$channel];
    }

    /** The hash of what comes out of a channel. */
    public function fromFader(string $channel): string
    {
        return $this->fromFader[$channel];
    }

    /** The hash of what of a channel cannot be changed while it is frozen: its row, its source, what its inserts listen to. */
    public function locked(string $channel): string
    {
        return $this->locked[$channel];
    }

    /**
     * The hash a freeze of the channel is known by.
     *
     * @param  bool  $faded  all of its sound is in the file; one that was cut is known by the session's length as well
     */
    public function ofFreeze(string $channel, bool $faded): string
    {
        return self::hashOf($faded ? [$this->live[$channel]] : [$this->live[$channel], $this->length]);
    }

    /** Whether a frozen channel plays what it would play unfrozen; false too where it is not frozen. */
    public function isFresh(string $channel): bool
    {
        return $this->fresh[$channel] ?? false;
    }

    /** @return list<string> ids of frozen channels that would sound otherwise unfrozen */
    public function stale(): array
    {
        return array_map(strval(...), array_keys(array_filter($this->fresh, static fn (bool $fresh): bool => ! $fresh)));
    }

    /** The session with all channels unfrozen that would sound the same unfrozen. */
    public function thawed(Session $session): Session
    {
        return $this->fresh === [] ? $session : $session->withChannels(array_map(
            fn (Channel $channel): Channel => $this->isFresh($channel->id) ? $channel->withFrozen(null) : $channel,
            $session->channels,
        ));
    }

    /**
     * The session with its files called otherwise, whose fresh freezes stay fresh: a hash is made of the names of files as well.
     *
     * @param  Session  $renamed  the session these hashes are of, with other names
     */
    public function kept(Session $renamed, ProcessorCatalogue $processors): Session
    {
        $now = $this->fresh === [] ? $this : self::of($this->thawed($renamed), $processors);

        return $this->fresh === [] ? $renamed : $renamed->withChannels(array_map(function (Channel $channel) use ($now): Channel {
            $frozen = $channel->frozen;

            return match ($frozen?->hash) {
                null => $channel,
                $this->ofFreeze($channel->id, true) => $channel->withFrozen($frozen->withFile($frozen->file, $now->ofFreeze($channel->id, true))),
                $this->ofFreeze($channel->id, false) => $channel->withFrozen($frozen->withFile($frozen->file, $now->ofFreeze($channel->id, false))),
                default => $channel,
            };
        }, $renamed->channels));
    }

    /** Whether the sound of a route is not heard where it leads. */
    public static function isSilent(Route $route, Session $session): bool
    {
        $from = $session->channel($route->from);
        $isAutomated = $route->send !== null && $from !== null && ControlCurves::isMoved($from, "send:{$route->send->id}");

        return $route->send !== null && (! $route->send->on || $route->performer === null || ($route->send->gain === null && ! $isAutomated));
    }

    private function has(string $channel, string $hash): bool
    {
        return $this->ofFreeze($channel, true) === $hash || $this->ofFreeze($channel, false) === $hash;
    }

    private static function hasSolos(Session $session): bool
    {
        return array_filter($session->channels, static fn (Channel $channel): bool => $channel->solo) !== [];
    }

    private static function withoutSolos(Session $session): Session
    {
        return $session->withChannels(array_map(static fn (Channel $channel): Channel => $channel->withSolo(false), $session->channels));
    }

    /** @return list<mixed> */
    private static function feed(Route $route, Session $session): array
    {
        $send = $route->send;
        if ($send === null) {
            return [];
        }
        $from = $session->channel($route->from);
        $lane = $from?->lane("send:{$send->id}");
        $moving = match (true) {
            $lane !== null => AutomationCodec::encode([$lane]),
            $from !== null && ControlCurves::isMoved($from, "send:{$send->id}") => self::hands($from),
            default => null,
        };

        return self::isSilent($route, $session) ? ['off'] : [
            $moving ?? $route->gain(), $send->pan, $route->tap === TapPoint::PostFader ? '' : $from?->width->value,
            ...($moving === null || $route->performer === 0.0 ? [] : [$route->performer]),
        ];
    }

    /** @return list<mixed> the hardware loops of a channel, as they are set; nothing where it has none */
    private static function loops(Session $session, Channel $channel): array
    {
        $used = $channel->loops();
        $loops = array_values(array_filter($session->loops, static fn (HardwareLoop $loop): bool => in_array($loop->id, $used, true)));

        return $loops === [] ? [] : [self::heard(LoopCodec::encode($loops))];
    }

    /**
     * @param  callable(AutomationLane): bool  $wanted
     * @return list<mixed> nothing where nothing moves
     */
    private static function lanes(Channel $channel, callable $wanted): array
    {
        $lanes = array_values(array_filter($channel->automation, $wanted));

        return $lanes === [] ? [] : [AutomationCodec::encode($lanes)];
    }

    /** @param  list<Insert>  $row */
    private static function isAbout(AutomationLane $lane, array $row): bool
    {
        return $lane->target->isOfInsert() && self::isIn($lane->target->part, $row);
    }

    /**
     * @param  ?string  $part  the id of an insert, or of a branch of one
     * @param  list<Insert>  $row
     */
    private static function isIn(?string $part, array $row): bool
    {
        foreach (Inserts::all($row) as $insert) {
            if ($insert->id() === $part || array_filter($insert->branches(), static fn (Branch $branch): bool => $branch->id === $part) !== []) {
                return true;
            }
        }

        return false;
    }

    /** @return list<mixed> the macros and sound switches of a channel with their lanes, where one is automated; otherwise nothing, as what they set says it all */
    private static function hands(Channel $channel): array
    {
        $lanes = array_values(array_filter($channel->automation, self::isOfHand(...)));

        return $lanes === [] ? [] : [[AutomationCodec::encode($lanes), self::heard(MacroCodec::encode($channel->macros)), self::heard(SoundCodec::encode($channel->sounds))]];
    }

    /** @return list<mixed> the notes that steer inserts of a channel, by insert; nothing where none do */
    private static function steering(Session $session, Channel $channel): array
    {
        $steering = [];
        foreach ($channel->allInserts() as $insert) {
            $source = $insert instanceof ProcessorInsert && $insert->notes !== null ? $session->channel($insert->notes)?->source : null;
            if ($source !== null) {
                $steering[$insert->id()] = SourceCodec::sourceToArray($source);
            }
        }

        return $steering === [] ? [] : [$steering];
    }

    private static function isOfHand(AutomationLane $lane): bool
    {
        return $lane->target->kind === AutomationKind::Macro || $lane->target->kind === AutomationKind::Sound;
    }

    /**
     * Returns a part of the document without names.
     *
     * @param  array<array-key, mixed>  $part
     * @return array<array-key, mixed>
     */
    private static function heard(array $part): array
    {
        unset($part['name'], $part['chosen'], $part['locked'], $part['other'], $part['preset'], $part['printedFrom'], $part['clipped'], $part['notes']);

        return array_map(static fn (mixed $value): mixed => is_array($value) ? self::heard($value) : $value, $part);
    }

    /** @param  array<array-key, mixed>  $content */
    private static function hashOf(array $content): string
    {
        return hash('xxh128', serialize([self::SOUND, $content]));
    }
}
