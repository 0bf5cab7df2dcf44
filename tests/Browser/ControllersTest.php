<?php

declare(strict_types=1);

use Facebook\WebDriver\WebDriverKeys;

beforeEach(function (): void {
    openTracks();
    onServerDo(['type' => 'add-macro', 'channel' => 'cello', 'name' => 'Bite']);
    $this->browser->visit($this->hafen->url("/?session={$this->session}"));
    $this->browser->waitFor('[data-channel="cello"]');
    // A controller as Web MIDI has it, which plays what the test says.
    $this->browser->script(<<<'JS'
        const input = {name: 'Faderbox', state: 'connected', onmidimessage: null};
        const midi = {inputs: new Map([['1', input]]), onstatechange: null};
        navigator.requestMIDIAccess = () => Promise.resolve(midi);
        window.turn = (...data) => input.onmidimessage?.({data: new Uint8Array(data)});
        window.unplug = () => { input.state = 'disconnected'; midi.onstatechange(); };
        JS);
    $this->browser->waitFor('[data-connect]')->click();
    $this->browser->waitFor('[data-learn]');
});

afterEach(fn () => closeTracks());

it('learns a macro by its being moved, takes it over softly, and keeps it over a reload', function (): void {
    $macro = fn (): array => channelOnServer('Cello')['macros'][0];
    expect($this->browser->find('[data-controllers]')->getText())->toContain('Faderbox');
    $this->browser->find('[data-learn]')->click();
    $this->browser->waitFor('[data-learning]');
    clickOn('[data-channel-row="cello"] .name', 'Cello');
    $slider = $this->browser->waitFor('[data-macro] [role=slider]');
    $slider->sendKeys(WebDriverKeys::ARROW_RIGHT);
    $this->browser->until(fn (): bool => str_contains($this->browser->find('[data-learning]')->getText(), 'Bite of Cello: now move a knob'), 'what is learned');
    $this->browser->script('turn(0xB0, 20, 100)');
    $this->browser->until(fn (): bool => ! $this->browser->has('[data-learning]'), 'it to be learned');
    $this->browser->until(fn (): bool => $macro()['value'] == 0.01, 'the macro to stand where it was moved');
    // The knob stands far above: it does nothing until it comes by.
    $this->browser->script('turn(0xB0, 20, 90)');
    usleep(600_000);
    expect($macro()['value'])->toEqual(0.01);
    $this->browser->script('turn(0xB0, 20, 0)');
    $this->browser->until(fn (): bool => $macro()['value'] == 0.0, 'the knob to meet the macro');
    $this->browser->script('turn(0xB0, 20, 64)');
    $this->browser->until(fn (): bool => $macro()['value'] == 0.504, 'the macro to follow');
    $this->browser->find('body')->sendKeys(WebDriverKeys::ESCAPE);
    $this->browser->waitFor('[data-mapping="macro:m1"]');
    $this->browser->visit($this->hafen->url("/?session={$this->session}"));
    expect($this->browser->waitFor('[data-mapping="macro:m1"]')->getText())->toContain('Bite of Cello')->toContain('knob 20')
        ->and($this->browser->complaints())->toBe([]);
});

it('plays by a key of the controller, and holds no note when it is unplugged', function (): void {
    clickOn('[data-controllers] button', 'Learn play');
    $this->browser->script('turn(0x90, 96, 100)');
    $this->browser->waitFor('[data-mapping="play"]');
    $this->browser->script('turn(0x90, 96, 100)');
    $this->browser->until(fn (): bool => $this->browser->script('return [...document.querySelectorAll("button")].some((one) => one.textContent.trim().includes("Stop"))'), 'it to play');
    $this->browser->script('turn(0x80, 96, 0); turn(0x90, 96, 100)');
    $this->browser->until(fn (): bool => ! $this->browser->script('return [...document.querySelectorAll("button")].some((one) => one.textContent.trim().includes("Stop"))'), 'it to stop');
    $this->browser->script('[...document.querySelectorAll(".adding button")].find((one) => one.textContent.trim() === "note channel").click()');
    $this->browser->waitFor('[data-play-keys]')->click();
    $level = fn (): bool => (figure('notes-1:pre-fader') ?? -INF) > -50.0;
    $this->browser->script('turn(0x90, 60, 90)');
    $this->browser->until($level, 'the key to sound');
    $this->browser->script('unplug()');
    $this->browser->until(fn (): bool => ! $level(), 'all notes to end');
    expect($this->browser->complaints())->toBe([]);
});
