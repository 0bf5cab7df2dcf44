<?php

declare(strict_types=1);

namespace App\Plans;

use App\Jobs\Heartbeat;
use App\Jobs\PredictPlan;
use App\Models\RemedyPlan;
use App\Models\StoredSession;
use App\Sessions\EngineFactory;
use App\Surveys\SurveyDesk;
use Hafen\Edit\EditCodec;
use Hafen\Edit\EditRefused;
use Hafen\Edit\Several;
use Hafen\Headroom\Prediction;
use Hafen\Headroom\Situation;
use Hafen\Processor\ProcessorCatalogue;
use Hafen\Session\Session;
use Hafen\Session\SessionCodec;
use Hafen\Survey\FolderStore;
use Hafen\Survey\SurveyMap;
use Hafen\Survey\SurveyResult;
use Hafen\Survey\SurveyStore;

/** Has the queue find out what remedies would do: first around the loudest moment, then over the whole length. */
final readonly class PlanDesk
{
    public function __construct(
        private SurveyDesk $surveys,
        private SessionCodec $codec,
        private EditCodec $edits,
        private ProcessorCatalogue $processors,
        private SurveyStore $store,
        private EngineFactory $engines,
    ) {
    }

    /**
     * What is known of some plans for the session as it is now; what nobody asked for yet is begun. They wait for the survey.
     *
     * @param  list<PlanChoice>  $choices
     * @param  bool  $again  begins anew what was stopped, or failed
     * @return array{ready: bool, plans: list<?array<string, mixed>>} ready: whether the session is measured
     */
    public function plans(StoredSession $stored, array $choices, bool $again = false): array
    {
        $known = $this->surveys->known($stored);
        if (! $known->isWhole()) {
            return ['ready' => false, 'plans' => array_map(static fn (): ?array => null, $choices)];
        }
        $session = $this->codec->decode($stored->head->document);
        $content = SurveyMap::of($session, $this->processors)->key();
        // Nobody waits for what an older state would become.
        RemedyPlan::query()->where('session_id', $stored->id)->where('content', '!=', $content)->whereIn('status', ['waiting', 'running'])->update(['status' => 'dropped']);

        return ['ready' => true, 'plans' => array_map(fn (PlanChoice $choice): array => self::state($this->plan($stored, $content, $choice, $again), $choice), $choices)];
    }

    /**
     * A session as a plan would make it.
     *
     * @throws EditRefused when it holds something the plan can no longer change
     */
    public function made(Session $session, int $plan): Session
    {
        $prediction = RemedyPlan::query()->find($plan)?->prediction;
        if ($prediction === null) {
            throw EditRefused::nothingSelected();
        }
        /** @var list<array<string, mixed>> $edits */
        $edits = $prediction['edits'];

        return Several::ofArrays('Headroom', $edits, $this->edits)->apply($session);
    }

    /** Stops all that is being found out. */
    public function stop(StoredSession $stored): void
    {
        RemedyPlan::query()->where('session_id', $stored->id)->whereIn('status', ['waiting', 'running'])->update(['status' => 'stopped']);
    }

    /**
     * Finds out what a plan would do.
     *
     * @param  bool  $isProof  over the whole length; otherwise as far as it takes to show something
     * @return bool whether the proof is still to be made
     */
    public function predict(RemedyPlan $plan, bool $isProof): bool
    {
        $session = $this->codec->decode($plan->document);
        $survey = SurveyResult::of($session, SurveyMap::of($session, $this->processors), $this->store);
        if (! $survey->isWhole()) {
            // Measurements were taken away meanwhile; whoever asks again has them made.
            $plan->update(['status' => 'dropped']);

            return false;
        }
        $choice = PlanChoice::stored($plan->choice);
        $remedies = $choice->chosen();
        assert($remedies !== []);
        $isShown = false;
        $beat = (new Heartbeat($plan))->beat(...);
        $recordings = FolderStore::temporary();
        $show = function (Prediction $preview) use ($plan, $session, $isProof, &$isShown): bool {
            if (! $isProof) {
                $this->write($plan, $session, $preview, 'waiting');
                $isShown = true;
            }

            return $isProof;
        };
        try {
            $prediction = $this->engines->predictor($session->sampleRate, $recordings)->predict(
                new Situation($session, $this->processors, $survey, $choice->aim),
                $remedies,
                $choice->amounts,
                $choice->compensate,
                $show,
                $beat,
            );
        } finally {
            $recordings->discard();
        }
        if (! $isShown) {
            $this->write($plan, $session, $prediction, 'done');
        }

        return $isShown;
    }

    private function write(RemedyPlan $plan, Session $session, ?Prediction $prediction, string $status): void
    {
        RemedyPlan::query()->whereKey($plan->id)->where('status', 'running')->update([
            'status' => $status,
            'progress' => $status === 'done' ? 1.0 : 0.0,
            'prediction' => $prediction === null ? null : json_encode(PredictionFigures::toArray($prediction, $session, $this->processors), JSON_THROW_ON_ERROR | JSON_PRESERVE_ZERO_FRACTION),
        ]);
    }

    private function plan(StoredSession $stored, string $content, PlanChoice $choice, bool $again): RemedyPlan
    {
        $plan = RemedyPlan::query()->firstOrCreate(
            ['session_id' => $stored->id, 'content' => $content, 'choice_key' => $choice->key()],
            ['choice' => $choice->toArray(), 'document' => $stored->head->document, 'status' => 'waiting', 'beat_at' => now()],
        );
        $isLost = $plan->status === 'running' && $plan->beat_at !== null && $plan->beat_at->diffInSeconds(now()) > Heartbeat::LOST_AFTER;
        if ($plan->wasRecentlyCreated || $isLost || in_array($plan->status, $again ? ['dropped', 'stopped', 'failed'] : ['dropped'], true)) {
            $plan->update(['status' => 'waiting', 'beat_at' => now(), 'progress' => 0.0, 'message' => null]);
            PredictPlan::dispatch($plan->id, false)->onQueue('previews');
        }

        return $plan;
    }

    /** @return array<string, mixed> */
    private static function state(RemedyPlan $plan, PlanChoice $choice): array
    {
        return [
            'id' => $plan->id,
            'hasAmount' => $choice->hasAmount(),
            'status' => $plan->status,
            'progress' => $plan->progress,
            'prediction' => $plan->prediction,
            'message' => $plan->message,
        ];
    }
}
