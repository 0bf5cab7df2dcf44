<?php

declare(strict_types=1);

use Facebook\WebDriver\WebDriverKeys;

/*
 * From a hot main to a file: who fills it, what would help, how that sounds, done and undone, and the file that is only made
 * when nothing is lost.
 */

beforeEach(function (): void {
    openTracks();
    onServerDo(['type' => 'move-trims', 'channels' => ['main'], 'by' => 12.0]);
    $this->browser->visit($this->hafen->url("/?session={$this->session}"));
});

afterEach(function (): void {
    closeTracks();
});

function openHeadroom(): void
{
    test()->browser->waitFor('[data-ready=true]');
    test()->browser->find('[data-chip=headroom]')->click();
    test()->browser->waitFor('[data-view=headroom]');
}

it('finds the offender, lets a remedy be heard and applied, and undone', function (): void {
    openHeadroom();
    $survey = $this->browser->until(function (): ?array {
        $state = $this->hafen->get("sessions/{$this->session}/survey");

        return $state['current'] ? $state['result'] : null;
    }, 'the survey', 240);
    $relief = array_map(static fn (array $freed): float => $freed['lowered'], $survey['relief']);
    arsort($relief);
    $names = array_column(onServer()['document']['channels'], 'name', 'id');
    $this->browser->until(fn (): bool => str_starts_with($this->browser->waitFor('[data-offender]')->getText(), $names[array_key_first($relief)]), 'the offender by name');
    expect($this->browser->find('[data-share]')->getText())->toContain($names[array_key_first($survey['loudest']['shares'])]);
    // The figure above the diagram's last stage is the survey's.
    choose('[data-path-choice]', 'Cello');
    $peak = number_format($survey['taps']['main:post-fader']['peak'], 1);
    expect($this->browser->waitFor('[data-mark=clip]:last-of-type')->getText())->toContain("+{$peak}");

    $this->browser->waitFor('[data-remedy=trim-main] .hear', 240)->click();
    $this->browser->until(fn (): bool => heardNow() > 0.01, 'sound');
    $this->browser->until(fn (): bool => preg_match('/2 with remedy.*matched \+\d/s', $this->browser->find('footer.listen')->getText()) === 1, 'the other side, matched');
    press(' ');
    $this->browser->waitFor('[data-playing=false]');

    $before = channelOnServer('Main')['trim']['gain'];
    $this->browser->waitFor('[data-remedy=trim-main][data-verified=true]', 240);
    // By key: a notice may lie over it for a moment.
    $this->browser->find('[data-remedy=trim-main] input')->sendKeys(' ');
    $this->browser->until(fn (): bool => $this->browser->find('[data-apply]')->isEnabled(), 'the plan');
    $this->browser->find('[data-apply]')->click();
    $this->browser->until(fn (): bool => channelOnServer('Main')['trim']['gain'] < $before - 3.0, 'the trim to be lower');
    $after = $this->browser->until(function (): ?float {
        $state = $this->hafen->get("sessions/{$this->session}/survey");

        return $state['current'] ? $state['result']['taps']['main:post-fader']['peak'] : null;
    }, 'the survey after it', 240);
    expect($after)->toEqualWithDelta(-6.0, 0.1);
    press(WebDriverKeys::CONTROL.'z'.WebDriverKeys::NULL);
    $this->browser->until(fn (): bool => abs(channelOnServer('Main')['trim']['gain'] - $before) < 1e-9, 'the trim to be back');
});

it('stops an export that would clip before it begins, and makes it in floating point', function (): void {
    $this->browser->waitFor('[data-ready=true]');
    pressButton('Render …', '.top');
    $this->browser->waitFor('#render-tail')->clear()->sendKeys('0');
    $this->browser->find('.el-dialog .pill.on')->click();
    $this->browser->waitFor('[data-render=refused]', 240);
    expect($this->browser->find('[data-render=refused]')->getText())->toContain('would clip')->toContain('dBFS');
    $this->browser->find('[data-use-float]')->click();
    $this->browser->waitFor('[data-render=done] a', 240);
    expect($this->browser->find('[data-render=done]')->getText())->toContain('peak')->not->toContain('clipped');
    pressButton('Render again', '.el-dialog');
    $this->browser->waitFor('.choices input[value="16"]')->click();
    $this->browser->find('.el-dialog .pill.on')->click();
    $this->browser->waitFor('[data-find-remedy]', 240)->click();
    $this->browser->waitFor('[data-view=headroom] [data-remedy=limit-last]', 240);
});

it('sweeps for boxiness while it plays, and makes a cut of it', function (): void {
    $this->browser->waitFor('[data-ready=true]');
    $this->browser->waitFor('[data-channel-row=cello] .name')->click();
    $this->browser->waitFor('[data-sweep-start]')->click();
    $this->browser->until(fn (): bool => heardNow() > 0.01, 'sound');
    $shown = fn (): string => $this->browser->find('[data-sweep]')->getText();
    $first = $shown();
    $this->browser->until(fn (): bool => $shown() !== $first, 'the boost to move');
    expect(onServer()['document']['channels'][2]['inserts'])->toHaveCount(1);
    pressButton('Hold', '[data-sweep]');
    $this->browser->find('[data-sweep-cut]')->click();
    $cut = $this->browser->until(fn (): ?array => channelOnServer('Cello')['inserts'][1] ?? null, 'the cut');
    expect($cut['processor'])->toBe('parametric-eq')->and($cut['parameters']['bell-2-gain'])->toEqual(-4)
        ->and($cut['parameters']['bell-2-frequency'])->toBeGreaterThan(170)->toBeLessThan(570);
    $this->browser->until(fn (): bool => ! $this->browser->has('[data-sweep-cut]'), 'the sweep to end');
    press(' ');
});
