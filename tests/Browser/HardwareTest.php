<?php

declare(strict_types=1);

use Facebook\WebDriver\WebDriverKeys;

beforeEach(function (): void {
    openTracks();
});

afterEach(function (): void {
    $this->hafen->put('interface', ['unit' => 'spring-tank', 'send' => 'hw:7', 'return' => 'in:4', 'inverted' => false, 'knobs' => ['dwell' => 5, 'tone' => 5, 'mix' => 3]]);
    closeTracks();
});

function showView(string $name): void
{
    test()->browser->script('[...document.querySelectorAll("nav .view")].find((one) => one.textContent.trim() === arguments[0]).click()', $name);
}

it('defines a loop through a unit, pings and levels it, and uses it like an insert', function (): void {
    showView('Inputs');
    $this->browser->waitFor('[data-add-loop=spring-tank]')->click();
    // Defined, pinged and noted in one press.
    $this->browser->until(fn (): bool => isset(onServer()['document']['loops'][0]['recall']), 'the loop to be pinged and noted');
    $loop = onServer()['document']['loops'][0];
    expect($loop['delay']['samples'])->toEqualWithDelta(300 + 3.15 * 48, 0.1)->and($loop['recall']['knobs'])->toBe(['dwell' => 5, 'tone' => 5, 'mix' => 3]);
    $this->browser->waitFor('[data-set-level]')->click();
    $this->browser->until(fn (): bool => abs(onServer()['document']['loops'][0]['returnTrim'] - 4.5) < 0.11, 'the return to be levelled');
    // Onto the cello's row with the finder, by the keyboard.
    showView('Paths');
    $this->browser->waitFor('[data-channel-row=cello] .name')->click();
    press('/');
    $this->browser->waitFor('.finder .field');
    press('spring tank hard');
    $this->browser->waitFor('.finder [data-loop=l1]');
    press(WebDriverKeys::ENTER);
    $this->browser->waitFor('[data-channel=cello] [data-hardware=l1]');
    expect($this->browser->find('[data-hardware=l1] .name')->getText())->toContain('Spring tank')->toContain('9.4 ms')
        ->and($this->browser->find('[data-real-time]')->getText())->toContain('10 s');
    // Heard through the unit, and bypassed.
    pressButton('Bypass', '.inspector');
    $this->browser->until(fn (): bool => channelOnServer('Cello')['inserts'][1]['on'] === false, 'the loop to be bypassed');
    pressButton('Switch on', '.inspector');
    // A knob of the unit is turned; the sheet tells.
    $this->browser->find('[data-parameter=dwell] [role=slider]')->sendKeys(WebDriverKeys::ENTER);
    $this->browser->waitFor('[data-parameter=dwell] .entry')->sendKeys('8'.WebDriverKeys::ENTER);
    $this->browser->until(fn (): bool => str_contains($this->browser->find('[data-recall-state]')->getText(), 'Noted otherwise: Dwell'), 'the difference to be told');
    expect($this->hafen->get('interface')['units'][0]['positions']['dwell'])->toBe(8);
    $this->browser->find('[data-note]')->click();
    $this->browser->until(fn (): bool => onServer()['document']['loops'][0]['recall']['knobs']['dwell'] === 8, 'the position to be noted');
    // One place at a time: freezing the first frees it.
    $this->browser->script('document.querySelector("[data-channel-row=upright-bass] .name").click()');
    press('/');
    $this->browser->waitFor('.finder .field');
    press('spring tank hard'.WebDriverKeys::ENTER);
    $this->browser->until(fn (): bool => str_contains($this->browser->find('body')->getText(), 'A unit is in one place at a time'), 'the refusal');
    pressButton('Freeze Cello', '[data-notice]');
    $this->browser->until(fn (): bool => isset(channelOnServer('Cello')['frozen']), 'the cello to be frozen', 60);
    $this->browser->script('document.querySelector("[data-channel-row=upright-bass] .name").click()');
    press('/');
    $this->browser->waitFor('.finder .field');
    press('spring tank hard'.WebDriverKeys::ENTER);
    $this->browser->waitFor('[data-channel=upright-bass] [data-hardware=l1]');
});

it('plays through a unit, and says when nothing comes back', function (): void {
    onServerDo(['type' => 'add-loop', 'name' => 'Springs', 'send' => 'hw:7', 'return' => 'in:4', 'unit' => 'spring-tank']);
    onServerDo(['type' => 'set-loop', 'loop' => 'l1', 'delay' => ['samples' => 451.2, 'buffer' => 128]]);
    onServerDo(['type' => 'add-hardware', 'loop' => 'l1', 'channel' => 'cello']);
    foreach (['Accordion', 'Upright bass', 'Frame drum'] as $name) {
        onServerDo(['type' => 'set-mute', 'channels' => [channelOnServer($name)['id']], 'mute' => true]);
    }
    $this->browser->visit($this->hafen->url("/?session={$this->session}"));
    $this->browser->waitFor('[data-channel=cello] [data-hardware=l1]');
    press(' ');
    $this->browser->until(fn (): bool => heardNow() > 0.01, 'the cello through the springs');
    // Unplugged while it plays: silence, and the chip says so. Nothing else stops.
    $this->hafen->put('interface', ['unit' => 'spring-tank', 'send' => null, 'return' => null]);
    $this->browser->until(fn (): bool => heardNow() < 0.0001, 'silence');
    $this->browser->until(fn (): bool => str_contains($this->browser->find('[data-hardware=l1]')->getText(), 'not plugged in'), 'the chip to say so');
    showView('Inputs');
    $this->browser->waitFor('[data-loop-entry=l1] .unit')->click();
    $this->browser->waitFor('[data-loop-settings=l1] [data-ping]');
});
