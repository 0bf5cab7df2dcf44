<?php

declare(strict_types=1);

use Facebook\WebDriver\WebDriverKeys;

beforeEach(function (): void {
    openTracks();
});

afterEach(function (): void {
    $this->hafen->put('interface', ['input' => 4, 'name' => 'Input 4', 'plug' => 'nothing', 'gain' => 0.0]);
    $this->hafen->put('interface', ['clear' => 4]);
    $this->hafen->put('interface', ['buffer' => 128]);
    closeTracks();
});

function openInputs(): void
{
    test()->browser->script('[...document.querySelectorAll("nav .view")].find((one) => one.textContent.trim() === "Inputs").click()');
    test()->browser->waitFor('[data-view=inputs] [data-input-port="8"]');
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
    expect(peakAt(4))->toBeNull();
    choose('[data-input-port="4"] .plug', 'test tone, 1 kHz');
    $this->browser->until(fn (): bool => abs((peakAt(4) ?? -200.0) + 18.0) < 0.2, 'the tone at -18 dBFS');
    $name = $this->browser->find('[aria-label="Name of input 4"]');
    $name->clear();
    $name->sendKeys('Line in'.WebDriverKeys::ENTER);
    // By the keyboard: Enter types a number.
    $gain = $this->browser->find('[aria-label="Gain of input 4"]');
    $gain->sendKeys(WebDriverKeys::ENTER);
    $this->browser->waitFor('[data-input-port="4"] .entry')->sendKeys('24'.WebDriverKeys::ENTER);
    $this->browser->waitFor('[data-clipped="4"]');
    $gain->sendKeys(WebDriverKeys::ENTER);
    $this->browser->waitFor('[data-input-port="4"] .entry')->sendKeys('0'.WebDriverKeys::ENTER);
    $this->browser->until(fn (): bool => abs((peakAt(4) ?? 0.0) + 18.0) < 0.2, 'the tone back at -18 dBFS');
    expect($this->browser->has('[data-clipped="4"]'))->toBeTrue();
    // Another page knows of it as well.
    expect($this->hafen->get('interface')['clipped'][4])->toBeGreaterThan(0)->and($this->hafen->get('interface')['inputs'][3]['name'])->toBe('Line in');
    $this->browser->find('[data-clipped="4"]')->click();
    $this->browser->until(fn (): bool => ! $this->browser->has('[data-clipped="4"]'), 'the mark to go');
    expect($this->hafen->get('interface')['clipped'])->not->toHaveKey(4);
});

it('leads an input to a new track, hears it live through its effects, and records it dry', function (): void {
    openInputs();
    choose('[data-input-port="4"] .plug', 'test tone, 1 kHz');
    choose('[data-input-port="4"] .to', 'a new track');
    $this->browser->waitFor('[data-input] [data-monitor=armed].on');
    expect($this->browser->find('[data-delay-total]')->getText())->toMatch('/^\d+\.\d ms$/');
    onServerDo(['type' => 'add-insert', 'channels' => ['input-4'], 'processor' => 'gain', 'parameters' => ['gain' => 12.0]]);
    $this->browser->visit($this->hafen->url("/?session={$this->session}"));
    $this->browser->script('[...document.querySelectorAll("nav .view")].find((one) => one.textContent.trim() === "Paths").click()');
    $this->browser->waitFor('[data-channel-row=input-4] .name')->click();
    // Not armed: silence. Armed: heard at once, while nothing plays.
    $this->browser->waitFor('[data-arm]')->click();
    $this->browser->until(fn (): bool => heardNow() > 0.1, 'the tone in the loudspeakers');
    $this->browser->waitFor('[data-channel-row=input-4] [data-live]');
    $this->browser->until(fn (): bool => abs((figure('input-4:pre-fader') ?? 0.0) + 6.0) < 0.2, 'the tone, 12 dB louder, before the fader');
    expect(figure('input-4:source'))->toEqualWithDelta(-18.0, 0.2)->and($this->browser->has('[data-playing=true]'))->toBeFalse();
    $this->browser->waitFor('[data-browser-delay]');

    // R records what is armed, and plays.
    press('r');
    $this->browser->waitFor('[data-recording]');
    $this->browser->waitFor('[data-playing=true]');
    $this->browser->until(fn (): bool => (float) $this->browser->script('return window.hafen.player.position() ?? 0') > 72_000, 'a take of a second and a half');
    $this->browser->find('[data-take]')->click();
    $this->browser->until(function (): bool {
        $track = array_column(onServer()['document']['channels'], null, 'id')['input-4'];

        return count($track['source']['clips']) === 1;
    }, 'the take on its track');
    $track = array_column(onServer()['document']['channels'], null, 'id')['input-4'];
    expect($track['source'])->toMatchArray(['type' => 'input', 'input' => 'in:4'])->and($track['source']['clips'][0]['length'])->toBeGreaterThan(60_000);
    // Dry: without the 12 dB.
    $media = $this->hafen->get("media/{$track['source']['clips'][0]['file']}");
    expect(max($media['overview']))->toEqualWithDelta(10 ** (-18 / 20), 0.01);
    press(' ');
    $this->browser->waitFor('[data-playing=false]');
    $this->browser->waitFor('[data-arm]')->click();
    $this->browser->until(fn (): bool => heardNow() < 0.001, 'silence');
    press(WebDriverKeys::CONTROL.'z'.WebDriverKeys::NULL);
    $this->browser->until(fn (): bool => array_column(onServer()['document']['channels'], null, 'id')['input-4']['source']['clips'] === [], 'the take to be undone');
});

it('goes on with another buffer, and says how late that makes it', function (): void {
    openInputs();
    $this->browser->until(fn (): bool => (peakAt(1) ?? -200.0) > -30.0, 'the singer to be metered');
    choose('[data-view=inputs] .buffer', '512 samples');
    $this->browser->until(fn (): bool => str_contains($this->browser->find('[data-buffer]')->getText(), '10.7 ms'), 'the time of 512 samples');
    $before = $this->browser->script('return window.hafen.player.position()');
    $this->browser->until(fn (): bool => (peakAt(1) ?? -200.0) > -30.0 && $this->browser->script('return window.hafen.player.position()') !== $before, 'the singer to be metered again');
});
