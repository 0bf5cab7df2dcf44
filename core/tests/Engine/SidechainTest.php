<?php

declare(strict_types=1);

use Hafen\Audio\Block;
use Hafen\Document\InvalidDocument;
use Hafen\Document\SessionCodec;
use Hafen\Edit\EditRefused;
use Hafen\Processor\ProcessorCatalogue;
use Hafen\Processor\TakesSidechain;
use Hafen\Session\Channel\TapPoint;
use Hafen\Session\Insert\ProcessorInsert;
use Hafen\Session\Session;
use Hafen\Session\Source\TapSource;
use Hafen\Survey\FolderStore;
use Hafen\Tests\Support\MemoryLibrary;
use Hafen\Tests\Support\Mix;
use Hafen\Tests\Support\Signal;

require_once __DIR__.'/../Support/edited.php';

/** A bass whose compressor, behind a drive, listens to a drum that goes through a drive too; the drum comes later in the session. */
function pumping(TapPoint $tap = TapPoint::PreFader): Session
{
    return Mix::session([
        Mix::track('bass', [
            Mix::insert('i1', 'drive', ['drive' => 3.0]),
            new ProcessorInsert('i2', 'compressor', parameters: ['threshold' => -30.0, 'ratio' => 8.0], sidechain: new TapSource('drum', $tap)),
        ])->withFader(-3.0),
        Mix::track('drum', [Mix::insert('i3', 'drive', ['drive' => 9.0])])->withFader(null),
    ]);
}

function pumpingLibrary(): MemoryLibrary
{
    $bursts = array_map(static fn (float $x, int $i): float => $i % 12000 < 1500 ? $x : 0.0, Signal::noise(48000, 5, 0.8), range(0, 47999));

    return new MemoryLibrary(['bass' => [Signal::noise(48000, 4, 0.2)], 'drum' => [$bursts]]);
}

it('has an insert listen to another channel, lined up to the sample', function (TapPoint $tap, int $blockSize): void {
    $library = pumpingLibrary();
    $out = Mix::render(pumping($tap), $library, $blockSize, 'bass:pre-fader')->left;
    // By hand: the drive on both; the key, taken before or after the drum's drive, as late as the bass behind its own.
    $late = Signal::processor('drive')->latency();
    $bass = Block::mono(Signal::through(Signal::processor('drive', ['drive' => 3.0]), $library->files['bass'][0])->left);
    $key = $tap === TapPoint::Source
        ? [...array_fill(0, $late, 0.0), ...array_slice($library->files['drum'][0], 0, 48000 - $late)]
        : Signal::through(Signal::processor('drive', ['drive' => 9.0]), $library->files['drum'][0])->left;
    $compressor = Signal::processor('compressor', ['threshold' => -30.0, 'ratio' => 8.0]);
    assert($compressor instanceof TakesSidechain);
    $compressor->sidechain(Block::mono($key));
    $compressor->process($bass);
    $worst = $deepest = 0.0;
    for ($i = 0; $i < 47000; ++$i) {
        $worst = max($worst, abs($out[$i] - $bass->left[$i + $late]));
        $deepest = max($deepest, abs($library->files['bass'][0][$i]));
    }
    expect($worst)->toBeLessThan(1e-9)
        // And it does pump: while the drum sounds the bass is down.
        ->and(Signal::rms(array_slice($out, 12400, 1000)))->toBeLessThan(0.5 * Signal::rms(array_slice($out, 20000, 1000)));
})->with([[TapPoint::Source, 512], [TapPoint::PreFader, 512], [TapPoint::PreFader, 64], [TapPoint::PreFader, 500]]);

it('has an insert behind the fader listen to another channel too', function (): void {
    $library = pumpingLibrary();
    $session = edited(pumping(), ['type' => 'move-insert', 'insert' => 'i2', 'channel' => 'bass', 'row' => 'postInserts']);
    $out = Mix::render($session, $library, tap: 'bass:post-fader')->left;
    // The fader stands 3 dB lower, in the middle of the pan; the compressor hears the drum all the same.
    $late = Signal::processor('drive')->latency();
    $gain = 10.0 ** (-3.0 / 20.0) * M_SQRT1_2;
    $bass = Block::mono(array_map(static fn (float $x): float => $gain * $x, Signal::through(Signal::processor('drive', ['drive' => 3.0]), $library->files['bass'][0])->left));
    $compressor = Signal::processor('compressor', ['threshold' => -30.0, 'ratio' => 8.0]);
    assert($compressor instanceof TakesSidechain);
    $compressor->sidechain(Block::mono(Signal::through(Signal::processor('drive', ['drive' => 9.0]), $library->files['drum'][0])->left));
    $compressor->process($bass);
    $worst = 0.0;
    for ($i = 0; $i < 47000; ++$i) {
        $worst = max($worst, abs($out[$i] - $bass->left[$i + $late]));
    }
    expect($worst)->toBeLessThan(1e-9);
    // Measured in parts it is the same, where others come after it too.
    $survey = Mix::survey($session, $library);
    expect($survey->taps['bass:post-fader']->peak)->toEqualWithDelta(Signal::peak($out), 1e-6)
        ->and($survey->taps['main:post-fader']->peak)->toEqualWithDelta(Signal::peak(Mix::render($session, $library)->left), 1e-6);
});

it('closes for a moment where what is listened to makes clips wait, instead of jumping', function (?array $key): void {
    // The drum comes later than the bass by the look-ahead of its limiter.
    $tone = Signal::sine(110.0, 96000, 0.5);
    $session = Mix::session([
        Mix::track('bass', [new ProcessorInsert('i2', 'compressor', parameters: ['threshold' => 0.0], sidechain: $key === null ? new TapSource('drum', TapPoint::PreFader) : null)], length: 96000),
        Mix::track('drum', [Mix::insert('i3', 'limiter', ['look-ahead' => '5ms'])], length: 96000)->withFader(null),
    ], length: 96000);
    $engine = Mix::engine($session, new MemoryLibrary(['bass' => [$tone], 'drum' => [array_fill(0, 96000, 0.0)]]));
    $engine->start(0);
    $sound = Mix::take($engine, 47 * 512)->left;
    $engine->change(edited($session, ['type' => 'set-sidechain', 'insert' => 'i2', 'sidechain' => $key]));
    $sound = [...$sound, ...Mix::take($engine, 47 * 512)->left];
    $steepest = 0.0;
    for ($i = 1; $i < count($sound); ++$i) {
        $steepest = max($steepest, abs($sound[$i] - $sound[$i - 1]));
    }
    // As steep as the tone itself, or a ramp of 5 ms over it, and no more.
    $own = 0.5 * M_SQRT1_2 * 2 * M_PI * 110.0 / 48000;
    expect($steepest)->toBeLessThan($own + 0.5 / 200)->and(Signal::rms(array_slice($sound, 40000, 4000)))->toEqualWithDelta(0.25, 0.01);
})->with(['set' => [['channel' => 'drum', 'tap' => 'pre-fader']], 'taken away' => [null]]);

it('goes on where nobody hears what stops listening', function (): void {
    // In a branch that is muted away with its split nothing is worked, so nothing could ever fade out there.
    $session = Mix::session([
        Mix::track('bass', [new Hafen\Session\Insert\Split('s1', [new Hafen\Session\Insert\Branch('b1', 'A', inserts: [new ProcessorInsert('i2', 'compressor', sidechain: new TapSource('drum', TapPoint::PreFader))])], false)]),
        Mix::track('drum'),
    ]);
    $engine = Mix::engine($session, pumpingLibrary());
    $engine->start(0);
    $engine->change(edited(edited($session, ['type' => 'set-sidechain', 'insert' => 'i2', 'sidechain' => null]), ['type' => 'add-channel', 'name' => 'New']));
    Mix::take($engine, 4096);
    expect($engine->plan()->session->channels)->toHaveCount(4);
});

it('does not hear the key itself, and survives a survey in parts', function (): void {
    $library = pumpingLibrary();
    $session = pumping();
    $survey = Mix::survey($session, $library);
    // The drum's fader is down: the main has the bass alone, as loud as the whole render in one go.
    $peak = Signal::peak(Mix::render($session, $library)->left);
    expect($survey->taps['main:post-fader']->peak)->toEqualWithDelta($peak, 1e-6);
    // What the drum does changes what is known of the bass.
    $louder = edited($session, ['type' => 'set-trim', 'channels' => ['drum'], 'gain' => 12.0]);
    $store = FolderStore::temporary();
    Mix::survey($session, $library, $store);
    expect(Mix::survey($louder, $library, $store)->taps['bass:pre-fader']->meanSquare)->toBeLessThan($survey->taps['bass:pre-fader']->meanSquare);
});

it('refuses what would go round, and lets a key go with what it listened to', function (): void {
    $session = pumping();
    $key = static fn (Session $session): ?TapSource => $session->locate('i2')?->insert instanceof ProcessorInsert ? $session->locate('i2')->insert->sidechain : null;
    expect(fn () => edited($session, ['type' => 'set-sidechain', 'insert' => 'i2', 'sidechain' => ['channel' => 'main', 'tap' => 'source']]))->toThrow(EditRefused::class)
        ->and(fn () => edited($session, ['type' => 'set-sidechain', 'insert' => 'i2', 'sidechain' => ['channel' => 'bass', 'tap' => 'source']]))->toThrow(EditRefused::class)
        ->and(fn () => edited($session, ['type' => 'set-sidechain', 'insert' => 'i1', 'sidechain' => ['channel' => 'drum', 'tap' => 'source']]))->toThrow(InvalidDocument::class)
        ->and($key(edited($session, ['type' => 'set-sidechain', 'insert' => 'i2', 'sidechain' => null])))->toBeNull()
        ->and($key(edited($session, ['type' => 'remove-channels', 'channels' => ['drum']])))->toBeNull()
        ->and($key(edited($session, ['type' => 'move-insert', 'insert' => 'i2', 'channel' => 'drum'])))->toBeNull()
        ->and($key(edited($session, ['type' => 'move-insert', 'insert' => 'i2', 'channel' => 'bass', 'row' => 'postInserts'])))->toEqual(new TapSource('drum', TapPoint::PreFader))
        ->and($key(edited($session, ['type' => 'move-insert', 'insert' => 'i2', 'channel' => 'main'])))->toEqual(new TapSource('drum', TapPoint::PreFader));
    // And the document keeps it.
    $codec = new SessionCodec(ProcessorCatalogue::standard());
    expect($codec->decode($codec->encode($session)))->toEqual($session);
});
