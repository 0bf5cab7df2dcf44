<?php

declare(strict_types=1);

namespace App\Sessions;

use App\Models\DismissedAdvice;
use App\Models\Revision;
use App\Models\StoredSession;
use App\Presets\PresetShelf;
use App\Takes\TakeKeeper;
use Hafen\Document\AutomationCodec;
use Hafen\Document\ContentHashes;
use Hafen\Document\SessionCodec;
use Hafen\Edit\Channel\PerformerFader;
use Hafen\Edit\Insert\UsualMix;
use Hafen\Engine\Monitoring;
use Hafen\Pilot\Advice;
use Hafen\Pilot\Pilot;
use Hafen\Preset\Preset;
use Hafen\Processor\ProcessorCatalogue;
use Hafen\Routing\BranchSum;
use Hafen\Routing\Comb;
use Hafen\Routing\Combs;
use Hafen\Routing\LivePath;
use Hafen\Routing\NoteReach;
use Hafen\Routing\QuickMonitoring;
use Hafen\Routing\RowLatency;
use Hafen\Routing\SessionGraph;
use Hafen\Routing\StereoStages;
use Hafen\Routing\UnitPlaces;
use Hafen\Session\Automation\NoteSteering;
use Hafen\Session\Channel\Channel;
use Hafen\Session\Channel\ChannelKind;
use Hafen\Session\Channel\InterfacePorts;
use Hafen\Session\Insert\Branch;
use Hafen\Session\Insert\HardwareInsert;
use Hafen\Session\Insert\ProcessorInsert;
use Hafen\Session\Insert\Selector;
use Hafen\Session\Insert\SelectorRange;
use Hafen\Session\Insert\Split;
use Hafen\Session\Session;
use Hafen\Session\Source\ClipSource;
use Hafen\Survey\SurveyMap;
use Hafen\Survey\SurveyResult;
use Hafen\Survey\SurveyStore;

/** A session as the browser gets it: the document, and what follows from it by rules that are PHP's. */
final readonly class SessionState
{
    /** Steps between 0 and 1 at which the openings of branches are told. */
    private const PLACES = 100;

    public function __construct(private SessionBook $book, private SessionCodec $codec, private ProcessorCatalogue $processors, private SurveyStore $surveys, private EngineFactory $engines, private PresetShelf $presets, private TakeKeeper $takes, private MacroFacts $macros)
    {
    }

    /** @return array<string, mixed> */
    public function of(StoredSession $stored): array
    {
        $session = $this->book->open($stored);
        $parent = $stored->head->parent_id !== null;
        $alignment = SessionGraph::alignment($session, $this->processors);

        return [
            'id' => $stored->id,
            'change' => $stored->change,
            'notice' => $stored->notice,
            'revision' => $stored->head->id,
            'document' => $this->codec->toArray($session),
            'undo' => $parent ? $stored->head->label : null,
            'redo' => $this->book->next($stored)?->label,
            'inserts' => (object) $this->inserts($session),
            'audible' => (object) $this->audible($session),
            'stereo' => (object) $this->stereo($session),
            'latency' => [
                'channels' => (object) $alignment->own,
                'arrival' => (object) $alignment->arrival,
                'session' => $alignment->session,
            ],
            'combs' => array_map(static fn (Comb $comb): array => [
                'channel' => $comb->channel,
                'where' => $comb->where,
                'split' => $comb->split,
                'samples' => $comb->samples,
                'notch' => $comb->firstNotch(),
            ], Combs::of($session, $this->processors, $alignment)),
            ...$this->routing($session),
            'frozen' => (object) $this->frozen($session),
            'outputPairs' => InterfacePorts::pairs(),
            'inputs' => InterfacePorts::inputs(),
            'live' => (object) $this->live($session),
            'hardware' => $this->hardware($session),
            'performers' => (object) $this->performers($session),
            'macros' => (object) $this->macros->of($session),
            'sounds' => (object) $this->macros->ofSounds($session),
            'steered' => (object) self::steered($session),
            'recorded' => $this->takes->waiting($stored->id),
            'pilot' => $this->pilot($stored, $session),
        ];
    }

    /** @return array<string, array<string, mixed>> lanes that notes make of selectors and sound switches, by target */
    private static function steered(Session $session): array
    {
        $steered = [];
        foreach (array_merge(...array_values(NoteSteering::of($session))) as $lane) {
            $steered[$lane->target->text()] = AutomationCodec::encode([$lane])[0];
        }

        return $steered;
    }

    /** @return array<string, list<array{part: string, name: string, gain: ?float}>> of cues, what their performers put on top of the sends in dB, by channel id */
    private function performers(Session $session): array
    {
        $performers = [];
        foreach ($session->channels as $cue) {
            if ($cue->kind === ChannelKind::Cue) {
                $parts = array_filter(PerformerFader::of($cue), static fn (PerformerFader $fader): bool => $fader->part() !== null);
                $performers[$cue->id] = array_values(array_map(static fn (PerformerFader $fader): array => ['part' => $fader->value, 'name' => $fader->label($cue), 'gain' => $fader->gain($cue)], $parts));
            }
        }

        return $performers;
    }

    /** @return list<array<string, mixed>> the newest first */
    public function revisions(StoredSession $stored): array
    {
        return array_values($stored->revisions()->orderByDesc('id')->limit(200)->get(['id', 'parent_id', 'label', 'created_at'])->map(
            static fn (Revision $revision): array => [
                'id' => $revision->id,
                'parent' => $revision->parent_id,
                'label' => $revision->label,
                'at' => $revision->created_at->toIso8601String(),
                'current' => $revision->id === $stored->head_id,
            ],
        )->all());
    }

    /** @return array<string, array{stale: bool, playable: bool}> by id of frozen channels; one that is not playable plays itself */
    private function frozen(Session $session): array
    {
        $hashes = ContentHashes::of($session, $this->processors);
        $files = $this->engines->audioFiles($session->sampleRate);
        $frozen = [];
        foreach ($session->channels as $channel) {
            if ($channel->frozen !== null) {
                $frozen[$channel->id] = ['stale' => ! $hashes->isFresh($channel->id), 'playable' => $files->has($channel->frozen->file)];
            }
        }

        return $frozen;
    }

    /**
     * When each track's input is heard, how late it comes to the main's output, by channel on the way; and so without the inserts that make it later than a delay.
     *
     * @return array<string, array{heard: string, path: list<array{channel: string, samples: int}>, quick: list<array{delay: float, sleeping: list<string>, path: list<array{channel: string, samples: int}>}>}> by id of the track
     */
    private function live(Session $session): array
    {
        $live = [];
        foreach ($session->channels as $channel) {
            if ($channel->source instanceof ClipSource && $channel->source->input !== null) {
                $live[$channel->id] = [
                    'heard' => match (true) {
                        Monitoring::isHeard($channel, false) => 'always',
                        Monitoring::isHeard($channel, true) => 'armed',
                        default => 'off',
                    },
                    'path' => LivePath::of($session, $this->processors, $channel->id),
                    'quick' => array_map(function (float $delay) use ($session, $channel): array {
                        $quick = new QuickMonitoring($this->processors, $delay);

                        return ['delay' => $delay, 'sleeping' => $quick->sleeping($session, $channel), 'path' => LivePath::of($session, $this->processors, $channel->id, $quick)];
                    }, QuickMonitoring::DELAYS),
                ];
            }
        }

        return $live;
    }

    /** @return array{seconds: float, channels: list<string>} how long what goes through units of outboard takes, and the channels whose sound does */
    private function hardware(Session $session): array
    {
        $routes = SessionGraph::routes($session);
        $through = array_map(static fn (array $place): string => $place[0]->id, UnitPlaces::of($session));
        $channels = $through === [] ? [] : array_filter($session->channels, static fn (Channel $channel): bool => array_intersect([$channel->id, ...$routes->needed($channel->id)], $through) !== []);

        return ['seconds' => round($session->length / $session->sampleRate, 1), 'channels' => array_values(array_map(static fn (Channel $channel): string => $channel->id, $channels))];
    }

    /** @return array<string, array<string, mixed>> by insert id */
    private function inserts(Session $session): array
    {
        $latency = new RowLatency($this->processors, $session);
        $reach = new NoteReach($this->processors);
        $inserts = [];
        $presets = $this->presets->byProcessor();
        foreach ($session->channels as $channel) {
            $played = $reach->splits($channel);
            foreach ($channel->allInserts() as $insert) {
                if ($insert instanceof Split) {
                    $isPlayed = in_array($insert->id, $played, true);
                    $sum = BranchSum::of($insert, $isPlayed);
                    $inserts[$insert->id] = [
                        'label' => 'Split '.count($insert->branches),
                        'latency' => $latency->insert($insert),
                        'rise' => $sum->rise,
                        'equal' => $sum->equal,
                        'heard' => array_values(array_map(
                            static fn (Branch $branch): string => $branch->id,
                            array_filter($insert->branches, $insert->isHeard(...)),
                        )),
                        ...($isPlayed ? ['notes' => true] : []),
                        ...($insert->selector === null ? [] : ['openings' => array_map(
                            static fn (Branch $branch): array => self::openings($insert->selector, $branch->range),
                            $insert->branches,
                        )]),
                    ];
                } elseif ($insert instanceof HardwareInsert) {
                    $inserts[$insert->id] = ['label' => $session->loop($insert->loop)->name ?? '', 'latency' => $latency->insert($insert)];
                } elseif ($insert instanceof ProcessorInsert) {
                    $inserts[$insert->id] = [
                        'label' => $this->processors->label($insert->processor, $insert->parameters),
                        'chip' => $this->processors->chip($insert->processor, $insert->parameters),
                        'presets' => $this->matching($presets[$insert->processor] ?? [], $insert),
                        'usualMix' => UsualMix::of($this->processors->spec($insert->processor), $channel, ! in_array($insert, [...$channel->inserts, ...$channel->postInserts], true)),
                        'latency' => $latency->insert($insert),
                    ];
                }
            }
        }

        return $inserts;
    }

    /** @return list<float> how far a branch is open at places evenly from 0 to 1 */
    private static function openings(Selector $selector, ?SelectorRange $range): array
    {
        return array_map(static fn (int $place): float => $range === null ? 1.0 : round($range->gain($place / self::PLACES, $selector->fade), 3), range(0, self::PLACES));
    }

    /**
     * @param  list<Preset>  $presets  of its processor
     * @return list<string> names of those whose setting the insert has
     */
    private function matching(array $presets, ProcessorInsert $insert): array
    {
        $spec = $this->processors->spec($insert->processor);
        $plain = new Preset($insert->processor, 'Default', '', []);

        return array_values(array_map(
            static fn (Preset $preset): string => $preset->name,
            array_filter([$plain, ...$presets], static fn (Preset $preset): bool => $preset->matches($spec, $insert->parameters, $insert->locked)),
        ));
    }

    /** @return list<array<string, mixed>> the Pilot's advice, from what is known of the sound */
    public function advice(StoredSession $stored): array
    {
        return $this->pilot($stored, $this->book->open($stored));
    }

    /** @return list<array<string, mixed>> */
    private function pilot(StoredSession $stored, Session $session): array
    {
        $known = SurveyResult::of($session, SurveyMap::of($session, $this->processors), $this->surveys);
        $dismissed = DismissedAdvice::query()->where('session_id', $stored->id)->pluck('advice')->all();

        return array_map(
            static fn (Advice $advice): array => [...$advice->toArray(), 'dismissed' => in_array($advice->id(), $dismissed, true)],
            Pilot::standard()->advice($session, $this->processors, $known, $this->engines->audioFiles($session->sampleRate)),
        );
    }

    /** @return array<string, mixed> what is whose path, and where sound from a channel would come back to it */
    private function routing(Session $session): array
    {
        $routes = SessionGraph::routes($session);
        $paths = $loops = [];
        foreach ($session->channels as $channel) {
            $upstream = $routes->upstream($channel->id);
            $paths[$channel->id] = [$channel->id, ...$upstream, ...$routes->downstream($channel->id)];
            $loops[$channel->id] = [$channel->id, ...$upstream];
        }

        return ['paths' => (object) $paths, 'loops' => (object) $loops];
    }

    /** @return array<string, bool> whether sound is stereo, by tap */
    private function stereo(Session $session): array
    {
        $stereo = [];
        foreach ($session->channels as $channel) {
            foreach (StereoStages::of($channel, $this->processors)->all() as $stage => $isStereo) {
                $stereo["{$channel->id}:{$stage}"] = $isStereo;
            }
        }

        return $stereo;
    }

    /** @return array<string, bool> by channel id */
    private function audible(Session $session): array
    {
        $audibility = SessionGraph::audibility($session);
        $audible = [];
        foreach ($session->channels as $channel) {
            $audible[$channel->id] = $audibility->has($channel->id) && ! $channel->off;
        }

        return $audible;
    }
}
