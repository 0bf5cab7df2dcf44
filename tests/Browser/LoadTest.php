<?php

declare(strict_types=1);

/*
 * A mix outgrows its machine: what takes most is seen, frozen while it plays, still heard, and given back.
 */

beforeEach(function (): void {
    openTracks();
});

afterEach(function (): void {
    closeTracks();
});

function frozenOnServer(): array
{
    return onServer()['frozen'];
}

it('freezes a channel while it plays, refuses to change it, and unfreezes and changes it in one press', function (): void {
    $this->browser->waitFor('[data-channel-row=upright-bass] .name')->click();
    playOn();
    $this->browser->until(fn (): bool => heardNow() > 0.01, 'sound');
    pressButton('Freeze', '[data-freeze]');
    $this->browser->until(fn (): bool => frozenOnServer() === ['upright-bass' => ['stale' => false, 'playable' => true]], 'the freeze', 240);
    $this->browser->waitFor('[data-channel-row=upright-bass] [data-frozen-row]');
    // It is still heard, alone, and its figures move.
    press('s');
    $this->browser->until(fn (): bool => (figure('upright-bass:pre-fader') ?? -INF) > -60.0 && heardNow() > 0.005, 'the frozen channel to be heard');

    // What is frozen is not changed, and a press does both.
    $this->browser->find('[data-channel-row=upright-bass] [data-processor=drive] .lamp')->click();
    waitForNotice('Upright bass is frozen, and this would change its sound.');
    expect(channelOnServer('Upright bass')['inserts'][2]['on'])->toBeTrue();
    pressButton('Unfreeze Upright bass and do it', '[data-notice]');
    $this->browser->until(fn (): bool => frozenOnServer() === [] && channelOnServer('Upright bass')['inserts'][2]['on'] === false, 'both in one step');
    press('s');
    chord([Facebook\WebDriver\WebDriverKeys::CONTROL], 'z');
    chord([Facebook\WebDriver\WebDriverKeys::CONTROL], 'z');
    $this->browser->until(fn (): bool => frozenOnServer() !== [] && channelOnServer('Upright bass')['inserts'][2]['on'] === true, 'the freeze again by undo');
    pressButton('unfreeze', '[data-channel-row=upright-bass]');
    $this->browser->until(fn (): bool => frozenOnServer() === [], 'the channel to play itself');
    $this->browser->until(fn (): bool => heardNow() > 0.005, 'sound');
});

it('measures what everything takes, and freezes what it takes to get to a load, as one step', function (): void {
    foreach (['upright-bass', 'accordion', 'cello', 'frame-drum'] as $channel) {
        foreach (['drive', 'reverb', 'drive'] as $processor) {
            onServerDo(['type' => 'add-insert', 'channels' => [$channel], 'processor' => $processor]);
        }
    }
    $this->browser->visit($this->hafen->url("/?session={$this->session}"));
    $this->browser->waitFor('[data-ready=true] [data-chip=load]')->click();
    $this->browser->waitFor('[data-view=load]');
    $first = $this->browser->waitFor('[data-load-channel]', 240);
    $load = $this->hafen->get("sessions/{$this->session}/load")['load'];
    $heaviest = collect($load['channels'])->sortByDesc('total')->first()['id'];
    expect($first->getAttribute('data-load-channel'))->toBe($heaviest);
    // The mark is moved by key: down to where only freezing leads.
    $wanted = (int) (100 * 0.7 * $load['total']);
    $this->browser->script("const mark = document.querySelector('[data-load-plan] input'); mark.value = {$wanted}; mark.dispatchEvent(new Event('input', { bubbles: true })); mark.focus()");
    press(Facebook\WebDriver\WebDriverKeys::ARROW_LEFT);
    $this->browser->until(fn (): bool => preg_match('/^Freeze .+ → \d+ %/u', $this->browser->find('[data-plan-sentence]')->getText()) === 1, 'a plan');
    pressButton('Freeze, one step');
    $this->browser->until(fn (): bool => frozenOnServer() !== [], 'the freezes', 240);
    expect(onServer()['undo'])->toStartWith('Freeze ');
    $this->browser->until(fn (): bool => preg_match('/Predicted \d+ %, measured \d+ %/', $this->browser->find('[data-plan-sentence]')->getText()) === 1, 'what it brought', 240);
    expect($this->hafen->get("sessions/{$this->session}/load")['load']['total'])->toBeLessThan($load['total']);
    // Its parts lead to their places.
    $frozen = array_key_first(frozenOnServer());
    $this->browser->find("[data-load-channel={$frozen}]")->click();
    expect($this->browser->waitFor('[data-load-inspector]')->getText())->toContain('reading the frozen file');
});

it('says so when what feeds a frozen group changes, and freezes it again', function (): void {
    $group = onServerDo(['type' => 'group-channels', 'channels' => ['upright-bass', 'cello'], 'name' => 'Low'])['document']['channels'];
    $id = array_column($group, 'id', 'name')['Low'];
    onServerDo(['type' => 'add-insert', 'channels' => [$id], 'processor' => 'compressor']);
    $this->hafen->post("sessions/{$this->session}/freezes", ['channels' => [$id]]);
    $this->browser->until(fn (): bool => frozenOnServer() !== [], 'the freeze', 240);
    onServerDo(['type' => 'set-fader', 'channels' => ['cello'], 'gain' => -6.0]);
    $this->browser->visit($this->hafen->url("/?session={$this->session}"));
    expect($this->browser->waitFor("[data-channel-row={$id}] [data-frozen-row]")->getText())->toContain('stale');
    $this->browser->find("[data-channel-row={$id}] .name")->click();
    pressButton('Freeze again', '[data-freeze]');
    $this->browser->until(fn (): bool => (frozenOnServer()[$id]['stale'] ?? true) === false, 'the freeze to be renewed', 240);
});

it('prints a channel onto a new track and switches its source off, and goes back to it', function (): void {
    $this->browser->waitFor('[data-channel-row=upright-bass] .name')->click();
    pressButton('Print …', '[data-freeze]');
    $this->browser->waitFor('[data-print]');
    choose('[data-print-after]', 'switched off: no load, no memory');
    pressButton('Print', '.el-dialog__footer');
    $this->browser->until(fn (): bool => channelOnServer('Upright bass printed')['id'] !== '' && (channelOnServer('Upright bass')['off'] ?? false), 'the print', 240);
    // The print alone is heard; its source has no row that works any more.
    $this->browser->waitFor('[data-channel-row=upright-bass-printed] .name')->click();
    press('s');
    playOn();
    $this->browser->until(fn (): bool => heardNow() > 0.01, 'the print to be heard');
    $this->browser->until(fn (): bool => (figure('upright-bass-printed:post-fader') ?? -INF) > -60.0, 'its figures');
    press(' ');
    press('s');
    expect($this->browser->waitFor('[data-printed-from]')->getText())->toContain('Made from Upright bass, through its inserts.');
    pressButton('Back to it', '[data-printed-from]');
    $this->browser->until(fn (): bool => ! (channelOnServer('Upright bass')['off'] ?? false) && channelOnServer('Upright bass printed')['mute'], 'the source back in its place');
});

it('prints several channels to one track, and brings all of them back', function (): void {
    $this->browser->waitFor('[data-channel-row=upright-bass] .name')->click();
    $this->browser->script("document.querySelector('[data-channel-row=cello] .name').dispatchEvent(new MouseEvent('click', { bubbles: true, ctrlKey: true }))");
    pressButton('Print …', '[data-freeze]');
    $this->browser->waitFor('[data-print-together]')->click();
    pressButton('Print', '.el-dialog__footer');
    $this->browser->until(fn (): bool => channelOnServer('Upright bass')['mute'] && channelOnServer('Cello')['mute'], 'the print', 240);
    $print = array_values(array_filter(onServer()['document']['channels'], static fn (array $channel): bool => str_ends_with($channel['name'], 'and 1 more printed')))[0];
    expect(onServer()['undo'])->toBe('Print 2 channels')->and($print['source']['clips'][0]['printedFrom']['with'])->toHaveCount(1);
    $this->browser->waitFor("[data-channel-row={$print['id']}] .name")->click();
    pressButton('Back to it', '[data-printed-from]');
    $this->browser->until(fn (): bool => ! channelOnServer('Upright bass')['mute'] && ! channelOnServer('Cello')['mute'] && channelOnServer($print['name'])['mute'], 'both back in their place');
});

it('says what is in a print, prints in place, and plays the version before again', function (): void {
    onServerDo(['type' => 'set-fader', 'channels' => ['cello'], 'gain' => -6.0]);
    $file = channelOnServer('Cello')['source']['clips'][0]['file'];
    $this->browser->visit($this->hafen->url("/?session={$this->session}"));
    $this->browser->waitFor('[data-channel-row=cello] .name')->click();
    pressButton('Print …', '[data-freeze]');
    choose('[data-print-tap]', 'through its fader and pan');
    $this->browser->until(fn (): bool => str_contains($this->browser->waitFor('[data-print-advice]')->getText(), 'at −6.0 again it would be −12.0 in all'), 'what to know before');
    $this->browser->find('[data-print] input[name=print-place][value=place]')->click();
    pressButton('Print', '.el-dialog__footer');
    $this->browser->until(fn (): bool => (channelOnServer('Cello')['versions'][0]['name'] ?? '') === 'Before the print' && (float) channelOnServer('Cello')['fader'] === 0.0, 'the print in place', 240);
    pressButton('Use', '[data-versions]');
    $this->browser->until(fn (): bool => channelOnServer('Cello')['source']['clips'][0]['file'] === $file, 'the version before');
});

it('records what is heard onto a track while it plays', function (): void {
    $empty = onServerDo(['type' => 'add-channel', 'name' => 'Takes']);
    $this->browser->visit($this->hafen->url("/?session={$this->session}"));
    $this->browser->waitFor('[data-channel-row=takes] .name')->click();
    pressButton('Record', '[data-record]');
    $this->browser->until(fn (): bool => heardNow() > 0.01, 'sound');
    $this->browser->until(fn (): bool => preg_match('/Recording on Takes\s+00:0[1-9]/', $this->browser->waitFor('[data-recording]')->getText()) === 1, 'the take to grow');
    press('r');
    $clip = $this->browser->until(fn (): ?array => channelOnServer('Takes')['source']['clips'][0] ?? null, 'the take', 60);
    expect($clip['start'])->toBeLessThan(4800)->and($clip['length'])->toBeGreaterThan(40_000)->and($clip['printedFrom']['tap'])->toBe('main')
        ->and(onServer()['undo'])->toBe('Record on Takes')->and($empty['change'])->toBeLessThan(onServer()['change']);
    // It plays on; the screen has the take.
    $this->browser->until(fn (): bool => str_contains($this->browser->find('[data-printed-from]')->getText(), 'Made from Main'), 'the take on the screen');
});
