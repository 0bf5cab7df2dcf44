<?php

declare(strict_types=1);

use Facebook\WebDriver\Exception\StaleElementReferenceException;
use Facebook\WebDriver\Interactions\WebDriverActions;
use Facebook\WebDriver\WebDriverBy;
use Facebook\WebDriver\WebDriverKeys;
use Tests\Support\Application;
use Tests\Support\Chromium;

/**
 * Opens the application on four tracks of the demo, ten seconds long, in a session of the test's own.
 *
 * @param  list<string>  $flags  of Chromium
 */
function openTracks(array $flags = []): void
{
    $test = test();
    $test->hafen = Application::running();
    $test->browser = new Chromium(flags: $flags);
    $demo = array_column($test->hafen->get('sessions/1')['document']['channels'], null, 'id');
    $test->session = $test->hafen->post('sessions', ['name' => 'Copy '.bin2hex(random_bytes(3))])['id'];
    $change = 1;
    foreach (['accordion-left' => 'Accordion', 'bass' => 'Upright bass', 'cello' => 'Cello', 'drum' => 'Frame drum'] as $id => $name) {
        $change = $test->hafen->post("sessions/{$test->session}/edits", ['base' => $change, 'edit' => [
            'type' => 'add-channel', 'name' => $name, 'file' => ['file' => $demo[$id]['source']['clips'][0]['file'], 'length' => 480_000, 'width' => $demo[$id]['width']],
        ]])['change'];
    }
    foreach ([['upright-bass', 'filter'], ['upright-bass', 'compressor'], ['upright-bass', 'drive'], ['cello', 'parametric-eq']] as [$channel, $processor]) {
        onServerDo(['type' => 'add-insert', 'channels' => [$channel], 'processor' => $processor]);
    }
    $test->browser->visit($test->hafen->url("/?session={$test->session}"));
}

/** Closes the browser; the page must not have complained of anything but refusals. */
function closeTracks(): void
{
    $complaints = array_filter(test()->browser->complaints(), static fn (string $line): bool => ! str_contains($line, '422') && ! str_contains($line, '409') && ! str_contains($line, '503'));
    test()->browser->quit();
    expect($complaints)->toBe([]);
}

/** The state on the server. @return array<string, mixed> */
function onServer(): array
{
    return test()->hafen->get('sessions/'.test()->session);
}

/**
 * An edit past the interface, on the newest state. Fails the test where the server refuses it.
 *
 * @param  array<string, mixed>  $edit
 * @return array<string, mixed> what the server answers
 */
function onServerDo(array $edit): array
{
    $answer = answerTo($edit);

    return isset($answer['change']) ? $answer : throw new RuntimeException('The server refused an edit a test needs: '.json_encode($answer));
}

/**
 * An edit past the interface that must be refused. Fails the test where the server takes it.
 *
 * @param  array<string, mixed>  $edit
 * @return string why
 */
function refusalOnServer(array $edit): string
{
    $answer = answerTo($edit);

    return isset($answer['change']) ? throw new RuntimeException('The server took an edit it must refuse: '.json_encode($edit)) : $answer['message'];
}

/** @param  array<string, mixed>  $edit @return array<string, mixed> what the server answers to it on the newest state */
function answerTo(array $edit): array
{
    return test()->hafen->post('sessions/'.test()->session.'/edits', ['base' => onServer()['change'], 'edit' => $edit]);
}

/** A channel on the server, by its name. @return array<string, mixed> */
function channelOnServer(string $name): array
{
    foreach (onServer()['document']['channels'] as $channel) {
        if ($channel['name'] === $name) {
            return $channel;
        }
    }

    return ['id' => '', 'inserts' => [], 'sends' => [], 'output' => ''];
}

/** Processors of a channel's row on the server. @return list<string> */
function rowOnServer(string $name): array
{
    return array_map(static fn (array $insert): string => $insert['processor'] ?? 'split', channelOnServer($name)['inserts']);
}

/** Waits until one of the notices of the page says something; others may stand beside it. */
function waitForNotice(string $text): void
{
    test()->browser->until(fn (): bool => str_contains(noticesOnScreen(), $text), "a notice that says \"{$text}\"");
}

/** What the page tells just now. */
function noticesOnScreen(): string
{
    return (string) test()->browser->script('return [...document.querySelectorAll("[data-notice]")].map((notice) => notice.innerText).join("\n")');
}

/** Presses the button that says something. */
function pressButton(string $text, string $within = 'body'): void
{
    clickOn("{$within} button", $text);
}

/** Opens a select and chooses what it offers under this name. */
function choose(string $select, string $option): void
{
    test()->browser->waitFor($select)->click();
    clickOn('.el-select-dropdown__item', $option);
}

/** Opens a menu of actions and picks one. */
function pick(string $menu, string $action): void
{
    test()->browser->waitFor($menu)->click();
    clickOn('.el-dropdown-menu__item', $action);
}

/** Clicks on the element that says something, as soon as it is shown. */
function clickOn(string $css, string $text): void
{
    test()->browser->until(function () use ($css, $text): bool {
        foreach (test()->browser->driver->findElements(WebDriverBy::cssSelector($css)) as $element) {
            try {
                if (trim($element->getText()) === $text && $element->isDisplayed()) {
                    $element->click();

                    return true;
                }
            } catch (StaleElementReferenceException) {
                // A menu that closes just now.
            }
        }

        return false;
    }, "\"{$text}\" at {$css}");
}

/** Drags an insert, or the fork of a split, to a place in the width of something else. */
function dragTo(string $from, string $to, float $share, bool $alt = false): void
{
    $target = test()->browser->find($to);
    $actions = new WebDriverActions(test()->browser->driver);
    $width = $target->getSize()->getWidth();
    if ($alt) {
        $actions->keyDown(null, WebDriverKeys::ALT);
    }
    $actions->clickAndHold(test()->browser->find($from))
        ->moveToElement($target, (int) (($share - 0.5) * $width), 0)
        ->moveByOffset(1, 0)
        ->release();
    if ($alt) {
        $actions->keyUp(null, WebDriverKeys::ALT);
    }
    $actions->perform();
}

/** The chips of a row on the screen. @return list<string> */
function rowOnScreen(string $channel): array
{
    return test()->browser->script("return [...document.querySelectorAll('[data-drop-row=inserts][data-channel={$channel}] [data-insert]')].map((chip) => chip.dataset.processor)");
}

/** Largest sample the loudspeakers get just now. */
function heardNow(): float
{
    return (float) test()->browser->script(
        'const p = window.hafen.player; if (!p.analyser) return 0; const d = new Float32Array(2048); p.analyser.getFloatTimeDomainData(d); return Math.max(...d.map(Math.abs))',
    );
}

/** What the figure of a tap says. */
function figure(string $tap): ?float
{
    $level = test()->browser->script("return document.querySelector('[data-tap=\"{$tap}\"]')?.dataset.level ?? ''");

    return match ($level) {
        '' => null,
        'silence' => -INF,
        default => (float) $level,
    };
}

function press(string $keys): void
{
    test()->browser->driver->getKeyboard()->sendKeys($keys);
}

/** Plays round and round, so that no machine is too slow to see something before the end. */
function playOn(): void
{
    press('l');
    press(' ');
}

/**
 * Keys while others are held, as hands press them: WebDriver's own way of typing brings the focus back to where it began.
 *
 * @param  list<string>  $held
 */
function chord(array $held, string ...$keys): void
{
    $actions = new WebDriverActions(test()->browser->driver);
    foreach ($held as $key) {
        $actions->keyDown(null, $key);
    }
    // In one go: sending keys lets go of what is held.
    $actions->sendKeys(null, implode('', $keys));
    foreach (array_reverse($held) as $key) {
        $actions->keyUp(null, $key);
    }
    $actions->perform();
}

/** Selects rows by their names, one after the other with Ctrl. */
function selectRows(string ...$ids): void
{
    $actions = new WebDriverActions(test()->browser->driver);
    foreach (array_values($ids) as $i => $id) {
        if ($i === 1) {
            $actions->keyDown(null, WebDriverKeys::CONTROL);
        }
        $actions->click(test()->browser->find("[data-channel-row={$id}] .name"));
    }
    if (count($ids) > 1) {
        $actions->keyUp(null, WebDriverKeys::CONTROL);
    }
    $actions->perform();
}
