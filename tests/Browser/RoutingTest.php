<?php

declare(strict_types=1);

use Facebook\WebDriver\Interactions\WebDriverActions;
use Facebook\WebDriver\WebDriverKeys;

/*
 * Routing through the real interface: groups, sends, returns, cues, splits. Every wait ends when what it waits for is there.
 */

beforeEach(function (): void {
    openTracks();
});

afterEach(function (): void {
    closeTracks();
});

/** The sends of a channel on the server as "to gain tap". @return list<string> */
function sendsOnServer(string $name): array
{
    return array_map(
        static fn (array $send): string => $send['to'].' '.($send['gain'] ?? '-inf').' '.$send['tap'].($send['on'] ? '' : ' off'),
        channelOnServer($name)['sends'],
    );
}

/** A return with a reverb that a channel sends to, and a bus both may go to. */
function withReturns(): void
{
    onServerDo(['type' => 'send-to-new-return', 'channels' => ['cello'], 'processor' => 'reverb', 'name' => 'Plate']);
    onServerDo(['type' => 'add-channel', 'kind' => 'return', 'name' => 'Wash']);
    onServerDo(['type' => 'set-output', 'channels' => ['plate'], 'output' => 'wash']);
    test()->browser->script('window.dispatchEvent(new Event("focus"))');
    test()->browser->waitFor('[data-channel-row=wash]');
}

function openSends(): void
{
    pressButton('Sends', 'nav');
    test()->browser->waitFor('[data-cell="0:0"]');
}

it('groups the selection with one key and one undo, and folds the group', function (): void {
    selectRows('accordion', 'cello');
    press('g');
    $this->browser->waitFor('[data-section=Groups] [data-channel-row=group]');
    expect(channelOnServer('Accordion')['output'])->toBe('group')->and(channelOnServer('Cello')['output'])->toBe('group')
        ->and(channelOnServer('Frame drum')['output'])->toBe('main');
    $this->browser->find('[data-channel-row=group] .fold')->click();
    $this->browser->until(fn (): bool => ! $this->browser->has('[data-channel-row=cello]'), 'the members to be folded away');
    $this->browser->find('[data-channel-row=group] .fold')->click();
    $this->browser->waitFor('[data-channel-row=cello]');
    chord([WebDriverKeys::CONTROL], 'z');
    $this->browser->until(fn (): bool => ! $this->browser->has('[data-channel-row=group]'), 'the group to be gone');
    expect(channelOnServer('Accordion')['output'])->toBe('main');
});

it('sends to a new return with a chosen effect in one step, and what arrives there is heard', function (): void {
    selectRows('cello', 'frame-drum');
    pressButton('To a new return …', '.side');
    $this->browser->waitFor('.finder .field')->sendKeys('reverb'.WebDriverKeys::ENTER);
    $this->browser->waitFor('[data-section=Returns] [data-channel-row=reverb]');
    $return = channelOnServer('Reverb');
    expect($return['soloSafe'])->toBeTrue()->and($return['inserts'][0]['mix'])->toEqual(1)
        ->and(sendsOnServer('Cello'))->toBe(['reverb -12 post-fader'])->and(sendsOnServer('Frame drum'))->toBe(['reverb -12 post-fader']);
    // The row shows it, and the inspector says which sends are being changed.
    $this->browser->waitFor('[data-channel-row=cello] [data-send]');
    expect($this->browser->find('.inspector h2')->getText())->toBe('2 sends → Reverb');
    playOn();
    $this->browser->until(fn (): bool => (figure('reverb:source') ?? -INF) > -60.0, 'sound to arrive at the return');
    $this->browser->find('[data-tap="reverb:post-fader"]')->click();
    $this->browser->until(fn (): bool => heardNow() > 0.001, 'the return alone');
    expect($this->browser->find('[data-listening-at]')->getText())->toBe('Reverb, after fader');
    // Soloed, the cello keeps its reverb and the drum loses its own.
    press(WebDriverKeys::ESCAPE);
    selectRows('cello');
    press('s');
    $this->browser->until(fn (): bool => onServer()['audible'] == ['accordion' => false, 'upright-bass' => false, 'cello' => true, 'frame-drum' => false, 'reverb' => true, 'main' => true], 'the solo');
    $this->browser->until(fn (): bool => figure('frame-drum:post-fader') === -INF && (figure('reverb:source') ?? -INF) > -60.0, 'only the cello in the return');
});

it('edits the grid of sends from the keyboard: amounts, taps, blocks, copies', function (): void {
    withReturns();
    openSends();
    $this->browser->find('[data-cell="0:0"]')->click();
    press('-7.5');
    press(WebDriverKeys::ENTER);
    $this->browser->until(fn (): bool => sendsOnServer('Accordion') === ['plate -7.5 post-fader'], 'the amount that was typed');
    press('p');
    $this->browser->until(fn (): bool => sendsOnServer('Accordion') === ['plate -7.5 pre-fader'], 'the tap before the fader');
    chord([WebDriverKeys::ALT], WebDriverKeys::ARROW_UP, WebDriverKeys::ARROW_UP);
    $this->browser->until(fn (): bool => sendsOnServer('Accordion') === ['plate -6.5 pre-fader'], 'two steps up');
    // The row, copied to the row below.
    chord([WebDriverKeys::CONTROL], 'c');
    press(WebDriverKeys::ARROW_DOWN);
    chord([WebDriverKeys::CONTROL], 'v');
    $this->browser->until(fn (): bool => sendsOnServer('Upright bass') === ['plate -6.5 pre-fader'], 'the copy');
    // A block of three rows and two columns at once, as one step.
    chord([WebDriverKeys::SHIFT], WebDriverKeys::ARROW_DOWN, WebDriverKeys::ARROW_DOWN, WebDriverKeys::ARROW_RIGHT);
    $this->browser->until(fn (): bool => count($this->browser->driver->findElements(Facebook\WebDriver\WebDriverBy::cssSelector('.cell.block'))) === 6, 'the block');
    press('-20');
    press(WebDriverKeys::ENTER);
    $this->browser->until(fn (): bool => sendsOnServer('Frame drum') === ['plate -20 post-fader', 'wash -20 post-fader'], 'the block to be set');
    expect(sendsOnServer('Upright bass'))->toBe(['plate -20 pre-fader', 'wash -20 post-fader'])->and(sendsOnServer('Cello'))->toBe(['plate -20 post-fader', 'wash -20 post-fader']);
    expect($this->browser->find('.inspector h2')->getText())->toBe('6 sends');
    press('o');
    $this->browser->until(fn (): bool => sendsOnServer('Cello') === ['plate -20 post-fader off', 'wash -20 post-fader off'], 'the block to be off');
    chord([WebDriverKeys::CONTROL], 'z');
    chord([WebDriverKeys::CONTROL], 'z');
    $this->browser->until(fn (): bool => sendsOnServer('Frame drum') === [] && sendsOnServer('Cello') === ['plate -12 post-fader'], 'one undo to take the block back');
    $this->browser->find('[data-from=accordion][data-to=plate]')->click();
    press(WebDriverKeys::DELETE);
    $this->browser->until(fn (): bool => sendsOnServer('Accordion') === [], 'the send to be gone');
    // With the mouse alone: a press selects an empty cell, a second one fills it.
    $this->browser->find('[data-from=accordion][data-to=wash]')->click();
    expect(sendsOnServer('Accordion'))->toBe([]);
    $this->browser->find('[data-from=accordion][data-to=wash]')->click();
    $this->browser->until(fn (): bool => sendsOnServer('Accordion') === ['wash -12 post-fader'], 'the usual amount');
});

it('drags an amount, and several of a block in their relation, each as one step', function (): void {
    withReturns();
    onServerDo(['type' => 'add-send', 'channels' => ['accordion'], 'to' => 'plate', 'gain' => -20]);
    $this->browser->script('window.dispatchEvent(new Event("focus"))');
    openSends();
    $this->browser->until(fn (): bool => trim($this->browser->find('[data-from=accordion][data-to=plate]')->getText()) === '−20.0', 'the send on the screen');
    $revisions = fn (): int => count($this->hafen->get("sessions/{$this->session}/revisions"));
    $before = $revisions();
    (new WebDriverActions($this->browser->driver))->clickAndHold($this->browser->find('[data-from=accordion][data-to=plate]'))
        ->moveByOffset(0, -8)->moveByOffset(0, -8)->moveByOffset(0, -8)->release()->perform();
    $this->browser->until(fn (): bool => sendsOnServer('Accordion') === ['plate -14 post-fader'], 'six decibels more');
    expect($revisions())->toBe($before + 1);
    chord([WebDriverKeys::SHIFT], WebDriverKeys::ARROW_DOWN, WebDriverKeys::ARROW_DOWN);
    chord([WebDriverKeys::ALT], WebDriverKeys::ARROW_DOWN, WebDriverKeys::ARROW_DOWN);
    $this->browser->until(fn (): bool => sendsOnServer('Accordion') === ['plate -15 post-fader'] && sendsOnServer('Cello') === ['plate -13 post-fader'], 'both to come down together');
});

it('shows where a loop would close, and refuses it by name', function (): void {
    withReturns();
    $this->browser->find('[data-channel-row=wash] [data-output]')->click();
    clickOn('.el-dropdown-menu__item.is-disabled', 'Plate (would loop)');
    expect(channelOnServer('Wash')['output'])->toBe('main');
    press(WebDriverKeys::ESCAPE);
    openSends();
    $cell = $this->browser->find('[data-from=wash][data-to=plate]');
    expect($cell->getAttribute('aria-disabled'))->toBe('true')->and($cell->getAttribute('title'))->toBe('Wash to Plate would close a loop');
    $cell->click();
    press('-3');
    press(WebDriverKeys::ENTER);
    expect($this->browser->has('.entry'))->toBeFalse()->and(sendsOnServer('Wash'))->toBe([]);
    // Past the interface, and from a window that does not know yet.
    expect(refusalOnServer(['type' => 'add-send', 'channels' => ['wash'], 'to' => 'plate']))->toContain('Plate -> Wash -> Plate');
    onServerDo(['type' => 'set-output', 'channels' => ['plate'], 'output' => 'main']);
    onServerDo(['type' => 'add-send', 'channels' => ['wash'], 'to' => 'plate']);
    // This page still thinks that the wash comes after the plate.
    $this->browser->find('[data-from=plate][data-to=wash]')->click();
    press('-3');
    press(WebDriverKeys::ENTER);
    $this->browser->until(fn (): bool => str_contains($this->browser->find('body')->getText(), 'Plate -> Wash -> Plate'), 'the refusal');
    $this->browser->until(fn (): bool => $this->browser->find('[data-from=plate][data-to=wash]')->getAttribute('aria-disabled') === 'true', 'the grid to know');
});

it('splits a row, says what equal branches add, keeps the level, and dissolves', function (): void {
    selectRows('frame-drum');
    pick('.side [aria-label=Split]', 'Two branches');
    $split = $this->browser->waitFor('[data-channel-row=frame-drum] [data-split]')->getAttribute('data-split');
    expect($this->browser->find('[data-rise]')->getText())->toContain('2 equal branches add 6.02 dB');
    $gains = fn (): array => array_column(channelOnServer('Frame drum')['inserts'][0]['branches'], 'gain');
    playOn();
    $this->browser->until(function (): bool {
        [$in, $out] = $this->browser->script("const f = document.querySelectorAll('.inspector > .hint:last-child .figure'); return [f[0].innerText, f[1].innerText].map((t) => parseFloat(t.replace('−', '-')))");

        return is_numeric($in) && is_numeric($out) && abs($out - $in - 6.02) < 0.15;
    }, 'the level after the split to be 6 dB higher');
    pressButton('Keep the level');
    $this->browser->until(fn (): bool => $gains() === [-6.0206, -6.0206], 'the level to be kept');
    $this->browser->until(fn (): bool => ! $this->browser->has('[data-rise]'), 'the note to go');
    // Before and after it.
    pressButton('Listen before');
    $this->browser->until(fn (): bool => $this->browser->find('[data-listening-at]')->getText() === 'Frame drum, before the split', 'listening before');
    $this->browser->until(fn (): bool => heardNow() > 0.001, 'sound there');
    pressButton('Listen after');
    $this->browser->until(fn (): bool => $this->browser->find('[data-listening-at]')->getText() === 'Frame drum, after Split 2', 'listening after');
    // An insert into the second branch by drag, then the branch alone stays.
    $second = channelOnServer('Frame drum')['inserts'][0]['branches'][1]['id'];
    dragTo('[data-insert=i1] .name', "[data-branch={$second}] .add", 0.2);
    $this->browser->until(fn (): bool => array_column(channelOnServer('Frame drum')['inserts'][0]['branches'][1]['inserts'], 'processor') === ['filter'], 'the filter in the branch');
    expect(rowOnServer('Upright bass'))->toBe(['compressor', 'drive']);
    // And out of it again, to the front of its row.
    dragTo('[data-insert=i1] .name', '[data-insert=i2]', 0.1);
    $this->browser->until(fn (): bool => rowOnServer('Upright bass') === ['filter', 'compressor', 'drive'], 'the filter to be back');
    $name = channelOnServer('Frame drum')['inserts'][0]['branches'][1]['name'];
    pick('.side [aria-label=Dissolve]', "Keep {$name}");
    $this->browser->until(fn (): bool => rowOnServer('Frame drum') === [], 'the split to be dissolved');
});

it('puts selected inserts into a branch with one key, and pulls the branch out into a channel', function (): void {
    (new WebDriverActions($this->browser->driver))->click($this->browser->find('[data-insert=i2] .name'))
        ->keyDown(null, WebDriverKeys::CONTROL)->click($this->browser->find('[data-insert=i3] .name'))->keyUp(null, WebDriverKeys::CONTROL)->perform();
    press('w');
    $this->browser->waitFor('[data-channel-row=upright-bass] [data-split]');
    expect(rowOnServer('Upright bass'))->toBe(['filter', 'split'])
        ->and(array_column(channelOnServer('Upright bass')['inserts'][1]['branches'][1]['inserts'], 'processor'))->toBe(['compressor', 'drive']);
    $this->browser->find('[data-channel-row=upright-bass] .fork')->click();
    $second = channelOnServer('Upright bass')['inserts'][1]['branches'][1]['id'];
    pressButton('Pull out', "[data-branch-settings={$second}]");
    $this->browser->waitFor('[data-channel-row=upright-bass-parallel]');
    expect(rowOnServer('Upright bass'))->toBe(['filter'])->and(rowOnServer('Upright bass Parallel'))->toBe(['filter', 'compressor', 'drive'])
        ->and(channelOnServer('Upright bass Parallel')['source'])->toBe(['type' => 'tap', 'channel' => 'upright-bass', 'tap' => 'source']);
    // A split by frequency where it is wanted, from the finder, and kept under a name for another row.
    $this->browser->find('[data-channel-row=upright-bass] [data-insert=i1] .name')->click();
    press('/');
    $this->browser->waitFor('.finder .field')->sendKeys('low and high'.WebDriverKeys::ENTER);
    $this->browser->until(fn (): bool => rowOnServer('Upright bass') === ['filter', 'split'], 'the split after the filter');
    expect(channelOnServer('Upright bass')['inserts'][1]['by'])->toBe('frequency');
    pressButton('Save …', '.side');
    $this->browser->waitFor('.el-message-box input')->sendKeys('Two bands of ours'.WebDriverKeys::ENTER);
    $this->browser->until(fn (): bool => array_column($this->hafen->get('split-presets'), 'name') === ['Two bands of ours'], 'the stored split');
    $this->browser->until(fn (): bool => ! $this->browser->has('.el-overlay:not([style*="display: none"])'), 'the question to close');
    selectRows('cello');
    press('/');
    $this->browser->waitFor('.finder .field')->sendKeys('of ours'.WebDriverKeys::ENTER);
    $this->browser->until(fn (): bool => rowOnServer('Cello') === ['parametric-eq', 'split'], 'the stored split on another row');
    playOn();
    $this->browser->until(fn (): bool => (figure('upright-bass-parallel:source') ?? -INF) > -60.0, 'sound in the new channel');
});

it('gives a performer a mix that nothing done to the main changes', function (): void {
    pressButton('cue', '.adding');
    $this->browser->waitFor('[data-channel-row=cue-1]');
    expect(channelOnServer('Cue 1')['output'])->toBe('hw:3-4');
    pressButton('Copy the main mix here', '.side');
    $this->browser->until(fn (): bool => sendsOnServer('Cello') === ['cue-1 0 pre-fader'], 'the mix to be copied');
    playOn();
    $this->browser->until(fn (): bool => (figure('cue-1:post-fader') ?? -INF) > -60.0, 'sound in the cue');
    press(WebDriverKeys::ESCAPE);
    chord([WebDriverKeys::CONTROL], 'a');
    press('m');
    $this->browser->until(fn (): bool => figure('main:source') === -INF, 'the main to be silent');
    $this->browser->until(fn (): bool => (figure('cue-1:post-fader') ?? -INF) > -60.0, 'the cue to go on');
    $this->browser->find('[data-tap="cue-1:post-fader"]')->click();
    $this->browser->until(fn (): bool => heardNow() > 0.001, 'the cue alone in the player');
});

it('shows a path, hides and finds channels, and says where alignment is off', function (): void {
    withReturns();
    (new WebDriverActions($this->browser->driver))->moveToElement($this->browser->find('[data-channel-row=cello] .name'))->perform();
    $this->browser->until(fn (): bool => $this->browser->has('[data-channel-row=frame-drum].aside'), 'the rest to fade');
    foreach (['cello', 'plate', 'wash', 'main'] as $id) {
        expect($this->browser->has("[data-channel-row={$id}].aside"))->toBeFalse();
    }
    selectRows('upright-bass');
    pressButton('Hidden', '.side');
    $this->browser->until(fn (): bool => ! $this->browser->has('[data-channel-row=upright-bass]'), 'the row to be hidden');
    pressButton('1 hidden');
    pressButton('Upright bass', '.lost');
    $this->browser->until(fn (): bool => ! $this->browser->has('.lost') && channelOnServer('Upright bass')['hidden'] === false, 'the row to be back');
    // Its drive makes it 27 samples late: 48000 / (2 * 27) = 889 Hz.
    selectRows('upright-bass');
    pressButton('Alignment off', '.side');
    $this->browser->waitFor('[data-channel-row=upright-bass] .comb');
    expect($this->browser->find('.inspector .about')->getText())->toContain('27 samples late at Main')->toContain('889 Hz');
    pressButton('Line up', '.side');
    $this->browser->until(fn (): bool => channelOnServer('Upright bass')['aligned'] === true, 'alignment to be on');
    // A track that plays another channel's tap.
    pressButton('track', '.adding');
    $this->browser->waitFor('[data-channel-row=track-5]');
    choose('[data-tap-channel]', 'Plate');
    $this->browser->until(fn (): bool => channelOnServer('Track 5')['source'] === ['type' => 'tap', 'channel' => 'plate', 'tap' => 'source'], 'the tap as its source');
});

it('notes what practice says otherwise, shows where, mends it, and remembers what is left', function (): void {
    withReturns();
    $reverb = channelOnServer('Plate')['inserts'][0]['id'];
    onServerDo(['type' => 'set-mix', 'insert' => $reverb, 'mix' => 0.4]);
    onServerDo(['type' => 'set-solo-safe', 'channels' => ['wash'], 'soloSafe' => false]);
    $this->browser->script('window.dispatchEvent(new Event("focus"))');
    $chip = fn (): string => $this->browser->find('[data-chip=pilot] .value')->getText();
    $this->browser->until(fn (): bool => $chip() === '2', 'two notes');
    $this->browser->find('[data-channel-row=plate] .noted')->click();
    $this->browser->waitFor('[data-pilot]');
    // Shown where it is, and back.
    pressButton('Show', "[data-advice=\"return-not-wet:plate:{$reverb}\"]");
    $this->browser->waitFor("[data-inspecting={$reverb}]");
    $this->browser->find('[data-chip=pilot]')->click();
    pressButton('Set 100 %', '[data-pilot]');
    $this->browser->until(fn (): bool => $chip() === '1', 'one note less');
    expect(channelOnServer('Plate')['inserts'][0]['mix'])->toEqual(1);
    pressButton('Leave it', '[data-pilot]');
    $this->browser->until(fn (): bool => $chip() === '0', 'the note to be left');
    $this->browser->driver->navigate()->refresh();
    $this->browser->waitFor('[data-ready=true]');
    expect($chip())->toBe('0')->and(channelOnServer('Wash')['soloSafe'])->toBeFalse();
    $this->browser->find('[data-chip=pilot]')->click();
    pressButton('1 left as it is');
    pressButton('Note it again');
    $this->browser->until(fn (): bool => $chip() === '1', 'the note to be back');
});
