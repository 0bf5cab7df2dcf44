<?php

declare(strict_types=1);

use Facebook\WebDriver\WebDriverKeys;

beforeEach(function (): void {
    openTracks();
    onServerDo(['type' => 'add-insert', 'channels' => ['cello'], 'processor' => 'drive', 'parameters' => ['drive' => 6]]);
    $this->browser->visit($this->hafen->url("/?session={$this->session}"));
    $this->browser->waitFor('[data-channel="cello"]');
    clickOn('[data-channel-row="cello"] .name', 'Cello');
    $this->browser->waitFor('[data-macros]');
});

afterEach(fn () => closeTracks());

/** Types a value into the slider of a control that is shown. */
function typeInto(string $control, string $value): void
{
    $slider = test()->browser->find("{$control} [role=slider]");
    $slider->sendKeys(WebDriverKeys::ENTER);
    $entry = test()->browser->waitFor("{$control} .slider input");
    $entry->sendKeys(WebDriverKeys::CONTROL.'a');
    $entry->sendKeys($value.WebDriverKeys::ENTER);
}

/** The first macro of the cello, as the server has it. */
function macroOnServer(): array
{
    return channelOnServer('Cello')['macros'][0] ?? [];
}

/** The drive on the cello, as the server has it. */
function driveOnServer(): array
{
    return array_values(array_filter(channelOnServer('Cello')['inserts'], static fn (array $insert): bool => $insert['processor'] === 'drive'))[0];
}

function celloDrive(string $parameter): float|int|null
{
    return driveOnServer()['parameters'][$parameter] ?? null;
}

it('assigns two controls of an effect to a macro by moving them, and turns both with one', function (): void {
    $this->browser->find('[data-new-macro] button')->click();
    $this->browser->until(fn (): bool => $this->browser->script('const item = [...document.querySelectorAll(".el-dropdown-menu__item")].find((one) => one.offsetParent && one.textContent.trim() === "A knob"); item?.click(); return Boolean(item)'), 'the menu');
    $this->browser->waitFor('[data-macro]');
    $name = $this->browser->find('[data-macro] .name');
    $name->sendKeys(WebDriverKeys::CONTROL.'a');
    $name->sendKeys('Bite'.WebDriverKeys::ENTER);
    $this->browser->until(fn (): bool => (macroOnServer()['name'] ?? '') === 'Bite', 'its name');
    $this->browser->find('[data-assign]')->click();
    $this->browser->waitFor('[data-assigning]');
    // The strip stays while an insert of the channel is shown.
    $this->browser->find('[data-channel=cello][data-processor=drive] .name')->click();
    $this->browser->waitFor('[data-parameter=drive]');
    expect($this->browser->find('[data-assigning]')->getText())->toContain('Bite is assigned: move what it is to move on Cello');
    typeInto('[data-parameter=drive]', '24');
    $this->browser->until(fn (): bool => count(macroOnServer()['moves']) === 1, 'the first move');
    typeInto('[data-parameter=output]', '-12');
    $this->browser->until(fn (): bool => count(macroOnServer()['moves']) === 2, 'the second move');
    expect([celloDrive('drive'), celloDrive('output')])->toEqual([24, -12]);
    clickOn('[data-assigning] button', 'Done');
    // Back where it stood, and all it moves with it.
    $this->browser->until(fn (): bool => macroOnServer()['value'] == 0 && celloDrive('drive') == 6, 'the macro to go back');
    expect(array_map(fn (array $move): array => [$move['from'], $move['to']], macroOnServer()['moves']))->toEqual([[6, 24], [-3, -12]]);
    clickOn('[data-channel-row="cello"] .name', 'Cello');
    $this->browser->waitFor('[data-macro]');
    typeInto('[data-macro]', '50');
    $this->browser->until(fn (): bool => celloDrive('drive') == 15 && celloDrive('output') == -7.5, 'both half way');
    $this->browser->find('[data-moves]')->click();
    $this->browser->waitFor('[data-move]');
    expect($this->browser->script('return [...document.querySelectorAll("[data-move]")].map((one) => [one.querySelector(".what").textContent, one.querySelector(".now").textContent])'))
        ->toBe([['Drive: Drive', '15.0 dB'], ['Drive: Output', '−7.5 dB']]);
    // It is turned by keys too, and one movement is one step back.
    $slider = $this->browser->find('[data-macro] [role=slider]');
    $slider->sendKeys(WebDriverKeys::ARROW_RIGHT);
    $this->browser->until(fn (): bool => macroOnServer()['value'] == 0.51, 'a step by key');
    // What was assigned moves by hand again where nothing is assigned.
    $this->browser->find('[data-channel=cello][data-processor=drive] .name')->click();
    $this->browser->waitFor('[data-parameter=drive]');
    typeInto('[data-parameter=drive]', '3');
    $this->browser->until(fn (): bool => celloDrive('drive') == 3, 'the control by hand');
    expect(count(macroOnServer()['moves']))->toBe(2)->and($this->browser->complaints())->toBe([]);
});

it('switches an insert with a macro that is a switch', function (): void {
    onServerDo(['type' => 'add-macro', 'channel' => 'cello', 'name' => 'Dirty', 'switch' => true]);
    $macro = macroOnServer()['id'];
    $insert = driveOnServer()['id'];
    onServerDo(['type' => 'set-macro-move', 'macro' => $macro, 'target' => "on:{$insert}", 'from' => 0, 'to' => 1]);
    $this->browser->visit($this->hafen->url("/?session={$this->session}"));
    $this->browser->waitFor('[data-channel="cello"]');
    clickOn('[data-channel-row="cello"] .name', 'Cello');
    expect(driveOnServer()['on'])->toBeFalse();
    $this->browser->waitFor('[data-macro] [role=switch]')->click();
    $this->browser->until(fn (): bool => driveOnServer()['on'] === true, 'the drive to be on');
    $this->browser->find('[data-macro] [role=switch]')->click();
    $this->browser->until(fn (): bool => driveOnServer()['on'] === false, 'the drive to be off again');
});

it('stands where it stood when the page is closed while it is assigned', function (): void {
    onServerDo(['type' => 'add-macro', 'channel' => 'cello', 'name' => 'Bite']);
    $this->browser->visit($this->hafen->url("/?session={$this->session}"));
    $this->browser->waitFor('[data-channel="cello"]');
    clickOn('[data-channel-row="cello"] .name', 'Cello');
    $this->browser->waitFor('[data-assign]')->click();
    $this->browser->until(fn (): bool => macroOnServer()['value'] == 1, 'its end');
    $this->browser->driver->get('about:blank');
    $this->browser->until(fn (): bool => macroOnServer()['value'] == 0, 'where it stood');
});
