<?php

declare(strict_types=1);

// The current picture of each main view, 1280 x 800, from a fresh demo session.

use Facebook\WebDriver\WebDriverKeys;
use Tests\Support\Application;
use Tests\Support\Chromium;

require __DIR__.'/../vendor/autoload.php';

$folder = $argv[1] ?? __DIR__.'/../docs/screenshots';
$hafen = Application::running();
$browser = new Chromium;
$level = static fn (): string => (string) $browser->script('return document.querySelector("[data-tap=\"main:post-fader\"]")?.dataset.level ?? ""');
$choose = static function (string $menu, string $choice) use ($browser): void {
    $browser->waitFor($menu)->click();
    $browser->until(static fn (): bool => $browser->script('const item = [...document.querySelectorAll(".el-select-dropdown__item")].find((one) => one.textContent.trim() === arguments[0]); item?.click(); return Boolean(item)', $choice) === true, $choice);
};
$dismiss = static fn (): mixed => $browser->script('document.querySelectorAll(".notice .el-alert__close-btn").forEach((button) => button.click())');
$open = static fn (string $view): mixed => $browser->script('[...document.querySelectorAll("nav .view")].find((one) => one.textContent.trim() === arguments[0]).click()', $view);
try {
    $browser->visit($hafen->url('/?session=1'));
    $browser->until(static fn (): bool => $level() !== '' && $level() !== 'silence', 'the survey', 180);

    // Playing, with a compressor in the inspector.
    $browser->script('document.querySelector(".overview").focus()');
    $browser->find('[data-channel-row=bass] [data-processor=compressor] .name')->click();
    $box = $browser->find('.overview');
    (new Facebook\WebDriver\Interactions\WebDriverActions($browser->driver))->moveToElement($box, (int) ($box->getSize()->getWidth() * 0.12), 0)->click()->perform();
    // Once without a picture: the engine's code is compiled while it runs for the first time.
    foreach ([8, 5] as $seconds) {
        $browser->find('[aria-label=Play]')->click();
        $browser->until(static fn (): bool => (float) $browser->script('return window.hafen.player.buffered()') > 0, 'sound');
        sleep($seconds);
        if ($seconds === 8) {
            $browser->find('[aria-label=Stop]')->click();
            $dismiss();
            (new Facebook\WebDriver\Interactions\WebDriverActions($browser->driver))->moveToElement($box, 0, 0)->click()->perform();
        }
    }
    $browser->screenshot("{$folder}/paths.png");

    // An EQ, with the levels of what it works on.
    $browser->find('[data-channel-row=cello] [data-processor=parametric-eq] .name')->click();
    $browser->waitFor('[data-levels] .before');
    sleep(4);
    $browser->screenshot("{$folder}/inspector-eq.png");
    $browser->find('[aria-label=Stop]')->click();

    // The selector between the places of the choir.
    $dismiss();
    $browser->script('[...document.querySelectorAll("[data-channel-row=choir] .fork")].at(-1).click()');
    $browser->waitFor('[data-selector-picture]');
    $browser->script('document.querySelector("[data-selector]").scrollIntoView()');
    sleep(1);
    $browser->screenshot("{$folder}/selector.png");

    // A macro of the bass with what it moves, beside its sounds; taken back afterwards.
    $steps = [
        ['type' => 'add-macro', 'channel' => 'bass', 'name' => 'Bite'],
        ['type' => 'set-macro-move', 'macro' => 'm2', 'target' => 'parameter:i7:drive', 'from' => 6, 'to' => 24, 'curve' => 0.4],
        ['type' => 'set-macro-move', 'macro' => 'm2', 'target' => 'parameter:i5:frequency', 'from' => 35, 'to' => 120],
        ['type' => 'turn-macro', 'macro' => 'm2', 'value' => 0.6],
    ];
    foreach ($steps as $step) {
        $hafen->post('sessions/1/edits', ['base' => $hafen->get('sessions/1')['change'], 'edit' => $step]);
    }
    $browser->visit($hafen->url('/?session=1'));
    $browser->waitFor('[data-channel-row=bass] .name')->click();
    $browser->waitFor('[data-macro=m2] [data-moves]')->click();
    $browser->script('document.querySelector("[data-macros]").scrollIntoView()');
    sleep(1);
    $browser->screenshot("{$folder}/macros.png");
    foreach ($steps as $step) {
        $hafen->post('sessions/1/undo');
    }
    $browser->visit($hafen->url('/?session=1'));

    // What the Pilot noted.
    $browser->find('[data-chip=pilot]')->click();
    $browser->waitFor('[data-pilot]');
    sleep(1);
    $browser->screenshot("{$folder}/pilot.png");

    // What fills the main.
    $browser->find('[data-channel-row=main] .name')->click();
    $browser->waitFor('[data-filling]');
    $browser->script('document.querySelector(".paths").scrollTop = 9999');
    sleep(1);
    $browser->screenshot("{$folder}/main.png");
    $browser->script('document.querySelector(".paths").scrollTop = 0');

    // The singer, armed, with what comes in and goes out.
    $open('Inputs');
    $browser->waitFor('[data-input-port="8"]');
    $browser->script('[...document.querySelectorAll(".taker")].find((one) => one.textContent.trim() === "Voice").click()');
    $browser->waitFor('[data-arm]')->click();
    $browser->waitFor('[data-browser-delay]');
    sleep(6);
    $browser->screenshot("{$folder}/inputs.png");
    $browser->find('[data-arm]')->click();

    // The page of whoever hears the cue.
    $phone = new Chromium(520, 760);
    try {
        $phone->visit($hafen->url($hafen->post('sessions/1/cues/cue-cello/page')['path']));
        $phone->waitFor('[data-fader=volume]');
        $phone->screenshot("{$folder}/performer.png");
    } finally {
        $phone->quit();
    }
    $open('Paths');

    // A hardware loop on the cello, with its unit in the inspector.
    $browser->waitFor('[data-hardware=l1] .name')->click();
    $browser->waitFor('[data-loop-settings=l1]');
    sleep(1);
    $browser->screenshot("{$folder}/hardware.png");

    // The grid of sends, one being changed.
    $open('Sends');
    $browser->waitFor('[data-from=drum][data-to=plate]')->click();
    sleep(1);
    $browser->screenshot("{$folder}/sends.png");
    $open('Paths');
    $browser->waitFor('[data-channel-row=cello]');

    // Headroom: all paths with what remedies would do, then one path with two of them chosen and proved together.
    $open('Headroom');
    $browser->waitFor('[data-remedy=limit-last] .hear', 400);
    $browser->until(static fn (): bool => $browser->script('return [...document.querySelectorAll("[data-remedy] .changes")].every((cell) => !/waiting|finding out/.test(cell.innerText))') === true, 'what remedies do', 400);
    $choose('[data-path-choice]', 'All paths');
    sleep(1);
    $browser->screenshot("{$folder}/headroom-all.png");
    $choose('[data-path-choice]', 'Upright bass');
    foreach (['cut-low-end', 'trim-main'] as $remedy) {
        $browser->script('document.querySelector(`[data-remedy=${arguments[0]}] input`).click()', $remedy);
    }
    $browser->until(static fn (): bool => preg_match('/^[^≈]*→/u', $browser->find('[data-whole]')->getText()) === 1, 'the plan, proved', 240);
    sleep(1);
    $browser->screenshot("{$folder}/headroom.png");
    $open('Paths');
    $browser->waitFor('[data-channel-row=cello]');

    // Load, with a plan, and the print of two channels.
    $open('Load');
    $browser->waitFor('[data-load-channel]', 240);
    $browser->script('const mark = document.querySelector("[data-load-plan] input"); mark.value = Math.round(Number(mark.value) / 3); mark.dispatchEvent(new Event("input", { bubbles: true }))');
    $browser->until(static fn (): bool => str_contains($browser->find('[data-plan-sentence]')->getText(), '→'), 'the plan of freezes', 120);
    sleep(1);
    $browser->screenshot("{$folder}/load.png");
    $open('Paths');
    $browser->waitFor('[data-channel-row=bass] .name')->click();
    $browser->script('document.querySelector("[data-channel-row=cello] .name").dispatchEvent(new MouseEvent("click", { bubbles: true, ctrlKey: true }))');
    $browser->script('[...document.querySelectorAll("[data-freeze] button")].find((button) => button.innerText.startsWith("Print")).click()');
    $browser->waitFor('[data-print]');
    $choose('[data-print-tap]', 'through its fader and pan');
    $browser->waitFor('[data-print-together]')->click();
    $browser->waitFor('[data-print-advice]');
    sleep(1);
    $browser->screenshot("{$folder}/print.png");
    $browser->driver->getKeyboard()->sendKeys(WebDriverKeys::ESCAPE);
    sleep(1);

    // A fade, and a lane that bends.
    $browser->find('[data-channel-row=cello] .name')->click();
    $browser->driver->getKeyboard()->sendKeys('a');
    $browser->waitFor('[data-lane="cello:fader"]');
    $browser->script('[...document.querySelectorAll(".lane .plain")].find((button) => button.innerText === "fade in").click()');
    $browser->waitFor('[data-bend="0"]');
    $browser->script('[...document.querySelectorAll(".lane .plain")].find((button) => button.innerText === "fade out").click()');
    $browser->waitFor('[data-point="3"]');
    foreach ([1, 2, 3, 4] as $time) {
        $browser->waitFor('[data-bend="0"]')->sendKeys(WebDriverKeys::ARROW_DOWN);
        usleep(300_000);
    }
    $browser->screenshot("{$folder}/automation.png");
    foreach (range(1, 6) as $time) {
        $browser->find('[aria-label=Undo]')->click();
        usleep(300_000);
    }
    $browser->driver->getKeyboard()->sendKeys('a');

    // A channel, at night.
    $browser->find('[aria-label="Night look"]')->click();
    $browser->find('[data-channel-row=cello] .name')->click();
    $browser->waitFor('.wave');
    sleep(1);
    $browser->screenshot("{$folder}/paths-night.png");
    $browser->find('[aria-label="Day look"]')->click();

    $browser->driver->getKeyboard()->sendKeys('/');
    $browser->waitFor('.finder');
    $browser->screenshot("{$folder}/finder.png");
    $browser->driver->getKeyboard()->sendKeys(WebDriverKeys::ESCAPE);

    // The notes of the bars, with what plays them.
    $browser->find('[data-channel-row=bars] .name')->click();
    $browser->waitFor('[data-open-notes]')->click();
    $browser->waitFor('[data-note]');
    sleep(1);
    $browser->screenshot("{$folder}/notes.png");
    $browser->find('[data-open-notes]')->click();

    // What lies on the disk.
    $browser->script('document.querySelector("[aria-label=Sessions]").click()');
    sleep(1);
    $browser->script('[...document.querySelectorAll(".el-dropdown-menu__item")].find((item) => item.innerText.startsWith("Storage")).click()');
    $browser->waitFor('[data-media]');
    sleep(1);
    $browser->screenshot("{$folder}/storage.png");
} finally {
    $browser->quit();
}
