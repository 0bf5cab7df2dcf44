<?php

declare(strict_types=1);

use Hafen\Session\Channel\ChannelKind;
use Hafen\Session\Channel\Send;
use Hafen\Tests\Support\Mix;
use Tests\Support\Demo;

it('tells of what macros move what it is called, can be, and is, and where they can put it', function (): void {
    $split = Mix::split('s1', [new Hafen\Session\Insert\Branch('b1', 'Clean'), new Hafen\Session\Insert\Branch('b2', 'Crush')]);
    $session = Demo::session(Mix::session([
        Mix::track('cello', [Mix::insert('i1', 'parametric-eq'), $split])->withSends([new Send('n1', 'plate', -12.0)]),
        Mix::bus('plate', ChannelKind::Return),
    ]));
    $change = $session->change;
    $do = function (array $edit) use ($session, &$change): Illuminate\Testing\TestResponse {
        $answer = edit($session, $change, $edit)->assertOk();
        $change = $answer->json('change');

        return $answer;
    };
    $do(['type' => 'add-macro', 'channel' => 'cello', 'name' => 'Air'])->assertJsonPath('macros', []);
    $do(['type' => 'set-macro-move', 'macro' => 'm1', 'target' => 'parameter:i1:bell-1-gain', 'from' => 0, 'to' => 6]);
    $do(['type' => 'set-macro-move', 'macro' => 'm1', 'target' => 'send:n1', 'from' => null, 'to' => -6]);
    $do(['type' => 'set-macro-move', 'macro' => 'm1', 'target' => 'branch:b2', 'from' => 0, 'to' => null]);
    $do(['type' => 'set-macro-move', 'macro' => 'm1', 'target' => 'on:s1', 'from' => 1, 'to' => 0]);
    $facts = $do(['type' => 'turn-macro', 'macro' => 'm1', 'value' => 1])->json('macros.cello');
    expect($facts['parameter:i1:bell-1-gain'])->toEqual(['name' => 'Parametric EQ: Bell 1 Gain', 'lowest' => -24, 'highest' => 24, 'unit' => 'dB', 'scale' => 'linear', 'value' => 6, 'reach' => [0, 6]])
        ->and($facts['send:n1'])->toEqual(['name' => 'Send to Plate', 'lowest' => null, 'highest' => 12, 'unit' => 'dB', 'scale' => 'fader', 'value' => -6, 'reach' => [null, -6]])
        ->and($facts['branch:b2'])->toEqual(['name' => 'Level of Crush', 'lowest' => null, 'highest' => 12, 'unit' => 'dB', 'scale' => 'fader', 'value' => null, 'reach' => [null, 0]])
        ->and($facts['on:s1'])->toEqual(['name' => 'Split: on', 'lowest' => 0, 'highest' => 1, 'unit' => '', 'scale' => 'switch', 'value' => 0, 'reach' => [0, 1]]);
    // A step back takes the macro and all it moved.
    $this->postJson("/api/sessions/{$session->id}/undo")->assertOk()->assertJsonPath('document.channels.0.macros.0.value', 0)->assertJsonPath('macros.cello.send:n1.value', null);
});
