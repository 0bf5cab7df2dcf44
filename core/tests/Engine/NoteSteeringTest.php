<?php

declare(strict_types=1);

use Hafen\Document\ContentHashes;
use Hafen\Document\InvalidDocument;
use Hafen\Document\SessionCodec;
use Hafen\Note\HeldKeys;
use Hafen\Note\Note;
use Hafen\Note\NoteClip;
use Hafen\Session\Automation\NoteSteering;
use Hafen\Session\Channel\Channel;
use Hafen\Session\Channel\ChannelKind;
use Hafen\Session\Channel\Width;
use Hafen\Session\Insert\Branch;
use Hafen\Session\Insert\NoteValue;
use Hafen\Session\Insert\Selector;
use Hafen\Session\Insert\SelectorNotes;
use Hafen\Session\Insert\SelectorRange;
use Hafen\Session\Session;
use Hafen\Session\Sound\SoundControls;
use Hafen\Session\Source\NoteSource;
use Hafen\Tests\Support\MemoryLibrary;
use Hafen\Tests\Support\Mix;

require_once __DIR__.'/../Support/edited.php';

// Notes move selectors and choose sounds. A tick is 25 samples: 960 to a quarter note at 120 beats a minute and 48 kHz.

const STEER_LENGTH = 96000;

/** A steady 0.25 through a split whose branches are heard left and right, beside a note channel of short notes at 0, 24000 and 48000. */
function steeredSplit(SelectorNotes $notes, float $value = 0.0): Session
{
    $clip = (new NoteClip('c1', 0, 400_000))->withNotes([new Note(0, 100, 36, 20), new Note(960, 100, 84, 120), new Note(1920, 100, 36, 20)]);
    $branches = [new Branch('b1', 'Low', pan: -1.0, range: new SelectorRange(0.0, 0.5)), new Branch('b2', 'High', pan: 1.0, range: new SelectorRange(0.5, 1.0))];

    return Mix::session([
        new Channel('keys', ChannelKind::Note, 'Keys', Width::Mono, new NoteSource([$clip]), output: 'none'),
        Mix::track('one', [Mix::split('s1', $branches)->withSelector(new Selector($value, notes: $notes))], Width::Stereo, STEER_LENGTH),
    ], length: STEER_LENGTH);
}

function steadyTone(): MemoryLibrary
{
    return new MemoryLibrary(['one' => [array_fill(0, STEER_LENGTH, 0.25)]]);
}

/** @return list<array{int, ?float}> of the only lane that notes make in a session */
function steeringPoints(Session $session, string $channel = 'one'): array
{
    return array_map(static fn ($point): array => [$point->at, $point->value], NoteSteering::lanes($session)->channel($channel)->automation[0]->points ?? []);
}

it('goes where a key or a velocity lies, along its glide, and turns back on its way', function (): void {
    expect(steeringPoints(steeredSplit(new SelectorNotes('keys', NoteValue::Key, 36, 84, 10.0))))->toBe([[0, 0.0], [480, 0.0], [24000, 0.0], [24480, 1.0], [48000, 1.0], [48480, 0.0]])
        // Downwards, and beyond its ends.
        ->and(array_column(steeringPoints(steeredSplit(new SelectorNotes('keys', NoteValue::Velocity, 100, 40, 0.0), 0.3)), 1))->toBe([0.3, 1.0, 1.0, 0.0, 0.0, 1.0])
        // A second is longer than from note to note: after half of it the next one leads back.
        ->and(array_column(steeringPoints(steeredSplit(new SelectorNotes('keys', NoteValue::Key, 36, 84, 1000.0))), 1))->toBe([0.0, 0.0, 0.5, 0.0]);
});

it('lets branches sound by keys and velocities to the sample, the same for all block sizes and in the middle', function (SelectorNotes $notes): void {
    $session = steeredSplit($notes);
    $sound = Mix::render($session, steadyTone());
    foreach ([[12000, 0.25, 0.0], [23999, 0.25, 0.0], [36000, 0.0, 0.25], [47999, 0.0, 0.25], [60000, 0.25, 0.0]] as [$at, $left, $right]) {
        expect($sound->left[$at])->toEqualWithDelta($left, 1e-9)->and($sound->right[$at])->toEqualWithDelta($right, 1e-9);
    }
    foreach ([64, 480, 4096] as $blockSize) {
        expect(Mix::difference(Mix::render($session, steadyTone(), $blockSize), $sound))->toBe(0.0);
    }
    $engine = Mix::engine($session, steadyTone());
    $engine->start(24200, 0);
    expect(array_slice(Mix::take($engine, 2400)->right, 600))->toBe(array_slice($sound->right, 24800, 1800));
})->with([
    'keys' => [new SelectorNotes('keys', NoteValue::Key, 36, 84)],
    'velocities' => [new SelectorNotes('keys', NoteValue::Velocity, 20, 120)],
]);

it('never jumps by more than its branches fade, even without a glide', function (): void {
    $sound = Mix::render(steeredSplit(new SelectorNotes('keys', NoteValue::Key, 36, 84, 0.0)), steadyTone());
    $steps = array_map(static fn (float $one, float $next): float => abs($next - $one), array_slice($sound->left, 23000, 3000), array_slice($sound->left, 23001, 3000));
    expect(max($steps))->toBeLessThan(0.01);
});

it('chooses sounds by keys, as the same lane of the switch does, and by no other keys', function (): void {
    $base = Mix::session([
        new Channel('keys', ChannelKind::Note, 'Keys', Width::Mono, new NoteSource([(new NoteClip('c1', 0, 400_000))->withNotes([new Note(960, 100, 25, 100), new Note(1440, 100, 27, 100), new Note(1920, 100, 24, 100)])]), output: 'none'),
        Mix::track('one', [Mix::insert('i1', 'gain', ['gain' => -6.0])], Width::Stereo, STEER_LENGTH),
    ], length: STEER_LENGTH);
    $switch = array_reduce([
        ['type' => 'add-sound-switch', 'channel' => 'one', 'name' => 'Tone', 'sound' => 'Soft'],
        ['type' => 'set-parameter', 'insert' => 'i1', 'parameter' => 'gain', 'value' => 0],
        ['type' => 'add-sound', 'switch' => 'w1', 'name' => 'Loud'],
        ['type' => 'choose-sound', 'switch' => 'w1', 'sound' => 'k1'],
    ], edited(...), $base);
    $byNotes = edited($switch, ['type' => 'set-sound-notes', 'switch' => 'w1', 'notes' => ['channel' => 'keys', 'lowest' => 24]]);
    $byLane = edited($switch, ['type' => 'set-automation', 'channel' => 'one', 'target' => 'sound:w1', 'points' => [['at' => 0, 'value' => 0], ['at' => 24000, 'value' => 1], ['at' => 48000, 'value' => 0]]]);
    $sound = Mix::render($byNotes, steadyTone());
    expect(Mix::difference($sound, Mix::render($byLane, steadyTone())))->toBe(0.0)
        ->and($sound->left[40000] / $sound->left[20000])->toEqualWithDelta(10 ** (6 / 20), 1e-6)->and($sound->left[70000] / $sound->left[20000])->toEqualWithDelta(1.0, 1e-9)
        // A lane that was drawn comes first.
        ->and(steeringPoints(edited($byLane, ['type' => 'set-sound-notes', 'switch' => 'w1', 'notes' => ['channel' => 'keys', 'lowest' => 0]])))->toBe([[0, 0.0], [24000, 1.0], [48000, 0.0]]);
    // Keys that somebody holds: the one that was pressed last; others change nothing.
    $controls = new SoundControls(Mix::processors());
    $held = static fn (array $keys): ?string => NoteSteering::held($byNotes, new HeldKeys('keys', $keys), $controls)->channel('one')->sounds[0]->chosen;
    expect($held([25 => [90, 7], 24 => [90, 3]]))->toBe('k2')->and($held([24 => [90, 8], 25 => [90, 7]]))->toBe('k1')->and($held([60 => [90, 9]]))->toBe('k1')->and($held([]))->toBe('k1');
});

it('stands where the key that somebody pressed last put it', function (): void {
    $nested = steeredSplit(new SelectorNotes('keys', NoteValue::Velocity, 1, 127));
    $inner = Mix::split('s2', [new Branch('b3', 'A'), new Branch('b4', 'B')])->withSelector(new Selector(notes: new SelectorNotes('keys', NoteValue::Key, 0, 127)));
    $nested = edited($nested, ['type' => 'add-split', 'channel' => 'one', 'branch' => 'b1', 'branches' => 2]);
    $split = $nested->branch('b1')->branch->inserts[0];
    $nested = $nested->withInsert($nested->locate($split->id()), $split->withSelector($inner->selector));
    $held = NoteSteering::held($nested, new HeldKeys('keys', [127 => [64, 1]]), new SoundControls(Mix::processors()));
    expect($held->locate('s1')->insert->selector->value)->toEqualWithDelta(0.5, 1e-9)->and($held->locate($split->id())->insert->selector->value)->toBe(1.0)
        ->and(NoteSteering::lanes($held)->channel('one')->automation)->toBe([])
        ->and(NoteSteering::held($nested, new HeldKeys('others', [127 => [64, 1]]), new SoundControls(Mix::processors())))->toBe($nested);
});

it('is known by its notes, lets go where their channel goes, and is refused where there is none', function (): void {
    $session = steeredSplit(new SelectorNotes('keys', NoteValue::Key, 36, 84));
    $hash = static fn (Session $of): string => ContentHashes::of($of, Mix::processors())->upToFader('one');
    expect($hash($session))->not->toBe($hash(edited($session, ['type' => 'transpose-notes', 'channel' => 'keys', 'clip' => 'c1', 'by' => 3])))
        ->and(edited($session, ['type' => 'remove-channels', 'channels' => ['keys']])->locate('s1')->insert->selector->notes)->toBeNull()
        ->and(NoteSteering::isBy($session, 'keys'))->toBeTrue()->and(NoteSteering::isBy(edited($session, ['type' => 'set-selector-notes', 'split' => 's1', 'notes' => null]), 'keys'))->toBeFalse();
    $codec = new SessionCodec(Mix::processors());
    expect($codec->encode($codec->decode($codec->encode($session))))->toBe($codec->encode($session))
        ->and(fn () => $codec->decode(str_replace('"notes":{"channel":"keys"', '"notes":{"channel":"main"', $codec->encode($session))))->toThrow(InvalidDocument::class, 'allowed is the id of a note channel');
    $set = static fn (array $notes): array => ['type' => 'set-selector-notes', 'split' => 's1', 'notes' => $notes];
    expect(fn () => edited($session, $set(['channel' => 'one', 'value' => 'key', 'from' => 1, 'to' => 2])))->toThrow('is no note channel')
        ->and(fn () => edited($session, $set(['channel' => 'keys', 'value' => 'key', 'from' => 40, 'to' => 40])))->toThrow('Found 40; allowed is another key than from, which is 40')
        ->and(fn () => edited($session, $set(['channel' => 'keys', 'value' => 'pitch', 'from' => 1, 'to' => 2])))->toThrow('Found "pitch"; allowed is one of')
        ->and(fn () => edited($session, $set(['channel' => 'keys', 'value' => 'velocity', 'from' => 0, 'to' => 9])))->toThrow('Found 0; allowed is a whole number from 1 to 127');
});
