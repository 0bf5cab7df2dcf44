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
use Hafen\Processor\ProcessorCatalogue;
use Hafen\Processor\Setting;
use Hafen\Routing\RowLatency;
use Hafen\Routing\SessionGraph;
use Hafen\Session\Channel\ChannelKind;
use Hafen\Session\Insert\ProcessorInsert;
use Hafen\Session\Session;
use Hafen\Survey\LoudestMoment;
use Hafen\Survey\PartRunner;
use Hafen\Survey\Section;
use Hafen\Survey\SessionSurvey;
use Hafen\Survey\SurveyMap;
use Hafen\Survey\SurveyResult;
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

    private PassageLevels $passage;

    /** @param  ?SurveyStore  $passages  where recordings around the loudest moment are kept for other predictions; with the others where it is left out */
    public function __construct(private ProcessorCatalogue $processors, AudioLibrary $library, private SurveyStore $store, ?SurveyStore $passages = null)
    {
        $this->survey = new SessionSurvey($processors, $library, $store);
        $this->passage = new PassageLevels(new Compiler($processors, $library), $processors, $passages ?? $store);
        $this->edits = new EditCodec($processors, new SessionCodec($processors));
    }

    /**
     * @param  non-empty-list<Remedy>  $remedies  in the order they are made
     * @param  array<string, float>  $amounts  dB of those that were set by hand, by remedy id
     * @param  bool  $compensate  has level-dependent inserts do what they did
     * @param  ?callable(Prediction): bool  $preview  gets what is found around the loudest moment; false stops
     * @param  ?callable(int, int): bool  $progress  of what is measured; false stops
     * @return ?Prediction null when stopped, or when none of the remedies has anything to do
     */
    public function predict(Situation $situation, array $remedies, array $amounts = [], bool $compensate = false, ?callable $preview = null, ?callable $progress = null): ?Prediction
    {
        $before = Levels::of($situation->survey);
        $excess = $situation->aim->excess($before);
        $loudest = $situation->survey->loudest();
        if ($excess === null || $loudest === null) {
            return null;
        }
        $free = count(array_filter($remedies, static fn (Remedy $remedy): bool => $remedy->hasAmount() && ! isset($amounts[$remedy->id()])));
        $attempt = $this->attempt($situation, $remedies, $amounts, $free > 0 ? $excess : 0.0, $free, $compensate);
        if ($attempt === null) {
            return null;
        }
        if ($situation->aim->figure !== AimFigure::Loudness) {
            $range = $this->around($situation, $loudest);
            // Once, for all that is tried.
            if ($this->passage->of($situation->session, $range, true, $progress) === null) {
                return null;
            }
            $attempt = $this->solve($situation, $remedies, $amounts, $free, $compensate, $attempt, function (Attempt $attempt) use ($range, $progress): ?Attempt {
                $levels = $this->passage->of($attempt->session, $range, false, $progress);

                return $levels === null ? null : $attempt->measured($levels);
            });
            if ($attempt === null || ($preview !== null && ! $preview($this->prediction($situation, $attempt, $before)))) {
                return null;
            }
        }
        $attempt = $this->solve($situation, $remedies, $amounts, $free, $compensate, $attempt, function (Attempt $attempt) use ($progress): ?Attempt {
            $survey = $this->survey->measure($attempt->session, null, $progress, [$attempt->session->main()->id]);

            return $survey === null ? null : $attempt->measured(Levels::of($survey), $survey);
        });

        // Compared with what reaches the main's fader now, which has to be captured too.
        if ($attempt === null || $this->survey->measure($situation->session, null, $progress, [$situation->session->main()->id]) === null) {
            return null;
        }

        return $this->prediction($situation, $attempt, $before, $progress);
    }

    /**
     * Moves the amount until the aim is reached, or as near as it goes.
     *
     * @param  non-empty-list<Remedy>  $remedies
     * @param  array<string, float>  $amounts
     * @param  callable(Attempt): ?Attempt  $measured  measures one; null when stopped
     */
    private function solve(Situation $situation, array $remedies, array $amounts, int $free, bool $compensate, Attempt $attempt, callable $measured): ?Attempt
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
            $next = $this->attempt($situation, $remedies, $amounts, max(-self::MOST_AMOUNT, min(self::MOST_AMOUNT, $amount)), $free, $compensate);
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
    private function attempt(Situation $situation, array $remedies, array $amounts, float $amount, int $free, bool $compensate): ?Attempt
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

        return $compensate ? $this->compensated($situation, $attempt) : $attempt;
    }

    /** Has level-dependent inserts do what they did; as one changes what the next is fed, a few rounds of it. */
    private function compensated(Situation $situation, Attempt $plain): Attempt
    {
        $loudest = $situation->survey->loudest();
        assert($loudest !== null);
        $range = $this->around($situation, $loudest);
        $reference = $this->survey->measure($situation->session, $range);
        $attempt = $plain;
        for ($round = 0; $round < 4; ++$round) {
            $now = $this->survey->measure($attempt->session, $range);
            assert($reference !== null && $now !== null);
            $compensating = [];
            foreach ($this->fed($situation, $attempt->session, $reference, $now) as $fed) {
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
        $survey = $attempt->survey;
        $after = $attempt->levels;
        assert($after !== null);
        $off = $situation->aim->excess($after);

        return new Prediction(
            $attempt->labels,
            $attempt->amount === 0.0 ? null : $attempt->amount,
            [...$attempt->edits, ...$attempt->compensating],
            $survey !== null,
            $before,
            $after,
            $off === null || $off <= self::TOLERANCE,
            $attempt->facts,
            $survey !== null ? $this->fed($situation, $attempt->session, $situation->survey, $survey) : [],
            count($attempt->compensating),
            $survey !== null ? $this->entering($situation, $survey) : [],
            $survey !== null ? $this->tone($situation->session, $attempt->session, $progress) : null,
            $survey !== null ? $this->reductions($situation->session, $attempt->session, $survey) : [],
        );
    }

    /** @return list<FedDifferently> level-dependent inserts at work that are fed a tenth of a dB or more differently */
    private function fed(Situation $situation, Session $after, SurveyResult $was, SurveyResult $is): array
    {
        $fed = [];
        foreach ($situation->session->channels as $channel) {
            $taps = InputTaps::of($channel);
            $now = InputTaps::of($after->channel($channel->id) ?? $channel);
            foreach ($channel->insertsOn ? $taps : [] as $id => [$insert, $tap]) {
                $one = ($was->taps[InputTaps::heard($insert, $tap)] ?? null)?->rmsLevel();
                $two = ($is->taps[InputTaps::heard($insert, $now[$id][1] ?? '')] ?? null)?->rmsLevel();
                if ($insert->on && $insert->mix > 0.0 && $situation->spec($insert)->levelDependent && $one !== null && $two !== null && abs($two - $one) >= 0.1) {
                    $fed[] = new FedDifferently($channel->id, (string) $id, $insert->processor, $two - $one);
                }
            }
        }

        return $fed;
    }

    /** @return array<string, float> */
    private function entering(Situation $situation, SurveyResult $is): array
    {
        $changes = [];
        foreach ($situation->session->channels as $channel) {
            $one = ($situation->survey->taps["{$channel->id}:source"] ?? null)?->rmsLevel();
            $two = ($is->taps["{$channel->id}:source"] ?? null)?->rmsLevel();
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
    private function tone(Session $before, Session $after, ?callable $progress): ?float
    {
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
    private function reductions(Session $before, Session $after, SurveyResult $survey): array
    {
        $main = $after->main();
        $last = $main->inserts === [] ? null : $main->inserts[count($main->inserts) - 1];
        if ($last === null || in_array($last, $before->main()->inserts, false)) {
            return [];
        }

        return $survey->taps["{$main->id}:insert:{$last->id()}"]->reductions ?? [];
    }

    private function around(Situation $situation, LoudestMoment $loudest): TimeRange
    {
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
