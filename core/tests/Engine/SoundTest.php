<?php

declare(strict_types=1);

use Hafen\Audio\Decibel;
use Hafen\Document\ContentHashes;
use Hafen\Document\InvalidDocument;
use Hafen\Document\SessionCodec;
use Hafen\Session\Channel\ChannelKind;
use Hafen\Session\Channel\Send;
use Hafen\Session\Channel\Width;
use Hafen\Session\Insert\Branch;
use Hafen\Session\Insert\SelectorRange;
use Hafen\Session\Session;
use Hafen\Tests\Support\MemoryLibrary;
use Hafen\Tests\Support\Mix;

require_once __DIR__.'/../Support/edited.php';

const SOUNDED = 48000;

/** A steady sound of 0.25 through two gains and a split, with a send: what comes out is the gain itself. */
function gains(): Session
{
    $split = Mix::split('s1', [new Branch('b1', 'One', range: new SelectorRange(0.0, 1.0)), new Branch('b2', 'Two', null)]);

    return Mix::session([
        Mix::track('one', [Mix::insert('i1', 'gain', ['gain' => -6.0]), Mix::insert('i2', 'gain', ['gain' => -12.0], on: false), $split], Width::Stereo, SOUNDED)->withSends([new Send('n1', 'return', -12.0)]),
        Mix::bus('return', ChannelKind::Return, output: 'none'),
    ], length: SOUNDED);
}

function gainsSound(): MemoryLibrary
{
    return new MemoryLibrary(['one' => [array_fill(0, SOUNDED, 0.25)]]);
}

/** @param  list<array<string, mixed>>  $edits */
function editedAll(Session $session, array $edits): Session
{
    return array_reduce($edits, edited(...), $session);
}

/** "Clean" (k1) as {@see gains()} stands, "Loud" (k2) with the first gain at 0 dB and the second on, of the switch w1. */
function sounds(float|int $fade = 100): Session
{
    return editedAll(gains(), [
        ['type' => 'add-sound-switch', 'channel' => 'one', 'name' => 'Tone', 'sound' => 'Clean'],
        ['type' => 'set-parameter', 'insert' => 'i1', 'parameter' => 'gain', 'value' => 0],
        ['type' => 'set-insert-on', 'inserts' => ['i2'], 'on' => true],
        ['type' => 'add-sound', 'switch' => 'w1', 'name' => 'Loud'],
        ['type' => 'set-sound-switch', 'switch' => 'w1', 'fade' => $fade],
    ]);
}

/** @return array{mixed, bool} the gain of the first insert, whether the second is on */
function toneOf(Session $session): array
{
    return [$session->locate('i1')->insert->parameters['gain'], $session->locate('i2')->insert->isOn()];
}

it('makes sounds from how the row stands, and chooses between them', function (): void {
    $loud = sounds();
    expect($loud->channel('one')->sounds[0]->chosen)->toBe('k2')->and(toneOf($loud))->toBe([0.0, true]);
    $clean = edited($loud, ['type' => 'choose-sound', 'switch' => 'w1', 'sound' => 'k1']);
    expect(toneOf($clean))->toBe([-6.0, false])->and($clean->channel('one')->sounds[0]->chosen)->toBe('k1')
        ->and(toneOf(edited($clean, ['type' => 'choose-sound', 'switch' => 'w1', 'sound' => 'k2'])))->toBe([0.0, true]);
});

it('steps from sound to sound, and stays at the ends', function (): void {
    $step = static fn (Session $session, string $to): Session => edited($session, ['type' => 'step-sound', 'switch' => 'w1', 'to' => $to]);
    $three = edited(sounds(), ['type' => 'add-sound', 'switch' => 'w1', 'name' => 'Lead']);
    $chosen = static fn (Session $session): ?string => $session->channel('one')->sounds[0]->chosen;
    $first = $step($step($three, 'previous'), 'previous');
    expect($chosen($first))->toBe('k1')->and(toneOf($first))->toBe([-6.0, false])
        ->and($chosen($step($first, 'previous')))->toBe('k1')
        ->and($chosen($step($step($first, 'next'), 'next')))->toBe('k3')
        ->and($chosen($step($three, 'next')))->toBe('k3');
});

it('moves only what differs between its sounds', function (): void {
    // A branch's level is the same in both: it stays where it was put in between.
    $session = edited(sounds(), ['type' => 'set-branch-gain', 'branches' => ['b2'], 'gain' => -3]);
    expect(edited($session, ['type' => 'choose-sound', 'switch' => 'w1', 'sound' => 'k1'])->branch('b2')->branch->gain)->toBe(-3.0);
    $kept = edited($session, ['type' => 'keep-sound', 'switch' => 'w1', 'sound' => 'k2']);
    expect(edited($kept, ['type' => 'choose-sound', 'switch' => 'w1', 'sound' => 'k1'])->branch('b2')->branch->gain)->toBeNull();
});

it('has an insert that came later off in the sounds that do not know it', function (): void {
    $session = editedAll(sounds(), [['type' => 'add-insert', 'channels' => ['one'], 'processor' => 'drive', 'at' => 0], ['type' => 'add-sound', 'switch' => 'w1', 'name' => 'Lead']]);
    $drive = $session->channel('one')->inserts[0]->id();
    expect($session->locate($drive)->insert->isOn())->toBeTrue()
        ->and(edited($session, ['type' => 'choose-sound', 'switch' => 'w1', 'sound' => 'k1'])->locate($drive)->insert->isOn())->toBeFalse();
});

it('lets go of what is gone, and of lanes with the switch', function (): void {
    $session = edited(sounds(), ['type' => 'set-automation', 'channel' => 'one', 'target' => 'sound:w1', 'points' => [['at' => 0, 'value' => 0], ['at' => 100, 'value' => 1]]]);
    $gone = edited($session, ['type' => 'remove-inserts', 'inserts' => ['i2']]);
    expect(array_keys($gone->channel('one')->sounds[0]->sounds[1]->values))->not->toContain('on:i2')->toContain('on:i1')
        ->and(edited($session, ['type' => 'remove-sound-switch', 'switch' => 'w1'])->channel('one')->automation)->toBe([]);
    $one = edited($session, ['type' => 'remove-sound', 'switch' => 'w1', 'sound' => 'k1']);
    expect(array_map(static fn ($point): ?float => $point->value, $one->channel('one')->automation[0]->points))->toBe([0.0, 0.0]);
});

it('refuses what is not there, or cannot be, naming it', function (array $edit, string $why): void {
    expect(fn () => edited(sounds(), $edit))->toThrow($why);
})->with([
    'no such switch' => [['type' => 'choose-sound', 'switch' => 'w9', 'sound' => 'k1'], 'There is no sound switch "w9" any more.'],
    'steps of no such switch' => [['type' => 'step-sound', 'switch' => 'w9', 'to' => 'next'], 'There is no sound switch "w9" any more.'],
    'no such sound' => [['type' => 'choose-sound', 'switch' => 'w1', 'sound' => 'k9'], 'There is no sound "k9" any more.'],
    'a fade too long' => [['type' => 'set-sound-switch', 'switch' => 'w1', 'fade' => 5001], 'Found 5001; allowed is a number from 0 to 5000 ms'],
    'a lane beyond its sounds' => [['type' => 'set-automation', 'channel' => 'one', 'target' => 'sound:w1', 'points' => [['at' => 0, 'value' => 2]]], 'Found 2; allowed is a whole number from 0 to 1'],
    'a lane of no switch' => [['type' => 'set-automation', 'channel' => 'one', 'target' => 'sound:w2', 'points' => []], 'of this channel'],
]);

it('reads and writes them, and refuses documents that make no sense', function (): void {
    $codec = new SessionCodec(Mix::processors());
    $document = $codec->encode(sounds());
    expect($codec->encode($codec->decode($document)))->toBe($document);
    $wrong = static fn (string $from, string $to): Session => $codec->decode(str_replace($from, $to, $document));
    expect(fn () => $wrong('"chosen":"k2"', '"chosen":"k7"'))->toThrow(InvalidDocument::class, 'Found "k7"; allowed is the id of one of its sounds, or null')
        ->and(fn () => $wrong('"on:i2":', '"on:i7":'))->toThrow(InvalidDocument::class, 'allowed is the value of a control of this channel');
});

it('goes to the sound that is chosen in the time of the switch, without a click', function (): void {
    $loud = sounds(200);
    $engine = Mix::engine(edited($loud, ['type' => 'choose-sound', 'switch' => 'w1', 'sound' => 'k1']), gainsSound());
    $engine->start(0, 0);
    $before = Mix::take($engine, 4800);
    $engine->change($loud);
    $moved = Mix::take($engine, 14400)->left;
    $steps = array_map(static fn (float $one, float $two): float => abs($two - $one), array_slice($moved, 0, -1), array_slice($moved, 1));
    // From -6 dB to -12 dB; after 200 ms it is there, after 100 ms half way in decibels of the first and in the share of the second.
    $half = Decibel::toGain(-3.0) * (0.5 + 0.5 * Decibel::toGain(-12.0));
    expect($before->left[4700])->toEqualWithDelta(0.25 * Decibel::toGain(-6.0), 1e-6)->and($moved[4800])->toEqualWithDelta(0.25 * $half, 2e-3)
        ->and($moved[9700])->toEqualWithDelta(0.25 * Decibel::toGain(-12.0), 1e-6)->and($moved[9000])->not->toEqualWithDelta($moved[9700], 1e-4)->and(max($steps))->toBeLessThan(2e-4);
});

it('goes from sound to sound where its lane says so, the same for all block sizes', function (): void {
    $session = edited(sounds(100), ['type' => 'set-automation', 'channel' => 'one', 'target' => 'sound:w1', 'points' => [['at' => 0, 'value' => 0], ['at' => 12000, 'value' => 1], ['at' => 30000, 'value' => 0]]]);
    $sound = Mix::render($session, gainsSound());
    [$clean, $loud] = [0.25 * Decibel::toGain(-6.0), 0.25 * Decibel::toGain(-12.0)];
    $half = 0.25 * Decibel::toGain(-3.0) * (0.5 + 0.5 * Decibel::toGain(-12.0));
    expect($sound->left[11900])->toEqualWithDelta($clean, 1e-6)->and($sound->left[14400])->toEqualWithDelta($half, 4e-3)->and($sound->left[17200])->toEqualWithDelta($loud, 1e-6)
        ->and($sound->left[29900])->toEqualWithDelta($loud, 1e-6)->and($sound->left[32400])->toEqualWithDelta($half, 4e-3)->and($sound->left[36000])->toEqualWithDelta($clean, 1e-6);
    foreach ([64, 480, 4096] as $blockSize) {
        expect(Mix::difference(Mix::render($session, gainsSound(), $blockSize), $sound))->toBe(0.0);
    }
});

it('sounds the same by the lane of a macro as by the same lanes of what it moves', function (string $target, mixed $from, mixed $to, ?string $tap): void {
    $points = [['at' => 2000, 'value' => 0, 'curve' => 0], ['at' => 40000, 'value' => 1, 'curve' => 0]];
    $macro = editedAll(gains(), [
        ['type' => 'add-macro', 'channel' => 'one', 'name' => 'Move'],
        ['type' => 'set-macro-move', 'macro' => 'm1', 'target' => $target, 'from' => $from, 'to' => $to],
        ['type' => 'set-automation', 'channel' => 'one', 'target' => 'macro:m1', 'points' => $points],
    ]);
    $own = edited(gains(), ['type' => 'set-automation', 'channel' => 'one', 'target' => $target, 'points' => [['at' => 2000, 'value' => $from], ['at' => 40000, 'value' => $to]]]);
    $still = Mix::render(gains(), gainsSound(), tap: $tap);
    $sound = Mix::render($macro, gainsSound(), tap: $tap);
    expect(Mix::difference($sound, Mix::render($own, gainsSound(), tap: $tap)))->toBeLessThan(1e-6)->and(Mix::difference($sound, $still))->toBeGreaterThan(1e-3)
        ->and(Mix::difference(Mix::render($macro, gainsSound(), 64, $tap), $sound))->toBe(0.0);
})->with([
    'a parameter' => ['parameter:i1:gain', -24, 0, null],
    'a mix' => ['mix:i1', 0, 1, null],
    'a send' => ['send:n1', null, 0, 'return:post-fader'],
    'a branch' => ['branch:b2', null, 0, null],
]);

it('switches an insert on and off by its own lane and by that of a macro, without a click', function (): void {
    $own = edited(gains(), ['type' => 'set-automation', 'channel' => 'one', 'target' => 'on:i2', 'points' => [['at' => 0, 'value' => 0], ['at' => 12000, 'value' => 1], ['at' => 24000, 'value' => 0]]]);
    $sound = Mix::render($own, gainsSound());
    $steps = array_map(static fn (float $one, float $two): float => abs($two - $one), array_slice($sound->left, 0, -1), array_slice($sound->left, 1));
    [$off, $on] = [0.25 * Decibel::toGain(-6.0), 0.25 * Decibel::toGain(-18.0)];
    expect([$sound->left[11900], $sound->left[12400], $sound->left[24400]])->each->toBeGreaterThan(0.0)
        ->and($sound->left[11900])->toEqualWithDelta($off, 1e-6)->and($sound->left[12400])->toEqualWithDelta($on, 1e-6)->and($sound->left[24400])->toEqualWithDelta($off, 1e-6)->and(max($steps))->toBeLessThan(0.002);
    $macro = editedAll(gains(), [
        ['type' => 'add-macro', 'channel' => 'one', 'name' => 'Two', 'switch' => true],
        ['type' => 'set-macro-move', 'macro' => 'm1', 'target' => 'on:i2', 'from' => 0, 'to' => 1],
        ['type' => 'set-automation', 'channel' => 'one', 'target' => 'macro:m1', 'points' => [['at' => 0, 'value' => 0], ['at' => 12000, 'value' => 1], ['at' => 24000, 'value' => 0]]],
    ]);
    expect(Mix::difference(Mix::render($macro, gainsSound()), $sound))->toBe(0.0);
});

it('makes another sound of what an automated macro or switch moves, and none of what they are called', function (): void {
    $hash = static fn (Session $session): string => ContentHashes::of($session, Mix::processors())->upToFader('one');
    $sounds = sounds();
    $moving = edited($sounds, ['type' => 'set-automation', 'channel' => 'one', 'target' => 'sound:w1', 'points' => [['at' => 0, 'value' => 0], ['at' => 100, 'value' => 1]]]);
    expect($hash($moving))->not->toBe($hash($sounds))
        ->and($hash(edited($moving, ['type' => 'set-sound-switch', 'switch' => 'w1', 'fade' => 7])))->not->toBe($hash($moving))
        ->and($hash(edited($moving, ['type' => 'rename-sound', 'switch' => 'w1', 'sound' => 'k1', 'name' => 'Soft'])))->toBe($hash($moving))
        ->and($hash(edited($sounds, ['type' => 'set-sound-switch', 'switch' => 'w1', 'fade' => 7])))->toBe($hash($sounds));
});

it('brings the macros and sound switches of a stored row along, under new ids', function (): void {
    $preset = [
        'name' => 'Bite', 'inserts' => [['type' => 'processor', 'id' => 'i1', 'processor' => 'gain', 'parameters' => ['gain' => -6]], ['type' => 'processor', 'id' => 'i7', 'processor' => 'drive']],
        'macros' => [['id' => 'm1', 'name' => 'Bite', 'moves' => [['target' => 'parameter:i1:gain', 'from' => -6, 'to' => 0]]]],
        'sounds' => [['id' => 'w1', 'name' => 'Tone', 'chosen' => 'k1', 'sounds' => [['id' => 'k1', 'name' => 'Clean', 'values' => ['on:i7' => 0]], ['id' => 'k2', 'name' => 'Driven', 'values' => ['on:i7' => 1]]]]],
    ];
    $codec = new Hafen\Preset\PresetCodec(new SessionCodec(Mix::processors()));
    $row = $codec->rowToArray($codec->row(Hafen\Document\JsonNode::parse((string) json_encode($preset), 1 << 20)));
    expect($row['macros'][0]['moves'][0]['target'])->toBe('parameter:i1:gain')->and($row['sounds'][0]['chosen'])->toBe('k1');
    // The ids are taken in the session; those that are pasted get others, and move what was pasted.
    $session = edited(sounds(), ['type' => 'paste-inserts', 'channel' => 'return', 'inserts' => $row['inserts'], 'macros' => $row['macros'], 'sounds' => $row['sounds']]);
    [$gain, $drive] = array_map(static fn ($insert): string => $insert->id(), $session->channel('return')->inserts);
    $macro = $session->channel('return')->macros[0];
    $switch = $session->channel('return')->sounds[0];
    expect([$gain, $drive])->not->toContain('i1', 'i7')->and($macro->moves[0]->target->text())->toBe("parameter:{$gain}:gain")->and($switch->id)->not->toBe('w1')->and($switch->targets()[0]->text())->toBe("on:{$drive}")
        ->and($switch->sound((string) $switch->chosen)?->name)->toBe('Clean');
    $turned = editedAll($session, [['type' => 'turn-macro', 'macro' => $macro->id, 'value' => 1], ['type' => 'choose-sound', 'switch' => $switch->id, 'sound' => $switch->sounds[0]->id]]);
    expect($turned->locate($gain)->insert->parameters['gain'])->toBe(0.0)->and($turned->locate($drive)->insert->isOn())->toBeFalse()->and($turned->locate('i1')->insert->parameters['gain'])->toBe(0.0)
        ->and(fn () => edited(sounds(), ['type' => 'paste-inserts', 'channel' => 'return', 'inserts' => $row['inserts'], 'macros' => [['id' => 'm1', 'name' => 'X', 'moves' => [['target' => 'send:n1', 'from' => 0, 'to' => 1]]]]]))
        ->toThrow('Found "send:n1"; allowed is a control of this channel that is a number or a switch');
});
