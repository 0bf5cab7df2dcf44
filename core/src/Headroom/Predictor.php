<?php

declare(strict_types=1);

namespace Hafen\Headroom;

use Hafen\Document\SessionCodec;
use Hafen\Edit\Json\EditCodec;
use Hafen\Edit\Json\EditRequest;
use Hafen\Edit\Several;
use Hafen\Engine\AudioLibrary;
use Hafen\Engine\Compiler;
use Hafen\Engine\Replay;
use Hafen\Engine\Tap;
use Hafen\Headroom\Rework\Remeasured;
use Hafen\Headroom\Rework\Remeasurement;
use Hafen\Metering\TapReading;
use Hafen\Processor\ProcessorCatalogue;
use Hafen\Processor\Setting;
use Hafen\Routing\RowLatency;
use Hafen\Routing\SessionGraph;
use Hafen\Session\Channel\ChannelKind;
use Hafen\Session\Insert\ProcessorInsert;
use Hafen\Session\Session;
use Hafen\Survey\PartRunner;
use Hafen\Survey\Section;
use Hafen\Survey\SessionSurvey;
use Hafen\Survey\SurveyMap;
use Hafen\Survey\SurveyStore;
use Hafen\Survey\TimeRange;

/**
 * Finds out what remedies would do by measuring the session they would make, and how much of them reaches an aim.
 *
 * An amount is looked for around the loudest moment, which takes a second or two, and then proved over the whole length, where
 * another moment may have become the loudest.
 */
final readonly class Predictor
{
    /** dB within which an aim is reached. */
    public const TOLERANCE = 0.05;

    private const MOST_TRIES = 5;

    /** Seconds around the loudest moment, and that run before them. */
    private const AROUND = 0.75;

    private const RUN_IN = 1.5;

    /** dB of level that a dB of amount is taken to bring, at least and at most. */
    private const LEAST_EFFECT = 0.25;

    private const MOST_EFFECT = 1.5;

    /** dB beyond which no more of a remedy is tried. */
    private const MOST_AMOUNT = 48.0;

    private SessionSurvey $survey;

    private EditCodec $edits;

    private Remeasurement $passage;

    private Remeasurement $whole;

    /** @param  ?SurveyStore  $passages  where recordings around the loudest moment are kept for other predictions; with the others where it is left out */
    public function __construct(private ProcessorCatalogue $processors, AudioLibrary $library, private SurveyStore $store, ?SurveyStore $passages = null)
    {
        $this->survey = new SessionSurvey($processors, $library, $store);
        $compiler = new Compiler($processors, $library);
        $this->passage = new Remeasurement($compiler, $processors, $passages ?? $store);
        $this->whole = new Remeasurement($compiler, $processors, $store);
        $this->edits = new EditCodec($processors, new SessionCodec($processors));
    }

    /**
     * @param  non-empty-list<Remedy>  $remedies  in the order they are made
     * @param  array<string, float>  $amounts  dB of those that were set by hand, by remedy id
     * @param  bool  $compensate  has level-dependent inserts do what they did
     * @param  ?float  $amount  dB in all that an earlier preview found (0 where the remedies have none), to prove without another; one is looked for where it is left out
     * @param  ?callable(Prediction): bool  $preview  gets what is found around the loudest moment; false stops
     * @param  ?callable(int, int): bool  $progress  of what is measured; false stops
     * @return ?Prediction null when stopped, or when none of the remedies has anything to do
     */
    public function predict(Situation $situation, array $remedies, array $amounts = [], bool $compensate = false, ?float $amount = null, ?callable $preview = null, ?callable $progress = null): ?Prediction
    {
        $before = Levels::of($situation->survey);
        $excess = $situation->aim->excess($before);
        if ($excess === null || $situation->survey->loudest() === null) {
            return null;
        }
        $reference = $compensate ? $this->passage->record($situation->session, $this->around($situation), $progress) : null;
        if ($compensate && $reference === null) {
            return null;
        }
        $free = count(array_filter($remedies, static fn (Remedy $remedy): bool => $remedy->hasAmount() && ! isset($amounts[$remedy->id()])));
        $attempt = $this->attempt($situation, $remedies, $amounts, $free === 0 ? 0.0 : ($amount === null || $amount === 0.0 ? $excess : $amount), $free, $reference);
        if ($attempt === null) {
            return null;
        }
        if ($situation->aim->figure !== AimFigure::Loudness && $amount === null) {
            $attempt = $this->previewed($situation, $remedies, $amounts, $free, $reference, $attempt, $progress);
            if ($attempt === null || ($preview !== null && ! $preview($this->prediction($situation, $attempt, $before)))) {
                return null;
            }
        }
        $range = TimeRange::all($situation->session);
        $attempt = $this->solve($situation, $remedies, $amounts, $free, $reference, $attempt, function (Attempt $attempt) use ($situation, $range, $progress): ?Attempt {
            // What was recorded when the session was measured may be gone by now.
            $recordings = $this->whole->rework($situation->session, $attempt->session, $range, true, true)->recordings();
            if ($this->survey->measure($situation->session, null, $progress, $recordings) === null) {
                return null;
            }
            $measured = $this->whole->of($situation->session, $attempt->session, $range, true, $progress);

            return $measured === null ? null : $attempt->measured($measured->levels, $measured);
        });
        if ($attempt === null) {
            return null;
        }

        return $this->prediction($situation, $attempt, $before, $progress);
    }

    /**
     * Looks for the amount around the loudest moment.
     *
     * @param  non-empty-list<Remedy>  $remedies
     * @param  array<string, float>  $amounts
     * @param  ?callable(int, int): bool  $progress
     * @return ?Attempt null when stopped
     */
    private function previewed(Situation $situation, array $remedies, array $amounts, int $free, ?Remeasured $reference, Attempt $attempt, ?callable $progress): ?Attempt
    {
        $range = $this->around($situation);
        // Once, for all that is tried.
        if (! $this->passage->isRecorded($situation->session, $range) && $this->passage->record($situation->session, $range, $progress) === null) {
            return null;
        }

        return $this->solve($situation, $remedies, $amounts, $free, $reference, $attempt, function (Attempt $attempt) use ($situation, $range, $progress): ?Attempt {
            $measured = $this->passage->of($situation->session, $attempt->session, $range, false, $progress);

            return $measured === null ? null : $attempt->measured($measured->levels);
        });
    }

    /**
     * Moves the amount until the aim is reached, or as near as it goes.
     *
     * @param  non-empty-list<Remedy>  $remedies
     * @param  array<string, float>  $amounts
     * @param  ?Remeasured  $reference  the session as it is around the loudest moment, where level-dependent inserts are to do what they did
     * @param  callable(Attempt): ?Attempt  $measured  measures one; null when stopped
     */
    private function solve(Situation $situation, array $remedies, array $amounts, int $free, ?Remeasured $reference, Attempt $attempt, callable $measured): ?Attempt
    {
        $best = $attempt;
        $nearest = INF;
        $before = null;
        for ($try = 0; $try < self::MOST_TRIES; ++$try) {
            $attempt = $measured($attempt);
            if ($attempt?->levels === null) {
                return null;
            }
            $off = $situation->aim->excess($attempt->levels);
            if ($off === null) {
                return $attempt;
            }
            if (abs($off) < $nearest) {
                $nearest = abs($off);
                $best = $attempt;
            }
            if ($free === 0 || abs($off) <= self::TOLERANCE) {
                break;
            }
            // One dB of amount is about one dB of level; where it was less, the next try goes by what the last brought.
            $effect = $before === null || abs($attempt->amount - $before[0]) < self::TOLERANCE ? 1.0 : ($before[1] - $off) / ($attempt->amount - $before[0]);
            $before = [$attempt->amount, $off];
            $amount = $attempt->amount + $off / max(self::LEAST_EFFECT, min(self::MOST_EFFECT, $effect));
            $next = $this->attempt($situation, $remedies, $amounts, max(-self::MOST_AMOUNT, min(self::MOST_AMOUNT, $amount)), $free, $reference);
            if ($next === null || $next->edits == $attempt->edits) {
                break;
            }
            $attempt = $next;
        }

        return $best;
    }

    /**
     * @param  non-empty-list<Remedy>  $remedies
     * @param  array<string, float>  $amounts
     */
    private function attempt(Situation $situation, array $remedies, array $amounts, float $amount, int $free, ?Remeasured $reference): ?Attempt
    {
        $session = $situation->session;
        $labels = $edits = $facts = [];
        foreach ($remedies as $remedy) {
            $share = $amounts[$remedy->id()] ?? ($free > 0 ? $amount / $free : 0.0);
            $proposal = $remedy->propose($situation->withSession($session), round($share, 2));
            if ($proposal === null) {
                continue;
            }
            $session = $this->edited($session, $proposal->edits);
            $labels[] = $proposal->label;
            array_push($edits, ...$proposal->edits);
            array_push($facts, ...$proposal->facts);
        }
        if ($edits === []) {
            return null;
        }
        $attempt = new Attempt($session, $labels, $edits, $facts, $amount);

        return $reference === null ? $attempt : $this->compensated($situation, $attempt, $reference);
    }

    /** Has level-dependent inserts do what they did; as one changes what the next is fed, a few rounds of it. */
    private function compensated(Situation $situation, Attempt $plain, Remeasured $reference): Attempt
    {
        $range = $this->around($situation);
        $attempt = $plain;
        for ($round = 0; $round < 4; ++$round) {
            $now = $this->passage->of($situation->session, $attempt->session, $range, true);
            assert($now !== null);
            $compensating = [];
            foreach ($this->fed($situation, $attempt->session, $reference->taps, $now) as $fed) {
                $location = $situation->session->locate($fed->insert);
                if ($location?->insert instanceof ProcessorInsert) {
                    $edit = Compensation::edit($location->insert, $situation->spec($location->insert), $fed->by);
                    if ($edit !== null) {
                        $compensating[] = $edit;
                    }
                }
            }
            if ($compensating === $attempt->compensating) {
                break;
            }
            $attempt = $plain->compensatedBy($compensating, $this->edited($plain->session, $compensating));
        }

        return $attempt;
    }

    /** @param  ?callable(int, int): bool  $progress */
    private function prediction(Situation $situation, Attempt $attempt, Levels $before, ?callable $progress = null): Prediction
    {
        $proof = $attempt->proof;
        $after = $attempt->levels;
        assert($after !== null);
        $off = $situation->aim->excess($after);
        $taps = $situation->survey->taps;

        return new Prediction(
            $attempt->labels,
            $attempt->amount === 0.0 ? null : $attempt->amount,
            [...$attempt->edits, ...$attempt->compensating],
            $proof !== null,
            $before,
            $after,
            $off === null || $off <= self::TOLERANCE,
            $attempt->facts,
            $proof !== null ? $this->fed($situation, $attempt->session, $taps, $proof) : [],
            count($attempt->compensating),
            $proof !== null ? $this->entering($situation, $proof) : [],
            $proof !== null ? $this->tone($situation->session, $attempt->session, $proof, $progress) : null,
            $proof !== null ? $this->reductions($situation->session, $attempt->session, $proof) : [],
        );
    }

    /**
     * @param  array<string, TapReading>  $was  readings of the session as it is, by tap key
     * @return list<FedDifferently> level-dependent inserts at work that are fed a tenth of a dB or more differently
     */
    private function fed(Situation $situation, Session $after, array $was, Remeasured $is): array
    {
        $fed = [];
        foreach ($situation->session->channels as $channel) {
            $taps = InputTaps::of($channel);
            $now = InputTaps::of($after->channel($channel->id) ?? $channel);
            foreach ($channel->insertsOn ? $taps : [] as $id => [$insert, $tap]) {
                $one = ($was[InputTaps::heard($insert, $tap)] ?? null)?->rmsLevel();
                $two = $is->rmsLevel(InputTaps::heard($insert, $now[$id][1] ?? ''), $was);
                if ($insert->on && $insert->mix > 0.0 && $situation->spec($insert)->levelDependent && $one !== null && $two !== null && abs($two - $one) >= 0.1) {
                    $fed[] = new FedDifferently($channel->id, (string) $id, $insert->processor, $two - $one);
                }
            }
        }

        return $fed;
    }

    /** @return array<string, float> */
    private function entering(Situation $situation, Remeasured $is): array
    {
        $changes = [];
        foreach ($situation->session->channels as $channel) {
            $one = ($situation->survey->taps["{$channel->id}:source"] ?? null)?->rmsLevel();
            $two = $is->rmsLevel("{$channel->id}:source", $situation->survey->taps);
            if (in_array($channel->kind, [ChannelKind::Return, ChannelKind::Cue], true) && $one !== null && $two !== null && abs($two - $one) >= 0.1) {
                $changes[$channel->id] = $two - $one;
            }
        }

        return $changes;
    }

    /**
     * Of what reaches the main's fader.
     *
     * @param  ?callable(int, int): bool  $progress
     */
    private function tone(Session $before, Session $after, Remeasured $proof, ?callable $progress): ?float
    {
        if (! $proof->isOtherAt($after->main()->id, Tap::PRE_FADER)) {
            return null;
        }
        // What reaches the main's fader now has to be recorded too.
        if ($this->survey->measure($before, null, $progress, [$before->main()->id]) === null) {
            return null;
        }
        $frames = TimeRange::all($before)->frames();
        [$one, $from] = $this->mainBeforeFader($before);
        [$other, $at] = $this->mainBeforeFader($after);

        return ToneChange::between($one, $from, $other, $at, $frames, $progress === null ? null : static fn (): bool => $progress(1, 1));
    }

    /** @return array{Replay, int} and the place of the session's first sample in it */
    private function mainBeforeFader(Session $session): array
    {
        $main = $session->main();
        $hash = SurveyMap::of($session, $this->processors)->part($main->id, Section::UpToFader)->hash;
        $latency = SessionGraph::alignment($session, $this->processors)->arrival[$main->id]
            + (new RowLatency($this->processors, new Setting($session->sampleRate, $session->tempo)))->of($main->inserts);

        return [$this->store->replay($hash, 'pre-fader', TimeRange::all($session)->start($session->sampleRate, PartRunner::BLOCK)), $latency];
    }

    /** @return array<int, float> of the insert the main has last now and had not before, or had otherwise */
    private function reductions(Session $before, Session $after, Remeasured $proof): array
    {
        $main = $after->main();
        $last = $main->inserts === [] ? null : $main->inserts[count($main->inserts) - 1];
        if ($last === null || in_array($last, $before->main()->inserts, false)) {
            return [];
        }

        return $proof->reductions("{$main->id}:insert:{$last->id()}");
    }

    private function around(Situation $situation): TimeRange
    {
        $loudest = $situation->survey->loudest();
        assert($loudest !== null);
        $reach = (int) (self::AROUND * $situation->session->sampleRate);

        return new TimeRange(
            max(0, $loudest->position - $reach),
            max(1, min($situation->session->length, $loudest->position + $reach)),
            self::RUN_IN,
        );
    }

    /** @param  list<EditRequest>  $edits */
    private function edited(Session $session, array $edits): Session
    {
        return Several::of('Headroom', $edits, $this->edits)->apply($session);
    }
}
