<?php

declare(strict_types=1);

use Hafen\Document\SessionCodec;
use Hafen\Engine\NotePlayer;
use Hafen\Note\Note;
use Hafen\Note\NoteClip;
use Hafen\Note\NoteControl;
use Hafen\Note\NoteEvent;
use Hafen\Note\NoteEventKind;
use Hafen\Note\NoteSchedule;
use Hafen\Note\Ticks;
use Hafen\Processor\ChangesNotes;
use Hafen\Processor\ParameterValues;
use Hafen\Processor\ProcessorCatalogue;
use Hafen\Processor\Setting;
use Hafen\Routing\NoteReach;
use Hafen\Session\Channel\Channel;
use Hafen\Session\Channel\ChannelKind;
use Hafen\Session\Channel\Width;
use Hafen\Session\Insert\Branch;
use Hafen\Session\Insert\Insert;
use Hafen\Session\Insert\ProcessorInsert;
use Hafen\Session\Insert\Split;
use Hafen\Session\Session;
use Hafen\Session\Source\NoteSource;
use Hafen\Tests\Support\MemoryLibrary;
use Hafen\Tests\Support\Mix;
use Hafen\Tests\Support\Reference;
use Hafen\Tests\Support\Signal;

require_once __DIR__.'/../Support/edited.php';

const TICK = 25; // samples at 48 kHz and 120 BPM

/**
 * @param  list<Note>  $notes
 * @param  list<Insert>  $inserts
 * @param  list<NoteControl>  $controls
 */
function noteSession(array $notes, array $inserts, int $length = 96000, array $controls = [], float $tempo = 120.0): Session
{
    $clip = (new NoteClip('c1', 0, 400_000, [], $controls))->withNotes($notes);

    return Mix::session([new Channel('keys', ChannelKind::Note, 'Keys', Width::Mono, new NoteSource([$clip]), inserts: $inserts)], length: $length)->withTempo($tempo);
}

function noteSound(Session $session, int $blockSize = 512): Hafen\Audio\Block
{
    return Mix::render($session, new MemoryLibrary([]), $blockSize, 'keys:pre-fader');
}

/** @return list<string> of events, as "at on key" */
function written(array $events): array
{
    return array_map(static fn (NoteEvent $event): string => "{$event->at} ".strtolower($event->kind->name)." {$event->key}", $events);
}

/**
 * What a note effect makes of events of the session, in blocks of a size.
 *
 * @param  list<NoteEvent>  $events
 * @return list<string>
 */
function effectOf(string $id, array $parameters, array $events, int $blockSize = 480, int $length = 48000): array
{
    $catalogue = ProcessorCatalogue::standard();
    $effect = $catalogue->make($id, $parameters, new Setting(48000, 120.0));
    assert($effect instanceof ChangesNotes);
    $effect->set(ParameterValues::of($catalogue->spec($id), $parameters));
    $all = [];
    for ($at = 0; $at < $length; $at += $blockSize) {
        $effect->at($at);
        $block = array_map(static fn (NoteEvent $event): NoteEvent => $event->at($event->at - $at), array_values(array_filter($events, static fn (NoteEvent $event): bool => $event->at >= $at && $event->at < $at + $blockSize)));
        foreach ($effect->changed($block, $blockSize) as $event) {
            $all[] = $event->at($event->at + $at);
        }
    }

    return written($all);
}

/** @return list<NoteEvent> */
function pressed(int $from, int $to, int ...$keys): array
{
    $events = [];
    foreach ($keys as $key) {
        $events[] = new NoteEvent($from, Hafen\Note\NoteEventKind::On, $key, 0.5);
        $events[] = new NoteEvent($to, Hafen\Note\NoteEventKind::Off, $key);
    }

    return NoteEvent::sorted($events);
}

it('puts every note on its sample, at any rate and tempo', function (int $rate, float $tempo): void {
    $schedule = NoteSchedule::of([new NoteClip('c1', 960, 3840, [new Note(480, 240, 60, 127)])], new Ticks($tempo, $rate));
    // A beat and a half, then a quarter of a beat.
    $beat = 60.0 / $tempo * $rate;
    expect(written($schedule->events))->toBe([((int) round(1.5 * $beat)).' on 60', ((int) round(1.75 * $beat)).' off 60']);
})->with([[48000, 120.0], [44100, 120.0], [96000, 97.3], [8000, 20.0]]);

it('ends a key where the next note of it begins, and all at the end of their clip', function (): void {
    $ticks = new Ticks(120.0, 48000);
    $clips = [new NoteClip('c1', 0, 100, [new Note(0, 80, 60, 100), new Note(40, 500, 60, 50), new Note(120, 10, 60)]), new NoteClip('c2', 90, 100, [new Note(0, 20, 60, 30)])];
    expect(written(NoteSchedule::of($clips, $ticks)->events))->toBe(['0 on 60', 40 * TICK.' off 60', 40 * TICK.' on 60', 90 * TICK.' off 60', 90 * TICK.' on 60', 110 * TICK.' off 60']);
});

it('leaves no note down: after a jump, and where an edit takes one away that sounds', function (): void {
    $player = new NotePlayer(48000);
    $notes = [new Note(0, 960, 60), new Note(100, 960, 64)];
    $player->set([new NoteClip('c1', 0, 9600, $notes, [new NoteControl(10, NoteControl::SUSTAIN, 127)])], 120.0);
    expect(written($player->read(0, 5000)))->toBe(['0 alloff 0', '0 on 60', '250 control 64', '2500 on 64']);
    // The first is gone, the second stays.
    $player->set([new NoteClip('c1', 0, 9600, [$notes[1]])], 120.0);
    expect(written($player->read(5000, 100)))->toBe(['0 off 60'])->and(written($player->read(5100, 30000)))->toBe([1060 * TICK - 5100 .' off 64']);
    // What was begun before begins after a jump, and a pedal that was down is down.
    $player->set([new NoteClip('c1', 0, 9600, $notes, [new NoteControl(10, NoteControl::SUSTAIN, 127)])], 120.0);
    expect(written($player->read(12000, 30000)))->toBe(['0 alloff 0', '0 control 64', '0 on 60', '0 on 64', 960 * TICK - 12000 .' off 60', 1060 * TICK - 12000 .' off 64']);
});

it('plays keys in tune, within a cent', function (string $instrument, array $parameters, int $key): void {
    $sound = noteSound(noteSession([new Note(0, 3840, $key, 127)], [Mix::insert('i1', $instrument, $parameters)]))->left;
    // Source: equal temperament, 440 Hz * 2^((key - 69) / 12); the peak of a long spectrum, interpolated.
    $expected = 440.0 * 2.0 ** (($key - 69) / 12);
    $found = Reference::peak(array_slice($sound, 4800, 48000), $expected);
    expect(abs(1200.0 * log($found / $expected, 2)))->toBeLessThan(1.0);
})->with([
    ['synthesiser', ['second-share' => 0.0], 45], ['synthesiser', ['second-share' => 0.0, 'first-wave' => 'sine'], 69], ['synthesiser', ['second-share' => 0.0, 'cutoff' => 20000.0], 100],
    ['struck-bar', ['decay' => 8.0, 'hardness' => 0.0], 60], ['struck-bar', ['decay' => 12.0, 'hardness' => 0.0], 93],
]);

it('has nothing but its harmonics: what folds back is 60 dB down', function (string $wave, int $key): void {
    $sound = noteSound(noteSession([new Note(0, 7680, $key, 127)], [Mix::insert('i1', 'synthesiser', ['first-wave' => $wave, 'second-share' => 0.0, 'cutoff' => 20000.0, 'resonance' => 0.0, 'filter-amount' => 60.0, 'sustain' => 100.0, 'velocity' => 0.0])]))->left;
    $worst = Reference::python(<<<'PY'
        x = np.array(data["x"]) * sig.windows.blackmanharris(len(data["x"]))
        s = np.abs(np.fft.rfft(x))
        f = np.fft.rfftfreq(len(x), 1 / 48000)
        h = np.abs(f / data["f"] - np.round(f / data["f"])) * data["f"]
        print(json.dumps(20 * np.log10(s[(h > 12) & (f > 30)].max() / s.max())))
        PY, ['x' => array_slice($sound, 24000, 65536), 'f' => 440.0 * 2.0 ** (($key - 69) / 12)]);
    expect($worst)->toBeLessThan(-60.0);
})->with(['saw', 'square', 'triangle'])->with([45, 81, 105]);

it('rises, falls and ends by its envelope to the sample', function (): void {
    $session = noteSession([new Note(0, 960, 69, 127)], [Mix::insert('i1', 'synthesiser', ['first-wave' => 'sine', 'second-share' => 0.0, 'cutoff' => 20000.0, 'resonance' => 0.0, 'attack' => 100.0, 'decay' => 200.0, 'sustain' => 50.0, 'release' => 300.0, 'velocity' => 0.0, 'level' => 0.0])], 72000);
    $sound = noteSound($session)->left;
    $level = static fn (int $at): float => max(array_map(abs(...), array_slice($sound, $at - 55, 110)));
    // Attack: evenly to 1 in 100 ms. Decay: 60 dB of the way to a half in 200 ms. Release: 60 dB in 300 ms, over at 90 dB.
    expect($level(2400))->toEqualWithDelta(0.5, 0.02)->and($level(4800))->toEqualWithDelta(1.0, 0.03)->and($level(4800 + 4800))->toEqualWithDelta(0.5 + 0.5 * 10 ** -1.5, 0.01)->and($level(22000))->toEqualWithDelta(0.5, 0.005)
        ->and($level(24000 + 4800))->toEqualWithDelta(0.5 * 10 ** -1.0, 0.005);
    $end = 24000 + (int) (1.5 * 14400);
    expect(max(array_map(abs(...), array_slice($sound, $end - 200, 150))))->toBeGreaterThan(0.0)->and(array_sum(array_map(abs(...), array_slice($sound, $end + 2))))->toBe(0.0);
});

it('gives the place of the oldest note to a new one, and ends none of the others', function (): void {
    $notes = array_map(static fn (int $i): Note => new Note(240 * $i, 7680, 60 + $i, 127), range(0, 3));
    $synth = Mix::insert('i1', 'synthesiser', ['voices' => 2.0, 'first-wave' => 'sine', 'second-share' => 0.0, 'sustain' => 100.0, 'cutoff' => 20000.0]);
    $sound = noteSound(noteSession($notes, [$synth]))->left;
    $has = static fn (int $key, int $from): bool => Signal::amplitudeAt(array_slice($sound, $from, 4800), 440.0 * 2.0 ** (($key - 69) / 12)) > 0.05;
    expect([$has(60, 6500), $has(61, 6500)])->toBe([true, true])->and([$has(60, 12600), $has(61, 12600), $has(62, 12600)])->toBe([false, true, true])->and([$has(61, 19000), $has(62, 19000), $has(63, 19000)])->toBe([false, true, true]);
    $steps = array_map(static fn (float $one, float $two): float => abs($two - $one), array_slice($sound, 0, -1), array_slice($sound, 1));
    expect(max($steps))->toBeLessThan(0.03);
});

it('holds what the pedal holds, and bends by the wheel', function (): void {
    $synth = Mix::insert('i1', 'synthesiser', ['first-wave' => 'sine', 'second-share' => 0.0, 'sustain' => 100.0, 'release' => 10.0, 'cutoff' => 20000.0]);
    $held = noteSound(noteSession([new Note(0, 480, 69, 127)], [$synth], 96000, [new NoteControl(10, NoteControl::SUSTAIN, 127), new NoteControl(1920, NoteControl::SUSTAIN, 0)]))->left;
    expect(Signal::rms(array_slice($held, 36000, 4800)))->toBeGreaterThan(0.05)->and(Signal::rms(array_slice($held, 50000, 4800)))->toBe(0.0);
    $bent = noteSound(noteSession([new Note(0, 3840, 69, 127)], [$synth], 96000, [new NoteControl(0, NoteControl::BEND, 8191)]))->left;
    // Two semitones up at its end.
    expect(Signal::amplitudeAt(array_slice($bent, 4800, 24000), 440.0 * 2.0 ** (2.0 * 8191 / 8192 / 12)))->toBeGreaterThan(0.1)->and(Signal::amplitudeAt(array_slice($bent, 4800, 24000), 440.0))->toBeLessThan(0.01);
});

it('sounds the same in blocks of any length, whatever is played, through note effects and splits', function (int $seed): void {
    mt_srand($seed);
    $notes = array_map(static fn (): Note => new Note(mt_rand(0, 2500), mt_rand(1, 900), mt_rand(36, 90), mt_rand(1, 127)), range(1, 30));
    $controls = array_map(static fn (): NoteControl => mt_rand(0, 1) === 0 ? new NoteControl(mt_rand(0, 2500), NoteControl::SUSTAIN, mt_rand(0, 127)) : new NoteControl(mt_rand(0, 2500), NoteControl::BEND, mt_rand(-8192, 8191)), range(1, 6));
    usort($controls, static fn (NoteControl $one, NoteControl $other): int => $one->at <=> $other->at);
    $inserts = [
        Mix::insert('i1', ['arpeggio', 'chord', 'note-echo', 'note-transpose'][$seed % 4], $seed % 4 === 0 ? ['order' => 'up-down', 'octaves' => 2.0, 'swing' => 30.0] : []),
        Mix::split('s1', [
            new Branch('b1', 'Low', inserts: [Mix::insert('i2', 'note-filter', ['highest-key' => 60.0]), Mix::insert('i3', 'synthesiser', ['noise' => 10.0, 'glide' => 40.0, 'lfo-pitch' => 20.0, 'voices' => 5.0, 'release' => 60.0])]),
            new Branch('b2', 'High', inserts: [Mix::insert('i4', 'note-filter', ['lowest-key' => 61.0]), Mix::insert('i5', 'struck-bar', ['damping' => 100.0, 'decay' => 0.4])]),
        ]),
    ];
    $session = noteSession($notes, $inserts, 90000, $controls);
    $whole = noteSound($session, 512);
    expect(Signal::peak($whole->left))->toBeGreaterThan(0.05);
    foreach ([64, 480, 4096] as $blockSize) {
        expect(Mix::difference(noteSound($session, $blockSize), $whole))->toBe(0.0);
    }
})->with([1, 2, 3, 4]);

it('is silent after the last note, and costs nothing then', function (): void {
    $session = noteSession([new Note(0, 480, 60, 127)], [Mix::insert('i1', 'synthesiser', ['release' => 20.0])], 240_000);
    $engine = Mix::engine($session, new MemoryLibrary([]));
    $engine->start(0, 0);
    Mix::take($engine, 120_000);
    $runner = $engine->plan()->strip('keys')->runners()['insert:i1'];
    $runner->takeNanoseconds();
    expect(Signal::peak(Mix::take($engine, 96_000)->left))->toBe(0.0)->and($runner->takeNanoseconds())->toBe(0);
});

it('plays arpeggios as tables have them', function (array $parameters, array $expected): void {
    // C, E and G from the start to the middle of the second beat: 6000 samples a sixteenth.
    $events = pressed(0, 33500, 64, 60, 67);
    $made = effectOf('arpeggio', ['note' => '1/16', 'gate' => 50.0, ...$parameters], $events);
    $ons = array_values(array_filter($made, static fn (string $event): bool => str_contains($event, ' on ')));
    expect($ons)->toBe($expected);
    foreach ([64, 4096, 48000] as $blockSize) {
        expect(effectOf('arpeggio', ['note' => '1/16', 'gate' => 50.0, ...$parameters], $events, $blockSize, 49152))->toBe(effectOf('arpeggio', ['note' => '1/16', 'gate' => 50.0, ...$parameters], $events, 512, 49152));
    }
})->with([
    'up' => [[], ['0 on 60', '6000 on 64', '12000 on 67', '18000 on 60', '24000 on 64', '30000 on 67']],
    'down' => [['order' => 'down'], ['0 on 67', '6000 on 64', '12000 on 60', '18000 on 67', '24000 on 64', '30000 on 60']],
    'up and down' => [['order' => 'up-down'], ['0 on 60', '6000 on 64', '12000 on 67', '18000 on 64', '24000 on 60', '30000 on 64']],
    'two octaves' => [['octaves' => 2.0], ['0 on 60', '6000 on 64', '12000 on 67', '18000 on 72', '24000 on 76', '30000 on 79']],
    'a chord' => [['order' => 'chord', 'octaves' => 2.0, 'note' => '1/8'], ['0 on 60', '0 on 64', '0 on 67', '12000 on 72', '12000 on 76', '12000 on 79', '24000 on 60', '24000 on 64', '24000 on 67']],
    'swing' => [['swing' => 50.0], ['0 on 60', '9000 on 64', '12000 on 67', '21000 on 60', '24000 on 64', '33000 on 67']],
]);

it('goes on with the arpeggio where it would be, wherever playing begins', function (string $order, int $from): void {
    // G is held all the while, C and E come and go over it; then nothing, and another chord.
    $clip = (new NoteClip('c1', 0, 4000))->withNotes([new Note(30, 1600, 67, 90), new Note(40, 700, 60, 90), new Note(500, 700, 64, 90), new Note(1700, 400, 62, 90), new Note(1700, 2000, 65, 90)]);
    $play = static function (int $from) use ($clip, $order): array {
        $player = new NotePlayer(48000);
        $player->set([$clip], 120.0);
        $arpeggio = ProcessorCatalogue::standard()->make('arpeggio', ['order' => $order, 'octaves' => 2.0], new Setting(48000, 120.0));
        assert($arpeggio instanceof ChangesNotes);
        $arpeggio->set(ParameterValues::of(ProcessorCatalogue::standard()->spec('arpeggio'), ['order' => $order, 'octaves' => 2.0]));
        $made = [];
        for ($at = $from; $at < 90_000; $at += 500) {
            $arpeggio->at($at);
            foreach ($arpeggio->changed($player->read($at, 500), 500) as $event) {
                $made[] = $event->at($event->at + $at);
            }
        }

        return array_values(array_filter(written($made), static fn (string $event): bool => str_contains($event, ' on ') && (int) $event < 90_000));
    };
    $later = array_values(array_filter($play(0), static fn (string $event): bool => (int) $event >= $from));
    expect($play($from))->toBe($later)->and(count($later))->toBeGreaterThan(3);
})->with(['up', 'played'])->with([6000, 12_001, 25_000, 36_500, 42_200, 60_000]);

it('plays keys as they were pressed, and ends each note at its gate, also when the keys are gone', function (): void {
    $events = NoteEvent::sorted([...pressed(0, 20000, 67), ...pressed(10, 20000, 60), ...pressed(20, 20000, 64)]);
    expect(effectOf('arpeggio', ['note' => '1/16', 'gate' => 50.0, 'order' => 'played'], $events))
        ->toBe(['0 on 67', '3000 off 67', '6000 on 60', '9000 off 60', '12000 on 64', '15000 off 64', '18000 on 67', '21000 off 67']);
});

it('makes of each note what its effect says, and ends all it began', function (string $id, array $parameters, array $expected): void {
    expect(effectOf($id, $parameters, pressed(100, 700, 60)))->toBe($expected);
})->with([
    'transpose' => ['note-transpose', ['semitones' => -12.0], ['100 on 48', '700 off 48']],
    'out of the keys there are' => ['note-transpose', ['semitones' => -48.0], ['100 on 12', '700 off 12']],
    'chord' => ['chord', [], ['100 on 60', '100 on 64', '100 on 67', '700 off 60', '700 off 64', '700 off 67']],
    'in the range' => ['note-filter', ['lowest-key' => 60.0, 'highest-key' => 60.0], ['100 on 60', '700 off 60']],
    'out of the range' => ['note-filter', ['lowest-key' => 61.0], []],
    'too soft' => ['note-filter', ['softest' => 65.0], []],
    'echo' => ['note-echo', ['note' => '1/16', 'repeats' => 2.0, 'interval' => 12.0], ['100 on 60', '700 off 60', '6100 on 72', '6700 off 72', '12100 on 84', '12700 off 84']],
]);

it('bends velocities by a curve', function (): void {
    $catalogue = ProcessorCatalogue::standard();
    $velocity = static function (array $parameters) use ($catalogue): float {
        $effect = $catalogue->make('note-transpose', $parameters, new Setting(48000, 120.0));
        $effect->set(ParameterValues::of($catalogue->spec('note-transpose'), $parameters));
        assert($effect instanceof ChangesNotes);

        return $effect->changed([new NoteEvent(0, Hafen\Note\NoteEventKind::On, 60, 0.25)], 64)[0]->value;
    };
    expect($velocity([]))->toEqualWithDelta(0.25, 1e-9)->and($velocity(['curve' => 50.0]))->toEqualWithDelta(0.5, 1e-9)->and($velocity(['curve' => -50.0]))->toEqualWithDelta(0.0625, 1e-9)->and($velocity(['range' => 0.0]))->toEqualWithDelta(64 / 127, 1e-9);
});

it('edits notes: grid, strength, transposing, and growing the session', function (): void {
    $session = edited(Mix::session([], length: 1000), ['type' => 'add-channel', 'name' => 'Keys', 'kind' => 'note']);
    $session = edited($session, ['type' => 'put-note-clip', 'channel' => 'keys', 'clip' => ['id' => 'c1', 'start' => 960, 'length' => 3840, 'notes' => [[250, 100, 60, 90], [10, 100, 64, 90], [481, 100, 127, 1]]]]);
    $notes = static fn (Session $of): array => array_map(static fn (Note $note): array => [$note->at, $note->key], $of->channel('keys')->source->notes[0]->notes);
    expect($session->length)->toBe(4800 * TICK)->and($notes($session))->toBe([[10, 64], [250, 60], [481, 127]]);
    $edit = ['channel' => 'keys', 'clip' => 'c1'];
    expect($notes(edited($session, ['type' => 'quantise-notes', ...$edit, 'grid' => 240])))->toBe([[0, 64], [240, 60], [480, 127]])
        ->and($notes(edited($session, ['type' => 'quantise-notes', ...$edit, 'grid' => 240, 'strength' => 0.5, 'notes' => [1]])))->toBe([[10, 64], [245, 60], [481, 127]])
        ->and($notes(edited($session, ['type' => 'transpose-notes', ...$edit, 'by' => 12])))->toBe([[10, 76], [250, 72], [481, 127]])
        ->and($notes(edited($session, ['type' => 'set-notes', ...$edit, 'notes' => [[0, 1, 0, 1]]])))->toBe([[0, 0]])
        ->and(edited($session, ['type' => 'move-note-clip', ...$edit, 'start' => 9600, 'length' => 100])->length)->toBe(9700 * TICK)
        ->and(edited($session, ['type' => 'remove-note-clip', ...$edit])->channel('keys')->source->notes)->toBe([])
        ->and(fn () => edited($session, ['type' => 'set-notes', ...$edit, 'notes' => [[0, 0, 60, 90]]]))->toThrow('Found 0; allowed is a whole number from 1 to 400000000')
        ->and(fn () => edited($session, ['type' => 'set-notes', 'channel' => 'keys', 'clip' => 'c9', 'notes' => []]))->toThrow('There is no clip "c9" of notes any more.')
        ->and(fn () => edited($session, ['type' => 'put-note-clip', 'channel' => 'main', 'clip' => ['id' => 'c1', 'start' => 0, 'length' => 1]]))->toThrow('Main is no note channel. Notes lie on note channels only.');
    $codec = new SessionCodec(Mix::processors());
    expect($codec->encode($codec->decode($codec->encode($session))))->toBe($codec->encode($session));
});

it('plays in each branch of a split the notes of its keys and velocities, softer towards their ends', function (): void {
    $zone = new Hafen\Session\Insert\NoteZone(60, 71, 3, 0);
    expect(array_map($zone->gain(...), [59.0, 60.0, 61.0, 62.0, 63.0, 71.0, 72.0]))->toBe([0.0, 0.25, 0.5, 0.75, 1.0, 1.0, 0.0]);
    $sine = static fn (string $id): Hafen\Session\Insert\ProcessorInsert => Mix::insert($id, 'synthesiser', ['first-wave' => 'sine', 'second-share' => 0.0, 'velocity' => 100.0, 'sustain' => 100.0, 'cutoff' => 20000.0]);
    $split = Mix::split('s1', [
        (new Branch('b1', 'Low', inserts: [$sine('i1')]))->withZones(new Hafen\Session\Insert\NoteZone(0, 59), null),
        (new Branch('b2', 'High, hard', inserts: [$sine('i2')]))->withZones(new Hafen\Session\Insert\NoteZone(60, 127, 3, 0), new Hafen\Session\Insert\NoteZone(100, 127)),
    ]);
    $session = noteSession([new Note(0, 960, 48, 90), new Note(0, 960, 61, 127), new Note(1920, 960, 72, 99), new Note(1920, 960, 69, 127)], [$split], 96000);
    $level = static fn (string $tap, int $key, int $from): float => Signal::amplitudeAt(array_slice(Mix::render($session, new MemoryLibrary([]), tap: "keys:{$tap}")->left, $from, 9600), 440.0 * 2.0 ** (($key - 69) / 12));
    expect($level('branch:b1', 48, 9600))->toBeGreaterThan(0.05)->and($level('branch:b1', 61, 9600))->toBeLessThan(0.005)
        // One key above its lowest, with a fade over three: half as hard.
        ->and($level('branch:b2', 61, 9600) / $level('branch:b2', 69, 57600))->toEqualWithDelta(0.5, 0.01)->and($level('branch:b2', 72, 57600))->toBeLessThan(0.005)->and($level('branch:b2', 48, 9600))->toBeLessThan(0.005)
        ->and(Signal::rms(array_slice(Mix::render($session, new MemoryLibrary([]), tap: 'keys:pre-fader')->left, 90100)))->toBe(0.0);
    $codec = new SessionCodec(Mix::processors());
    expect($codec->encode($codec->decode($codec->encode($session))))->toBe($codec->encode($session))
        ->and(edited($session, ['type' => 'set-branch-zones', 'branch' => 'b1', 'keys' => null, 'velocities' => ['from' => 1, 'to' => 9, 'fadeTo' => 4]])->branch('b1')->branch->velocities)->toEqual(new Hafen\Session\Insert\NoteZone(1, 9, 0, 4))
        ->and(fn () => edited($session, ['type' => 'set-branch-zones', 'branch' => 'b1', 'keys' => ['from' => 9, 'to' => 5], 'velocities' => null]))->toThrow('Found 5; allowed is a whole number from 9 to 127');
});

it('knows how far notes get in a row: where it says they do, zones are heard, and nowhere else', function (array $row, array $reached): void {
    $session = noteSession([new Note(0, 4800, 60, 127)], $row, 48000);
    expect((new NoteReach(Mix::processors()))->splits($session->channel('keys')))->toBe($reached);
    $sounds = static fn (Session $of): array => Mix::render($of, new MemoryLibrary([]), tap: 'keys:pre-fader')->left;
    $before = $sounds($session);
    expect(Signal::rms($before))->toBeGreaterThan(0.001);
    foreach ($session->channel('keys')->allInserts() as $insert) {
        if ($insert instanceof Split) {
            // None of its branches plays the note.
            $shut = array_reduce($insert->branches, static fn (Session $of, Branch $branch): Session => edited($of, ['type' => 'set-branch-zones', 'branch' => $branch->id, 'keys' => ['from' => 0, 'to' => 59], 'velocities' => null]), $session);
            expect($sounds($shut) !== $before)->toBe(in_array($insert->id, $reached, true));
        }
    }
})->with(static function (): iterable {
    $synthesiser = static fn (string $id, bool $on = true): ProcessorInsert => Mix::insert($id, 'synthesiser', on: $on);
    $split = static fn (string $id, array ...$branches): Split => Mix::split($id, array_map(static fn (int $index): Branch => new Branch("{$id}-{$index}", "Branch {$index}", inserts: $branches[$index]), array_keys($branches)));
    yield 'before the instrument' => [[Mix::insert('i1', 'note-transpose'), $split('s1', [], [Mix::insert('i2', 'chord')]), $synthesiser('i3')], ['s1']];
    yield 'with instruments in it, and one behind' => [[$split('s1', [$synthesiser('i1')], [$synthesiser('i2')]), $split('s2', [], [])], ['s1']];
    yield 'past a branch without one' => [[$split('s1', [$synthesiser('i1')], []), $split('s2', [$synthesiser('i2')], [])], ['s1', 's2']];
    yield 'behind the instrument' => [[$synthesiser('i1'), $split('s1', [], [])], []];
    yield 'behind one that is off' => [[$synthesiser('i1', false), $split('s1', [$synthesiser('i2')], [])], ['s1']];
    yield 'in a branch, on both sides of its instrument' => [[$split('s1', [$split('s2', [], []), $synthesiser('i1'), $split('s3', [], [])], [$synthesiser('i2')])], ['s1', 's2']];
});

it('plays the keys that are held besides its clips, and lets go of what is not held any more', function (): void {
    $player = new NotePlayer(48000);
    $clips = [new NoteClip('c1', 0, 9600, [new Note(0, 100, 40)])];
    $player->set($clips, 120.0);
    $player->read(0, 100);
    $held = static fn (array $keys, array $controls = []): Hafen\Note\HeldKeys => new Hafen\Note\HeldKeys('keys', $keys, $controls);
    $player->hold($held([60 => [100, 1], 64 => [90, 2]]));
    expect(written($player->read(100, 100)))->toBe(['0 on 60', '0 on 64'])->and($player->read(200, 100))->toBe([]);
    // Pressed again between two looks it sounds anew; the clip plays on.
    $player->hold($held([60 => [100, 3]]));
    expect(written($player->read(300, 4000)))->toBe(['0 off 60', '0 off 64', '0 on 60', '2200 off 40']);
    // A jump ends all, and what is held sounds on from there.
    expect(written($player->read(48000, 100)))->toBe(['0 alloff 0', '0 on 60']);
    $player->hold($held([]));
    expect(written($player->read(48100, 100)))->toBe(['0 off 60']);
    // Controllers too, which go back where they were left.
    $player->hold($held([60 => [90, 4]], [64 => 127, 128 => -8192]));
    expect($player->read(48200, 100))->toEqual([new NoteEvent(0, NoteEventKind::Control, 64, 127.0), new NoteEvent(0, NoteEventKind::Control, 128, -8192.0), new NoteEvent(0, NoteEventKind::On, 60, 90 / 127)]);
    $player->hold($held([60 => [90, 4]], [64 => 127, 128 => 0]));
    expect($player->read(48300, 100))->toEqual([new NoteEvent(0, NoteEventKind::Control, 128, 0.0)]);
    $player->hold(null);
    expect(written($player->read(48400, 100)))->toBe(['0 off 60', '0 control 64']);
});

it('sounds by keys while nothing plays, and its clips are silent then', function (): void {
    $session = noteSession([new Note(0, 3840, 45, 127)], [Mix::insert('i1', 'synthesiser')]);
    $engine = Mix::engine(Hafen\Engine\Monitoring::standing($session, 0, 'keys'), new MemoryLibrary([]));
    $engine->start(0, 0);
    expect(Signal::peak(Mix::take($engine, 9600)->left))->toBe(0.0);
    $engine->hold(new Hafen\Note\HeldKeys('keys', [69 => [100, 1]]));
    expect(Signal::amplitudeAt(array_slice(Mix::take($engine, 14400)->left, 4800), 440.0))->toBeGreaterThan(0.02);
    $engine->hold(new Hafen\Note\HeldKeys('another', [69 => [100, 2]]));
    Mix::take($engine, 48000);
    expect(Signal::peak(Mix::take($engine, 4800)->left))->toBe(0.0);
});

it('hears keys without the wait for channels that do not sound, while nothing plays', function (): void {
    $session = noteSession([], [Mix::insert('i1', 'synthesiser', ['attack' => 0.5])]);
    $session = $session->withChannels([Mix::track('late', [Mix::insert('i2', 'pitch-shift')], Width::Mono, 48000), ...$session->channels]);
    $first = static function (bool $isStanding) use ($session): int {
        $engine = Mix::engine($isStanding ? Hafen\Engine\Monitoring::standing($session, 0, 'keys') : $session, new MemoryLibrary(['late' => [array_fill(0, 48000, 0.0)]]));
        $engine->start(0, 0);
        $engine->next();
        $engine->hold(new Hafen\Note\HeldKeys('keys', [69 => [127, 1]]));
        $heard = Mix::take($engine, 24000)->left;

        return key(array_filter($heard, static fn (float $sample): bool => abs($sample) > 0.01)) ?? PHP_INT_MAX;
    };
    expect($first(true))->toBeLessThan(100)->and($first(false))->toBeGreaterThan(1000);
});

it('sounds in the middle of a long note as it does from the start, with the run-in it asks for', function (): void {
    $notes = [new Note(0, 3000, 45, 127), new Note(400, 500, 57, 90), new Note(3100, 300, 60, 127)];
    $pedal = [new NoteControl(300, NoteControl::SUSTAIN, 127), new NoteControl(2500, NoteControl::SUSTAIN, 0)];
    $schedule = NoteSchedule::of([new NoteClip('c1', 0, 9600, $notes, $pedal)], new Ticks(120.0, 48000));
    // The key of the first is held longest; the second sounds on by the pedal.
    expect($schedule->longest())->toBe(3000 * TICK)->and(NoteSchedule::of([new NoteClip('c1', 0, 9600, [$notes[1]], $pedal)], new Ticks(120.0, 48000))->longest())->toBe(2100 * TICK);
    $session = noteSession($notes, [Mix::insert('i1', 'synthesiser', ['release' => 100.0])], 96000, $pedal);
    $whole = noteSound($session);
    $middle = Mix::render($session, new MemoryLibrary([]), tap: 'keys:pre-fader', from: 60000);
    expect(Signal::peak($middle->left))->toBeGreaterThan(0.05)->and(Mix::difference(new Hafen\Audio\Block(array_slice($whole->left, 60000), array_slice($whole->right, 60000)), $middle))->toBe(0.0);
    // Without that run-in it is heard all the same.
    $engine = Mix::engine($session, new MemoryLibrary([]));
    $engine->start(60000, 0);
    expect(Signal::peak(array_slice(Mix::take($engine, 9600)->left, 2000)))->toBeGreaterThan(0.02);
});

it('plays recordings at the pitch of notes, by key and velocity, round a loop, and ends with them', function (): void {
    $library = new MemoryLibrary(['low' => [Signal::sine(220.0, 24000, 0.5)], 'hard' => [Signal::sine(1000.0, 4800, 0.5)]]);
    $sampler = static fn (array $more = []): Hafen\Session\Insert\ProcessorInsert => Mix::insert('i1', 'sampler', [
        'recording-1' => 'low', 'root-1' => 57.0, 'hardest-1' => 99.0, 'recording-2' => 'hard', 'root-2' => 83.0, 'softest-2' => 100.0, 'velocity' => 0.0, 'level' => 0.0, 'release' => 20.0, ...$more,
    ]);
    $played = static fn (array $notes, array $more = [], int $blockSize = 512): array => Mix::render(noteSession($notes, [$sampler($more)], 96000), $library, $blockSize, 'keys:pre-fader')->left;
    // An octave up it is twice as high and half as long: 12,000 samples.
    $sound = $played([new Note(0, 3840, 69, 90)]);
    expect(Signal::amplitudeAt(array_slice($sound, 1000, 9600), 440.0))->toEqualWithDelta(0.5, 0.01)->and(Signal::peak(array_slice($sound, 12010)))->toBe(0.0);
    $looped = $played([new Note(0, 1920, 69, 90)], ['loop' => true, 'loop-start' => 0.0, 'loop-end' => 100.0]);
    expect(Signal::amplitudeAt(array_slice($looped, 30000, 9600), 440.0))->toBeGreaterThan(0.4)->and(Signal::peak(array_slice($looped, 48000 + 1500)))->toBe(0.0);
    $hard = $played([new Note(0, 960, 83, 127)]);
    expect(Signal::amplitudeAt(array_slice($hard, 480, 3840), 1000.0))->toEqualWithDelta(0.5, 0.01)->and(Signal::peak($played([new Note(0, 960, 60, 127)], ['lowest-2' => 70.0])))->toBe(0.0)
        ->and($played([new Note(0, 700, 64, 90), new Note(200, 900, 71, 120)], [], 64))->toBe($played([new Note(0, 700, 64, 90), new Note(200, 900, 71, 120)], [], 4096))
        // Without its recording it is silent, and says so.
        ->and(Signal::peak(Mix::render(noteSession([new Note(0, 960, 60)], [Mix::insert('i1', 'sampler', ['recording-1' => 'gone'])]), $library, tap: 'keys:pre-fader')->left))->toBe(0.0);
});

it('plays both sides of stereo recordings, and mono ones beside them', function (): void {
    $library = new MemoryLibrary(['wide' => [Signal::sine(220.0, 48000, 0.5), Signal::sine(330.0, 48000, 0.25)], 'mono' => [Signal::sine(1000.0, 48000, 0.5)]]);
    $sampler = Mix::insert('i1', 'sampler', ['recording-1' => 'wide', 'root-1' => 60.0, 'highest-1' => 60.0, 'recording-2' => 'mono', 'root-2' => 61.0, 'lowest-2' => 61.0, 'velocity' => 0.0, 'level' => 0.0]);
    $sound = Mix::render(noteSession([new Note(0, 960, 60), new Note(1920, 960, 61)], [$sampler]), $library, tap: 'keys:pre-fader');
    expect(Signal::amplitudeAt(array_slice($sound->left, 2400, 19200), 220.0))->toEqualWithDelta(0.5, 0.01)->and(Signal::amplitudeAt(array_slice($sound->right(), 2400, 19200), 330.0))->toEqualWithDelta(0.25, 0.01)
        ->and(Signal::amplitudeAt(array_slice($sound->right(), 2400, 19200), 220.0))->toBeLessThan(0.01)
        ->and(array_slice($sound->left, 48000, 19200))->toBe(array_slice($sound->right(), 48000, 19200));
});

it('goes round a loop without a click, over its fade', function (): void {
    // A fifth of a period is missing where the loop begins anew: without a fade it jumps there.
    $recording = Signal::sine(100.0, 24000, 0.5);
    $library = new MemoryLibrary(['tone' => [$recording]]);
    $step = static function (float $fade) use ($library): float {
        $sampler = Mix::insert('i1', 'sampler', ['recording-1' => 'tone', 'root-1' => 60.0, 'loop' => true, 'loop-start' => 100.0 * 9600 / 23999, 'loop-end' => 100.0 * 19296 / 23999, 'loop-fade' => $fade, 'velocity' => 0.0, 'level' => 0.0]);
        $sound = Mix::render(noteSession([new Note(0, 3840, 60)], [$sampler]), $library, tap: 'keys:pre-fader')->left;

        return max(array_map(static fn (float $one, float $next): float => abs($next - $one), array_slice($sound, 1000, 80000), array_slice($sound, 1001, 80000)));
    };
    // Source: the steepest step of a sine, 2 pi f A / fs.
    expect($step(0.0))->toBeGreaterThan(0.1)->and($step(30.0))->toBeLessThan(1.1 * 2.0 * M_PI * 100.0 * 0.5 / 48000);
});

it('gets softer by volume and expression, and swings with the modulation wheel', function (): void {
    $synth = [Mix::insert('i1', 'struck-bar', ['decay' => 8.0])];
    $plain = noteSound(noteSession([new Note(0, 3840, 69, 100)], $synth))->left;
    $soft = noteSound(noteSession([new Note(0, 3840, 69, 100)], $synth, controls: [new NoteControl(960, NoteControl::VOLUME, 64), new NoteControl(1920, NoteControl::EXPRESSION, 90)]))->left;
    $level = static fn (array $of, int $from): float => 20.0 * log10(Signal::rms(array_slice($of, $from, 9600)) / Signal::rms(array_slice($plain, $from, 9600)));
    // Source: 40 log10(v / 127) dB each.
    expect($level($soft, 9600))->toBe(0.0)->and($level($soft, 30000))->toEqualWithDelta(40.0 * log10(64 / 127), 0.02)->and($level($soft, 54000))->toEqualWithDelta(40.0 * log10(64 / 127 * 90 / 127), 0.02);
    $swung = noteSound(noteSession([new Note(0, 3840, 69, 100)], [Mix::insert('i1', 'synthesiser')], controls: [new NoteControl(0, NoteControl::MODULATION, 127)]))->left;
    $pitches = array_map(static fn (int $at): float => 1200.0 * log(Reference::peak(array_slice($swung, $at, 2400), 440.0) / 440.0, 2), range(9600, 30000, 2400));
    // Half a semitone each way, as the mean over 50 ms; the second oscillator lies a few cents higher.
    expect(max($pitches))->toBeGreaterThan(35.0)->toBeLessThan(60.0)->and(min($pitches))->toBeLessThan(-30.0)->toBeGreaterThan(-60.0);
});

it('sounds the same in blocks of any length while controllers move, through silence as well', function (string $instrument): void {
    mt_srand(31);
    $notes = array_map(static fn (int $n): Note => new Note(480 * $n + mt_rand(0, 100), mt_rand(20, 300), mt_rand(40, 80), mt_rand(1, 127)), range(0, 6));
    $controls = array_map(static fn (int $n): NoteControl => new NoteControl(40 * $n, [NoteControl::BEND, NoteControl::MODULATION, NoteControl::VOLUME, NoteControl::EXPRESSION, NoteControl::SUSTAIN][mt_rand(0, 4)], mt_rand(0, 127)), range(0, 80));
    $session = noteSession($notes, [Mix::insert('i1', $instrument, $instrument === 'synthesiser' ? ['release' => 10.0] : [])], controls: $controls);
    $whole = noteSound($session);
    expect(Signal::peak($whole->left))->toBeGreaterThan(0.01);
    foreach ([64, 480, 4096] as $blockSize) {
        expect(Mix::difference(noteSound($session, $blockSize), $whole))->toBe(0.0);
    }
})->with(['synthesiser', 'struck-bar']);

it('moves notes by chance, the same for a seed and all block sizes, and ends each', function (): void {
    $events = NoteEvent::sorted([...pressed(0, 9000, 60), ...pressed(12000, 21000, 62), ...pressed(24000, 33000, 64)]);
    $made = effectOf('humanise', ['time' => 50.0, 'seed' => 7.0], $events, 64, 49152);
    $ons = array_map(intval(...), array_values(array_filter($made, static fn (string $event): bool => str_contains($event, ' on '))));
    expect($made)->toHaveCount(6)->and($made)->toBe(effectOf('humanise', ['time' => 50.0, 'seed' => 7.0], $events, 4096, 49152))->and($made)->not->toBe(effectOf('humanise', ['time' => 50.0, 'seed' => 8.0], $events, 64, 49152));
    foreach ([0, 12000, 24000] as $i => $at) {
        expect($ons[$i])->toBeGreaterThanOrEqual($at)->toBeLessThanOrEqual($at + 2400);
    }
});

it('freezes as it plays, with its release, and has no instrument in memory then', function (): void {
    $session = noteSession([new Note(0, 900, 57, 127), new Note(1000, 2800, 64, 100)], [Mix::insert('i1', 'arpeggio'), Mix::insert('i2', 'synthesiser', ['release' => 300.0])], 96000);
    $library = new MemoryLibrary([]);
    $frozen = Hafen\Tests\Support\Freezes::freeze($session, $library, 'keys', new Hafen\Printing\FreezeOptions(format: Hafen\Audio\SampleFormat::Float64));
    expect(Mix::difference(Mix::render($frozen, $library), Mix::render($session, $library)))->toBe(0.0)
        ->and(Signal::peak(Mix::render($frozen, $library)->left))->toBeGreaterThan(0.05)
        ->and(Mix::engine($frozen, $library)->plan()->strip('keys')->runners())->toBe([])
        ->and(Hafen\Document\ContentHashes::of($frozen, Mix::processors())->isFresh('keys'))->toBeTrue()
        ->and(Hafen\Document\ContentHashes::of(editedNotes($frozen), Mix::processors())->isFresh('keys'))->toBeFalse();
});

/** Another note. */
function editedNotes(Session $session): Session
{
    $source = $session->channel('keys')->source;

    return $session->withChannel($session->channel('keys')->withSource($source->withClip($source->notes[0]->withNotes([new Note(0, 10, 50)]))));
}

it('says of a row what is played and what works on notes, reads it by the plain name too, and refuses what is neither', function (): void {
    $session = noteSession([], [Mix::insert('i1', 'arpeggio'), Mix::insert('i2', 'synthesiser'), Mix::insert('i3', 'drive')]);
    $codec = new SessionCodec(Mix::processors());
    $json = $codec->encode($session);
    expect(array_column($codec->toArray($session)['channels'][0]['inserts'], 'type'))->toBe(['note-effect', 'instrument', 'processor'])
        ->and($codec->decode($json))->toEqual($session)
        ->and($codec->decode(str_replace(['"note-effect"', '"instrument"'], '"processor"', $json)))->toEqual($session)
        ->and(fn () => $codec->decode(str_replace('"type":"processor","id":"i3"', '"type":"instrument","id":"i3"', $json)))->toThrow(Hafen\Document\InvalidDocument::class, 'Found "drive"; allowed is an instrument')
        ->and(fn () => $codec->decode(str_replace('"type":"instrument","id":"i2"', '"type":"note-effect","id":"i2"', $json)))->toThrow(Hafen\Document\InvalidDocument::class, 'Found "synthesiser"; allowed is a note effect');
});
