<?php

declare(strict_types=1);

use App\Jobs\SurveyChannel;
use App\Models\Survey;
use App\Models\SurveyPart;
use Illuminate\Support\Facades\Queue;
use Tests\Support\Demo;

// A survey is stopped, revived, overtaken by edits: what it says of itself stays true all the while.

it('stops where it is, says so, and goes on from there when it is asked again', function (): void {
    Queue::fake();
    $session = Demo::session();
    $url = "/api/sessions/{$session->id}/survey";
    $this->postJson($url)->assertAccepted()->assertJsonPath('current', false)->assertJsonPath('stopped', false);
    $parts = SurveyPart::query()->where('status', 'waiting')->count();
    expect($parts)->toBeGreaterThan(0);
    $this->postJson("{$url}/stop")->assertOk()->assertJsonPath('stopped', true)->assertJsonPath('running', null);
    expect(SurveyPart::query()->where('status', 'waiting')->count())->toBe(0);
    // A job that comes too late finds nothing to do.
    Queue::assertPushed(SurveyChannel::class);
    $this->getJson($url)->assertOk()->assertJsonPath('stopped', true);
    $this->postJson($url)->assertAccepted()->assertJsonPath('stopped', false);
    expect(SurveyPart::query()->where('status', 'waiting')->count())->toBe($parts)
        ->and(Survey::query()->where('status', 'running')->count())->toBe(1);
});

it('asks twice and runs once', function (): void {
    Queue::fake();
    $session = Demo::session();
    $this->postJson("/api/sessions/{$session->id}/survey")->assertAccepted();
    $pushed = count(Queue::pushed(SurveyChannel::class));
    $this->postJson("/api/sessions/{$session->id}/survey")->assertAccepted();
    expect(Survey::query()->where('status', 'running')->count())->toBe(1)
        ->and(count(Queue::pushed(SurveyChannel::class)))->toBe($pushed);
});

it('says which taps an edit made stale, and no others', function (): void {
    $session = Demo::session();
    $url = "/api/sessions/{$session->id}/survey";
    $this->postJson($url)->assertAccepted()->assertJsonPath('current', true)->assertJsonPath('stale', []);
    $this->postJson("/api/sessions/{$session->id}/edits", ['base' => 1, 'edit' => ['type' => 'set-fader', 'channels' => ['cello'], 'gain' => -6.0]])->assertOk();
    $stale = $this->getJson($url)->assertOk()->assertJsonPath('current', false)->json('stale');
    expect($stale)->toContain('cello:post-fader', 'main:source', 'main:post-fader')
        ->and(array_filter($stale, static fn (string $tap): bool => str_starts_with($tap, 'bass:')))->toBe([])
        ->and($stale)->not->toContain('cello:source', 'cello:insert:i2', 'cello:pre-fader');
    // Undone, everything is known again at once.
    $this->postJson("/api/sessions/{$session->id}/undo")->assertOk();
    $this->getJson($url)->assertJsonPath('current', true)->assertJsonPath('stale', []);
});

it('shows no load where nothing plays, and says what becomes of the peaks', function (): void {
    $empty = $this->postJson('/api/sessions', ['name' => 'Empty'])->assertCreated()->json('id');
    $this->postJson("/api/sessions/{$empty}/survey")->assertAccepted()->assertJsonPath('result.load', null)->assertJsonPath('result.headroom', 'below');
    $session = Demo::session();
    $url = "/api/sessions/{$session->id}/survey";
    expect($this->postJson($url)->assertAccepted()->json('result.load'))->toBeFloat();
    $this->postJson("/api/sessions/{$session->id}/edits", ['base' => 1, 'edit' => ['type' => 'set-trim', 'channels' => ['main'], 'gain' => 20.0]])->assertOk();
    $loud = $this->postJson($url)->assertAccepted()->json('result');
    expect($loud['headroom'])->toBe('clips')->and($loud['clips'])->toContain('main:post-fader');
    $this->postJson("/api/sessions/{$session->id}/edits", ['base' => 2, 'edit' => ['type' => 'set-output', 'channels' => ['main'], 'output' => 'none']])->assertOk();
    expect($this->postJson($url)->assertAccepted()->json('result.headroom'))->toBe('over');
});

it('says nothing of a noise floor where the quietest moments are the sound itself', function (): void {
    // Noise that never pauses.
    $session = Demo::session();
    $taps = $this->postJson("/api/sessions/{$session->id}/survey")->assertAccepted()->json('result.taps');
    expect(array_filter(array_column($taps, 'floor')))->toBe([]);
});

it('measures what is on screen first, and goes on with what is scrolled to', function (): void {
    Queue::fake();
    $session = Demo::session();
    $url = "/api/sessions/{$session->id}/survey";
    $this->postJson($url, ['first' => ['bass', 'nobody']])->assertAccepted();
    $desk = app(App\Surveys\SurveyDesk::class);
    $next = fn (): string => $desk->first(SurveyPart::query()->latest('id')->firstOrFail())->channel;
    expect($next())->toBe('bass');
    // Asked again with another order, nothing begins anew.
    $this->postJson($url, ['first' => ['cello']])->assertAccepted();
    expect($next())->toBe('cello')->and(Survey::query()->count())->toBe(1);
    // Who asks for no order changes none.
    $this->postJson($url, ['first' => ['bass']]);
    $this->postJson($url)->assertAccepted();
    expect($next())->toBe('bass');
    $this->postJson($url, ['first' => 'bass'])->assertUnprocessable()->assertJsonPath('location', '/first');
    $this->postJson($url, ['first' => [7]])->assertUnprocessable()->assertJsonPath('location', '/first/0');
});

it('shows levels while they are measured, and those of a channel as soon as it is through', function (): void {
    Queue::fake();
    $session = Demo::session();
    $url = "/api/sessions/{$session->id}/survey";
    $this->postJson($url)->assertAccepted()->assertJsonPath('result', null)->assertJsonPath('soFar', []);
    $part = SurveyPart::query()->where('channel', 'cello')->firstOrFail();
    $survey = Survey::query()->findOrFail($part->survey_id);
    $desk = app(App\Surveys\SurveyDesk::class);
    // Up to the middle.
    $desk->measure($survey, 'cello', static function (int $done, int $total, callable $found) use ($part): bool {
        SurveyPart::query()->whereKey($part->id)->update(['status' => 'running', ...$found()]);

        return $done < $total / 2;
    });
    $half = $this->getJson($url)->assertOk()->json();
    expect($half['soFar'])->toContain('cello:source', 'cello:post-fader')
        ->and($half['stale'])->toContain(...$half['soFar'])
        ->and($half['result']['taps']['cello:source']['peak'])->toEqualWithDelta(20 * log10(0.6), 0.05)
        ->and($half['result']['headroom'])->toBeNull();
    // Through: no longer so far, though the survey goes on.
    $desk->measure($survey, 'cello', static fn (): bool => true);
    SurveyPart::query()->whereKey($part->id)->update(['status' => 'done', 'levels' => null]);
    $whole = $this->getJson($url)->json();
    expect($whole['soFar'])->toBe([])->and($whole['stale'])->not->toContain('cello:source')
        ->and($whole['result']['taps']['cello:post-fader']['peak'])->toBeFloat()
        ->and($whole['current'])->toBeFalse();
});
