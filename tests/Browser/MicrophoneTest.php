<?php

declare(strict_types=1);

use Hafen\Audio\AudioFormat;
use Hafen\Audio\SampleFormat;
use Hafen\Audio\WavWriter;

/** Opens the Inputs view in a Chromium whose microphone plays a sine of 440 Hz at -12 dBFS; or may not be used. */
function openMicrophone(bool $isAllowed): void
{
    test()->voice = sys_get_temp_dir().'/hafen-microphone-'.bin2hex(random_bytes(4)).'.wav';
    $writer = WavWriter::create(test()->voice, new AudioFormat(48000, 1, SampleFormat::Int16));
    $writer->write([array_map(static fn (int $i): float => 0.25 * sin(2 * M_PI * 440 * $i / 48000), range(0, 480_000))]);
    $writer->close();
    openTracks(['--use-fake-device-for-media-stream', '--use-file-for-fake-audio-capture='.test()->voice, $isAllowed ? '--use-fake-ui-for-media-stream' : '--deny-permission-prompts']);
    test()->browser->script('[...document.querySelectorAll("nav .view")].find((one) => one.textContent.trim() === "Inputs").click()');
    test()->browser->waitFor('[data-view=inputs] [data-input-port="7"]');
    choose('[data-input-port="7"] .plug', "browser's microphone");
}

function microphone(): string
{
    return (string) test()->browser->script('return document.querySelector("[data-microphone]")?.dataset.microphone ?? ""');
}

afterEach(function (): void {
    $this->hafen->put('interface', ['input' => 7, 'name' => 'Input 7', 'plug' => 'nothing', 'gain' => 0.0]);
    closeTracks();
    unlink($this->voice);
});

it('takes the microphone of the browser as an input: level, delay, and a take of it', function (): void {
    openMicrophone(true);
    $this->browser->until(fn (): bool => microphone() === 'on', 'the microphone to be open');
    $peak = fn (): float => (float) ($this->browser->script('return document.querySelector(`[data-input-port="7"] [data-peak]`).dataset.peak') ?: -200);
    $this->browser->until(fn (): bool => abs($peak() + 12.0) < 1.0, 'what the microphone hears');
    $this->browser->until(fn (): bool => preg_match('/Open here, (\d+) ms/', $this->browser->find('[data-microphone]')->getText(), $found) === 1 && $found[1] > 20, 'its delay');
    choose('[data-input-port="7"] .to', 'a new track');
    $this->browser->waitFor('[data-arm]')->click();
    $this->browser->until(fn (): bool => str_contains((string) $this->browser->script('return document.querySelector("[data-delay]")?.parentElement.textContent ?? ""'), 'microphone'), 'the delay by part');
    press('r');
    $this->browser->waitFor('[data-playing=true]');
    $this->browser->until(fn (): bool => (float) $this->browser->script('return window.hafen.player.position() ?? 0') > 120_000, 'a take of two seconds and a half');
    $this->browser->find('[data-take]')->click();
    $clip = $this->browser->until(fn (): ?array => array_column(onServer()['document']['channels'], null, 'id')['input-7']['source']['clips'][0] ?? null, 'the take on its track');
    $media = $this->hafen->get("media/{$clip['file']}");
    expect($clip['length'])->toBeGreaterThan(60_000)->and($clip['start'])->toBeLessThan(30_000)->and(max($media['overview']))->toEqualWithDelta(0.25, 0.02);
    $this->browser->script('document.querySelector("[data-microphone] .fix").click()');
    $this->browser->until(fn (): bool => microphone() === 'off', 'it to be closed');
});

it('says what to do where the browser may not use a microphone, and goes on', function (): void {
    openMicrophone(false);
    $this->browser->until(fn (): bool => microphone() === 'failed', 'it to be refused');
    $this->browser->until(fn (): bool => str_contains((string) $this->browser->find('body')->getText(), 'Allow it for this page in its settings'), 'the words');
    expect($this->hafen->get('interface')['inputs'][6]['plug'])->toBe('microphone');
    playOn();
    $this->browser->until(fn (): bool => heardNow() > 0.01, 'the session to play on');
});
