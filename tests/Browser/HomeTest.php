<?php

declare(strict_types=1);

use Facebook\WebDriver\WebDriverKeys;

/*
 * The home view through the real interface: that it can be read at any usual size, channels that are found by name, and
 * sessions that are made, copied, deleted, brought back, downloaded and opened again.
 */

beforeEach(function (): void {
    openTracks();
});

afterEach(function (): void {
    closeTracks();
});

/** Texts of the page that are cut to dots. @return list<string> */
function cutTexts(): array
{
    return test()->browser->script(<<<'JS'
        const clips = (element) => ['hidden', 'clip'].includes(getComputedStyle(element).overflowX);
        return [...document.querySelectorAll('.frame *')].filter((element) => {
            if (element.children.length > 0 || element.textContent.trim() === '' || element.clientWidth < 2) {
                return false;
            }
            if ((getComputedStyle(element).textOverflow === 'ellipsis' || clips(element)) && element.scrollWidth > element.clientWidth + 1) {
                return true;
            }
            // Something around it may cut it too.
            const words = document.createRange();
            words.selectNodeContents(element);
            const { left, right } = words.getBoundingClientRect();
            for (let around = element.parentElement; around && !around.matches('.frame'); around = around.parentElement) {
                const box = around.getBoundingClientRect();
                if (clips(around) && box.width > 2 && (left < box.left - 1 || right > box.right + 1)) {
                    return true;
                }
            }
            return false;
        }).map((element) => element.className + ': ' + element.textContent.trim());
        JS);
}

/** Chips whose short name is cut, or that lie outside of their row. @return list<string> */
function brokenChips(): array
{
    return test()->browser->script(<<<'JS'
        return [...document.querySelectorAll('[data-insert]')].filter((chip) => {
            const row = chip.closest('[data-channel-row]').getBoundingClientRect();
            const box = chip.getBoundingClientRect();
            const name = chip.querySelector('.name');
            return !name || name.innerText.trim() === '' || name.scrollWidth > name.clientWidth + 1
                || box.left < row.left - 1 || box.right > row.right + 1 || box.top < row.top - 1 || box.bottom > row.bottom + 1;
        }).map((chip) => chip.dataset.insert + ': ' + chip.innerText);
        JS);
}

it('can be read at 1024, 1280 and 1920, with eight effects in a row and long names', function (): void {
    onServerDo(['type' => 'rename-channel', 'channel' => 'frame-drum', 'name' => 'Kontrabassfluete']);
    foreach (['compressor', 'tube-stage', 'chorus', 'echo', 'parametric-eq', 'limiter', 'pitch-correction', 'filter'] as $processor) {
        onServerDo(['type' => 'add-insert', 'channels' => ['frame-drum'], 'processor' => $processor]);
    }
    onServerDo(['type' => 'add-channel', 'kind' => 'return', 'name' => 'Reverb big', 'width' => 'stereo']);
    foreach (['frame-drum', 'cello'] as $channel) {
        onServerDo(['type' => 'add-send', 'channels' => [$channel], 'to' => 'reverb-big', 'gain' => -12.5]);
    }
    $this->browser->visit($this->hafen->url("/?session={$this->session}"));
    foreach ([[1024, 768], [1280, 800], [1920, 1080]] as [$width, $height]) {
        $this->browser->viewport($width, $height);
        foreach (['nothing' => null, 'a channel' => 'cello'] as $selected => $channel) {
            if ($channel !== null) {
                selectRows($channel);
            } else {
                press(WebDriverKeys::ESCAPE);
            }
            // The rows settle after the change.
            $this->browser->until(fn (): bool => count(rowOnScreen('frame-drum')) === 8 && brokenChips() === [], "chips at {$width} with {$selected} selected: ".json_encode(brokenChips()), 20);
            expect(cutTexts())->toBe([], "at {$width} with {$selected} selected")
                ->and($this->browser->script('return document.documentElement.scrollWidth - innerWidth'))->toBeLessThanOrEqual(0);
        }
    }
});

it('shows at least 19 of many channels, and finds one by part of its name', function (): void {
    for ($i = 1; $i <= 24; ++$i) {
        onServerDo(['type' => 'add-channel', 'kind' => 'track', 'name' => "Violin {$i}", 'width' => 'mono']);
    }
    $this->browser->visit($this->hafen->url("/?session={$this->session}"));
    $this->browser->waitFor('[data-channel-row=violin-24]');
    $visible = fn (): int => (int) $this->browser->script(<<<'JS'
        return [...document.querySelectorAll('[data-channel-row]')].filter((row) => {
            const box = row.getBoundingClientRect();
            const middle = document.elementFromPoint(box.left + 20, box.top + box.height / 2);
            return box.top >= 0 && box.bottom <= innerHeight && row.contains(middle);
        }).length;
        JS);
    $this->browser->until(fn (): bool => $visible() >= 19, '19 rows on the page');
    press('f');
    $this->browser->waitFor('#hafen-find')->sendKeys('olin 17');
    $this->browser->until(fn (): bool => $this->browser->script('return document.querySelectorAll("[data-channel-row]").length') === 1, 'one row');
    $this->browser->find('#hafen-find')->sendKeys(WebDriverKeys::ENTER);
    $this->browser->until(fn (): bool => $this->browser->script('return document.querySelector(".inspector .title")?.value') === 'Violin 17', 'the channel in the inspector');
    expect($this->browser->has('[data-channel-row=cello]'))->toBeTrue();
});

it('has its own colours in both looks, in what the library draws too', function (): void {
    $colours = fn (): array => $this->browser->script(<<<'JS'
        const style = getComputedStyle(document.documentElement);
        return ['--el-color-primary', '--deep', '--el-bg-color', '--sheet'].map((name) => style.getPropertyValue(name).trim());
        JS);
    foreach (['Night look', 'Day look'] as $next) {
        [$primary, $deep, $ground, $sheet] = $colours();
        expect($primary)->toBe($deep)->and($ground)->toBe($sheet);
        $this->browser->find("[aria-label=\"{$next}\"]")->click();
        $this->browser->until(fn (): bool => $colours()[1] !== $deep, $next);
    }
});

it('folds the inspector away by key, and back', function (): void {
    selectRows('cello');
    $wide = fn (): float => (float) $this->browser->script('return document.querySelector("[data-channel-row=cello]").getBoundingClientRect().width');
    $this->browser->waitFor('.inspector .title');
    $before = $wide();
    press('i');
    $this->browser->until(fn (): bool => $wide() > $before + 100, 'the rows to take its room');
    press('i');
    $this->browser->until(fn (): bool => $wide() === $before && $this->browser->has('.inspector .title'), 'the inspector to be back');
});

it('copies a session, deletes the copy, and brings it back; the address names it', function (): void {
    $menu = '[aria-label=Sessions]';
    pick($menu, 'Copy …');
    $this->browser->waitFor('.el-message-box input')->sendKeys(WebDriverKeys::CONTROL.'a'.WebDriverKeys::NULL.'A second try'.WebDriverKeys::ENTER);
    $this->browser->until(fn (): bool => str_contains($this->browser->find($menu)->getText(), 'A second try'), 'the copy to be open');
    $copy = (int) $this->browser->script('return new URLSearchParams(location.search).get("session")');
    expect($copy)->not->toBe($this->session)
        ->and($this->hafen->get("sessions/{$copy}")['document']['channels'])->toEqual(onServer()['document']['channels']);
    pick($menu, 'Delete');
    $this->browser->until(fn (): bool => ! in_array('A second try', array_column($this->hafen->get('sessions'), 'name'), true), 'the copy to be gone');
    $this->browser->until(fn (): bool => ! str_contains($this->browser->find($menu)->getText(), 'A second try'), 'another session to be open');
    pick($menu, 'Bring back A second try');
    $this->browser->until(fn (): bool => str_contains($this->browser->find($menu)->getText(), 'A second try'), 'the copy to be back');
    // A reload stays there.
    $this->browser->driver->navigate()->refresh();
    $this->browser->waitFor('[data-channel-row=cello]');
    expect($this->browser->find($menu)->getText())->toContain('A second try');
});

it('downloads a session with its files and opens it again as another', function (): void {
    $zip = sys_get_temp_dir().'/hafen-bundle-'.bin2hex(random_bytes(4)).'.zip';
    file_put_contents($zip, (string) file_get_contents($this->hafen->url("/api/sessions/{$this->session}/bundle")));
    try {
        pick('[aria-label=Sessions]', 'New or open …');
        $this->browser->until(fn (): bool => $this->browser->has('[aria-label="Choose files or a session"]'), 'the dialog');
        $this->browser->find('[aria-label="Choose files or a session"]')->sendKeys($zip);
        pressButton('Open', '.el-dialog');
        $this->browser->until(fn (): bool => (int) $this->browser->script('return new URLSearchParams(location.search).get("session")') !== $this->session, 'the opened one');
        $opened = (int) $this->browser->script('return new URLSearchParams(location.search).get("session")');
        $channels = $this->hafen->get("sessions/{$opened}")['document']['channels'];
        expect(array_column($channels, 'name'))->toBe(array_column(onServer()['document']['channels'], 'name'))
            ->and(array_column($channels, 'inserts'))->toEqual(array_column(onServer()['document']['channels'], 'inserts'));
    } finally {
        unlink($zip);
    }
});
