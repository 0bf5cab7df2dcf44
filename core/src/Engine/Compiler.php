<?php

declare(strict_types=1);

namespace Hafen\Engine;

use Closure;
use Hafen\Audio\UnreadableAudioFile;
use Hafen\Hardware\AudioInterface;
use Hafen\Processor\ParameterValues;
use Hafen\Processor\ProcessorCatalogue;
use Hafen\Processor\Setting;
use Hafen\Routing\Alignment;
use Hafen\Routing\Route;
use Hafen\Routing\SessionGraph;
use Hafen\Routing\SumBanks;
use Hafen\Routing\UnitPlaces;
use Hafen\Session\Automation\NoteSteering;
use Hafen\Session\Channel\Channel;
use Hafen\Session\Channel\ChannelKind;
use Hafen\Session\Channel\Frozen;
use Hafen\Session\Channel\TapPoint;
use Hafen\Session\Hardware\HardwareLoop;
use Hafen\Session\Insert\HardwareInsert;
use Hafen\Session\Insert\Insert;
use Hafen\Session\Insert\ProcessorInsert;
use Hafen\Session\Insert\Split;
use Hafen\Session\Session;
use Hafen\Session\Source\ClipSource;
use Hafen\Session\Source\LiveSource;
use Hafen\Session\Source\NoteSource;

/** Compiles a session into a plan, and reuses strips, feeds and inserts of the plan before. */
final readonly class Compiler
{
    /** What hardware loops send goes out here; null where there is no interface, or another engine sends. */
    public ?InterfaceBlocks $blocks;

    /**
     * @param  ?AudioInterface  $interface  live inputs come from, and hardware loops go through
     * @param  bool  $sends  false beside another engine: units are fed by that one, and both hear what comes back
     */
    public function __construct(private ProcessorCatalogue $processors, private AudioLibrary $library, private ?AudioInterface $interface = null, bool $sends = true)
    {
        $this->blocks = $interface !== null && $sends ? new InterfaceBlocks($interface) : null;
    }

    /** The same for an engine that runs beside another one. */
    public function beside(): self
    {
        return new self($this->processors, $this->library, $this->interface, false);
    }

    /**
     * The session as it is played: with what notes move as lanes, and through hardware as late as the buffer of the interface makes it,
     * whatever the loops were pinged with.
     */
    public function played(Session $session): Session
    {
        $session = NoteSteering::lanes($session);
        $buffer = $this->interface?->latency()->buffer;
        $loops = $buffer === null ? $session->loops : array_map(static fn (HardwareLoop $loop): HardwareLoop => $loop->atBuffer($buffer), $session->loops);

        return $loops === $session->loops ? $session : $session->withLoops($loops);
    }

    /**
     * @param  ?Excerpt  $excerpt  the part of the session that is wanted; all of it where it is left out
     * @param  Elsewhere  $elsewhere  what other processes work of it
     */
    public function compile(Session $session, ?Plan $before = null, ?Excerpt $excerpt = null, Elsewhere $elsewhere = new Elsewhere): Plan
    {
        $remote = $elsewhere->strips;
        if ($before !== null && ($before->session->sampleRate !== $session->sampleRate || $before->session->tempo !== $session->tempo)) {
            $before = null;
        }
        $routes = SessionGraph::routes($session);
        $banks = SessionGraph::sumBanks($session);
        $audibility = SessionGraph::audibility($session);
        $alignment = SessionGraph::alignment($session, $this->processors);
        $setting = new Setting($session->sampleRate, $session->tempo, new LibraryAudioFiles($this->library));
        $known = null;
        $strips = $feeds = $unplayable = [];
        foreach ($routes->order() as $id) {
            $channel = $session->channel($id);
            assert($channel !== null);
            if (($excerpt !== null && ! $excerpt->has($id)) || isset($remote[$id])) {
                continue;
            }
            $replays = $excerpt->replays[$id] ?? [];
            $strips[$id] = $replays === [] ? $this->strip($channel, $session, $before) : self::replayed($id, $session, $replays);
            $rowLatency = $alignment->row[$id];
            $atFader = $alignment->arrival[$id] + $rowLatency;
            $frozen = match (true) {
                $replays !== [] => null,
                $channel->off => FrozenAudio::silence(),
                $channel->frozen !== null => $this->frozen($channel->frozen, $strips[$id]->frozen(), $session->sampleRate, $unplayable[$id]),
                default => null,
            };
            $frozen?->comesLate($atFader);
            $strips[$id]->freeze($frozen, $rowLatency);
            $strips[$id]->input->wait($alignment->arrival[$id]);
            $sidechains = [];
            foreach ($routes->sidechainsInto($id) as $route) {
                // Replayed channels need no sidechain feeds for the inserts before their fader.
                if (isset(($strips + $remote)[$route->from]) && $route->insert !== null) {
                    $sidechains[$route->insert] = $route;
                }
            }
            $listening = function (ProcessorInsert $insert, int $inputLatency) use ($sidechains, $session, $alignment, $strips, $remote, $before, $id, &$feeds): ?Feed {
                $route = $sidechains[$insert->id] ?? null;
                if ($route === null) {
                    return null;
                }
                // Aligns the sidechain with the insert's own input.
                $feed = $this->feed($route, $session, $alignment, $strips + $remote, $before, $inputLatency - $alignment->arrival[$id]);

                return $feeds[$route->id()] = $feed;
            };
            $isWhole = $replays === [] && $frozen === null && $routes->sidechainsInto($id) === [] && ! self::followsNotes($channel);
            if (! $isWhole || ! $strips[$id]->hasRowsOf($channel, $alignment->arrival[$id])) {
                $known ??= self::runners($before);
                $was = $before?->session->channel($id);
                $fade = $was === null ? null : $channel->soundFade($was);
                $strips[$id]->setRows(
                    $replays === [] && $frozen === null ? $this->row($channel->inserts, $channel, $session, $known, $setting, $alignment->arrival[$id], $listening, $fade) : [],
                    $this->row($channel->postInserts, $channel, $session, $known, $setting, $atFader, $listening, $fade),
                    $isWhole ? $channel : null,
                    $alignment->arrival[$id],
                );
            }
            $strips[$id]->configure($channel, $session->panLaw, $audibility->has($id), $atFader);
            if ($before?->strip($id) !== $strips[$id]) {
                $strips[$id]->settle();
                if ($before?->strip($id) !== null) {
                    // Its inserts still hold what it played before.
                    $strips[$id]->reset();
                }
                // It sounded otherwise before, and was faded out.
                if (isset($before->remote[$id]) || $before?->strip($id) !== null) {
                    $strips[$id]->startClosed();
                }
            }
            $input = $excerpt->inputs[$id] ?? null;
            $into = array_filter(
                $replays === [] || $input !== null ? $routes->into($id) : [],
                static fn (Route $route): bool => ! $elsewhere->hasSummed($id, $banks->bank($route->from)) && ($input === null || $input->sums($route)),
            );
            $fed = $this->feeds($into, $session, $alignment, $strips + $remote, $before);
            $sum = PartialSum::of(self::inBanks($fed, $banks), $elsewhere->sumsInto($id));
            $strips[$id]->input->feedBy(
                array_values($fed),
                $input === null ? $sum : $input->with($sum),
                array_map(static fn (Route $route): string => $route->from, $routes->into($id)),
                $channel->source->tapped() !== null && $input === null,
            );
            $feeds += $fed;
        }
        $sums = [];
        foreach ($excerpt->sums ?? [] as $key) {
            $from = array_filter($routes->into($key->bus), static fn (Route $route): bool => $key->has($banks->bank($route->from)));
            $fed = $this->feeds($from, $session, $alignment, $strips, $before);
            $sum = PartialSum::of(self::inBanks($fed, $banks), [], $key->first, $key->count);
            $sums += $sum === null ? [] : [$key->id() => $sum];
            $feeds += $fed;
        }

        return new Plan($session, $strips, $feeds, $alignment, $remote, $sums, array_filter($unplayable, is_string(...)), UnitPlaces::among($session, $strips) ? $this->blocks : null);
    }

    /**
     * Returns the latency at each channel's input, in samples.
     *
     * @return array<string, int> by channel id
     */
    public function arrivals(Session $session): array
    {
        return SessionGraph::alignment($session, $this->processors)->arrival;
    }

    /** Whether notes of another channel steer one of its inserts. */
    private static function followsNotes(Channel $channel): bool
    {
        foreach ($channel->allInserts() as $insert) {
            if ($insert instanceof ProcessorInsert && $insert->notes !== null) {
                return true;
            }
        }

        return false;
    }

    /** @return array<string, InsertRunner> of all channels, as an insert may have been moved to another; by the stage after each */
    private static function runners(?Plan $plan): array
    {
        $runners = [];
        foreach ($plan->strips ?? [] as $strip) {
            $runners += $strip->runners();
        }

        return $runners;
    }

    /** @param  array<string, Replay>  $replays  by stage */
    private static function replayed(string $channel, Session $session, array $replays): ChannelStrip
    {
        $strip = new ChannelStrip($channel, new StripInput(null), $session->sampleRate);
        $strip->replay($replays);

        return $strip;
    }

    /**
     * The file a frozen channel plays; null where it cannot be played: then the channel plays live.
     *
     * @param  ?string  $problem  set to why it cannot be played
     */
    private function frozen(Frozen $frozen, ?FrozenAudio $before, int $sampleRate, ?string &$problem): ?FrozenAudio
    {
        if ($before?->file === $frozen->file) {
            return $before;
        }
        try {
            return FrozenAudio::open($this->library, $frozen->file, $sampleRate);
        } catch (UnreadableAudioFile $missing) {
            $problem = $missing->getMessage();

            return null;
        }
    }

    private function strip(Channel $channel, Session $session, ?Plan $before): ChannelStrip
    {
        $known = $before?->strip($channel->id);
        $hasClips = $channel->source instanceof ClipSource;
        $port = $channel->source instanceof LiveSource ? $channel->source->port : null;
        $notes = $channel->source instanceof NoteSource ? $channel->source : null;
        if ($known !== null && (($known->input->clips !== null) !== $hasClips || ($known->input->notes !== null) !== ($notes !== null) || $known->input->live?->port !== $port)) {
            $known = null;
        }
        $strip = $known ?? new ChannelStrip(
            $channel->id,
            new StripInput($hasClips ? new ClipPlayer($this->library, $session->sampleRate) : null, $port === null ? null : new LivePlayer($this->interface, $port), $channel->kind === ChannelKind::Cue ? new ClickPlayer($session->sampleRate, $session->tempo) : null, $notes === null ? null : new NotePlayer($session->sampleRate)),
            $session->sampleRate,
        );
        $strip->input->click($channel->click);
        $strip->input->clips?->set($channel->source->clips(), $channel->width);
        $strip->input->notes?->set($notes->notes ?? [], $session->tempo);

        return $strip;
    }

    /**
     * @param  array<Route>  $routes  into one channel
     * @param  array<string, Strip>  $strips  that come before it
     * @return array<string, Feed> by route key, in an order that is the same however the channels stand in the session
     */
    private function feeds(array $routes, Session $session, Alignment $alignment, array $strips, ?Plan $before): array
    {
        $feeds = [];
        foreach ($routes as $route) {
            $feeds[$route->id()] = $this->feed($route, $session, $alignment, $strips, $before);
        }
        ksort($feeds, SORT_STRING);

        return $feeds;
    }

    /**
     * @param  array<string, Feed>  $feeds
     * @return array<int, list<Feed>> by bank
     */
    private static function inBanks(array $feeds, SumBanks $banks): array
    {
        $inBanks = [];
        foreach ($feeds as $feed) {
            $inBanks[$banks->bank($feed->from())][] = $feed;
        }

        return $inBanks;
    }

    /**
     * @param  array<string, Strip>  $strips
     * @param  int  $further  samples it is delayed beside what lines it up where it enters
     */
    private function feed(Route $route, Session $session, Alignment $alignment, array $strips, ?Plan $before, int $further = 0): Feed
    {
        $from = $session->channel($route->from);
        assert($from !== null);
        $feed = $before->feeds[$route->id()] ?? new Feed($session->sampleRate);
        $inputLatency = $alignment->arrival[$route->from] + match ($route->tap) {
            TapPoint::Source => 0,
            TapPoint::PreFader => $alignment->row[$route->from],
            TapPoint::PostFader => $alignment->own[$route->from],
        };
        $feed->configure($route, $strips[$route->from], $from, $session->panLaw, $alignment->delay($route) + $further, $inputLatency);
        if ($before === null) {
            $feed->settle();
        }

        return $feed;
    }

    /**
     * @param  list<Insert>  $inserts
     * @param  array<string, InsertRunner>  $known  that were there before, by the stage after each
     * @param  int  $inputLatency  samples by which sound comes late to the row
     * @param  Closure(ProcessorInsert, int): ?Feed  $listening  what an insert listens to, so late
     * @param  ?float  $fade  ms in which changed values are reached; null is the usual time
     * @return list<InsertRunner>
     */
    private function row(array $inserts, Channel $channel, Session $session, array $known, Setting $setting, int $inputLatency, Closure $listening, ?float $fade): array
    {
        $runners = [];
        foreach ($inserts as $insert) {
            $runners[] = $runner = match (true) {
                $insert instanceof Split => $this->split($insert, $channel, $session, $known, $setting, $inputLatency, $listening, $fade),
                $insert instanceof HardwareInsert => $this->hardware($insert, $channel, $session, $known, $inputLatency, $fade),
                default => $this->runner($insert, $channel, $session, $known, $setting, $inputLatency, $listening, $fade),
            };
            $inputLatency += $runner->latency();
        }

        return $runners;
    }

    /**
     * @param  array<string, InsertRunner>  $known
     * @param  Closure(ProcessorInsert, int): ?Feed  $listening
     */
    private function split(Split $split, Channel $channel, Session $session, array $known, Setting $setting, int $inputLatency, Closure $listening, ?float $fade): SplitRunner
    {
        $runners = [];
        foreach ($split->branches as $branch) {
            $runners[$branch->id] = $this->row($branch->inserts, $channel, $session, $known, $setting, $inputLatency, $listening, $fade);
        }
        $runner = $known["insert:{$split->id}"] ?? null;
        if (! $runner instanceof SplitRunner) {
            $runner = new SplitRunner($split->id, $setting->sampleRate);
        }
        $runner->configure($split, $channel, $runners, $inputLatency, $fade);

        return $runner;
    }

    /** @param  array<string, InsertRunner>  $known */
    private function hardware(HardwareInsert $insert, Channel $channel, Session $session, array $known, int $inputLatency, ?float $fade): HardwareRunner
    {
        $loop = $session->loop($insert->loop);
        assert($loop !== null);
        $runner = $known["insert:{$insert->id}"] ?? null;
        if (! $runner instanceof HardwareRunner || ! $runner->returnsAt($loop->return)) {
            $runner = new HardwareRunner($insert->id, $loop, new LivePlayer($this->interface, $loop->return), $this->blocks, $session->sampleRate);
        }
        $runner->configure($insert, $loop, $channel, $inputLatency, $fade);

        return $runner;
    }

    /**
     * @param  array<string, InsertRunner>  $known
     * @param  Closure(ProcessorInsert, int): ?Feed  $listening
     */
    private function runner(Insert $insert, Channel $channel, Session $session, array $known, Setting $setting, int $inputLatency, Closure $listening, ?float $fade): ProcessorRunner
    {
        assert($insert instanceof ProcessorInsert);
        $runner = $known["insert:{$insert->id}"] ?? null;
        if (! $runner instanceof ProcessorRunner || $runner->processorId !== $insert->processor) {
            $spec = $this->processors->spec($insert->processor);
            $runner = new ProcessorRunner(
                $insert->id,
                $insert->processor,
                $spec,
                $this->processors->make($insert->processor, $insert->parameters, $setting),
                ParameterValues::of($spec, $insert->parameters),
                $setting->sampleRate,
            );
        }
        $runner->configure($insert, $channel, $inputLatency, $fade);
        $runner->listenTo($listening($insert, $inputLatency));
        $followed = $insert->notes === null ? null : $session->channel($insert->notes)?->source;
        $followed instanceof NoteSource ? $runner->followNotes($insert->notes, $followed->notes, $session->tempo) : $runner->followNotes(null, [], $session->tempo);

        return $runner;
    }
}
