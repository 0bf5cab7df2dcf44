<?php

declare(strict_types=1);

use Hafen\Audio\Block;
use Hafen\Metering\TapReading;
use Hafen\Session\Channel\ChannelKind;
use Hafen\Session\Channel\Send;
use Hafen\Session\Channel\Width;
use Hafen\Session\Session;
use Hafen\Survey\AudioCapture;
use Hafen\Survey\CapturedAudio;
use Hafen\Survey\FolderStore;
use Hafen\Survey\SessionSurvey;
use Hafen\Survey\SurveyMap;
use Hafen\Survey\SurveyStoreFull;
use Hafen\Survey\TimeRange;
use Hafen\Tests\Support\MemoryLibrary;
use Hafen\Tests\Support\Mix;
use Hafen\Tests\Support\RandomRouting;
use Hafen\Tests\Support\Signal;

require_once __DIR__.'/../Support/edited.php';

/** Two tracks to a group, one by itself, two returns into a wash, a cue. */
function quay(): Session
{
    return Mix::session([
        Mix::track('cello', [Mix::insert('i1', 'compressor')], Width::Stereo, 4000)->withOutput('strings'),
        Mix::track('viola', [], Width::Mono, 4000)->withOutput('strings')->withSends([new Send('n1', 'plate', -9.0)]),
        Mix::track('drum', [Mix::insert('i2', 'drive')], Width::Mono, 4000)->withSends([new Send('n2', 'cue', -3.0, Hafen\Session\Channel\TapPoint::PreFader)]),
        Mix::bus('strings', ChannelKind::Group, [Mix::insert('i3', 'limiter')]),
        Mix::bus('plate', ChannelKind::Return, [Mix::insert('i4', 'reverb')], 'wash'),
        Mix::bus('wash', ChannelKind::Return),
        Mix::bus('cue', ChannelKind::Cue),
    ], [Mix::insert('i5', 'parametric-eq')], 4000);
}

function quaySound(): MemoryLibrary
{
    return new MemoryLibrary([
        'cello' => [Signal::noise(4000, 1), Signal::noise(4000, 2)],
        'viola' => [Signal::noise(4000, 3)],
        'drum' => [Signal::noise(4000, 4)],
    ]);
}

/**
 * @param  array<string, mixed>  $edit
 * @return list<string> ids of the parts an edit leaves to be measured
 */
function missingAfter(array $edit, FolderStore $store): array
{
    return array_keys(SurveyMap::of(edited(quay(), $edit), Mix::processors())->missing($store));
}

it('measures after an edit only what can sound different', function (array $edit, array $missing): void {
    $store = FolderStore::temporary();
    Mix::survey(quay(), quaySound(), $store);
    expect(SurveyMap::of(quay(), Mix::processors())->missing($store))->toBe([])
        ->and(missingAfter($edit, $store))->toEqualCanonicalizing($missing);
})->with([
    'a fader: its own output and what comes after' => [['type' => 'set-fader', 'channels' => ['cello'], 'gain' => -3], ['cello:from-fader', 'strings:up-to-fader', 'strings:from-fader', 'main:up-to-fader', 'main:from-fader']],
    'a fader that a return hears too' => [['type' => 'set-fader', 'channels' => ['viola'], 'gain' => -3], [
        'viola:from-fader', 'strings:up-to-fader', 'strings:from-fader', 'plate:up-to-fader', 'plate:from-fader', 'wash:up-to-fader', 'wash:from-fader', 'main:up-to-fader', 'main:from-fader',
    ]],
    'a fader the cue does not hear' => [['type' => 'set-fader', 'channels' => ['drum'], 'gain' => -3], ['drum:from-fader', 'main:up-to-fader', 'main:from-fader']],
    'an amount sent to a cue' => [['type' => 'set-send-gain', 'sends' => ['n2'], 'gain' => -6], ['cue:up-to-fader', 'cue:from-fader']],
    'the fader of the main' => [['type' => 'set-fader', 'channels' => ['main'], 'gain' => -3], ['main:from-fader']],
    'a trim' => [['type' => 'set-trim', 'channels' => ['drum'], 'gain' => -3], ['drum:up-to-fader', 'drum:from-fader', 'cue:up-to-fader', 'cue:from-fader', 'main:up-to-fader', 'main:from-fader']],
    'a name' => [['type' => 'rename-channel', 'channel' => 'drum', 'name' => 'Barrel'], []],
    'what is shown' => [['type' => 'set-hidden', 'channels' => ['drum'], 'hidden' => true], []],
]);

it('finds the same, to the bit, whether all is measured or only what an edit touched', function (int $seed): void {
    [$session, $library] = RandomRouting::make($seed, 14, 900);
    $store = FolderStore::temporary();
    Mix::survey($session, $library, $store);
    $ids = array_map(static fn ($channel): string => $channel->id, $session->channels);
    mt_srand($seed);
    foreach (range(1, 3) as $_) {
        $edit = ['type' => 'set-fader', 'channels' => [$ids[mt_rand(0, count($ids) - 1)]], 'gain' => mt_rand(-20, 3)];
        $session = edited($session, $edit);
        $again = Mix::survey($session, $library, $store);
        // All in one pass, with nothing recorded.
        $anew = Mix::survey($session, $library, FolderStore::temporary(keepsCaptures: false));
        expect($again->taps)->toEqual($anew->taps)
            ->and($again->outputs)->toEqual($anew->outputs)
            ->and($again->main)->toEqual($anew->main)
            ->and($again->moments())->toEqual($anew->moments());
    }
})->with(range(801, 812));

it('records nothing where nothing is kept for later, but what is asked for', function (): void {
    $folder = sys_get_temp_dir().'/hafen-once-'.bin2hex(random_bytes(4));
    $store = new FolderStore($folder, keepsCaptures: false);
    $survey = new SessionSurvey(Mix::processors(), quaySound(), $store);
    expect($survey->measure(quay(), null, null, ['main'])?->isWhole())->toBeTrue();
    $map = SurveyMap::of(quay(), Mix::processors());
    expect(glob("{$folder}/*.take"))->toBe(["{$folder}/{$map->parts['main:up-to-fader']->hash}.pre-fader.take"]);
    $store->discard();
});

it('measures each channel that is not fed by itself, those that are much work too, and the rest together', function (): void {
    $map = SurveyMap::of(quay(), Mix::processors());
    $missing = $map->missing(FolderStore::temporary());
    $channels = static fn (array $pass): array => array_values(array_unique(array_column($pass, 'channel')));
    $passes = array_map($channels, SurveyMap::passes($missing));
    // A limiter and a reverb are more work than to read what feeds them twice.
    expect(array_slice($passes, 0, -1))->toEqualCanonicalizing([['cello'], ['viola'], ['drum'], ['strings'], ['plate']])
        ->and(end($passes))->toEqualCanonicalizing(['wash', 'cue', 'main']);
});

it('measures channels whose names are numbers in one pass as one by one, with 8 inserts in a row', function (): void {
    $row = static fn (string $id): array => array_map(static fn (int $i): Hafen\Session\Insert\ProcessorInsert => Mix::insert("{$id}i{$i}", ['compressor', 'parametric-eq', 'drive', 'gate'][$i % 4]), range(1, 8));
    $session = Mix::session([
        Mix::track('808', $row('8'), Width::Stereo, 3000)->withOutput('12'),
        Mix::track('7', $row('7'), Width::Mono, 3000)->withOutput('12')->withSends([new Send('1', '303', -6.0)]),
        Mix::bus('12', ChannelKind::Group, [Mix::insert('5', 'limiter')]),
        Mix::bus('303', ChannelKind::Return, [Mix::insert('6', 'reverb')]),
    ], [Mix::insert('9', 'limiter')], 3000);
    $library = new MemoryLibrary(['808' => [Signal::noise(3000, 1), Signal::noise(3000, 2)], '7' => [Signal::noise(3000, 3)]]);
    $parted = Mix::survey($session, $library);
    $once = Mix::survey($session, $library, FolderStore::temporary(keepsCaptures: false));
    expect($once->taps)->toEqual($parted->taps)->and($once->outputs)->toEqual($parted->outputs)->and($once->moments())->toEqual($parted->moments())
        ->and($once->isWhole())->toBeTrue()->and($once->taps)->toHaveKeys(['808:insert:8i8', '303:post-fader']);
});

it('puts no channel into the last pass that one before needs', function (int $seed): void {
    [$session] = RandomRouting::make($seed, 20, 400);
    $done = [];
    foreach (SurveyMap::passes(SurveyMap::of($session, Mix::processors())->missing(FolderStore::temporary())) as $pass) {
        $own = array_column($pass, 'hash', 'hash');
        foreach ($pass as $part) {
            foreach ($part->needs as [, $hash]) {
                expect(isset($own[$hash]) || isset($done[$hash]))->toBeTrue();
            }
        }
        $done += $own;
    }
})->with(range(901, 915));

it('measures again what nobody has any more, and nothing else', function (): void {
    $folder = sys_get_temp_dir().'/hafen-lost-'.bin2hex(random_bytes(4));
    $store = new FolderStore($folder);
    Mix::survey(quay(), quaySound(), $store);
    foreach ((array) glob("{$folder}/*.take") as $take) {
        unlink((string) $take);
    }
    // All figures are there, so the recordings are not missed until something after them changes.
    expect(SurveyMap::of(quay(), Mix::processors())->missing($store))->toBe([])
        ->and(missingAfter(['type' => 'set-fader', 'channels' => ['main'], 'gain' => -3], $store))->toEqualCanonicalizing([
            // Its recording was the main's own, for which everything that feeds it is needed.
            ...array_map(static fn (string $id): string => "{$id}:up-to-fader", ['cello', 'viola', 'drum', 'strings', 'plate', 'wash', 'main']),
            'main:from-fader',
        ]);
    $store->shrink(0);
    expect(glob("{$folder}/*"))->toBe([]);
    rmdir($folder);
});

it('only records again what was measured before, and finds the same', function (int $seed): void {
    [$session, $library] = RandomRouting::make($seed, 14, 900);
    $folder = sys_get_temp_dir().'/hafen-again-'.bin2hex(random_bytes(4));
    $store = new FolderStore($folder);
    $first = Mix::survey($session, $library, $store);
    $takes = array_map(sha1_file(...), (array) glob("{$folder}/*.take"));
    $measures = array_map(sha1_file(...), (array) glob("{$folder}/*.measures"));
    array_map(unlink(...), (array) glob("{$folder}/*.take"));
    // The main has to be measured, so all that feeds it is recorded again.
    $map = SurveyMap::of($session, Mix::processors());
    unlink("{$folder}/{$map->part($session->main()->id, Hafen\Survey\Section::UpToFader)->hash}.measures");
    $again = Mix::survey($session, $library, $store);
    expect($again->taps)->toEqual($first->taps)->and($again->main)->toEqual($first->main)->and($again->sources)->toEqual($first->sources);
    $kept = array_map(sha1_file(...), (array) glob("{$folder}/*.measures"));
    // What it cost another time is all that may differ, and only of the main.
    expect(count(array_diff($kept, $measures)))->toBeLessThanOrEqual(2)
        ->and(array_diff(array_map(sha1_file(...), (array) glob("{$folder}/*.take")), $takes))->toBe([]);
    $store->discard();
})->with(range(821, 826));

it('measures a range as the whole holds it there', function (): void {
    $whole = Mix::render(quay(), quaySound());
    $range = Mix::survey(quay(), quaySound(), null, new TimeRange(1500, 2600));
    $peak = max(Signal::peak(array_slice($whole->left, 1500, 1100)), Signal::peak(array_slice($whole->right, 1500, 1100)));
    expect($range->taps['main:post-fader']->peak)->toEqualWithDelta($peak, 1e-12)
        ->and($range->taps['main:post-fader']->peakAt)->toBeGreaterThanOrEqual(1500)->toBeLessThan(2600);
});

it('stops when it is told to, and leaves no half of a recording', function (): void {
    $folder = sys_get_temp_dir().'/hafen-stopped-'.bin2hex(random_bytes(4));
    $store = new FolderStore($folder);
    $stopped = (new SessionSurvey(Mix::processors(), quaySound(), $store))->measure(quay(), null, static fn (): bool => false);
    expect($stopped)->toBeNull()->and(glob("{$folder}/*"))->toBe([]);
    rmdir($folder);
});

it('plays back what was recorded, in any cut', function (): void {
    $path = sys_get_temp_dir().'/hafen-take-'.bin2hex(random_bytes(4));
    $capture = new AudioCapture($path);
    $noise = Signal::noise(2048, 9);
    $quiet = array_fill(0, 512, 0.0);
    foreach ([Block::mono(array_slice($noise, 0, 512)), new Block(array_slice($noise, 512, 512), array_slice($noise, 1024, 512)), Block::mono($quiet), Block::silence(512)] as $block) {
        $capture->write($block);
    }
    expect(is_file($path))->toBeFalse();
    $capture->close();
    $recording = new CapturedAudio($path, 1024, 512);
    expect($recording->read(1024, 512))->toEqual(Block::mono(array_slice($noise, 0, 512)))
        ->and($recording->read(1536, 512)->right)->toBe(array_slice($noise, 1024, 512))
        ->and($recording->read(1300, 300)->left)->toBe(array_slice($noise, 276, 300))
        ->and($recording->read(1300, 300)->right())->toBe([...array_slice($noise, 276, 236), ...array_slice($noise, 1024, 64)])
        ->and($recording->read(2048, 512))->toEqual(Block::mono($quiet))
        ->and($recording->read(900, 124)->left)->toBe(array_fill(0, 124, 0.0))
        ->and($recording->read(9000, 512)->left)->toBe($quiet);
    unlink($path);
    expect(static fn () => new CapturedAudio($path, 0, 512))->toThrow(SurveyStoreFull::class);
});

it('says so when there is no place to keep anything', function (): void {
    expect(static fn () => new AudioCapture('/nowhere/take'))->toThrow(SurveyStoreFull::class, 'disk is full');
});

it('reads the figures it kept as they were', function (): void {
    $spectrum = new Hafen\Metering\Spectrum(5.86, [1e-12, 0.25, M_PI], [0.0, 1e-300, 0.5]);
    $measures = new Hafen\Survey\PartMeasures(
        [
            'cello:source' => new TapReading(1.0, 0.1, 3, 0.0, 4711, 12, [], 1e-9),
            'cello:insert:i1' => new TapReading(0.5, 0.05, 0, 6.25, null, null, [0.0, 1.5, 6.25], null),
            // Nothing was reduced before the third range.
            'cello:insert:i2' => new TapReading(0.5, 0.05, 0, 2.0, null, null, [2 => 2.0, 3 => 1.0 / 3, 9 => 0.125], null),
        ],
        ['cello' => 0.02],
        [],
        new Hafen\Survey\SourceFigures(0.001, $spectrum, [], [], pack('e*', 0.1, -0.2)),
    );
    $store = FolderStore::temporary();
    $store->keep('abc', $measures);
    expect($store->measures('abc'))->toEqual($measures)
        ->and($store->measures('abc')->taps['cello:insert:i2']->reductions)->toBe([2 => 2.0, 3 => 1.0 / 3, 9 => 0.125])
        ->and($store->measures('abc')->source->low->left)->toBe($spectrum->left);
});
