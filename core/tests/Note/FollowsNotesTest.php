<?php

declare(strict_types=1);

use Hafen\Audio\Block;
use Hafen\Document\ContentHashes;
use Hafen\Document\InvalidDocument;
use Hafen\Document\SessionCodec;
use Hafen\Note\Note;
use Hafen\Note\NoteClip;
use Hafen\Processor\Keyed\Vocoder;
use Hafen\Session\Channel\Channel;
use Hafen\Session\Channel\ChannelKind;
use Hafen\Session\Channel\Width;
use Hafen\Session\Session;
use Hafen\Session\Source\NoteSource;
use Hafen\Tests\Support\MemoryLibrary;
use Hafen\Tests\Support\Mix;
use Hafen\Tests\Support\Reference;
use Hafen\Tests\Support\Signal;

require_once __DIR__.'/../Support/edited.php';

const STEERED = 96000;

/**
 * A track through an effect that the notes of another channel steer.
 *
 * @param  list<Note>  $notes
 * @param  array<string, float|string|bool>  $parameters
 */
function steered(string $effect, array $parameters, array $notes): Session
{
    $keys = new Channel('keys', ChannelKind::Note, 'Keys', Width::Mono, new NoteSource([(new NoteClip('c1', 0, 400_000))->withNotes($notes)]), output: 'none');

    return Mix::session([$keys, Mix::track('voice', [Mix::insert('i1', $effect, $parameters)->withNotes('keys')], Width::Mono, STEERED)], length: STEERED);
}

/** @param  list<float>  $voice */
function steeredSound(Session $session, array $voice, int $blockSize = 512): Block
{
    return Mix::render($session, new MemoryLibrary(['voice' => [$voice]]), $blockSize, 'voice:pre-fader');
}

it('shapes the carrier by its bands as scipy has them', function (int $band): void {
    $centres = Vocoder::centres(16);
    $octaves = log(8000.0 / 120.0, 2.0) / 15;
    $sound = steeredSound(steered('vocoder', ['noise' => 100.0, 'level' => 0.0, 'attack' => 20.0, 'release' => 20.0], [new Note(0, 3840, 0, 1)]), Signal::sine($centres[$band], STEERED, 0.5))->left;
    // Source: scipy.signal.iirpeak. Of a steady sine each band's envelope is what its filter lets through of it; the noise comes out
    // through the sum of the bands, each so loud.
    [$measured, $expected] = Reference::python(<<<'PY'
        filters = [sig.iirpeak(c, data["q"], fs=48000) for c in data["centres"]]
        tone = [abs(sig.freqz(b, a, worN=[data["centres"][data["band"]]], fs=48000)[1][0]) for b, a in filters]
        f, p = sig.welch(np.array(data["x"]), 48000, nperseg=8192)
        sums = sum(t * sig.freqz(b, a, worN=f[1:], fs=48000)[1] for t, (b, a) in zip(tone, filters))
        around = lambda power, c: float(10 * np.log10(power[(f[1:] > c / 1.1) & (f[1:] < c * 1.1)].mean()))
        measured = [around(p[1:], c) for c in data["centres"]]
        expected = [around(np.abs(sums) ** 2, c) for c in data["centres"]]
        print(json.dumps([[x - measured[data["band"]] for x in measured], [x - expected[data["band"]] for x in expected]]))
        PY, ['x' => array_slice($sound, 9600), 'q' => 1.0 / (2.0 * sinh(M_LN2 / 2.0 * $octaves)), 'centres' => $centres, 'band' => $band]);
    expect($expected[$band])->toEqual(0.0)->and(min($expected))->toBeLessThan(-15.0);
    foreach ($expected as $at => $level) {
        // Low bands hold few lines of the spectrum.
        expect($measured[$at])->toEqualWithDelta($level, $at < 4 ? 3.0 : 1.5, "band {$at}");
    }
})->with([5, 8, 12]);

it('lets notes speak with the voice, and is silent without notes or without voice', function (): void {
    $noise = Signal::noise(STEERED, 3, 0.3);
    $sound = steeredSound(steered('vocoder', ['noise' => 0.0], [new Note(960, 960, 57, 127)]), $noise)->left;
    // The saw of A3, its harmonics; before and after the note nothing.
    expect(Signal::peak(array_slice($sound, 0, 23900)))->toBe(0.0)->and(Signal::amplitudeAt(array_slice($sound, 26000, 19200), 440.0))->toBeGreaterThan(3 * Signal::amplitudeAt(array_slice($sound, 26000, 19200), 495.0))
        ->and(Signal::rms(array_slice($sound, 60000)))->toBeLessThan(1e-6)
        ->and(Signal::peak(steeredSound(steered('vocoder', [], [new Note(0, 3840, 57, 127)]), array_fill(0, STEERED, 0.0))->left))->toBe(0.0);
});

it('opens a gate with notes, harder ones further', function (): void {
    $sound = steeredSound(steered('note-gate', ['attack' => 2.0, 'release' => 20.0, 'velocity' => 100.0], [new Note(960, 480, 60, 127), new Note(1920, 480, 60, 64)]), array_fill(0, STEERED, 0.5))->left;
    expect($sound[23999])->toBe(0.0)->and($sound[35000])->toEqualWithDelta(0.5, 1e-3)->and($sound[47000])->toBeLessThan(0.001)->and($sound[59000])->toEqualWithDelta(0.5 * 64 / 127, 1e-3)
        // One-pole: 1 - 1/e of the way after 2 ms.
        ->and($sound[24000 + 96])->toEqualWithDelta(0.5 * (1.0 - exp(-1.0)), 0.005);
});

it('puts a filter where the last key is', function (): void {
    $noise = Signal::noise(STEERED, 5, 0.3);
    $sound = steeredSound(steered('key-filter', ['offset' => 0.0, 'resonance' => 100.0, 'glide' => 1.0], [new Note(0, 1920, 69, 100), new Note(1920, 1920, 81, 100)]), $noise)->left;
    $ratio = static fn (int $from): float => Signal::amplitudeAt(array_slice($sound, $from, 38400), 440.0) / Signal::amplitudeAt(array_slice($sound, $from, 38400), 880.0);
    expect($ratio(9600))->toBeGreaterThan(3.0)->and($ratio(57600))->toBeLessThan(1 / 3);
});

it('tunes strings by held notes, within three cents, and lets them ring out', function (int $key): void {
    $noise = [...Signal::noise(24000, 7, 0.3), ...array_fill(0, STEERED - 24000, 0.0)];
    $sound = steeredSound(steered('note-resonator', ['decay' => 6.0, 'damping' => 20.0], [new Note(0, 3840, $key, 100)]), $noise)->left;
    $frequency = 440.0 * 2.0 ** (($key - 69) / 12);
    $found = Reference::peak(array_slice($sound, 26000, 60000), $frequency);
    expect(abs(1200.0 * log($found / $frequency, 2)))->toBeLessThan(3.0)->and(Signal::rms(array_slice($sound, 90000)))->toBeGreaterThan(1e-5);
})->with([45, 69, 84]);

it('draws a voice to the played notes while they are held, in any octave, within five cents', function (int $key, float $expected): void {
    // Source: equal temperament. 225 Hz lies 39 cents above A3, which is what it is drawn to where no note is held.
    $voice = array_map(static fn (int $i): float => 0.25 * array_sum(array_map(static fn (int $n): float => sin(2.0 * M_PI * 225.0 * $n * $i / 48000) / $n, range(1, 6))), range(0, STEERED - 1));
    $sound = steeredSound(steered('pitch-correction', ['response' => 0.0], [new Note(1920, 1920, $key, 100)]), $voice)->left;
    $pitch = static fn (int $from, float $near): float => 1200.0 * log(Reference::peak(array_slice($sound, $from, 24000), $near) / $near, 2);
    expect(abs($pitch(20000, 220.0)))->toBeLessThan(5.0)->and(abs($pitch(60000, $expected)))->toBeLessThan(5.0)
        // The note begins at 48000: 30 ms before and after it the pitch is the one of there.
        ->and(Signal::amplitudeAt(array_slice($sound, 48000 - 1440 - 4800, 4800), 220.0))->toBeGreaterThan(2 * Signal::amplitudeAt(array_slice($sound, 48000 - 1440 - 4800, 4800), $expected))
        ->and(Signal::amplitudeAt(array_slice($sound, 48000 + 1440, 4800), $expected))->toBeGreaterThan(2 * Signal::amplitudeAt(array_slice($sound, 48000 + 1440, 4800), 220.0));
})->with([[60, 440.0 * 2 ** (-9 / 12)], [84, 440.0 * 2 ** (-9 / 12)], [54, 440.0 * 2 ** (-15 / 12)]]);

it('sounds the same in blocks of any length', function (string $effect): void {
    mt_srand(9);
    $notes = array_map(static fn (): Note => new Note(mt_rand(0, 3000), mt_rand(1, 900), mt_rand(36, 90), mt_rand(1, 127)), range(1, 20));
    $noise = array_map(static fn (float $one, float $other): float => $one + $other, Signal::noise(STEERED, 11, 0.1), Signal::sine(233.0, STEERED, 0.3));
    $whole = steeredSound(steered($effect, [], $notes), $noise);
    expect(Signal::peak($whole->left))->toBeGreaterThan(0.01);
    foreach ([64, 480, 4096] as $blockSize) {
        expect(Mix::difference(steeredSound(steered($effect, [], $notes), $noise, $blockSize), $whole))->toBe(0.0);
    }
})->with(['vocoder', 'note-gate', 'key-filter', 'note-resonator', 'pitch-correction']);

it('hears new notes while it plays, lets go where the channel goes, and is known by the notes it follows', function (): void {
    $session = steered('note-gate', ['release' => 5.0], [new Note(0, 3840, 60, 127)]);
    $engine = Mix::engine($session, new MemoryLibrary(['voice' => [array_fill(0, STEERED, 0.5)]]));
    $engine->listenAt(Hafen\Engine\Tap::fromString('voice:pre-fader') ?? throw new LogicException);
    $engine->start(0, 0);
    Mix::take($engine, 12000);
    $engine->change(edited($session, ['type' => 'set-notes', 'channel' => 'keys', 'clip' => 'c1', 'notes' => []]));
    expect(Mix::take($engine, 9600)->left[9599])->toBeLessThan(1e-3);
    $engine->change($session);
    $without = edited($session, ['type' => 'set-insert-notes', 'insert' => 'i1', 'notes' => null]);
    $gone = edited($session, ['type' => 'remove-channels', 'channels' => ['keys']]);
    expect($gone->locate('i1')->insert->notes)->toBeNull();
    $hash = static fn (Session $of): string => ContentHashes::of($of, Mix::processors())->upToFader('voice');
    expect($hash($session))->not->toBe($hash($without))->and($hash(edited($session, ['type' => 'transpose-notes', 'channel' => 'keys', 'clip' => 'c1', 'by' => 1])))->not->toBe($hash($session));
    $codec = new SessionCodec(Mix::processors());
    expect($codec->encode($codec->decode($codec->encode($session))))->toBe($codec->encode($session))
        ->and(fn () => $codec->decode(str_replace('"notes":"keys"', '"notes":"main"', $codec->encode($session))))->toThrow(InvalidDocument::class, 'allowed is the id of a note channel')
        ->and(fn () => edited($session, ['type' => 'set-insert-notes', 'insert' => 'i1', 'notes' => 'main']))->toThrow('Main is no note channel. Notes lie on note channels only.');
});
