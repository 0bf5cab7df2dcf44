<?php

declare(strict_types=1);

use App\Models\RemedyPlan;
use Hafen\Tests\Support\Mix;
use Illuminate\Support\Facades\Queue;
use Tests\Support\Demo;

/** @return array<string, mixed> */
function hot(): array
{
    return ['session' => Demo::session(Mix::session([
        Mix::track('cello', [Mix::insert('i1', 'gain', ['gain' => 4.0])]),
        Mix::track('bass', [Mix::insert('i2', 'drive')]),
    ]))];
}

const TO_SIX = ['figure' => 'peak', 'level' => -6.0];

it('finds out what remedies do once the session is measured, and applies as one step what it showed', function (): void {
    ['session' => $session] = hot();
    $ask = ['aim' => TO_SIX, 'plans' => [['remedies' => ['trim-main']], ['remedies' => ['lower-faders', 'limit-last'], 'amounts' => ['lower-faders' => 2.0]]]];
    $this->postJson("/api/sessions/{$session->id}/plans", $ask)->assertOk()->assertJsonPath('ready', false)->assertJsonPath('plans', [null, null]);
    $this->postJson("/api/sessions/{$session->id}/survey")->assertAccepted();
    // The queue is worked at once in tests: asked again, it is known around the loudest moment.
    $this->postJson("/api/sessions/{$session->id}/plans", $ask)->assertJsonPath('ready', true);
    $shown = $this->postJson("/api/sessions/{$session->id}/plans", $ask)->json('plans');
    expect(array_column($shown, 'status'))->toBe(['shown', 'shown'])
        ->and($shown[0]['prediction']['verified'])->toBeFalse()
        ->and($shown[0]['prediction']['after']['peak'])->toEqualWithDelta(-6.0, 0.1);
    // Over the whole length only what somebody wants, once, whoever asks after that.
    $ask['plans'][0]['prove'] = true;
    $this->postJson("/api/sessions/{$session->id}/plans", $ask);
    expect($this->postJson("/api/sessions/{$session->id}/plans", $ask)->json('plans.*.status'))->toBe(['done', 'shown']);
    $ask['plans'][0]['prove'] = false;
    $ask['plans'][1]['prove'] = true;
    $this->postJson("/api/sessions/{$session->id}/plans", $ask);
    $plans = $this->postJson("/api/sessions/{$session->id}/plans", $ask)->json('plans');
    expect(array_column($plans, 'status'))->toBe(['done', 'done'])
        ->and($plans[0]['prediction']['verified'])->toBeTrue()
        ->and($plans[0]['prediction']['after']['peak'])->toEqualWithDelta(-6.0, 0.1)
        ->and($plans[1]['prediction']['edits'][0]['by'])->toEqual(-2.0)
        ->and($plans[1]['prediction']['reductions'])->not->toBe([]);
    $applied = edit($session, $session->refresh()->change, ['type' => 'several', 'label' => 'Headroom', 'edits' => $plans[1]['prediction']['edits']])->assertOk();
    $applied->assertJsonPath('undo', 'Headroom');
    $this->postJson("/api/sessions/{$session->id}/survey");
    $taps = $this->getJson("/api/sessions/{$session->id}/survey")->json('result.taps');
    expect($taps['main:post-fader']['peak'])->toEqualWithDelta($plans[1]['prediction']['after']['peak'], 0.01);
    $this->postJson("/api/sessions/{$session->id}/undo")->assertOk()->assertJsonPath('undo', null);
});

it('lets go of plans for a state that has passed, and gives out again what a lost worker had', function (): void {
    ['session' => $session] = hot();
    $this->postJson("/api/sessions/{$session->id}/survey");
    Queue::fake();
    $ask = fn () => $this->postJson("/api/sessions/{$session->id}/plans", ['aim' => TO_SIX, 'plans' => [['remedies' => ['trim-main']]]]);
    $ask();
    Queue::assertPushed(App\Jobs\PredictPlan::class, 1);
    $plan = RemedyPlan::query()->sole();
    $plan->update(['status' => 'running', 'beat_at' => now()]);
    $ask();
    Queue::assertPushed(App\Jobs\PredictPlan::class, 1);
    // Nobody has to ask: what a lost worker had is given out again.
    $this->travel(60)->seconds();
    app(App\Work\Supervisor::class)->look();
    Queue::assertPushed(App\Jobs\PredictPlan::class, 2);
    $this->postJson("/api/sessions/{$session->id}/plans/stop")->assertNoContent();
    expect($plan->refresh()->status)->toBe('stopped');
    $ask();
    expect($plan->refresh()->status)->toBe('stopped');
    // Asked for again, it is begun anew.
    $this->postJson("/api/sessions/{$session->id}/plans", ['aim' => TO_SIX, 'plans' => [['remedies' => ['trim-main']]], 'again' => true])->assertJsonPath('plans.0.status', 'waiting');
});

it('refuses what is no plan with the field', function (array $ask, string $place): void {
    ['session' => $session] = hot();
    $this->postJson("/api/sessions/{$session->id}/plans", $ask)->assertUnprocessable()->assertJsonPath('location', $place);
})->with([
    'aim' => [['aim' => ['figure' => 'peak', 'level' => 3.0], 'plans' => []], '/aim/level'],
    'figure' => [['aim' => ['figure' => 'rms', 'level' => -6.0], 'plans' => []], '/aim/figure'],
    'remedy' => [['aim' => TO_SIX, 'plans' => [['remedies' => ['hope']]]], '/plans/0/remedies/0'],
    'none' => [['aim' => TO_SIX, 'plans' => [['remedies' => []]]], '/plans/0/remedies'],
    'amount' => [['aim' => TO_SIX, 'plans' => [['remedies' => ['trim-main'], 'amounts' => ['trim-main' => -3.0]]]], '/plans/0/amounts/trim-main'],
    'amount of another' => [['aim' => TO_SIX, 'plans' => [['remedies' => ['trim-main'], 'amounts' => ['limit-last' => 3.0]]]], '/plans/0/amounts/limit-last'],
]);

it('tells the stages of every path, and who fills the main at a moment', function (): void {
    ['session' => $session] = hot();
    $stages = $this->getJson("/api/sessions/{$session->id}/stages")->assertOk()->json('paths.bass');
    expect(array_column($stages, 'tap'))->toBe(['bass:source', 'bass:insert:i2', 'bass:post-fader', 'main:source', 'main:post-fader', 'main:post-fader'])
        ->and(array_column($stages, 'levelDependent'))->toBe([false, true, false, false, false, false])
        ->and(array_column($stages, 'above'))->toBe(['over', 'over', 'over', 'over', 'over', 'clip']);
    $moment = $this->getJson("/api/sessions/{$session->id}/moment?at=24000")->assertOk()->json('moment');
    expect(abs($moment['position'] - 24000))->toBeLessThanOrEqual(2400)
        ->and(array_sum($moment['shares']))->toEqualWithDelta(1.0, 1e-9)
        ->and(array_keys($moment['shares']))->toEqualCanonicalizing(['cello', 'bass']);
});
