<?php

declare(strict_types=1);

namespace App\Surveys;

use App\Hardware\ThroughHardware;
use App\Hardware\UnitUse;
use App\Models\StoredSession;
use App\Models\Survey;
use App\Models\SurveyPart;
use App\Sessions\EngineFactory;
use App\Sessions\SessionBook;
use App\Work\Claim;
use Hafen\Document\ContentHashes;
use Hafen\Hardware\AudioInterface;
use Hafen\Printing\RenderStopped;
use Hafen\Processor\ProcessorCatalogue;
use Hafen\Routing\UnitPlaces;
use Hafen\Session\Channel\Channel;
use Hafen\Session\Session;
use Hafen\Survey\SessionSurvey;
use Hafen\Survey\SurveyMap;
use Hafen\Survey\SurveyPart as MeasuredPart;
use Hafen\Survey\SurveyResult;
use Hafen\Survey\SurveyStore;
use Hafen\Survey\TimeRange;
use Illuminate\Database\Eloquent\Builder;
use Illuminate\Support\Facades\DB;

/**
 * Has sessions measured by the queue, one job for each pass as soon as what it needs is measured, and only what is not known already; finds the
 * newest figures there are.
 */
final readonly class SurveyDesk
{
    /** Seconds that are measured at the most: a day. */
    private const LONGEST = 86_400;

    public function __construct(
        private SessionBook $book,
        private ProcessorCatalogue $processors,
        private EngineFactory $engines,
        private SurveyStore $store,
        private CaptureRoom $room,
        private ThroughHardware $hardware,
    ) {
    }

    /**
     * A survey of this very state; begun now if there is none.
     *
     * @param  list<string>  $wanted  ids of channels that are to be measured first, in that order
     */
    public function request(StoredSession $stored, ?TimeRange $range = null, array $wanted = []): Survey
    {
        $session = $this->book->open($stored);
        $map = SurveyMap::of($session, $this->processors, $range);
        $running = $this->newest($stored, $range, $map->hash());
        if ($running !== null && in_array($running->status, ['running', 'done'], true)) {
            $this->putInOrder($running, $session, $wanted);

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
        $this->goOn($survey, $wanted);

        return $survey->refresh();
    }

    public function stop(StoredSession $stored, ?TimeRange $range = null): void
    {
        foreach ($this->surveys($stored, $range)->where('status', 'running')->get() as $survey) {
            $this->end($survey, 'stopped');
        }
    }

    /**
     * The part of a survey that is to be measured first of those that wait; the part itself where none does.
     */
    public function first(SurveyPart $part): SurveyPart
    {
        return SurveyPart::query()->where('survey_id', $part->survey_id)->where('status', 'waiting')->orderBy('place')->orderBy('id')->first() ?? $part;
    }

    /**
     * Measures what is missing of one channel, and what is measured in one pass with it.
     *
     * @param  callable(int, int, callable(): array<string, mixed>): bool  $progress  gets what tells the columns that show what was found so far as well
     * @param  ?Claim  $claim  on its part of the survey: what goes through hardware waits for its turn with it
     * @return bool false when it was stopped
     */
    public function measure(Survey $survey, string $channel, callable $progress, ?Claim $claim = null): bool
    {
        $opened = $this->opened($survey);
        if ($opened === null) {
            return false;
        }
        [$session, $map] = $opened;
        foreach (SurveyMap::passes($map->missing($this->store)) as $pass) {
            if (in_array($channel, array_column($pass, 'channel'), true)) {
                return $this->pass($session, $map, $pass, $progress, $claim);
            }
        }

        return true;
    }

    /**
     * @param  list<MeasuredPart>  $pass
     * @param  callable(int, int, callable(): array<string, mixed>): bool  $progress
     */
    private function pass(Session $session, SurveyMap $map, array $pass, callable $progress, ?Claim $claim): bool
    {
        // What a freeze covers is measured as well, where it would sound the same unfrozen.
        $thawed = ContentHashes::of($session, $this->processors)->thawed($session);
        $measured = array_flip(array_column($pass, 'channel'));
        // What feeds them is replayed.
        $through = array_filter(UnitPlaces::of($thawed), static fn (array $place): bool => isset($measured[$place[0]->id]));
        $run = fn (?AudioInterface $interface): bool => $this->engines->partRunner($session->sampleRate, $interface)->run($session, $map, $pass, $this->store, static fn (int $done, int $total, array $runs): bool => $progress(
            $done, $total, static fn (): array => ['levels' => json_encode(SurveyFigures::soFar($runs), JSON_THROW_ON_ERROR)],
        ));
        try {
            return $through === [] || $claim === null ? $run(null) : $this->hardware->work($thawed, array_map(static fn (array $place): string => $place[0]->id, array_values($through)), $claim, UnitUse::Background, $run);
        } catch (RenderStopped) {
            return false;
        }
    }

    /**
     * Gives out what can be measured now; ends the survey when nothing is left.
     *
     * @param  list<string>  $wanted  ids of channels that are to be measured first
     */
    public function goOn(Survey $survey, array $wanted = []): void
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
            $this->store->shrink($this->room->bytes(), CaptureRoom::SPARE);

            return;
        }
        $places = self::places($session, $wanted);
        $passes = array_filter(SurveyMap::passes($missing), fn (array $pass): bool => SurveyMap::isReady($pass, $this->store));
        usort($passes, static fn (array $one, array $two): int => $places[$one[0]->channel] <=> $places[$two[0]->channel]);
        foreach ($passes as $parts) {
            $channel = $parts[0]->channel;
            $part = DB::transaction(static function () use ($survey, $channel, $parts, $places): ?SurveyPart {
                if (Survey::query()->whereKey($survey->id)->value('status') !== 'running'
                    || SurveyPart::query()->where('survey_id', $survey->id)->where('channel', $channel)->whereIn('status', ['waiting', 'running'])->exists()) {
                    return null;
                }

                return SurveyPart::query()->updateOrCreate(
                    ['survey_id' => $survey->id, 'channel' => $channel],
                    ['status' => 'waiting', 'weight' => SessionSurvey::weight($parts), 'place' => $places[$channel], 'levels' => null, 'progress' => 0.0, 'beat_at' => now(), 'claim' => null, 'attempts' => 0],
                );
            });
            if ($part !== null) {
                Claim::queue($part);
            }
        }
    }

    /**
     * The newest figures, which of them are not those of the state now, and which are only of what is measured so far.
     *
     * @return array{current: bool, running: ?array{progress: float, secondsLeft: ?float}, result: null|object|array<array-key, mixed>, stale: list<string>, soFar: list<string>, stopped: bool, message: ?string}
     */
    public function state(StoredSession $stored, ?TimeRange $range = null): array
    {
        $session = $this->book->open($stored);
        $map = SurveyMap::of($session, $this->processors, $range);
        $here = $this->newest($stored, $range, $map->hash());
        if ($here?->status === 'done') {
            return ['current' => true, 'running' => null, 'result' => SurveyFigures::withHeadroom($session, (array) $here->result), 'stale' => [], 'soFar' => [], 'stopped' => false, 'message' => null];
        }
        $before = $this->surveys($stored, $range)->where('status', 'done')->latest('id')->first();
        $known = SurveyResult::of($session, $map, $this->store);
        $figures = SurveyFigures::toArray($session, $known);
        if ($before?->result !== null) {
            $figures = SurveyFigures::over((array) $before->result, $figures);
        }
        $measured = (array) $figures['taps'];
        $soFar = $here?->status === 'running' ? array_diff_key($this->soFar($here), $measured) : [];
        $figures['taps'] = (object) ($measured + $soFar);

        return [
            'current' => false,
            'running' => $here?->status === 'running' ? $this->progress($here) : null,
            'result' => (array) $figures['taps'] === [] ? null : SurveyFigures::withHeadroom($session, $figures),
            'stale' => $known->staleTaps($session),
            'soFar' => array_map(strval(...), array_keys($soFar)),
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

    /** @return array<array-key, mixed> levels of taps that are being measured, by tap key */
    private function soFar(Survey $survey): array
    {
        $levels = [];
        foreach ($survey->parts()->where('status', 'running')->whereNotNull('levels')->get() as $part) {
            $levels += $part->levels ?? [];
        }

        return $levels;
    }

    /** @param  list<string>  $wanted  ids of channels */
    private function putInOrder(Survey $survey, Session $session, array $wanted): void
    {
        if ($wanted === [] || $survey->status !== 'running') {
            return;
        }
        $places = self::places($session, $wanted);
        foreach ($survey->parts()->where('status', 'waiting')->get() as $part) {
            SurveyPart::query()->whereKey($part->id)->where('status', 'waiting')->update(['place' => $places[$part->channel] ?? 0]);
        }
    }

    /**
     * @param  list<string>  $wanted  ids of channels
     * @return array<string, int> by channel id: those that are wanted, then the others as they stand in the session
     */
    private static function places(Session $session, array $wanted): array
    {
        $ids = array_map(static fn (Channel $channel): string => $channel->id, $session->channels);

        return array_flip([...array_values(array_intersect(array_unique($wanted), $ids)), ...array_values(array_diff($ids, $wanted))]);
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
