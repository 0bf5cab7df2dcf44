<?php

declare(strict_types=1);

use Facebook\WebDriver\Interactions\WebDriverActions;
use Facebook\WebDriver\WebDriverKeys;

beforeEach(function (): void {
    openTracks();
    $this->browser->waitFor('[data-ready=true]');
    $this->browser->waitFor('[data-channel-row=cello] .name')->click();
    press('a');
    $this->browser->waitFor('[data-lane="cello:fader"]');
});

afterEach(function (): void {
    closeTracks();
});

/** @return list<array{at: int, value: ?float, curve: float}> */
function pointsOnServer(): array
{
    return channelOnServer('Cello')['automation'][0]['points'] ?? [];
}

it('fades in with one press, and the fade is heard', function (): void {
    pressButton('fade in', '[data-lane="cello:fader"]');
    $this->browser->until(fn (): bool => count(pointsOnServer()) === 2, 'the fade');
    expect(pointsOnServer()[0]['value'])->toBeNull()->and(pointsOnServer()[1]['at'])->toBe(144_000);
    $this->browser->waitFor('[data-channel-row=cello] .lanes');
    playOn();
    $drop = static fn (): float => (figure('cello:post-fader') ?? -200.0) - (figure('cello:pre-fader') ?? 0.0);
    $this->browser->until(fn (): bool => $drop() < -15.0 && $drop() > -100.0, 'the beginning of the fade');
    $this->browser->until(fn (): bool => abs($drop()) < 4.0, 'the end of the fade');
    press(' ');
});

it('adds, moves, bends, copies and removes points', function (): void {
    $lane = $this->browser->find('[data-lane="cello:fader"] svg[role=group]');
    (new WebDriverActions($this->browser->driver))->moveToElement($lane, -200, 0)->doubleClick()->perform();
    $this->browser->until(fn (): bool => count(pointsOnServer()) === 1, 'a point');
    (new WebDriverActions($this->browser->driver))->moveToElement($lane, 100, 20)->doubleClick()->perform();
    $this->browser->until(fn (): bool => count(pointsOnServer()) === 2, 'another');
    [$first, $second] = pointsOnServer();
    expect($second['at'])->toBeGreaterThan($first['at'])->and($second['value'])->toBeLessThan($first['value']);
    $this->browser->find('[data-bend="0"]')->sendKeys(WebDriverKeys::ARROW_UP);
    $this->browser->until(fn (): bool => pointsOnServer()[0]['curve'] < -0.05, 'the way to bend');
    $this->browser->find('[data-point="1"]')->sendKeys(WebDriverKeys::ARROW_RIGHT);
    $this->browser->until(fn (): bool => pointsOnServer()[1]['at'] === $second['at'] + 4800, 'the point to move');
    $this->browser->find('[data-point="1"]')->sendKeys(WebDriverKeys::ENTER);
    $this->browser->waitFor('[data-lane="cello:fader"] .entry')->sendKeys('-20'.WebDriverKeys::ENTER);
    $this->browser->until(fn (): bool => (float) pointsOnServer()[1]['value'] === -20.0, 'the value that was typed');
    // Copied to where the playhead is: at the beginning.
    $this->browser->find('[data-point="1"]')->sendKeys(WebDriverKeys::CONTROL.'c'.WebDriverKeys::NULL);
    pressButton('paste', '[data-lane="cello:fader"]');
    $this->browser->until(fn (): bool => count(pointsOnServer()) === 3 && pointsOnServer()[0] == ['at' => 0, 'value' => -20.0, 'curve' => 0.0], 'the copy');
    // The whole lane goes with its fader.
    $this->browser->find('[aria-label="Fader of Cello"]')->sendKeys(WebDriverKeys::ARROW_RIGHT);
    $this->browser->until(fn (): bool => (float) pointsOnServer()[0]['value'] === -19.5 && (float) pointsOnServer()[2]['value'] === -19.5, 'the lane to move as a whole');
    $this->browser->find('[data-point="0"]')->sendKeys(WebDriverKeys::DELETE);
    $this->browser->until(fn (): bool => count(pointsOnServer()) === 2, 'the point to be gone');
});
