<?php

declare(strict_types=1);

use Facebook\WebDriver\Interactions\WebDriverActions;
use Facebook\WebDriver\WebDriverDimension;
use Facebook\WebDriver\WebDriverKeys;
use Hafen\Audio\WavReader;
use Hafen\Document\SessionCodec;
use Hafen\Processor\ProcessorCatalogue;
use Hafen\Tests\Support\Signal;
use Tests\Support\Chromium;
use Tests\Support\Demo;

/*
 * These drive the real interface of the running application: its servers, its workers, its engine, in Chromium.
 * Nothing here waits for a fixed time; every wait ends when what it waits for is there.
 */

beforeEach(function (): void {
    openTracks();
});

afterEach(function (): void {
    closeTracks();
});

it('plays with Space: sound arrives, the clock runs and the figures move', function (): void {
    playOn();
    $this->browser->until(fn (): bool => heardNow() > 0.01, 'sound in the player');
    $this->browser->waitFor('[data-playing=true]');
    $first = $this->browser->find('[data-clock]')->getText();
    $levels = [];
    $this->browser->until(function () use (&$levels): bool {
        $level = figure('upright-bass:post-fader');
        if ($level !== null) {
            $levels[(string) round($level, 1)] = true;
        }

        return count($levels) >= 3;
    }, 'a figure to move');
    expect($this->browser->find('[data-clock]')->getText())->not->toBe($first);
    press(' ');
    $this->browser->waitFor('[data-playing=false]');
});

it('follows an edit while it plays: a fader to silence is heard and seen', function (): void {
    playOn();
    $this->browser->until(fn (): bool => (figure('cello:post-fader') ?? -200.0) > -60.0, 'the cello to sound');
    $fader = $this->browser->find('[aria-label="Fader of Cello"]');
    $fader->sendKeys(WebDriverKeys::ENTER);
    $this->browser->waitFor('[data-channel-row=cello] .fader .entry')->sendKeys('-inf'.WebDriverKeys::ENTER);
    $this->browser->until(fn (): bool => (figure('cello:post-fader') ?? 0.0) < -120.0, 'the tap after the fader to fall silent');
    expect(figure('cello:pre-fader'))->toBeGreaterThan(-60.0);
    press(WebDriverKeys::ESCAPE);
});

it('meters the rows in sight and what the inspector shows, and the rows that are scrolled to', function (): void {
    $file = onServer()['document']['channels'][0]['source']['clips'][0]['file'];
    foreach (range(1, 9) as $number) {
        onServerDo(['type' => 'add-channel', 'name' => "Far {$number}", 'file' => ['file' => $file, 'length' => 480_000, 'width' => 'mono']]);
    }
    $this->browser->viewport(1280, 480);
    $this->browser->visit($this->hafen->url("/?session={$this->session}"));
    $this->browser->waitFor('[data-channel-row=far-9]');
    playOn();
    $this->browser->until(fn (): bool => (figure('accordion:pre-fader') ?? -200.0) > -60.0, 'the row in sight to be metered');
    $this->browser->until(fn (): bool => (figure('far-9:post-fader') ?? -200.0) > -60.0, 'the end of the row below to be read');
    expect(figure('far-9:pre-fader'))->toBeNull();
    $this->browser->script('document.querySelector("[data-channel-row=far-9]").scrollIntoView()');
    $this->browser->until(fn (): bool => figure('far-9:pre-fader') !== null, 'the row that is scrolled to to be metered');
    $this->browser->until(fn (): bool => figure('accordion:pre-fader') === null, 'the row that is scrolled away to be left out');
    // A press on its name, without scrolling there.
    $this->browser->script('document.querySelector("[data-channel-row=accordion] .name").click()');
    $this->browser->until(fn (): bool => figure('accordion:pre-fader') !== null, 'the channel in the inspector to be metered');
});

it('turns a parameter while it plays, and the tap follows', function (): void {
    playOn();
    $this->browser->until(fn (): bool => (figure('upright-bass:pre-fader') ?? -200.0) > -30.0, 'the bass to sound');
    $this->browser->find('[data-insert=i1] .name')->click();
    $this->browser->waitFor('[data-inspecting=i1] .picture');
    // A high-pass far above a bass leaves next to nothing of it.
    $slider = $this->browser->find('[data-parameter=frequency] [role=slider]');
    $slider->sendKeys(WebDriverKeys::ENTER);
    $this->browser->waitFor('[data-parameter=frequency] .entry')->sendKeys('9k'.WebDriverKeys::ENTER);
    $this->browser->until(fn (): bool => (figure('upright-bass:pre-fader') ?? 0.0) < -45.0 && (figure('upright-bass:source') ?? -200.0) > -40.0, 'the tap behind the filter to fall');
    expect(onServer()['document']['channels'][1]['inserts'][0]['parameters']['frequency'])->toBe(9000);
});

it('adds an effect from the keyboard, to several channels at once', function (): void {
    press(WebDriverKeys::CONTROL.'a'.WebDriverKeys::NULL);
    press('/');
    $this->browser->waitFor('.finder .field')->sendKeys('repeat'.WebDriverKeys::ENTER);
    $this->browser->until(fn (): bool => in_array('echo', rowOnServer('Accordion'), true), 'the echo on the server');
    expect(rowOnServer('Cello'))->toBe(['parametric-eq', 'echo'])->and(rowOnServer('Upright bass'))->toBe(['filter', 'compressor', 'drive', 'echo']);
    // A new echo on a track is a part of the mix.
    expect(onServer()['document']['channels'][0]['inserts'][0]['mix'])->toBe(0.25);
});

it('reorders by drag, copies with Alt, swaps onto a chip, and moves by keys', function (): void {
    $drag = static fn (string $from, string $to, float $share, bool $alt = false) => dragTo("[data-insert={$from}] .name", $to, $share, $alt);
    // To the right edge of the last chip: after it.
    $drag('i1', '[data-insert=i3]', 0.9);
    $this->browser->until(fn (): bool => rowOnServer('Upright bass') === ['compressor', 'drive', 'filter'], 'the filter to be last');
    $this->browser->until(fn (): bool => rowOnScreen('upright-bass') === ['compressor', 'drive', 'filter'], 'the screen to follow');
    // Onto the middle of another: they change places.
    $drag('i2', '[data-insert=i1]', 0.5);
    $this->browser->until(fn (): bool => rowOnServer('Upright bass') === ['filter', 'drive', 'compressor'], 'the swap');
    $this->browser->until(fn (): bool => rowOnScreen('upright-bass') === ['filter', 'drive', 'compressor'], 'the screen to follow');
    // To another channel with Alt: a copy.
    $drag('i3', '[data-insert=i4]', 0.9, true);
    $this->browser->until(fn (): bool => rowOnServer('Cello') === ['parametric-eq', 'drive'], 'the copy');
    expect(rowOnServer('Upright bass'))->toBe(['filter', 'drive', 'compressor']);
    // Selected, Alt and an arrow.
    $this->browser->find('[data-insert=i1] .name')->click();
    press(WebDriverKeys::ALT.WebDriverKeys::ARROW_RIGHT.WebDriverKeys::NULL);
    $this->browser->until(fn (): bool => rowOnServer('Upright bass') === ['drive', 'filter', 'compressor'], 'the move by keys');
});

it('bypasses, replaces and removes an insert, and undoes it all', function (): void {
    $this->browser->find('[data-insert=i2] .lamp')->click();
    $this->browser->waitFor('[data-insert=i2].off');
    $this->browser->find('[data-insert=i2] .name')->click();
    press('e');
    $this->browser->until(fn (): bool => ! $this->browser->has('[data-insert=i2].off'), 'the insert to be on again');
    foreach ($this->browser->driver->findElements(Facebook\WebDriver\WebDriverBy::cssSelector('.inspector .text-button')) as $button) {
        if ($button->getText() === 'Replace') {
            $button->click();
            break;
        }
    }
    $this->browser->waitFor('.finder .field')->sendKeys('limit'.WebDriverKeys::ENTER);
    $this->browser->until(fn (): bool => rowOnServer('Upright bass') === ['filter', 'limiter', 'drive'], 'the limiter in place');
    $this->browser->waitFor('[data-processor=limiter]');
    press(WebDriverKeys::DELETE);
    $this->browser->until(fn (): bool => rowOnServer('Upright bass') === ['filter', 'drive'], 'the insert to be gone');
    press(WebDriverKeys::CONTROL.'z'.WebDriverKeys::NULL);
    $this->browser->until(fn (): bool => rowOnServer('Upright bass') === ['filter', 'limiter', 'drive'], 'the first undo');
    press(WebDriverKeys::CONTROL.'z'.WebDriverKeys::NULL);
    $this->browser->until(fn (): bool => rowOnServer('Upright bass') === ['filter', 'compressor', 'drive'], 'the second undo');
    $this->browser->until(fn (): bool => rowOnScreen('upright-bass') === ['filter', 'compressor', 'drive'], 'the screen to follow');
    $this->browser->find('[aria-label=Redo]')->click();
    $this->browser->until(fn (): bool => rowOnServer('Upright bass') !== ['filter', 'compressor', 'drive'], 'redo');
});

it('drags a fader as one step, alone and with others in their relation', function (): void {
    $fader = fn (int $channel): float => (float) onServer()['document']['channels'][$channel]['fader'];
    $revisions = fn (): int => count($this->hafen->get("sessions/{$this->session}/revisions"));
    $before = $revisions();
    $bar = $this->browser->find('[aria-label="Fader of Accordion"]');
    (new WebDriverActions($this->browser->driver))->clickAndHold($bar)->moveByOffset(-8, 0)->moveByOffset(-8, 0)->moveByOffset(-8, 0)->release()->perform();
    $this->browser->until(fn (): bool => $fader(0) < -3.0, 'the fader to come down');
    expect($revisions())->toBe($before + 1);
    press(WebDriverKeys::ESCAPE);
    press(WebDriverKeys::CONTROL.'a'.WebDriverKeys::NULL);
    $relation = $fader(0) - $fader(1);
    $this->browser->find('[aria-label="Fader of Accordion"]')->sendKeys(WebDriverKeys::ARROW_LEFT.WebDriverKeys::ARROW_LEFT);
    $this->browser->until(fn (): bool => abs($fader(1) + 1.0) < 0.01, 'the others to come along');
    expect($fader(0) - $fader(1))->toEqualWithDelta($relation, 0.001)->and($revisions())->toBe($before + 2);
});

it('imports a WAV onto a new track and shows its waveform', function (): void {
    $path = sys_get_temp_dir().'/Harbour bell.wav';
    Demo::wav($path, Signal::sine(440.0, 44100, 0.5, 44100), 44100);
    $this->browser->find('#hafen-import')->sendKeys($path);
    $row = $this->browser->waitFor('[data-channel-row=harbour-bell]');
    $channel = array_values(array_filter(onServer()['document']['channels'], static fn (array $c): bool => $c['id'] === 'harbour-bell'))[0];
    expect($channel['source']['clips'][0]['length'])->toBe(48000)->and($channel['width'])->toBe('mono');
    $row->findElement(Facebook\WebDriver\WebDriverBy::cssSelector('.name'))->click();
    $this->browser->waitFor('.wave');
    // Measured a moment later, without being asked.
    $this->browser->until(fn (): bool => abs((figure('harbour-bell:source') ?? 0.0) + 6.02) < 0.05, 'the survey to know it');
    unlink($path);
});

it('takes files that are dropped: on a track in place of its own, elsewhere as new tracks', function (): void {
    $path = sys_get_temp_dir().'/hafen-drop.wav';
    Demo::wav($path, Signal::sine(330.0, 24000, 0.5));
    $drop = fn (string $target, string $name) => $this->browser->script(<<<'JS'
        const bytes = Uint8Array.from(atob(arguments[1]), (c) => c.charCodeAt(0));
        const data = new DataTransfer();
        data.items.add(new File([bytes], arguments[2], { type: 'audio/wav' }));
        document.querySelector(arguments[0]).dispatchEvent(new DragEvent('drop', { dataTransfer: data, bubbles: true, cancelable: true }));
        JS, $target, base64_encode((string) file_get_contents($path)), $name);
    $lengths = static fn (): array => array_column(array_map(
        static fn (array $channel): array => [$channel['name'], $channel['source']['clips'][0]['length'] ?? 0],
        onServer()['document']['channels'],
    ), 1, 0);
    $drop('[data-channel-row=cello]', 'Bow.wav');
    $this->browser->until(fn (): bool => $lengths()['Cello'] === 24000, 'the file on the cello');
    $drop('main.paths', 'Gull.wav');
    $this->browser->until(fn (): bool => ($lengths()['Gull'] ?? 0) === 24000, 'the new track');
    expect($lengths())->not->toHaveKey('Bow');
    unlink($path);
});

it('tells why a file cannot be imported', function (): void {
    $path = sys_get_temp_dir().'/letter.wav';
    file_put_contents($path, 'Dear all, this is no sound.');
    $this->browser->find('#hafen-import')->sendKeys($path);
    waitForNotice('Not a WAV file');
    unlink($path);
});

it('listens at any tap and compares with bypass', function (): void {
    $this->browser->find('[data-tap="cello:pre-fader"]')->click();
    expect($this->browser->find('[data-listening-at]')->getText())->toBe('Cello, before fader');
    $this->browser->find('[data-insert=i2] .name')->click();
    $this->browser->waitFor('[data-inspecting=i2] .compare')->click();
    playOn();
    $this->browser->until(fn (): bool => heardNow() > 0.01, 'sound at the tap');
    press('2');
    $this->browser->until(fn (): bool => str_contains($this->browser->find('.listen')->getText(), 'matched'), 'side 2');
    $this->browser->until(fn (): bool => heardNow() > 0.005, 'sound on side 2');
    press('1');
});

it('renders the mix to the file the command line renders', function (): void {
    foreach ($this->browser->driver->findElements(Facebook\WebDriver\WebDriverBy::cssSelector('.top .text-button')) as $button) {
        if (str_starts_with($button->getText(), 'Render')) {
            $button->click();
            break;
        }
    }
    $this->browser->waitFor('#render-tail')->clear()->sendKeys('0');
    $this->browser->find('.el-dialog .pill.on')->click();
    $link = $this->browser->waitFor('[data-render=done] a', 240)->getAttribute('href');
    $ours = sys_get_temp_dir().'/hafen-browser-'.bin2hex(random_bytes(4));
    mkdir($ours);
    file_put_contents("{$ours}/browser.wav", (string) file_get_contents($this->hafen->url('').(string) parse_url((string) $link, PHP_URL_PATH)));
    // The same document on disk, with the files of the library.
    $codec = new SessionCodec(ProcessorCatalogue::standard());
    $document = json_encode(onServer()['document'], JSON_PRESERVE_ZERO_FRACTION);
    foreach (glob($this->hafen->data.'/media/*.wav') ?: [] as $file) {
        $document = str_replace('"file":"'.basename($file, '.wav').'"', '"file":'.json_encode($file), (string) $document);
    }
    file_put_contents("{$ours}/session.json", str_replace('"parameters":[]', '"parameters":{}', $document));
    expect($codec->decode((string) file_get_contents("{$ours}/session.json"))->channels)->toHaveCount(5);
    exec(PHP_BINARY.' core/bin/hafen render '.escapeshellarg("{$ours}/session.json").' --out '.escapeshellarg("{$ours}/cli.wav").' --bits 24 2>&1', $said, $status);
    expect($status)->toBe(0, implode("\n", $said));
    $browser = WavReader::open("{$ours}/browser.wav");
    $cli = WavReader::open("{$ours}/cli.wav");
    expect($browser->frames())->toBe($cli->frames())->and($browser->frames())->toBe(480_000)
        ->and(Signal::peak($browser->read(0, 240_000)[0]))->toBeGreaterThan(0.05)
        ->and(hash_file('sha256', "{$ours}/browser.wav"))->toBe(hash_file('sha256', "{$ours}/cli.wav"));
    exec('rm -rf '.escapeshellarg($ours));
});

it('refuses an edit another window has overtaken, and shows the newest state', function (): void {
    $change = onServer()['change'];
    $this->hafen->post("sessions/{$this->session}/edits", ['base' => $change, 'edit' => ['type' => 'set-mute', 'channels' => ['cello'], 'mute' => true]]);
    $this->browser->find('[aria-label="Mute Cello"]')->click();
    waitForNotice('Mute Cello');
    $this->browser->waitFor('[aria-label="Mute Cello"][aria-pressed=true]');
});

it('shows long names whole, and never over the next row, in rows of either height', function (int $width): void {
    foreach (['accordion' => 'Accordion of the second ferry, left microphone', 'upright-bass' => '808', 'cello' => str_repeat('Violoncello', 4)] as $channel => $name) {
        onServerDo(['type' => 'rename-channel', 'channel' => $channel, 'name' => $name]);
    }
    foreach (range(1, 5) as $n) {
        onServerDo(['type' => 'add-insert', 'channels' => ['upright-bass'], 'processor' => ['reverb', 'echo', 'gain', 'chorus', 'limiter'][$n - 1]]);
    }
    onServerDo(['type' => 'add-split', 'channel' => 'frame-drum', 'branches' => 2]);
    onServerDo(['type' => 'rename-branch', 'branch' => channelOnServer('Frame drum')['inserts'][0]['branches'][0]['id'], 'name' => 'Low strokes, crushed by the tape of the ferry']);
    $this->browser->driver->manage()->window()->setSize(new WebDriverDimension($width, 800));
    $this->browser->visit($this->hafen->url("/?session={$this->session}"));
    $this->browser->waitFor('[data-channel="cello"]');
    expect($this->browser->find('body')->getText())->toContain('808')->toContain('VioloncelloVioloncello');
    foreach (['Compact rows', 'Tall rows'] as $other) {
        $this->browser->until(fn (): bool => str_contains($this->browser->find('body')->getText(), $other), $other);
        // Names, chips and what is in them: each within its row, none cut.
        expect($this->browser->script(<<<'JS'
            return [...document.querySelectorAll('[data-channel-row]')].flatMap((row) => {
                const room = row.getBoundingClientRect();
                const names = [row.querySelector('.heading .name'), ...row.querySelectorAll('[data-processor]')];
                return names.filter((one) => {
                    const box = one.getBoundingClientRect();
                    return box.height === 0 || box.top < room.top - 1 || box.bottom > room.bottom + 1 || one.scrollWidth > one.clientWidth + 1;
                }).map((one) => one.textContent.trim());
            });
            JS))->toBe([]);
        clickOn('button', $other);
    }
    // Beside the inspector too a split ends before the levels that stand behind it.
    $this->browser->find('[data-channel-row=frame-drum] .fork')->click();
    $this->browser->waitFor('[data-branch-settings]');
    expect($this->browser->script(<<<'JS'
        const row = document.querySelector('[data-channel-row="frame-drum"]');
        const end = row.querySelector('[data-tap="frame-drum:pre-fader"]').getBoundingClientRect().left;
        return [...row.querySelectorAll('[data-split], [data-branch-row]')].filter((one) => one.getBoundingClientRect().right > end).length;
        JS))->toBe(0);
})->with([1024, 1280]);

it('shows its keys, its night look and a session without tracks', function (): void {
    press('?');
    $this->browser->until(fn (): bool => str_contains($this->browser->waitFor('.el-dialog')->getText(), 'play and stop'), 'the sheet of keys');
    press(WebDriverKeys::ESCAPE);
    $this->browser->until(fn (): bool => ! $this->browser->find('.el-overlay')->isDisplayed(), 'the sheet to close');
    $this->browser->find('[aria-label="Night look"]')->click();
    $this->browser->waitFor('html[data-look=night]');
    $empty = $this->hafen->post('sessions', ['name' => 'Empty pier'])['id'];
    $this->browser->visit($this->hafen->url("/?session={$empty}"));
    $this->browser->until(fn (): bool => str_contains($this->browser->waitFor('.empty')->getText(), 'No tracks yet'), 'the empty state');
});
