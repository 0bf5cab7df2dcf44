<?php

declare(strict_types=1);

use Facebook\WebDriver\Interactions\WebDriverActions;
use Facebook\WebDriver\WebDriverKeys;

beforeEach(function (): void {
    openTracks();
});

afterEach(function (): void {
    $this->hafen->put('interface', ['input' => 7, 'name' => 'Input 7', 'plug' => 'nothing', 'gain' => 0.0]);
    $this->hafen->put('interface', ['clear' => 7]);
    $this->hafen->put('interface', ['buffer' => 128]);
    closeTracks();
});

function openInputs(): void
{
    test()->browser->script('[...document.querySelectorAll("nav .view")].find((one) => one.textContent.trim() === "Inputs").click()');
    test()->browser->waitFor('[data-view=inputs] [data-input-port="8"]');
}

function showPaths(): void
{
    test()->browser->script('[...document.querySelectorAll("nav .view")].find((one) => one.textContent.trim() === "Paths").click()');
}

/** What an input peaks at, in dBFS; null where nothing comes in. */
function peakAt(int $port): ?float
{
    $peak = test()->browser->script('return document.querySelector(`[data-view=inputs] [data-input-port="${arguments[0]}"] [data-peak]`)?.dataset.peak ?? ""', $port);

    return $peak === '' ? null : (float) $peak;
}

it('shows what comes in while nothing plays, marks what clips, and keeps the mark until it is cleared', function (): void {
    openInputs();
    $this->browser->until(fn (): bool => (peakAt(1) ?? -200.0) > -30.0, 'the singer to be metered');
    expect(peakAt(7))->toBeNull();
    choose('[data-input-port="7"] .plug', 'test tone, 1 kHz');
    $this->browser->until(fn (): bool => abs((peakAt(7) ?? -200.0) + 18.0) < 0.2, 'the tone at -18 dBFS');
    $this->browser->script('const name = document.querySelector("[aria-label=\\"Name of input 7\\"]"); name.focus(); name.select()');
    press('Line in'.WebDriverKeys::ENTER);
    // By the keyboard: Enter types a number.
    $gain = $this->browser->find('[aria-label="Gain of input 7"]');
    $gain->sendKeys(WebDriverKeys::ENTER);
    $this->browser->waitFor('[data-input-port="7"] .entry')->sendKeys('24'.WebDriverKeys::ENTER);
    $this->browser->waitFor('[data-clipped="7"]');
    $gain->sendKeys(WebDriverKeys::ENTER);
    $this->browser->waitFor('[data-input-port="7"] .entry')->sendKeys('0'.WebDriverKeys::ENTER);
    $this->browser->until(fn (): bool => abs((peakAt(7) ?? 0.0) + 18.0) < 0.2, 'the tone back at -18 dBFS');
    expect($this->browser->has('[data-clipped="7"]'))->toBeTrue();
    // Another page knows of it as well, within a second.
    $this->browser->until(fn (): bool => ($this->hafen->get('interface')['clipped'][7] ?? 0) > 0, 'the clipped samples to be kept');
    expect($this->hafen->get('interface')['inputs'][6]['name'])->toBe('Line in');
    $this->browser->find('[data-clipped="7"]')->click();
    $this->browser->until(fn (): bool => ! $this->browser->has('[data-clipped="7"]'), 'the mark to go');
    expect($this->hafen->get('interface')['clipped'])->not->toHaveKey(7);
});

it('counts a take in, draws it while it comes in, and keeps what lies in the loop region', function (): void {
    onServerDo(['type' => 'add-channel', 'name' => 'Line', 'width' => 'mono']);
    onServerDo(['type' => 'set-input', 'channel' => 'line', 'input' => 'in:7']);
    onServerDo(['type' => 'set-tempo', 'tempo' => 240.0]);
    $this->hafen->put('interface', ['input' => 7, 'plug' => 'tone', 'gain' => 0.0]);
    $this->browser->visit($this->hafen->url("/?session={$this->session}"));
    showPaths();
    $this->browser->waitFor('[data-channel-row=line] .name')->click();
    choose('[data-count-in]', '1 bar');
    // A region from a fifth of the session to a quarter, of ten seconds.
    $overview = $this->browser->find('[aria-label=Position]');
    $width = $overview->getSize()->getWidth();
    (new WebDriverActions($this->browser->driver))->moveToElement($overview, (int) (-0.3 * $width), 0)->clickAndHold()->moveByOffset((int) (0.05 * $width), 0)->release()->perform();
    $this->browser->waitFor('[data-punch]')->click();
    $this->browser->waitFor('[data-take]')->click();
    $this->browser->waitFor('[data-recording]');
    $this->browser->until(fn (): bool => $this->browser->has('[data-drawn=line] path[d*=M]'), 'the take to be drawn');
    // Ends by itself behind the region, and plays on.
    $this->browser->until(fn (): bool => count(channelOnServer('Line')['source']['clips'] ?? []) === 1, 'the take to be on its track');
    $clip = channelOnServer('Line')['source']['clips'][0];
    expect($clip['start'])->toBeGreaterThan(92_000)->toBeLessThan(100_000)->and($clip['start'] + $clip['length'])->toBeGreaterThan(115_000)->toBeLessThan(125_000);
    expect($this->browser->has('[data-playing=true]'))->toBeTrue();
    press(' ');
});

it('leads an input to a new track, hears it live through its effects, and records it dry', function (): void {
    openInputs();
    choose('[data-input-port="7"] .plug', 'test tone, 1 kHz');
    choose('[data-input-port="7"] .to', 'a new track');
    $this->browser->waitFor('[data-input] [data-monitor=armed].on');
    expect($this->browser->find('[data-delay-total]')->getText())->toMatch('/^\d+\.\d ms$/');
    onServerDo(['type' => 'add-insert', 'channels' => ['input-7'], 'processor' => 'gain', 'parameters' => ['gain' => 12.0]]);
    $this->browser->visit($this->hafen->url("/?session={$this->session}"));
    $this->browser->script('[...document.querySelectorAll("nav .view")].find((one) => one.textContent.trim() === "Paths").click()');
    $this->browser->waitFor('[data-channel-row=input-7] .name')->click();
    // Not armed: silence. Armed: heard at once, while nothing plays; in the view of the inputs, and on Paths.
    openInputs();
    $this->browser->until(fn (): bool => peakAt(7) !== null, 'the tone to be metered');
    expect(heardNow())->toBeLessThan(0.001);
    $this->browser->waitFor('[data-arm]')->click();
    $this->browser->until(fn (): bool => heardNow() > 0.1, 'the tone in the view of the inputs');
    $this->browser->find('[data-arm]')->click();
    $this->browser->script('[...document.querySelectorAll("nav .view")].find((one) => one.textContent.trim() === "Paths").click()');
    $this->browser->waitFor('[data-channel-row=input-7] .name')->click();
    $this->browser->until(fn (): bool => heardNow() < 0.001, 'silence');
    $this->browser->waitFor('[data-arm]')->click();
    $this->browser->until(fn (): bool => heardNow() > 0.1, 'the tone in the loudspeakers');
    $this->browser->waitFor('[data-channel-row=input-7] [data-live]');
    $this->browser->until(fn (): bool => abs((figure('input-7:pre-fader') ?? 0.0) + 6.0) < 0.2, 'the tone, 12 dB louder, before the fader');
    expect(figure('input-7:source'))->toEqualWithDelta(-18.0, 0.2)->and($this->browser->has('[data-playing=true]'))->toBeFalse();
    $this->browser->waitFor('[data-browser-delay]');

    // R records what is armed, and plays.
    press('r');
    $this->browser->waitFor('[data-recording]');
    $this->browser->waitFor('[data-playing=true]');
    $this->browser->until(fn (): bool => (float) $this->browser->script('return window.hafen.player.position() ?? 0') > 72_000, 'a take of a second and a half');
    $this->browser->find('[data-take]')->click();
    $this->browser->until(function (): bool {
        $track = array_column(onServer()['document']['channels'], null, 'id')['input-7'];

        return count($track['source']['clips']) === 1;
    }, 'the take on its track');
    $track = array_column(onServer()['document']['channels'], null, 'id')['input-7'];
    expect($track['source'])->toMatchArray(['type' => 'input', 'input' => 'in:7'])->and($track['source']['clips'][0]['length'])->toBeGreaterThan(60_000);
    // Dry: without the 12 dB.
    $media = $this->hafen->get("media/{$track['source']['clips'][0]['file']}");
    expect(max($media['overview']))->toEqualWithDelta(10 ** (-18 / 20), 0.01);
    press(' ');
    $this->browser->waitFor('[data-playing=false]');
    $this->browser->waitFor('[data-arm]')->click();
    $this->browser->until(fn (): bool => heardNow() < 0.001, 'silence');
    press(WebDriverKeys::CONTROL.'z'.WebDriverKeys::NULL);
    $this->browser->until(fn (): bool => array_column(onServer()['document']['channels'], null, 'id')['input-7']['source']['clips'] === [], 'the take to be undone');
});

it('finds the level: listens to the passage, says what to change, and sets it in one press', function (): void {
    openInputs();
    choose('[data-input-port="7"] .plug', 'test tone, 1 kHz');
    $this->hafen->put('interface', ['input' => 7, 'gain' => -12.0]);
    $this->browser->until(fn (): bool => abs((peakAt(7) ?? 0.0) + 30.0) < 0.2, 'the tone at -30 dBFS');
    $this->browser->find('[data-find-level]')->click();
    $this->browser->waitFor('[data-find-level][aria-pressed=true]');
    $heard = 0;
    $this->browser->until(function () use (&$heard): bool {
        return ++$heard > 10;
    }, 'a passage');
    $this->browser->find('[data-find-level]')->click();
    // A sine at -30 dBFS is -33 on average; its peaks to -12 bring that nearest to -18.
    $advice = $this->browser->waitFor('[data-advice="7"]');
    expect($advice->getText())->toContain('turn it up by 18.0 dB')->and($this->browser->find('[data-advice="1"]')->getText())->toContain('dBFS');
    $this->browser->find('[data-advice="7"] .fix')->click();
    $this->browser->until(fn (): bool => abs((peakAt(7) ?? 0.0) + 12.0) < 0.2, 'the tone at -12 dBFS');
    expect($this->hafen->get('interface')['inputs'][6]['gain'])->toEqual(6.0);
});

it('leaves out in quick monitoring what makes an input late, and shows which chips sleep', function (): void {
    onServerDo(['type' => 'set-input', 'channel' => 'cello', 'input' => 'in:1', 'monitor' => 'always']);
    onServerDo(['type' => 'add-insert', 'channels' => ['cello'], 'processor' => 'pitch-correction']);
    $this->browser->visit($this->hafen->url("/?session={$this->session}"));
    $this->browser->waitFor('[data-channel-row=cello] .name')->click();
    $total = fn (): float => (float) $this->browser->waitFor('[data-delay-total]')->getText();
    expect($total())->toBeGreaterThan(64.0);
    $this->browser->until(fn (): bool => figure('cello:pre-fader') !== null && $this->browser->has('[data-channel-row=cello] [data-live]'), 'the singer in place of the cello');
    $this->browser->find('[data-quick]')->click();
    $this->browser->until(fn (): bool => $total() < 10.0, 'the delay without pitch correction');
    expect($this->browser->find('[data-quick-leaves]')->getText())->toContain('Pitch')->toContain('64.0 ms sooner')
        ->and($this->browser->find('[data-channel-row=cello] [data-processor=pitch-correction]')->getAttribute('class'))->toContain('asleep')
        ->and($this->browser->find('[data-channel-row=cello] [data-processor=parametric-eq]')->getAttribute('class'))->not->toContain('asleep');
    $this->browser->until(fn (): bool => heardNow() > 0.005, 'the singer');
    $this->browser->find('[data-quick]')->click();
    $this->browser->until(fn (): bool => $total() > 64.0, 'all of it again');
});

it('goes on with another buffer, and says how late that makes it', function (): void {
    openInputs();
    $this->browser->until(fn (): bool => (peakAt(1) ?? -200.0) > -30.0, 'the singer to be metered');
    choose('[data-view=inputs] .buffer', '512 samples');
    $this->browser->until(fn (): bool => str_contains($this->browser->find('[data-buffer]')->getText(), '10.7 ms'), 'the time of 512 samples');
    $before = $this->browser->script('return window.hafen.player.position()');
    $this->browser->until(fn (): bool => (peakAt(1) ?? -200.0) > -30.0 && $this->browser->script('return window.hafen.player.position()') !== $before, 'the singer to be metered again');
});
