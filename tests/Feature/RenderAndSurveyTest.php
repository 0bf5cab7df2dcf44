<?php

declare(strict_types=1);

use App\Media\MediaFolder;
use App\Models\Survey;
use Hafen\Audio\WavReader;
use Hafen\Tests\Support\MemoryLibrary;
use Hafen\Tests\Support\Mix;
use Hafen\Tests\Support\Signal;
use Tests\Support\Demo;

it('renders in the background what the engine plays', function (): void {
    $session = Demo::session();
    $render = $this->postJson("/api/sessions/{$session->id}/renders", ['format' => '32f', 'tail' => 0.5])->assertAccepted()->json();
    $this->getJson("/api/renders/{$render['id']}")->assertJsonPath('status', 'done')->assertJsonPath('result.frames', 72000)->assertJsonPath('result.clipped', 0);
    $file = WavReader::open(app(MediaFolder::class)->render($render['id']));
    $library = new MemoryLibrary(['cello' => [Signal::noise(48000, 3, 0.6)], 'bass' => [Signal::noise(48000, 4, 0.6)]]);
    $expected = Mix::render(app(App\Sessions\SessionBook::class)->open($session), $library, frames: 72000);
    foreach ([0, 1, 511, 30000, 50000] as $i) {
        expect($file->read($i, 1)[0][0])->toEqualWithDelta($expected->left[$i], 1e-6);
    }
    $this->get("/api/renders/{$render['id']}/file")->assertOk()->assertDownload('Test.wav');
});

it('stops a render to whole numbers that would clip, and says where; or counts what clips when that is wanted', function (): void {
    $session = Demo::session(Mix::session([Mix::track('cello', [Mix::insert('i1', 'gain', ['gain' => 18.0])])]));
    $render = fn (array $options): array => $this->getJson('/api/renders/'.$this->postJson("/api/sessions/{$session->id}/renders", $options)->json('id'))->json();
    $refused = $render(['format' => '16']);
    $mix = Mix::render(app(App\Sessions\SessionBook::class)->open($session), new MemoryLibrary(['cello' => [Signal::noise(48000, 3, 0.6)]]));
    $over = array_keys(array_filter($mix->left, static fn (float $x): bool => abs($x) > 1.0));
    expect($refused['status'])->toBe('refused')
        ->and($refused['result'])->toBeNull()
        ->and($refused['clips']['samples'])->toEqualWithDelta(2 * count($over), 4)
        ->and($refused['clips']['peak'])->toEqualWithDelta(20 * log10(Signal::peak($mix->left)), 0.01)
        ->and($refused['clips']['places'][0]['from'])->toBe($over[0]);
    $this->getJson("/api/renders/{$refused['id']}/file")->assertNotFound();
    // Where nothing clips, and in floating point, it is made.
    $quiet = $over[0] > 200 ? ['from' => 0, 'to' => $over[0] - 1] : ['tap' => 'cello:source'];
    expect($render(['format' => '16', ...$quiet])['status'])->toBe('done')
        ->and($render(['format' => '32f'])['status'])->toBe('done')
        ->and($render(['format' => '16', 'clip' => true])['result']['clipped'])->toBeGreaterThan(1000);
});

it('fails with the reason, and leaves no file', function (): void {
    $session = Demo::session();
    unlink(app(MediaFolder::class)->original(App\Models\Media::query()->findOrFail('bass')));
    $id = $this->postJson("/api/sessions/{$session->id}/renders", ['format' => '24'])->json('id');
    $this->getJson("/api/renders/{$id}")->assertJsonPath('status', 'failed')->assertJsonPath('message', 'There is no readable file here.');
    $this->getJson("/api/renders/{$id}/file")->assertNotFound();
    expect(is_file(app(MediaFolder::class)->render($id)))->toBeFalse();
});

it('refuses render options with the field', function (array $options, string $place): void {
    $session = Demo::session();
    $this->postJson("/api/sessions/{$session->id}/renders", $options)->assertUnprocessable()->assertJsonPath('location', $place);
})->with([
    [['format' => 'mp3'], '/format'], [[], '/'], [['format' => '24', 'tap' => 'nonsense here'], '/tap'], [['format' => '24', 'tail' => -1], '/tail'],
]);

it('surveys a state once, and tells stale figures from current ones', function (): void {
    $session = Demo::session();
    $survey = $this->postJson("/api/sessions/{$session->id}/survey")->assertAccepted();
    $survey->assertJsonPath('current', true)->assertJsonPath('result.to', 48000);
    expect($survey->json('result.taps')['cello:source']['peak'])->toEqualWithDelta(20 * log10(0.6), 0.01)->and($survey->json('result.overview'))->toHaveCount(800);
    $this->postJson("/api/sessions/{$session->id}/edits", ['base' => 1, 'edit' => ['type' => 'set-fader', 'channels' => ['cello'], 'gain' => -40.0]]);
    $this->getJson("/api/sessions/{$session->id}/survey")->assertJsonPath('current', false)->assertJsonPath('result.to', 48000);
    // Back where it was measured: no work at all.
    $this->postJson("/api/sessions/{$session->id}/undo");
    $this->postJson("/api/sessions/{$session->id}/survey")->assertJsonPath('current', true);
    expect(Survey::query()->count())->toBe(1);
    // A name cannot be heard.
    $this->postJson("/api/sessions/{$session->id}/edits", ['base' => 3, 'edit' => ['type' => 'rename-channel', 'channel' => 'cello', 'name' => 'C']]);
    $this->getJson("/api/sessions/{$session->id}/survey")->assertJsonPath('current', true);
});
