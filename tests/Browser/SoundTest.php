<?php

declare(strict_types=1);

use Facebook\WebDriver\WebDriverKeys;

beforeEach(function (): void {
    openTracks();
    onServerDo(['type' => 'add-insert', 'channels' => ['cello'], 'processor' => 'drive', 'parameters' => ['drive' => 6]]);
    showCello();
});

afterEach(fn () => closeTracks());

/** Loads the page, with what was done on the server meanwhile, and shows the cello in the inspector. */
function showCello(): void
{
    test()->browser->visit(test()->hafen->url('/?session='.test()->session));
    test()->browser->waitFor('[data-channel="cello"]');
    clickOn('[data-channel-row="cello"] .name', 'Cello');
    test()->browser->waitFor('[data-sounds]');
}

/** The drive of the cello, as the server has it. */
function driveNow(): array
{
    return array_values(array_filter(channelOnServer('Cello')['inserts'], static fn (array $insert): bool => ($insert['processor'] ?? '') === 'drive'))[0];
}

function selectorNow(): ?array
{
    return array_values(array_filter(channelOnServer('Cello')['inserts'], static fn (array $insert): bool => $insert['type'] === 'split'))[0]['selector'] ?? null;
}

/** Drags the end of a siding in a picture to a place on its line, from 0 to 1. */
function dragEnd(string $picture, string $end, float $to): void
{
    test()->browser->script(<<<'JS'
        const picture = document.querySelector(arguments[0]);
        const handle = picture.querySelector(`[data-edge="${arguments[1]}"]`);
        const [box, from] = [picture.getBoundingClientRect(), handle.getBoundingClientRect()];
        const x = box.left + box.width * (10 + arguments[2] * 230) / 250;
        const fire = (type, at, on) => on.dispatchEvent(new PointerEvent(type, {bubbles: true, clientX: at, clientY: from.y + 2, button: 0}));
        fire('pointerdown', from.x + from.width / 2, handle);
        fire('pointermove', x, window);
        fire('pointerup', x, window);
        JS, $picture, $end, $to);
}

it('makes two sounds of a row from how it stands, and goes from one to the other by press and by key', function (): void {
    $this->browser->find('[data-new-sound-switch]')->click();
    $this->browser->waitFor('[data-sound]');
    onServerDo(['type' => 'set-insert-on', 'inserts' => [driveNow()['id']], 'on' => false]);
    showCello();
    $this->browser->waitFor('[data-keep-sound]');
    $this->browser->find('[data-new-sound]')->click();
    $this->browser->until(fn (): bool => count($this->browser->script('return [...document.querySelectorAll("[data-sound]")].map((one) => one.dataset.sound)')) === 2, 'two sounds');
    $this->browser->waitFor('[data-sound-name]');
    $name = $this->browser->find('[data-sound-name] + [data-sound-name] .name');
    $name->sendKeys(WebDriverKeys::CONTROL.'a');
    $name->sendKeys('Clean'.WebDriverKeys::ENTER);
    $this->browser->until(fn (): bool => (channelOnServer('Cello')['sounds'][0]['sounds'][1]['name'] ?? '') === 'Clean', 'its name');
    expect($this->browser->script('return [...document.querySelectorAll("[data-sounds] li")].map((one) => one.textContent)'))->toBe(['Drive: on']);
    $this->browser->script('document.querySelectorAll("[data-sound]")[0].click()');
    $this->browser->until(fn (): bool => driveNow()['on'] === true, 'the first sound');
    $this->browser->find('body')->sendKeys('k');
    $this->browser->until(fn (): bool => driveNow()['on'] === false, 'the second by key');
    $this->browser->find('body')->sendKeys('K');
    $this->browser->until(fn (): bool => driveNow()['on'] === true && $this->browser->script('return document.querySelectorAll("[data-sound]")[0].getAttribute("aria-checked")') === 'true', 'the first by key');
    // Pressed twice before the server has answered once.
    onServerDo(['type' => 'add-sound', 'switch' => channelOnServer('Cello')['sounds'][0]['id'], 'name' => 'Lead']);
    showCello();
    $this->browser->until(fn (): bool => $this->browser->script('return document.querySelectorAll("[data-sound]").length') === 3, 'three sounds');
    $this->browser->find('body')->sendKeys('KK');
    $this->browser->until(fn (): bool => channelOnServer('Cello')['sounds'][0]['chosen'] === channelOnServer('Cello')['sounds'][0]['sounds'][0]['id'], 'the first of three');
    expect($this->browser->complaints())->toBe([]);
});

it('puts a selector between branches, steps through them by key, and drags the edge where two of them meet', function (): void {
    onServerDo(['type' => 'add-split', 'channel' => 'cello', 'branches' => 3]);
    showCello();
    $this->browser->waitFor('[data-channel-row="cello"] .fork')->click();
    $this->browser->waitFor('[data-add-selector]')->click();
    $this->browser->waitFor('[data-selector-picture]');
    expect(round(selectorNow()['value'], 3))->toBe(0.142);
    $this->browser->find('body')->sendKeys('.');
    $this->browser->until(fn (): bool => selectorNow()['value'] == 0.5, 'the middle branch');
    $this->browser->until(fn (): bool => $this->browser->script('return [...document.querySelectorAll("[data-track]")].map((one) => one.classList.contains("open"))') === [false, true, false], 'the siding to be open');
    expect($this->browser->script('return [...document.querySelectorAll("[data-branch-row]")].map((one) => one.classList.contains("quiet"))'))->toBe([true, false, true]);
    // Both edges that lie there go to where the picture has 60 %.
    $branches = $this->browser->script('return [...document.querySelectorAll("[data-track]")].map((one) => one.dataset.track)');
    dragEnd('[data-selector-picture]', "{$branches[1]}:to", 0.6);
    $ranges = fn (): array => array_column(array_values(array_filter(channelOnServer('Cello')['inserts'], static fn (array $insert): bool => $insert['type'] === 'split'))[0]['branches'], 'range');
    $this->browser->until(fn (): bool => abs($ranges()[1]['to'] - 0.6) < 0.002 && abs($ranges()[2]['from'] - 0.6) < 0.002, 'the edge that both share');
    $this->browser->find('body')->sendKeys(',');
    $this->browser->until(fn (): bool => selectorNow()['value'] < 0.3, 'the first branch again');
    expect($this->browser->complaints())->toBe([]);
});

it('moves a selector and chooses sounds by the keys of a note channel, while they are played', function (): void {
    onServerDo(['type' => 'add-channel', 'kind' => 'note', 'name' => 'Keys']);
    onServerDo(['type' => 'add-split', 'channel' => 'cello', 'branches' => 2]);
    $split = array_values(array_filter(channelOnServer('Cello')['inserts'], static fn (array $insert): bool => $insert['type'] === 'split'))[0];
    onServerDo(['type' => 'add-selector', 'split' => $split['id']]);
    onServerDo(['type' => 'set-branch-gain', 'branches' => [$split['branches'][1]['id']], 'gain' => -40]);
    onServerDo(['type' => 'add-sound-switch', 'channel' => 'cello', 'name' => 'Tone', 'sound' => 'Dry']);
    showCello();
    $this->browser->find('[data-sounds] [data-fold]')->click();
    choose('[data-sound-notes] .choice-menu', 'Keys');
    $this->browser->until(fn (): bool => (channelOnServer('Cello')['sounds'][0]['notes'] ?? null) === ['channel' => 'keys', 'lowest' => 24], 'its keys');
    $this->browser->waitFor('[data-channel-row="cello"] .fork')->click();
    choose('[data-selector-notes] .choice-menu', 'keys of Keys');
    $this->browser->until(fn (): bool => (selectorNow()['notes']['value'] ?? '') === 'key', 'the notes of the selector');
    $this->browser->find('[data-channel-row="keys"] .name')->click();
    $this->browser->waitFor('[data-open-notes]')->click();
    $this->browser->waitFor('[data-play-keys]')->click();
    $this->browser->script('const one = [...document.querySelectorAll("button")].find((o) => o.textContent.includes("Play")); one.click()');
    $key = fn (string $type, string $key): mixed => $this->browser->script("document.body.dispatchEvent(new KeyboardEvent('{$type}', {key: '{$key}', bubbles: true}))");
    $level = fn (): float => figure('cello:pre-fader') ?? -INF;
    // D#5 is far up, and the selector stays there when it is let go: the upper branch is 40 dB softer.
    $key('keydown', 'p');
    $this->browser->until(fn (): bool => $level() > -75.0 && $level() < -38.0, 'the upper branch to sound alone');
    $key('keyup', 'p');
    foreach (['z', 'z'] as $octave) {
        $key('keydown', $octave);
    }
    $key('keydown', 'a');
    $this->browser->until(fn (): bool => $level() > -30.0, 'the lower branch to sound alone');
    $key('keyup', 'a');
    expect($this->browser->complaints())->toBe([]);
});

it('gives branches keys and velocities by drag and by name, and plays each key where it belongs', function (): void {
    onServerDo(['type' => 'add-channel', 'kind' => 'note', 'name' => 'Keys']);
    onServerDo(['type' => 'add-split', 'channel' => 'keys', 'branches' => 2, 'at' => 0]);
    $branches = fn (): array => channelOnServer('Keys')['inserts'][0]['branches'];
    [$low, $high] = array_column($branches(), 'id');
    showCello();
    $this->browser->find('[data-channel-row="keys"] .fork')->click();
    $this->browser->waitFor('[data-zones-picture=keys]');
    dragEnd('[data-zones-picture=keys]', "{$low}:to", 60 / 128);
    $this->browser->until(fn (): bool => ($branches()[0]['keys'] ?? null) === ['from' => 0, 'to' => 59, 'fadeFrom' => 0, 'fadeTo' => 0], 'the low keys');
    dragEnd('[data-zones-picture=keys]', "{$high}:from", 60 / 128);
    $this->browser->until(fn (): bool => ($branches()[1]['keys']['from'] ?? null) === 60, 'the high keys');
    // Where two zones meet, both ends go along.
    $this->browser->until(fn (): bool => $this->browser->has("[data-zone='{$high}:keys']"), 'the zone that was dragged');
    dragEnd('[data-zones-picture=keys]', "{$high}:from", 66 / 128);
    $this->browser->until(fn (): bool => $branches()[0]['keys']['to'] === 65 && $branches()[1]['keys']['from'] === 66, 'both zones');
    // Keys are typed by name. What is no key changes nothing.
    foreach (['H2' => 66, 'Eb5' => 75] as $typed => $key) {
        $this->browser->script("document.querySelector('[data-zone=\"{$high}:keys\"] [role=slider]').focus()");
        $this->browser->find("[data-zone='{$high}:keys'] [role=slider]")->sendKeys(WebDriverKeys::ENTER);
        $this->browser->waitFor("[data-zone='{$high}:keys'] input")->sendKeys(WebDriverKeys::CONTROL.'a'.WebDriverKeys::NULL.$typed.WebDriverKeys::ENTER);
        $this->browser->until(fn (): bool => $branches()[1]['keys']['from'] === $key, "{$typed} to be read");
    }
    dragEnd('[data-zones-picture=velocities]', "{$low}:to", 100 / 127);
    $this->browser->until(fn (): bool => ($branches()[0]['velocities']['to'] ?? null) === 100 && ! isset($branches()[1]['velocities']), 'the soft notes');
    // Between F4 and D#5 no branch plays.
    $this->browser->find('[data-channel-row="keys"] .name')->click();
    $this->browser->waitFor('[data-open-notes]')->click();
    $this->browser->waitFor('[data-play-keys]')->click();
    $key = fn (string $type, string $key): mixed => $this->browser->script("document.body.dispatchEvent(new KeyboardEvent('{$type}', {key: '{$key}', bubbles: true}))");
    $level = fn (): float => figure('keys:pre-fader') ?? -INF;
    $key('keydown', 'j');
    usleep(1_500_000);
    expect($level())->toBeLessThan(-90.0);
    $key('keydown', 'a');
    $this->browser->until(fn (): bool => $level() > -50.0, 'the key of the low branch to sound');
    $key('keyup', 'a');
    $key('keyup', 'j');
    expect($this->browser->complaints())->toBe([]);
    // Behind the instrument there are no notes, and nothing to set.
    onServerDo(['type' => 'move-insert', 'insert' => channelOnServer('Keys')['inserts'][0]['id'], 'channel' => 'keys', 'at' => 2]);
    showCello();
    $this->browser->find('[data-channel-row="keys"] .fork')->click();
    $this->browser->waitFor("[data-branch-settings='{$low}']");
    expect($this->browser->has('[data-zones]'))->toBeFalse();
});
