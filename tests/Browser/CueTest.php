<?php

declare(strict_types=1);

use Tests\Support\Chromium;

beforeEach(function (): void {
    openTracks();
    onServerDo(['type' => 'add-channel', 'kind' => 'cue', 'name' => 'Cue']);
    $this->cue = channelOnServer('Cue')['id'];
    onServerDo(['type' => 'set-output', 'channels' => [$this->cue], 'output' => 'hw:3-4']);
    onServerDo(['type' => 'add-send', 'channels' => ['cello', 'upright-bass'], 'to' => $this->cue, 'tap' => 'pre-fader', 'gain' => 0]);
    $this->browser->visit($this->hafen->url("/?session={$this->session}"));
    $this->browser->waitFor("[data-channel=\"{$this->cue}\"]");
    $this->browser->script('[...document.querySelectorAll("nav .view")].find((one) => one.textContent.trim() === "Inputs").click()');
    $this->browser->waitFor('.going .from');
    clickOn('.going .from', 'Cue, left');
    $this->browser->waitFor('[data-cue]');
});

afterEach(fn () => closeTracks());

/** What the performer of the cue has set. @return array{tracks: list<string>, me: float|int|null, band: float|int|null} */
function performerOnServer(): array
{
    return channelOnServer('Cue')['performer'] ?? ['tracks' => [], 'me' => 0, 'band' => 0];
}

it('has a page for the performer with a few faders, whose moves are edits like any', function (): void {
    clickOn('[data-cue] .pill', 'Cello');
    $this->browser->until(fn (): bool => performerOnServer()['tracks'] === ['cello'], 'the cello to be their own');
    $this->browser->find('[data-open-page]')->click();
    $address = $this->browser->waitFor('[data-page-address]')->getAttribute('href');
    expect($this->browser->find('[data-cue]')->getText())->toContain('bin/demo --performers')
        ->and($this->browser->find('[data-cue] svg')->getAttribute('aria-label'))->toContain($address);
    $phone = new Chromium(390, 760);
    try {
        $phone->visit($address);
        $phone->waitFor('[data-fader=volume]');
        expect($phone->script('return [...document.querySelectorAll("[data-fader] h2")].map((one) => one.textContent)'))->toBe(['Me', 'Band', 'Click', 'Volume'])
            ->and($phone->script('return document.querySelectorAll("button, a, input").length'))->toBe(0);
        $down = 'const fader = document.querySelector(`[data-fader="${arguments[0]}"] [role=slider]`); fader.focus(); for (let i = 0; i < arguments[2]; i++) fader.dispatchEvent(new KeyboardEvent("keydown", { key: arguments[1], bubbles: true }));';
        $phone->script($down, 'band', 'ArrowDown', 5);
        $phone->script($down, 'me', 'ArrowUp', 2);
        $this->browser->until(fn (): bool => performerOnServer() == ['tracks' => ['cello'], 'me' => 2, 'band' => -5], 'the moves of the performer');
        // One movement is one step back, and the page follows the desk.
        $this->hafen->post("sessions/{$this->session}/undo");
        $this->hafen->post("sessions/{$this->session}/undo");
        expect(performerOnServer())->toEqual(['tracks' => ['cello'], 'me' => 0, 'band' => 0]);
        $phone->until(fn (): bool => $phone->script('return document.querySelector("[data-fader=band] .value").textContent') === '0.0', 'the page to follow the desk');
        pressButton('Close the page', '[data-cue]');
        $phone->until(fn (): bool => str_contains((string) $phone->find('main')->getText(), 'This page is closed'), 'the page to say that it is closed');
        expect($phone->has('[data-fader]'))->toBeFalse();
    } finally {
        $phone->quit();
    }
});

it('lets a cue be heard alone, and beside the main, an ear each', function (): void {
    onServerDo(['type' => 'set-fader', 'channels' => ['main'], 'gain' => null]);
    playOn();
    $this->browser->until(fn (): bool => (bool) $this->browser->script('const { out } = window.hafen.player; return out !== null && (window.hafen.player.position() ?? 0) > 4800'), 'it to play');
    $this->browser->script('const { context, out } = window.hafen.player; const split = new ChannelSplitterNode(context, { numberOfOutputs: 2 }); out.connect(split);
        window.ears = [0, 1].map((side) => { const ear = new AnalyserNode(context); split.connect(ear, side); return ear; })');
    $ears = fn (): array => $this->browser->script('return window.ears.map((ear) => { const heard = new Float32Array(2048); ear.getFloatTimeDomainData(heard); return Math.max(...heard.map(Math.abs)); })');
    pressButton('Beside the main', '[data-cue]');
    $this->browser->until(fn (): bool => str_contains((string) $this->browser->find('[data-listening-at]')->getText(), 'Main left, Cue right'), 'the bar to say so');
    $this->browser->until(fn (): bool => ($now = $ears())[0] < 1e-4 && $now[1] > 0.01, 'the silent main on the left ear and the cue on the right one');
    pressButton('Listen', '[data-cue]');
    $this->browser->until(fn (): bool => min($ears()) > 0.01, 'the cue on both ears');
});
