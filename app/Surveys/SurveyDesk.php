<?php

declare(strict_types=1);

namespace App\Surveys;

use App\Models\StoredSession;
use App\Models\Survey;
use App\Models\SurveyPart;
use App\Sessions\EngineFactory;
use App\Sessions\SessionBook;
use App\Work\Claim;
use Hafen\Processor\ProcessorCatalogue;
use Hafen\Session\Session;
use Hafen\Survey\SessionSurvey;
use Hafen\Survey\SurveyMap;
use Hafen\Survey\SurveyResult;
use Hafen\Survey\SurveyStore;
use Hafen\Survey\TimeRange;
use Illuminate\Database\Eloquent\Builder;
use Illuminate\Support\Facades\DB;

/**
 * Has sessions measured by the queue, one job for each channel that others do not feed and then one for the rest, and only what is not known
 * already; finds the newest figures there are.
 */
final readonly class SurveyDesk
{
    /** Seconds that are measured at the most: a day. */
    private const LONGEST = 86_400;

    /** Seconds for which measurements stay, whatever their size: others may be about to read them. */
    private const SPARE = 900;

    public function __construct(
        private SessionBook $book,
        private ProcessorCatalogue $processors,
        private EngineFactory $engines,
        private SurveyStore $store,
        private int $bytes,
    ) {
    }

    /** A survey of this very state; begun now if there is none. */
    public function request(StoredSession $stored, ?TimeRange $range = null): Survey
    {
        $session = $this->book->open($stored);
        $map = SurveyMap::of($session, $this->processors, $range);
        $running = $this->newest($stored, $range, $map->hash());
        if ($running !== null && in_array($running->status, ['running', 'done'], true)) {
            return $running;
        }
        $most = self::LONGEST * $session->sampleRate;
        if ($map->range->frames() > $most) {
            throw SurveyTooLong::of($map->range->frames(), $most);
        }
        // Nobody waits for the figures of an older state any more.
        foreach ($this->surveys($stored, $range)->where('status', 'running')->get() as $older) {
            $this->end($older, 'dropped');
        }
        $survey = Survey::query()->create([
            'session_id' => $stored->id,
            'content' => $map->hash(),
            'change' => $stored->change,
            'from' => $range?->from,
            'to' => $range?->to,
            'status' => 'running',
            'weight' => SessionSurvey::weight(array_values($map->missing($this->store))),
        ]);
        $this->goOn($survey);

        return $survey->refresh();
    }

    public function stop(StoredSession $stored, ?TimeRange $range = null): void
    {
        foreach ($this->surveys($stored, $range)->where('status', 'running')->get() as $survey) {
            $this->end($survey, 'stopped');
        }
    }

    /**
     * Measures what is missing of one channel, and what is measured in one pass with it.
     *
     * @param  callable(int, int): bool  $progress
     * @return bool false when it was stopped
     */
    public function measure(Survey $survey, string $channel, callable $progress): bool
    {
        $opened = $this->opened($survey);
        if ($opened === null) {
            return false;
        }
        [$session, $map] = $opened;
        foreach (SurveyMap::passes($map->missing($this->store)) as $pass) {
            if (in_array($channel, array_column($pass, 'channel'), true)) {
                return $this->engines->partRunner($session->sampleRate)->run($session, $map, $pass, $this->store, $progress);
            }
        }

        return true;
    }

    /** Gives out what can be measured now; ends the survey when nothing is left. */
    public function goOn(Survey $survey): void
    {
        $opened = $this->opened($survey);
        if ($opened === null) {
            return;
        }
        [$session, $map] = $opened;
        $missing = $map->missing($this->store);
        if ($missing === []) {
            $result = SurveyResult::of($session, $map, $this->store);
            Survey::query()->whereKey($survey->id)->where('status', 'running')->update([
                'status' => 'done',
                'result' => json_encode(SurveyFigures::toArray($session, $result), JSON_THROW_ON_ERROR),
            ]);
            $this->store->shrink($this->bytes, self::SPARE);

            return;
        }
        foreach (SurveyMap::passes($missing) as $parts) {
            if (! SurveyMap::isReady($parts, $this->store)) {
                continue;
            }
            $channel = $parts[0]->channel;
            $part = DB::transaction(static function () use ($survey, $channel, $parts): ?SurveyPart {
                if (Survey::query()->whereKey($survey->id)->value('status') !== 'running'
                    || SurveyPart::query()->where('survey_id', $survey->id)->where('channel', $channel)->whereIn('status', ['waiting', 'running'])->exists()) {
                    return null;
                }

                return SurveyPart::query()->updateOrCreate(
                    ['survey_id' => $survey->id, 'channel' => $channel],
                    ['status' => 'waiting', 'weight' => SessionSurvey::weight($parts), 'progress' => 0.0, 'beat_at' => now(), 'claim' => null, 'attempts' => 0],
                );
            });
            if ($part !== null) {
                Claim::queue($part);
            }
        }
    }

    /**
     * The newest figures, and which of them are not those of the state now.
     *
     * @return array{current: bool, running: ?array{progress: float, secondsLeft: ?float}, result: null|object|array<array-key, mixed>, stale: list<string>, stopped: bool, message: ?string}
     */
    public function state(StoredSession $stored, ?TimeRange $range = null): array
    {
        $session = $this->book->open($stored);
        $map = SurveyMap::of($session, $this->processors, $range);
        $here = $this->newest($stored, $range, $map->hash());
        if ($here?->status === 'done') {
            return ['current' => true, 'running' => null, 'result' => SurveyFigures::withHeadroom($session, (array) $here->result), 'stale' => [], 'stopped' => false, 'message' => null];
        }
        $before = $this->surveys($stored, $range)->where('status', 'done')->latest('id')->first();
        $known = SurveyResult::of($session, $map, $this->store);

        return [
            'current' => false,
            'running' => $here?->status === 'running' ? $this->progress($here) : null,
            'result' => $before?->result === null ? null : SurveyFigures::withHeadroom($session, SurveyFigures::over((array) $before->result, SurveyFigures::toArray($session, $known))),
            'stale' => $known->staleTaps($session),
            'stopped' => $here?->status === 'stopped',
            'message' => $here?->status === 'failed' ? $here->message : null,
        ];
    }

    /** What is known of a session as it is now. */
    public function known(StoredSession $stored): SurveyResult
    {
        $session = $this->book->open($stored);

        return SurveyResult::of($session, SurveyMap::of($session, $this->processors), $this->store);
    }

    /** @return array{progress: float, secondsLeft: ?float} */
    private function progress(Survey $survey): array
    {
        $done = 0.0;
        foreach ($survey->parts()->get() as $part) {
            $done += $part->weight * ($part->status === 'done' ? 1.0 : $part->progress);
        }
        $share = $survey->weight > 0 ? min(1.0, $done / $survey->weight) : 0.0;
        $elapsed = $survey->created_at === null ? 0.0 : $survey->created_at->diffInMilliseconds(now()) / 1000.0;

        return ['progress' => $share, 'secondsLeft' => $share > 0.05 ? $elapsed * (1.0 - $share) / $share : null];
    }

    private function end(Survey $survey, string $status): void
    {
        $survey->update(['status' => $status]);
        $survey->parts()->whereIn('status', ['waiting', 'running'])->update(['status' => 'dropped']);
    }

    private function newest(StoredSession $stored, ?TimeRange $range, string $content): ?Survey
    {
        return $this->surveys($stored, $range)->where('content', $content)->latest('id')->first();
    }

    /** @return Builder<Survey> */
    private function surveys(StoredSession $stored, ?TimeRange $range): Builder
    {
        $surveys = Survey::query()->where('session_id', $stored->id);

        return $range === null ? $surveys->whereNull('from') : $surveys->where('from', $range->from)->where('to', $range->to);
    }

    /**
     * The session a survey is of; null where it is not as it was when the survey was asked for: nobody waits for it any more.
     *
     * @return ?array{Session, SurveyMap}
     */
    private function opened(Survey $survey): ?array
    {
        $session = $this->book->open(StoredSession::query()->findOrFail($survey->session_id));
        $range = $survey->from === null || $survey->to === null ? null : new TimeRange($survey->from, $survey->to);
        $map = SurveyMap::of($session, $this->processors, $range);
        if ($map->hash() !== $survey->content) {
            $this->end($survey, 'dropped');

            return null;
        }

        return [$session, $map];
    }
}
