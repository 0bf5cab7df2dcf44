<?php

declare(strict_types=1);

use Facebook\WebDriver\WebDriverBy;
use Hafen\Tests\Support\Signal;
use Tests\Support\Demo;

beforeEach(function (): void {
    openTracks();
});

afterEach(function (): void {
    closeTracks();
});

it('plays, measures and renders a channel called 808', function (): void {
    onServerDo(['type' => 'rename-channel', 'channel' => 'cello', 'name' => '12']);
    $demo = array_column($this->hafen->get('sessions/1')['document']['channels'], null, 'id');
    $state = onServerDo(['type' => 'add-channel', 'name' => '808', 'file' => ['file' => $demo['shaker']['source']['clips'][0]['file'], 'length' => 480_000, 'width' => 'mono']]);
    expect(channelOnServer('808')['id'])->toBe('808');
    onServerDo(['type' => 'send-to-new-return', 'channels' => ['808'], 'processor' => 'plate', 'name' => '2026']);
    $this->browser->visit($this->hafen->url("/?session={$this->session}"));
    // Measured without being asked.
    $this->browser->until(fn (): bool => (figure('808:post-fader') ?? -200.0) > -60.0, 'the survey of 808', 180.0);
    playOn();
    $this->browser->until(fn (): bool => heardNow() > 0.01 && (figure('808:source') ?? -200.0) > -60.0 && (figure('2026:source') ?? -200.0) > -80.0, 'the 808 to sound');
    press(' ');
    $this->browser->waitFor('[data-playing=false]');
    $render = $this->hafen->post("sessions/{$this->session}/renders", ['format' => '32f', 'tap' => '808:pre-fader']);
    $this->browser->until(fn (): bool => $this->hafen->get("renders/{$render['id']}")['status'] === 'done', 'the render of 808');
});

it('opens a session whose newest state cannot be read at the newest that can, and says so on the screen', function (): void {
    onServerDo(['type' => 'set-fader', 'channels' => ['cello'], 'gain' => -7.5]);
    onServerDo(['type' => 'set-fader', 'channels' => ['cello'], 'gain' => -13.0]);
    // Somebody's disk damaged it.
    $database = new PDO("sqlite:{$this->hafen->data}/hafen.sqlite");
    $database->exec('pragma busy_timeout = 8000');
    $database->exec("update revisions set difference = 'damaged' where id = (select head_id from sessions where id = {$this->session})");
    $database->exec("update sessions set document = '{\"format\":' where id = {$this->session}");
    $this->browser->visit($this->hafen->url("/?session={$this->session}"));
    $this->browser->until(fn (): bool => str_contains(noticesOnScreen(), 'could not be read') && str_contains(noticesOnScreen(), 'Fader of Cello'), 'the notice');
    expect((float) channelOnServer('Cello')['fader'])->toBe(-7.5);
    // And it can be worked with.
    $this->browser->find('[data-channel-row=cello] [aria-label^="Mute"], [data-channel-row=cello] .mute')->click();
    $this->browser->until(fn (): bool => channelOnServer('Cello')['mute'] === true, 'an edit');
});

it('shows what lies on the disk, and removes what nothing uses', function (): void {
    Demo::wav("{$this->hafen->data}/spare.wav", Signal::noise(48000, 77, 0.3));
    $bytes = (string) file_get_contents("{$this->hafen->data}/spare.wav");
    $upload = $this->hafen->post('uploads', ['name' => 'Spare take.wav', 'bytes' => strlen($bytes)])['id'];
    file_get_contents($this->hafen->url("/api/uploads/{$upload}?offset=0"), false, stream_context_create(['http' => ['method' => 'PUT', 'content' => $bytes, 'header' => "X-Hafen: 1\r\nContent-Type: application/octet-stream"]]));
    $media = $this->hafen->post("uploads/{$upload}/finish", ['sampleRate' => 48000])['id'];
    $this->browser->until(fn (): bool => $this->hafen->get("media/{$media}")['status'] === 'ready', 'the import');
    $this->browser->find('[aria-label=Sessions]')->click();
    $this->browser->until(function (): bool {
        foreach ($this->browser->driver->findElements(WebDriverBy::cssSelector('.el-dropdown-menu__item')) as $item) {
            if ($item->isDisplayed() && str_starts_with(trim($item->getText()), 'Storage')) {
                $item->click();

                return true;
            }
        }

        return false;
    }, 'the entry for storage');
    $row = $this->browser->waitFor("[data-media='{$media}']");
    expect($row->getText())->toContain('Spare take')->toContain('0:01, 48 kHz, mono');
    // What a session uses has no button; what nothing uses goes.
    $this->browser->find('[data-act=remove-unused]')->click();
    $this->browser->until(fn (): bool => ! $this->browser->has("[data-media='{$media}']"), 'the recording to go');
    expect(glob("{$this->hafen->data}/media/{$media}*"))->toBe([])
        ->and(count($this->browser->driver->findElements(WebDriverBy::cssSelector('[data-media]'))))->toBeGreaterThan(3)
        ->and($this->hafen->get('sessions/1')['document']['name'])->toBe('Ferry Terminal');
});

it('says so when as many windows play as can be served', function (): void {
    // All seats but none: held as streams hold them.
    $seats = [];
    for ($seat = 1; $seat <= 16; ++$seat) {
        $seats[] = $file = fopen("{$this->hafen->data}/listeners/{$seat}", 'c');
        $this->browser->until(static fn (): bool => flock($file, LOCK_EX | LOCK_NB), 'a seat');
    }
    press(' ');
    waitForNotice('16 windows are playing already');
    array_map(fclose(...), $seats);
    press(' ');
    $this->browser->waitFor('[data-playing=true]');
    press(' ');
});
