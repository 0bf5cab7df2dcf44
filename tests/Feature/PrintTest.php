<?php

declare(strict_types=1);

use App\Jobs\PrintChannel;
use App\Media\MediaFolder;
use App\Models\Media;
use App\Models\PrintPart;
use App\Models\StoredSession;
use App\Prints\PartRenderer;
use Hafen\Audio\WavReader;
use Hafen\Session\Channel\ChannelKind;
use Hafen\Tests\Support\Mix;
use Illuminate\Support\Facades\Queue;
use Tests\Support\Demo;

/** @param  array<string, mixed>  $wish */
function printing(StoredSession $session, array $wish): Illuminate\Testing\TestResponse
{
    return test()->postJson("/api/sessions/{$session->id}/prints", $wish);
}

it('prints channels onto new tracks below as one step, and switches their sources off', function (): void {
    $session = Demo::session();
    printing($session, ['channels' => ['cello', 'bass'], 'tap' => 'pre-fader', 'after' => 'off', 'tail' => 0, 'name' => '{channel} wet'])->assertAccepted()->assertJsonPath('status', 'done')->assertJsonPath('kind', 'print');
    $state = $this->getJson("/api/sessions/{$session->id}")->assertJsonPath('undo', 'Print 2 channels');
    $channels = array_column($state->json('document.channels'), null, 'name');
    expect(array_keys($channels))->toBe(['Cello', 'Cello wet', 'Bass', 'Bass wet', 'Main'])
        ->and($channels['Cello']['off'])->toBeTrue()->and($state->json('audible.cello'))->toBeFalse()
        ->and($channels['Cello wet']['source']['clips'][0])->toMatchArray(['start' => 0, 'length' => 48000, 'printedFrom' => ['revision' => $session->head_id, 'channel' => 'cello', 'tap' => 'pre-fader']])
        ->and(Media::query()->where('name', 'Cello wet')->value('frozen_from'))->toBeNull();
    $this->postJson("/api/sessions/{$session->id}/undo")->assertJsonCount(3, 'document.channels');
});

it('prints in place, dithered, with the clips before kept; a range on a new track where it was', function (): void {
    $session = Demo::session();
    printing($session, ['channels' => ['cello'], 'tap' => 'post-fader', 'tail' => 0, 'format' => '16', 'inPlace' => true])->assertJsonPath('status', 'done');
    $cello = $this->getJson("/api/sessions/{$session->id}")->json('document.channels.0');
    expect($cello['source']['clips'][0])->toMatchArray(['start' => 0, 'length' => 48000])->and($cello['versions'][0]['clips'][0]['length'])->toBe(48000)
        ->and(array_column($cello['inserts'], 'on'))->toBe([false, false])
        ->and(Media::query()->where('format', '16')->count())->toBe(1);
    printing($session, ['channels' => ['bass'], 'tap' => 'pre-fader', 'from' => 12000, 'to' => 24000, 'tail' => 0]);
    expect(array_column($this->getJson("/api/sessions/{$session->id}")->json('document.channels'), null, 'name')['Bass printed']['source']['clips'][0])->toMatchArray(['start' => 12000, 'length' => 12000]);
});

it('prints several channels to one track as one step, and brings back what it was made from', function (): void {
    $session = Demo::session(Mix::session([Mix::track('cello')->withFader(-6.0)->withPan(0.5), Mix::track('bass')->withOutput('low'), Mix::bus('low', ChannelKind::Group)]));
    printing($session, ['channels' => ['cello', 'bass', 'low'], 'tap' => 'post-fader', 'together' => true, 'after' => 'mute', 'tail' => 0, 'name' => '{channel} printed'])->assertAccepted()->assertJsonPath('status', 'done');
    $state = $this->getJson("/api/sessions/{$session->id}")->assertJsonPath('undo', 'Print 3 channels');
    $channels = array_column($state->json('document.channels'), null, 'name');
    $print = $channels['Cello and 1 more printed'];
    // The group holds the bass: both are muted, and the bass is in it once.
    expect($print['source']['clips'][0]['printedFrom'])->toMatchArray(['channel' => 'cello', 'tap' => 'post-fader', 'with' => ['bass', 'low']])
        ->and([$print['fader'], $print['pan'], $print['output'], $print['sends']])->toEqual([0.0, 0.0, 'main', []])
        ->and(array_column(array_filter($channels, static fn (array $channel): bool => $channel['mute']), 'id'))->toBe(['cello', 'bass', 'low']);
    $file = WavReader::open(app(MediaFolder::class)->original(Media::query()->findOrFail($print['source']['clips'][0]['file'])));
    expect($file->channels())->toBe(2)->and($file->frames())->toBe(48000);
    $this->postJson("/api/sessions/{$session->id}/undo")->assertJsonCount(4, 'document.channels');
});

it('prints returns with their senders to files, and all to one file', function (): void {
    $session = Demo::session(Mix::session([Mix::track('cello'), Mix::track('bass'), Mix::bus('plate', ChannelKind::Return)]));
    edit($session, $session->change, ['type' => 'add-send', 'channels' => ['cello'], 'to' => 'plate', 'tap' => 'post-fader'])->assertOk();
    $files = static function (array $wish) use ($session): array {
        $batch = printing($session, ['channels' => ['cello', 'bass', 'plate'], 'tap' => 'post-fader', 'toFiles' => true, 'tail' => 0, ...$wish])->assertJsonPath('status', 'done')->json('id');
        $zip = new ZipArchive;
        $zip->open(app(MediaFolder::class)->archive($batch));

        return [array_map(static fn (int $i): string => (string) $zip->getNameIndex($i), range(0, $zip->numFiles - 1)), (string) $zip->getFromName('prints.txt')];
    };
    [$names, $list] = $files(['withReturns' => true, 'name' => '{n} {channel}']);
    expect($names)->toBe(['01 Cello.wav', '02 Bass.wav', 'prints.txt'])->and($list)->toContain("01 Cello.wav\tCello\tto the main, with returns\t48000");
    [$names, $list] = $files(['together' => true, 'name' => 'All {channel}']);
    expect($names)->toBe(['All Cello and 2 more.wav', 'prints.txt'])->and($list)->toContain("All Cello and 2 more.wav\tPlate\tpost-fader\t48000");
    $advice = fn (array $wish): array => $this->postJson("/api/sessions/{$session->id}/prints/advice", ['channels' => ['cello', 'plate'], 'tap' => 'post-fader', ...$wish])->json('advice');
    expect($advice(['withReturns' => true, 'toFiles' => true]))->toBe(['Plate gets no file: what it brings is in the files of what sends to it.'])
        ->and($advice(['together' => true]))->toBe(['What they send to returns is not in the print, and the new track sends nothing.'])
        ->and($advice([]))->toBe(['The sends of Cello stay sends: what they lead to is not in the print.']);
});

it('says before what is in a print, in numbers', function (array $edits, array $wish, array $advice): void {
    $session = Demo::session(Mix::session([
        Mix::track('cello', [Mix::insert('i1', 'filter')]),
        Mix::track('bass', [Mix::insert('i2', 'drive')])->withOutput('low'),
        Mix::bus('low', ChannelKind::Group),
    ], [Mix::insert('i3', 'limiter')]));
    foreach ($edits as $edit) {
        edit($session, $session->refresh()->change, $edit)->assertOk();
    }
    expect($this->postJson("/api/sessions/{$session->id}/prints/advice", ['after' => 'mute', ...$wish])->assertOk()->json('advice'))->toBe($advice);
})->with([
    'a level twice' => [
        [['type' => 'set-fader', 'channels' => ['cello'], 'gain' => -6.0]], ['channels' => ['cello'], 'tap' => 'post-fader'],
        ['Cello stands at −6.0 dB, and that is in the print. The new track starts at 0.0; at −6.0 again it would be −12.0 in all.'],
    ],
    'through the main' => [
        [], ['channels' => ['bass'], 'tap' => 'main'],
        ['Bass goes through Low, whose effects are in the print.', 'The effects of Main are in the print. The new track goes nowhere at first, so that they are not heard twice.'],
    ],
    'dry' => [[], ['channels' => ['cello'], 'tap' => 'source'], ['Cello is printed dry: its effect is not in the print, nor on the new track.']],
    'mono that becomes stereo' => [[['type' => 'set-pan', 'channels' => ['cello'], 'pan' => 0.5]], ['channels' => ['cello'], 'tap' => 'post-fader'], ['Cello is mono, and its pan is in the print: that is stereo.']],
    'muted' => [[['type' => 'set-mute', 'channels' => ['cello'], 'mute' => true]], ['channels' => ['cello'], 'tap' => 'post-fader', 'inPlace' => true], ['Cello is muted: the print is silent.']],
    'nothing to say' => [[], ['channels' => ['cello'], 'tap' => 'pre-fader'], []],
]);

it('refuses what cannot be printed with the field', function (array $wish, string $place): void {
    $session = Demo::session(Mix::session([Mix::track('cello'), Mix::track('bass'), Mix::bus('low', ChannelKind::Group), Mix::bus('hall', ChannelKind::Return)]));
    printing($session, $wish)->assertUnprocessable()->assertJsonPath('location', $place);
    expect(PrintPart::query()->count())->toBe(0);
})->with([
    'nobody' => [['channels' => ['cello', 'nobody'], 'tap' => 'source'], 'channels'],
    'none' => [['channels' => [], 'tap' => 'source'], '/channels'],
    'tap' => [['channels' => ['cello'], 'tap' => 'insert:i1'], '/tap'],
    'a group in place' => [['channels' => ['low'], 'tap' => 'pre-fader', 'inPlace' => true], 'inPlace'],
    'range' => [['channels' => ['cello'], 'tap' => 'source', 'from' => 48000], 'from'],
    'the main to files' => [['channels' => ['cello'], 'tap' => 'main', 'toFiles' => true], 'toFiles'],
    'a range in place' => [['channels' => ['cello'], 'tap' => 'source', 'to' => 24000, 'inPlace' => true], 'inPlace'],
    'format' => [['channels' => ['cello'], 'tap' => 'source', 'format' => '8'], '/format'],
    'all to one place' => [['channels' => ['cello', 'bass'], 'tap' => 'source', 'together' => true, 'inPlace' => true], 'together'],
    'returns on tracks' => [['channels' => ['cello'], 'tap' => 'post-fader', 'withReturns' => true], 'withReturns'],
    'returns before the fader' => [['channels' => ['cello'], 'tap' => 'pre-fader', 'toFiles' => true, 'withReturns' => true], 'withReturns'],
    'returns of all in one' => [['channels' => ['cello', 'bass'], 'tap' => 'post-fader', 'toFiles' => true, 'together' => true, 'withReturns' => true], 'withReturns'],
    'nothing but returns' => [['channels' => ['hall'], 'tap' => 'post-fader', 'toFiles' => true, 'withReturns' => true], 'withReturns'],
    'after' => [['channels' => ['cello'], 'tap' => 'source', 'after' => 'burn'], '/after'],
]);

it('leaves nothing of a print that was stopped', function (): void {
    $session = Demo::session();
    $media = Media::query()->count();
    Queue::fake();
    $batch = printing($session, ['channels' => ['cello', 'bass'], 'tap' => 'source'])->json('id');
    $this->postJson("/api/batches/{$batch}/stop")->assertJsonPath('status', 'stopped')->assertJsonPath('message', 'Stopped. Nothing was printed.');
    foreach (PrintPart::query()->pluck('id') as $id) {
        (new PrintChannel($id))->handle(app(PartRenderer::class));
    }
    expect(Media::query()->count())->toBe($media)->and($session->refresh()->head->label)->toBe('Start');
});

it('prints to files of one length in one archive, with a list, and leaves the session as it is', function (): void {
    $session = Demo::session();
    $batch = printing($session, ['channels' => ['cello', 'bass'], 'tap' => 'post-fader', 'format' => '24', 'toFiles' => true, 'name' => '{n} {channel}'])->assertJsonPath('status', 'done')->assertJsonPath('kind', 'files')->json('id');
    $path = $this->get("/api/batches/{$batch}/file")->assertOk()->assertDownload('Prints.zip')->baseResponse->getFile()->getPathname();
    $zip = new ZipArchive;
    $zip->open($path, ZipArchive::RDONLY);
    $names = array_map(static fn (int $i): string => (string) $zip->getNameIndex($i), range(0, $zip->numFiles - 1));
    expect($names)->toBe(['01 Cello.wav', '02 Bass.wav', 'prints.txt'])
        ->and(strlen((string) $zip->getFromName('01 Cello.wav')))->toBe(strlen((string) $zip->getFromName('02 Bass.wav')))
        ->and((string) $zip->getFromName('prints.txt'))->toStartWith("file\tchannel\ttap\tsamples\n01 Cello.wav\tCello\tpost-fader\t4")
        ->and($session->refresh()->head->label)->toBe('Start')->and(app(App\Media\MediaFolder::class)->unfinished())->toBe([]);
    // A day later nobody needs them any more.
    $zip->close();
    expect(touch($path, time() - 90_000))->toBeTrue();
    clearstatcache();
    app(App\Storage\Sweep::class)->look();
    $this->get("/api/batches/{$batch}/file")->assertNotFound();
});
