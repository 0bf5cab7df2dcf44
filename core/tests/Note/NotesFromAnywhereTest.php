<?php

declare(strict_types=1);

use Hafen\Dsp\Noise;
use Hafen\Note\Note;
use Hafen\Note\NoteClip;
use Hafen\Note\NoteControl;
use Hafen\Session\Channel\Channel;
use Hafen\Session\Channel\ChannelKind;
use Hafen\Session\Channel\Width;
use Hafen\Session\Insert\Insert;
use Hafen\Session\Session;
use Hafen\Session\Source\NoteSource;
use Hafen\Tests\Support\MemoryLibrary;
use Hafen\Tests\Support\Mix;
use Hafen\Tests\Support\Signal;

const ANYWHERE = 480_000;

/**
 * Ten seconds of notes with the modulation wheel up and now and then the pedal down, through a row, or with a track through an effect that
 * follows them.
 *
 * @param  list<Insert>  $row
 */
function fromAnywhere(array $row, ?Insert $following = null): Session
{
    mt_srand(5);
    $notes = array_map(static fn (int $i): Note => new Note(240 * $i + mt_rand(0, 60), mt_rand(100, 900), mt_rand(40, 80), mt_rand(40, 127)), range(0, 75));
    $controls = [new NoteControl(0, NoteControl::MODULATION, 90), ...array_map(static fn (int $i): NoteControl => new NoteControl(700 * $i, NoteControl::SUSTAIN, $i % 2 * 127), range(0, 26))];
    $keys = new Channel('keys', ChannelKind::Note, 'Keys', Width::Mono, new NoteSource([(new NoteClip('c1', 0, 400_000, [], $controls))->withNotes($notes)]), inserts: $row, output: $following === null ? 'main' : 'none');

    return Mix::session([$keys, ...($following === null ? [] : [Mix::track('voice', [$following->withNotes('keys')], Width::Mono, ANYWHERE)])], length: ANYWHERE);
}

it('sounds as within the whole, wherever a range begins', function (Closure $made, float $difference): void {
    $session = $made();
    $library = new MemoryLibrary(['voice' => [Signal::noise(ANYWHERE, 3, 0.3)], 'string' => [Signal::sine(220.0, 48000, 0.5)]]);
    $heard = static function (int $from, int $frames) use ($session, $library): array {
        $engine = Mix::engine($session, $library);
        $engine->start($from, $engine->plan()->preRoll());

        return Mix::take($engine, $frames)->left;
    };
    $whole = $heard(0, ANYWHERE);
    foreach ([290_017, 401_000] as $from) {
        $part = array_slice($whole, $from, 24_000);
        expect(Signal::peak($part))->toBeGreaterThan(0.005)
            ->and(Signal::peak(array_map(static fn (float $one, float $other): float => $one - $other, $heard($from, 24_000), $part)) / Signal::peak($part))->toBeLessThan($difference);
    }
})->with([
    'a synthesiser with noise, vibrato and glide' => [static fn (): Session => fromAnywhere([Mix::insert('i1', 'synthesiser', ['noise' => 50.0, 'glide' => 60.0, 'lfo-pitch' => 20.0, 'release' => 100.0])]), 1e-5],
    'through an arpeggio' => [static fn (): Session => fromAnywhere([Mix::insert('i1', 'arpeggio', ['octaves' => 3.0, 'order' => 'played', 'swing' => 20.0]), Mix::insert('i2', 'synthesiser', ['noise' => 20.0])]), 1e-5],
    'struck bars, played by chance' => [static fn (): Session => fromAnywhere([Mix::insert('i1', 'humanise'), Mix::insert('i2', 'struck-bar', ['decay' => 0.5])]), 1e-5],
    'a sampler that loops' => [static fn (): Session => fromAnywhere([Mix::insert('i1', 'sampler', ['recording-1' => 'string', 'root-1' => 57.0, 'loop' => true, 'release' => 100.0])]), 1e-5],
    'a vocoder with breath' => [static fn (): Session => fromAnywhere([], Mix::insert('i1', 'vocoder', ['noise' => 50.0])), 1e-4],
    'a resonator' => [static fn (): Session => fromAnywhere([], Mix::insert('i1', 'note-resonator')), 1e-4],
    'a filter that follows keys' => [static fn (): Session => fromAnywhere([], Mix::insert('i1', 'key-filter')), 1e-4],
    'a gate opened by notes' => [static fn (): Session => fromAnywhere([], Mix::insert('i1', 'note-gate')), 1e-4],
]);

it('makes noise that is the same wherever it begins', function (): void {
    $noise = Noise::at(-100)->samples(5100);
    expect(array_slice($noise, 100, 10))->toBe(Noise::at(0)->samples(10))
        ->and(array_slice($noise, 3433, 500))->toBe(Noise::at(3333)->samples(500))
        ->and(Noise::at(0)->samples(3))->toBe((new Noise(1))->samples(3))
        // After 2^31 - 2 steps it comes round.
        ->and(Noise::at((1 << 31) - 2 + 17)->samples(3))->toBe(Noise::at(17)->samples(3))
        // x1 = 16807 by hand; x10000 = 1043618065, S. Park, K. Miller, "Random number generators: good ones are hard to find", 1988.
        ->and(Noise::at(0)->samples(1)[0])->toBe(16807 / 1_073_741_823.5 - 1.0)
        ->and(Noise::at(9999)->samples(1)[0])->toBe(1_043_618_065 / 1_073_741_823.5 - 1.0)
        ->and(abs(array_sum($noise) / 5100))->toBeLessThan(0.03)
        ->and(Signal::rms($noise))->toEqualWithDelta(1.0 / sqrt(3.0), 0.02);
});
