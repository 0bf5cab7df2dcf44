<?php

declare(strict_types=1);

use Hafen\Document\InvalidDocument;
use Hafen\Document\JsonNode;
use Hafen\Document\SessionCodec;
use Hafen\Edit\EditRefused;
use Hafen\Edit\Json\EditCodec;
use Hafen\Session\Channel\ChannelKind;
use Hafen\Session\Channel\Send;
use Hafen\Session\Macro\MacroControls;
use Hafen\Session\Macro\MacroSum;
use Hafen\Session\Macro\MacroTarget;
use Hafen\Session\Session;
use Hafen\Tests\Support\Mix;

require_once __DIR__.'/../Support/edited.php';

/** A bass through a filter, a drive and a split, with a send to a return; its first macro is "m1". */
function withMacro(string $name = 'Bite', bool $isSwitch = false): Session
{
    $split = Mix::split('s1', [new Hafen\Session\Insert\Branch('b1', 'Clean'), new Hafen\Session\Insert\Branch('b2', 'Crush', inserts: [Mix::insert('i3', 'compressor')])]);
    $session = Mix::session([
        Mix::track('bass', [Mix::insert('i1', 'filter', ['frequency' => 100.0]), Mix::insert('i2', 'drive'), $split])->withSends([new Send('n1', 'plate', -12.0)]),
        Mix::bus('plate', ChannelKind::Return, [Mix::insert('i9', 'reverb')]),
    ]);

    return edited($session, ['type' => 'add-macro', 'channel' => 'bass', 'name' => $name, 'switch' => $isSwitch]);
}

/** @param  array<string, mixed>  $move */
function macroMoving(Session $session, string $target, float|int|null $from, float|int|null $to, string $macro = 'm1', float $curve = 0.0): Session
{
    return edited($session, ['type' => 'set-macro-move', 'macro' => $macro, 'target' => $target, 'from' => $from, 'to' => $to, 'curve' => $curve]);
}

function macroTurned(Session $session, float|int $value, string $macro = 'm1'): Session
{
    return edited($session, ['type' => 'turn-macro', 'macro' => $macro, 'value' => $value]);
}

function insertOf(Session $session, string $id): Hafen\Session\Insert\Insert
{
    return $session->locate($id)->insert;
}

it('moves a control from one value to another along its travel', function (): void {
    $session = macroMoving(macroMoving(macroMoving(withMacro(), 'parameter:i1:frequency', 100, 1600), 'parameter:i2:drive', 24, 0), 'mix:i2', 0.2, 0.8);
    // Where it stands it begins to be moved.
    expect(insertOf($session, 'i1')->parameters['frequency'])->toEqualWithDelta(100.0, 1e-4)->and(insertOf($session, 'i2')->parameters['drive'])->toBe(24.0)->and(insertOf($session, 'i2')->mix)->toBe(0.2);
    $half = macroTurned($session, 0.5);
    // Half way of a frequency is by its ratio: two octaves of four.
    expect(insertOf($half, 'i1')->parameters['frequency'])->toEqualWithDelta(400.0, 1e-3)->and(insertOf($half, 'i2')->parameters['drive'])->toBe(12.0)->and(insertOf($half, 'i2')->mix)->toBe(0.5);
    $whole = macroTurned($session, 1);
    expect(insertOf($whole, 'i1')->parameters['frequency'])->toEqualWithDelta(1600.0, 1e-2)->and(insertOf($whole, 'i2')->parameters['drive'])->toBe(0.0)->and(insertOf($whole, 'i2')->mix)->toBe(0.8);
});

it('bends the way, by the law of automation', function (): void {
    $session = macroMoving(withMacro(), 'parameter:i2:drive', 0, 36, curve: 0.5);
    $share = (exp(2.0 * 0.25) - 1.0) / (exp(2.0) - 1.0);
    expect(insertOf(macroTurned($session, 0.25), 'i2')->parameters['drive'])->toEqualWithDelta(36.0 * $share, 1e-4);
});

it('moves levels by the scale of faders, to silence and back', function (): void {
    $session = macroMoving(macroMoving(withMacro(), 'send:n1', null, 0), 'branch:b2', 0, null);
    $branch = static fn (Session $of): ?float => $of->branch('b2')->branch->gain;
    $send = static fn (Session $of): ?float => $of->send('n1')->send->gain;
    expect([$send($session), $branch($session)])->toBe([null, 0.0])->and([$send(macroTurned($session, 1)), $branch(macroTurned($session, 1))])->toBe([0.0, null]);
    // Source: 10^(gain / 45 dB), evenly from -60 to +12 dB; half of the way from -60 to 0 dB.
    $low = 10.0 ** (-60.0 / 45.0);
    $half = 45.0 * log10(($low + 1.0) / 2.0);
    expect($send(macroTurned($session, 0.5)))->toEqualWithDelta($half, 1e-4)->and($branch(macroTurned($session, 0.5)))->toEqualWithDelta($half, 1e-4);
});

it('switches inserts and switches of processors', function (): void {
    $session = macroMoving(withMacro('Dirty', true), 'on:i2', 0, 1);
    expect(insertOf($session, 'i2')->isOn())->toBeFalse()->and(insertOf(macroTurned($session, 1), 'i2')->isOn())->toBeTrue()->and(insertOf(macroTurned(macroTurned($session, 1), 0), 'i2')->isOn())->toBeFalse();
    $split = macroMoving(withMacro(), 'on:s1', 1, 0);
    expect(insertOf(macroTurned($split, 0.4), 's1')->isOn())->toBeTrue()->and(insertOf(macroTurned($split, 0.6), 's1')->isOn())->toBeFalse();
});

it('adds up what several macros move a control from where each begins, and ends at its range', function (): void {
    $session = macroMoving(withMacro(), 'parameter:i2:drive', 6, 18);
    $session = macroMoving(edited($session, ['type' => 'add-macro', 'channel' => 'bass', 'name' => 'More']), 'parameter:i2:drive', 0, 30, 'm2');
    $drive = static fn (float $one, float $two): float => insertOf(macroTurned(macroTurned($session, $one), $two, 'm2'), 'i2')->parameters['drive'];
    // Where the first begins, 6 dB; 12 of the first at its end, 30 of the second; no more than 36.
    expect($drive(0.0, 0.0))->toBe(6.0)->and($drive(1.0, 0.0))->toBe(18.0)->and($drive(0.5, 0.5))->toBe(27.0)->and($drive(1.0, 1.0))->toBe(36.0)
        // From beyond its range it comes back as if it had not ended there.
        ->and(insertOf(macroTurned(macroTurned(macroTurned($session, 1.0), 1.0, 'm2'), 0.0), 'i2')->parameters['drive'])->toBe(36.0)
        ->and($drive(0.0, 0.2))->toBe(12.0);
    $channel = $session->channel('bass');
    $controls = new MacroControls(Mix::processors());
    $target = MacroTarget::fromString('parameter:i2:drive');
    expect(MacroSum::reach($channel->macros, $controls->range($target, $channel), $target))->toBe([6.0, 36.0]);
});

it('leaves what it moved where it is when it is taken away, or moves it no more', function (): void {
    $session = macroTurned(macroMoving(macroMoving(withMacro(), 'parameter:i2:drive', 0, 36), 'mix:i2', 0, 1), 0.5);
    $less = edited($session, ['type' => 'remove-macro-move', 'macro' => 'm1', 'target' => 'mix:i2']);
    expect(insertOf($less, 'i2')->mix)->toBe(0.5)->and(insertOf(macroTurned($less, 1), 'i2')->mix)->toBe(0.5)->and(insertOf(macroTurned($less, 1), 'i2')->parameters['drive'])->toBe(36.0);
    $gone = edited($session, ['type' => 'remove-macro', 'macro' => 'm1']);
    expect($gone->channel('bass')->macros)->toBe([])->and(insertOf($gone, 'i2')->parameters['drive'])->toBe(18.0);
});

it('lets go of what is removed, replaced or moved to another channel', function (array $edit, array $left): void {
    $session = macroMoving(macroMoving(macroMoving(macroMoving(macroMoving(withMacro(), 'parameter:i1:frequency', 100, 1600), 'parameter:i2:drive', 0, 36), 'send:n1', null, 0), 'branch:b2', 0, null), 'mix:i3', 0, 1);
    $after = edited($session, $edit);
    expect(array_map(static fn ($move): string => $move->target->text(), $after->channel('bass')->macros[0]->moves))->toBe($left);
    // What is left can be turned.
    macroTurned($after, 0.7);
})->with([
    'an insert removed' => [['type' => 'remove-inserts', 'inserts' => ['i2']], ['parameter:i1:frequency', 'send:n1', 'branch:b2', 'mix:i3']],
    'another processor in its place' => [['type' => 'replace-insert', 'insert' => 'i2', 'processor' => 'limiter'], ['parameter:i1:frequency', 'send:n1', 'branch:b2', 'mix:i3']],
    'to another channel' => [['type' => 'move-insert', 'insert' => 'i1', 'channel' => 'plate'], ['parameter:i2:drive', 'send:n1', 'branch:b2', 'mix:i3']],
    'its send' => [['type' => 'remove-sends', 'sends' => ['n1']], ['parameter:i1:frequency', 'parameter:i2:drive', 'branch:b2', 'mix:i3']],
    'the split with all that is in it' => [['type' => 'remove-inserts', 'inserts' => ['s1']], ['parameter:i1:frequency', 'parameter:i2:drive', 'send:n1']],
]);

it('refuses what cannot be, with the field and what is allowed', function (array $edit, string $location, string $message): void {
    $session = withMacro();
    try {
        edited($session, $edit);
        $refusal = null;
    } catch (InvalidDocument|EditRefused $refusal) {
    }
    expect($refusal?->location)->toBe($location)->and($refusal->getMessage())->toContain($message);
})->with([
    'no such macro' => [['type' => 'turn-macro', 'macro' => 'm7', 'value' => 0.5], 'macro', 'no macro "m7"'],
    'beyond its end' => [['type' => 'turn-macro', 'macro' => 'm1', 'value' => 1.5], '/value', 'a number from 0 to 1'],
    'no control' => [['type' => 'set-macro-move', 'macro' => 'm1', 'target' => 'fader', 'from' => 0, 'to' => 1], '/target', 'parameter:ID:NAME'],
    'of another channel' => [['type' => 'set-macro-move', 'macro' => 'm1', 'target' => 'mix:i9', 'from' => 0, 'to' => 1], '/target', 'a control of this channel'],
    'beyond its range' => [['type' => 'set-macro-move', 'macro' => 'm1', 'target' => 'parameter:i2:drive', 'from' => 0, 'to' => 99], '/to', 'a number from 0 to 36 dB'],
    'half a switch' => [['type' => 'set-macro-move', 'macro' => 'm1', 'target' => 'on:i2', 'from' => 0, 'to' => 0.5], '/to', '0 to 1'],
    'a curve too far' => [['type' => 'set-macro-move', 'macro' => 'm1', 'target' => 'mix:i2', 'from' => 0, 'to' => 1, 'curve' => 2], '/curve', '-1 to 1'],
    'no name' => [['type' => 'rename-macro', 'macro' => 'm1', 'name' => ''], '/name', 'text'],
    'too loud' => [['type' => 'set-macro-move', 'macro' => 'm1', 'target' => 'send:n1', 'from' => 0, 'to' => 20], '/to', 'a gain from -120 to 12 dB'],
]);

it('has no more macros than there may be', function (): void {
    $session = withMacro();
    $edits = array_fill(0, 63, ['type' => 'add-macro', 'channel' => 'bass', 'name' => 'One more']);
    $full = edited($session, ['type' => 'several', 'label' => 'Many', 'edits' => $edits]);
    expect(fn () => edited($full, ['type' => 'add-macro', 'channel' => 'bass', 'name' => 'Too many']))->toThrow(EditRefused::class, 'Bass has 64 macros, which is the most');
});

it('is kept in documents, which are refused where it moves what is not there', function (): void {
    $codec = new SessionCodec(Mix::processors());
    $session = macroTurned(macroMoving(macroMoving(withMacro(), 'parameter:i2:drive', 0, 36, curve: -0.3), 'send:n1', null, -6), 0.25);
    $json = $codec->encode($session);
    expect($codec->encode($codec->decode($json)))->toBe($json)->and($codec->decode($json)->channel('bass')->macros[0])->toEqual($session->channel('bass')->macros[0]);
    foreach ([
        ['"parameter:i2:drive"', '"parameter:i2:wobble"', '/channels/0/macros/0/moves/0/target'],
        ['"value":0.25', '"value":2', '/channels/0/macros/0/value'],
        ['"send:n1"', '"send:n7"', '/channels/0/macros/0/moves/1/target'],
        ['"m1"', '"no id!"', '/channels/0/macros/0/id'],
    ] as [$there, $broken, $location]) {
        expect((static function () use ($codec, $json, $there, $broken): string {
            try {
                $codec->decode(substr_replace($json, $broken, strpos($json, $there, strpos($json, '"macros"')), strlen($there)));
            } catch (InvalidDocument $invalid) {
                return $invalid->location;
            }

            return '';
        })())->toBe($location);
    }
});

it('names itself in the list of revisions', function (): void {
    $session = macroMoving(withMacro(), 'mix:i2', 0, 1);
    $label = static fn (array $edit): string => (new EditCodec(Mix::processors(), new SessionCodec(Mix::processors())))->decode(JsonNode::parse(json_encode($edit), 10000), $session)->label($session);
    expect($label(['type' => 'turn-macro', 'macro' => 'm1', 'value' => 0.4]))->toBe('Bite of Bass 40 %')
        ->and($label(['type' => 'set-macro-move', 'macro' => 'm1', 'target' => 'mix:i2', 'from' => 0, 'to' => 1]))->toBe('What Bite of Bass moves')
        ->and($label(['type' => 'add-macro', 'channel' => 'bass', 'name' => 'Air']))->toBe('Macro Air on Bass');
});
