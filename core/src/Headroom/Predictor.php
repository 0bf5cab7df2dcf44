<?php

declare(strict_types=1);

namespace Hafen\Headroom;

use Closure;
use Hafen\Document\SessionCodec;
use Hafen\Edit\Json\EditCodec;
use Hafen\Engine\AudioLibrary;
use Hafen\Engine\Compiler;
use Hafen\Engine\Replay;
use Hafen\Engine\Tap;
use Hafen\Hardware\AudioInterface;
use Hafen\Headroom\Rework\Remeasured;
use Hafen\Headroom\Rework\Remeasurement;
use Hafen\Processor\ProcessorCatalogue;
use Hafen\Routing\SessionGraph;
use Hafen\Session\Channel\ChannelKind;
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

    /** dB by which a proof may be below the aim before another amount is tried: that takes as long again. */
    private const BELOW = 0.1;

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

    /**
     * @param  ?SurveyStore  $passages  where recordings around the loudest moment are kept for other predictions; with the others where it is left out
     * @param  ?AudioInterface  $interface  hardware loops go through
     */
    public function __construct(private ProcessorCatalogue $processors, AudioLibrary $library, private SurveyStore $store, ?SurveyStore $passages = null, ?AudioInterface $interface = null)
    {
        $this->survey = new SessionSurvey($processors, $library, $store, $interface);
        $compiler = new Compiler($processors, $library, $interface);
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
        $loudest = $situation->survey->loudest();
        if ($excess === null || $loudest === null) {
            return null;
        }
        $range = $this->around($situation, $loudest->position);
        $compensator = $compensate ? $this->compensator($situation, $range, $progress) : null;
        if ($compensate && $compensator === null) {
            return null;
        }
        $attempts = new Attempts($situation, $remedies, $amounts, $this->edits, $compensator);
        $attempt = $attempts->at($amount === null || $amount === 0.0 ? $excess : $amount);
        if ($attempt === null) {
            return null;
        }
        $moments = [$range];
        $hasMoments = $situation->aim->figure !== AimFigure::Loudness;
        if ($hasMoments && $amount === null) {
            $attempt = $this->solve($attempts, $attempt, $this->overMoments($situation, $moments, $progress));
            if ($attempt === null || ($preview !== null && ! $preview($this->prediction($situation, $attempt, $before)))) {
                return null;
            }
        }
        $attempt = $hasMoments ? $this->proved($attempts, $attempt, $moments, $progress) : $this->solve($attempts, $attempt, $this->overAll($situation, $progress));
        if ($attempt === null) {
            return null;
        }

        return $this->prediction($situation, $attempt, $before, $progress);
    }

    /**
     * Measures over the whole length; where another moment has become the loudest, the amount is looked for around that as well, which takes far less.
     *
     * @param  non-empty-list<TimeRange>  $moments  that the amount was found at
     * @param  ?callable(int, int): bool  $progress
     * @return ?Attempt null when stopped
     */
    private function proved(Attempts $attempts, Attempt $attempt, array $moments, ?callable $progress): ?Attempt
    {
        $situation = $attempts->situation;
        $measure = $this->overAll($situation, $progress);
        $best = null;
        $nearest = INF;
        for ($try = 0; $try < self::MOST_TRIES; ++$try) {
            $attempt = $measure($attempt);
            if ($attempt?->levels === null) {
                return null;
            }
            $off = $situation->aim->excess($attempt->levels);
            if ($best === null || ($off !== null && abs($off) < $nearest)) {
                $best = $attempt;
                $nearest = abs($off ?? 0.0);
            }
            $loudest = $attempt->proof?->loudestAt;
            if ($off === null || $loudest === null || ! $attempts->hasAmount() || ($off <= self::TOLERANCE && $off >= -self::BELOW)) {
                break;
            }
            $moments[] = $this->around($situation, $loudest);
            $aroundThem = $this->overMoments($situation, $moments, $progress);
            $estimate = $aroundThem($attempt);
            if ($estimate?->levels === null) {
                return null;
            }
            // What ran longer before a moment may make it a little louder or quieter than it is found around it.
            $apart = $off - ($situation->aim->excess($estimate->levels) ?? $off);
            $next = $this->solve($attempts, $attempt, static function (Attempt $tried) use ($aroundThem, $apart): ?Attempt {
                $estimate = $aroundThem($tried);

                return $estimate?->levels === null ? null : $estimate->measured($estimate->levels->raisedBy($apart));
            });
            if ($next === null) {
                return null;
            }
            if ($next->edits == $attempt->edits) {
                break;
            }
            $attempt = $next;
        }

        return $best;
    }

    /**
     * @param  ?callable(int, int): bool  $progress
     * @return Closure(Attempt): ?Attempt measures one over the whole length; null when stopped
     */
    private function overAll(Situation $situation, ?callable $progress): Closure
    {
        $range = TimeRange::all($situation->session);

        return function (Attempt $attempt) use ($situation, $range, $progress): ?Attempt {
            // What was recorded when the session was measured may be gone by now.
            $recordings = $this->whole->rework($situation->session, $attempt->session, $range, true, true)->recordings();
            if ($this->survey->measure($situation->session, null, $progress, $recordings) === null) {
                return null;
            }
            $proof = $this->whole->of($situation->session, $attempt->session, $range, true, $progress, [$attempt->session->main()->id]);

            return $proof === null ? null : $attempt->measured($proof->levels, $proof);
        };
    }

    /**
     * @param  non-empty-list<TimeRange>  $moments
     * @param  ?callable(int, int): bool  $progress
     * @return Closure(Attempt): ?Attempt measures one around some moments, the loudest counts; null when stopped
     */
    private function overMoments(Situation $situation, array $moments, ?callable $progress): Closure
    {
        return function (Attempt $attempt) use ($situation, $moments, $progress): ?Attempt {
            $levels = [];
            foreach ($moments as $range) {
                // Once, for all that is tried.
                if (! $this->passage->isRecorded($situation->session, $range) && $this->passage->record($situation->session, $range, $progress) === null) {
                    return null;
                }
                $measured = $this->passage->of($situation->session, $attempt->session, $range, false, $progress);
                if ($measured === null) {
                    return null;
                }
                $levels[] = $measured->levels;
            }

            return $attempt->measured(Levels::highest($levels));
        };
    }

    /**
     * @param  ?callable(int, int): bool  $progress
     * @return ?Compensator null when stopped
     */
    private function compensator(Situation $situation, TimeRange $range, ?callable $progress): ?Compensator
    {
        $reference = $this->passage->record($situation->session, $range, $progress);

        return $reference === null ? null : new Compensator($this->passage, $range, $reference);
    }

    /**
     * Moves the amount until the aim is reached, or as near as it goes.
     *
     * @param  callable(Attempt): ?Attempt  $measured  measures one; null when stopped
     */
    private function solve(Attempts $attempts, Attempt $attempt, callable $measured): ?Attempt
    {
        $best = $attempt;
        $nearest = INF;
        $before = null;
        for ($try = 0; $try < self::MOST_TRIES; ++$try) {
            $attempt = $measured($attempt);
            if ($attempt?->levels === null) {
                return null;
            }
            $off = $attempts->situation->aim->excess($attempt->levels);
            if ($off === null) {
                return $attempt;
            }
            if (abs($off) < $nearest) {
                $nearest = abs($off);
                $best = $attempt;
            }
            if (! $attempts->hasAmount() || abs($off) <= self::TOLERANCE) {
                break;
            }
            // One dB of amount is about one dB of level; where it was less, the next try goes by what the last brought.
            $effect = $before === null || abs($attempt->amount - $before[0]) < self::TOLERANCE ? 1.0 : ($before[1] - $off) / ($attempt->amount - $before[0]);
            $before = [$attempt->amount, $off];
            $amount = $attempt->amount + $off / max(self::LEAST_EFFECT, min(self::MOST_EFFECT, $effect));
            $next = $attempts->at(max(-self::MOST_AMOUNT, min(self::MOST_AMOUNT, $amount)));
            if ($next === null || $next->edits == $attempt->edits) {
                break;
            }
            $attempt = $next;
        }

        return $best;
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
            $proof !== null ? FedDifferently::among($situation, $attempt->session, $taps, $proof) : [],
            count($attempt->compensating),
            $proof !== null ? $this->entering($situation, $proof) : [],
            $proof !== null ? $this->tone($situation->session, $attempt->session, $proof, $progress) : null,
            $proof !== null ? $this->reductions($situation->session, $attempt->session, $proof) : [],
        );
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
        $alignment = SessionGraph::alignment($session, $this->processors);
        $latency = $alignment->arrival[$main->id] + $alignment->row[$main->id];

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

    private function around(Situation $situation, int $position): TimeRange
    {
        $reach = (int) (self::AROUND * $situation->session->sampleRate);

        return new TimeRange(max(0, $position - $reach), max(1, min($situation->session->length, $position + $reach)), self::RUN_IN);
    }
}
