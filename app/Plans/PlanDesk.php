<?php

declare(strict_types=1);

namespace App\Plans;

use App\Hardware\ThroughHardware;
use App\Hardware\UnitUse;
use App\Models\RemedyPlan;
use App\Models\StoredSession;
use App\Sessions\EngineFactory;
use App\Sessions\SessionBook;
use App\Surveys\SurveyDesk;
use App\Work\Claim;
use Hafen\Edit\EditRefused;
use Hafen\Edit\Json\EditCodec;
use Hafen\Edit\Refusals\NothingSelected;
use Hafen\Edit\Several;
use Hafen\Hardware\AudioInterface;
use Hafen\Headroom\Prediction;
use Hafen\Headroom\Situation;
use Hafen\Printing\RenderStopped;
use Hafen\Processor\ProcessorCatalogue;
use Hafen\Session\Session;
use Hafen\Survey\FolderStore;
use Hafen\Survey\SurveyMap;
use Hafen\Survey\SurveyResult;
use Hafen\Survey\SurveyStore;

/** Has the queue find out what remedies would do: around the loudest moment, and where somebody wants them over the whole length. */
final readonly class PlanDesk
{
    public function __construct(
        private SurveyDesk $surveys,
        private SessionBook $book,
        private EditCodec $edits,
        private ProcessorCatalogue $processors,
        private SurveyStore $store,
        private EngineFactory $engines,
        private ThroughHardware $hardware,
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
        $session = $this->book->open($stored);
        $content = SurveyMap::of($session, $this->processors)->hash();
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
            throw NothingSelected::atAll();
        }
        /** @var list<array<string, mixed>> $edits */
        $edits = $prediction['edits'];

        return Several::of('Headroom', $edits, $this->edits)->apply($session);
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
     */
    public function predict(Claim $claim, bool $isProof): void
    {
        $plan = $claim->task;
        assert($plan instanceof RemedyPlan);
        $session = $this->book->open(StoredSession::query()->findOrFail($plan->session_id));
        $map = SurveyMap::of($session, $this->processors);
        $survey = SurveyResult::of($session, $map, $this->store);
        if ($map->hash() !== $plan->content || ! $survey->isWhole()) {
            // Nobody waits for what an older state would become; where measurements are gone, whoever asks again has them made.
            $claim->finish(['status' => 'dropped']);

            return;
        }
        $choice = PlanChoice::stored($plan->choice);
        $remedies = $choice->chosen();
        assert($remedies !== []);
        $isShown = false;
        $captures = FolderStore::temporary();
        $show = function (Prediction $preview) use ($claim, $session, $isProof, &$isShown): bool {
            if (! $isProof) {
                $isShown = $this->write($claim, $session, $preview, 'shown');
            }

            return $isProof;
        };
        try {
            $prediction = $this->hardware->work($session, null, $claim, UnitUse::Background, fn (?AudioInterface $interface): ?Prediction => $this->engines->predictor($session->sampleRate, $captures, $interface)->predict(
                new Situation($session, $this->processors, $survey, $choice->aim),
                $remedies,
                $choice->amounts,
                $choice->compensate,
                $isProof ? self::previewedAmount($plan) : null,
                $show,
                $claim->beat(...),
            ));
        } catch (RenderStopped) {
            $prediction = null;
        } finally {
            $captures->discard();
        }
        if (! $isShown && ! $claim->isLeaving()) {
            $this->write($claim, $session, $prediction, 'done');
        }
    }

    /** Has a plan proved that is shown and wanted. */
    public function prove(RemedyPlan $plan): void
    {
        $isNext = RemedyPlan::query()->whereKey($plan->id)->where('is_wanted', true)->where('status', 'shown')
            ->update(['status' => 'waiting', 'beat_at' => now(), 'progress' => 0.0, 'attempts' => 0]);
        if ($isNext > 0) {
            Claim::queue($plan->refresh());
        }
    }

    /** The amount its preview found, 0 where it goes by none; null where there was no preview. */
    private static function previewedAmount(RemedyPlan $plan): ?float
    {
        $amount = $plan->prediction['amount'] ?? 0.0;

        return $plan->prediction === null ? null : (is_numeric($amount) ? (float) $amount : 0.0);
    }

    private function write(Claim $claim, Session $session, ?Prediction $prediction, string $status): bool
    {
        return $claim->finish([
            'status' => $status,
            'attempts' => 0,
            'progress' => $status === 'done' ? 1.0 : 0.0,
            'prediction' => $prediction === null ? null : PredictionFigures::toArray($prediction, $session, $this->processors),
        ]);
    }

    private function plan(StoredSession $stored, string $content, PlanChoice $choice, bool $again): RemedyPlan
    {
        $plan = RemedyPlan::query()->firstOrCreate(
            ['session_id' => $stored->id, 'content' => $content, 'choice_key' => $choice->key()],
            ['choice' => $choice->toArray(), 'status' => 'waiting', 'is_wanted' => $choice->prove, 'beat_at' => now()],
        );
        if ($choice->prove && ! $plan->is_wanted) {
            $plan->update(['is_wanted' => true]);
        }
        if ($plan->wasRecentlyCreated || in_array($plan->status, $again ? ['dropped', 'stopped', 'failed'] : ['dropped'], true)) {
            $plan->update(['status' => 'waiting', 'beat_at' => now(), 'progress' => 0.0, 'message' => null, 'attempts' => 0]);
            Claim::queue($plan);
        }
        if ($plan->is_wanted && $plan->status === 'shown') {
            $this->prove($plan);
            $plan->refresh();
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
