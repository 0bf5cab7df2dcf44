<?php

declare(strict_types=1);

use Facebook\WebDriver\Interactions\WebDriverActions;
use Facebook\WebDriver\WebDriverKeys;
use Hafen\Note\MidiWriter;
use Hafen\Note\Note;
use Hafen\Note\NoteClip;

beforeEach(function (): void {
    openTracks();
});

afterEach(fn () => closeTracks());

/** The notes of the first clip of a channel, as the server has them. */
function notesOnServer(string $channel): array
{
    return channelOnServer($channel)['source']['clips'][0]['notes'] ?? [];
}

/** Movements of controllers in the first clip of a channel. */
function controlsOnServer(string $channel): array
{
    return channelOnServer($channel)['source']['clips'][0]['controls'] ?? [];
}

it('draws notes, moves them by key and pointer, sets how hard they are struck, and plays them', function (): void {
    $this->browser->script('[...document.querySelectorAll(".adding button")].find((one) => one.textContent.trim() === "note channel").click()');
    $this->browser->waitFor('[data-notes]');
    // Double-clicks on the second beat, on C5: a third of the way up.
    $draw = <<<'JS'
        const area = document.querySelector('[data-notes] .roll');
        const box = area.getBoundingClientRect();
        const at = (beat, key) => ({bubbles: true, button: 0, clientX: box.left + 34 + (box.width - 34) * (beat + 0.05) / 16, clientY: box.top + 16 + (48 + 29 - key) * 9 + 4});
        area.querySelector('.row').dispatchEvent(new MouseEvent('dblclick', at(%s, %d)));
        JS;
    $this->browser->script(sprintf($draw, '1', 60));
    $this->browser->until(fn (): bool => notesOnServer('Notes 1') === [[960, 240, 60, 96]], 'the first note');
    $this->browser->script(sprintf($draw, '2', 64));
    $this->browser->until(fn (): bool => count(notesOnServer('Notes 1')) === 2, 'the second note');
    // The new one is chosen: up an octave, on by a sixteenth and longer, by keys.
    $area = $this->browser->find('[data-notes] .roll');
    $area->sendKeys(WebDriverKeys::ARROW_RIGHT);
    $this->browser->until(fn (): bool => notesOnServer('Notes 1')[1] === [2160, 240, 64, 96], 'a step on');
    $area->sendKeys([WebDriverKeys::SHIFT, WebDriverKeys::ARROW_UP]);
    $this->browser->until(fn (): bool => notesOnServer('Notes 1')[1] === [2160, 240, 76, 96], 'an octave up');
    $area->sendKeys([WebDriverKeys::SHIFT, WebDriverKeys::ARROW_RIGHT]);
    $this->browser->until(fn (): bool => notesOnServer('Notes 1')[1] === [2160, 480, 76, 96], 'a step longer');
    // The first by the pointer: two semitones up, a beat on.
    $this->browser->script(<<<'JS'
        const note = document.querySelector('[data-note="960:60"] .body');
        const box = note.getBoundingClientRect();
        const width = document.querySelector('[data-notes] .roll').getBoundingClientRect().width - 34;
        const fire = (type, x, y, on) => on.dispatchEvent(new PointerEvent(type, {bubbles: true, button: 0, clientX: x, clientY: y}));
        fire('pointerdown', box.x + 2, box.y + 4, note);
        fire('pointermove', box.x + 2 + width / 16, box.y + 4 - 18, window);
        fire('pointerup', box.x + 2 + width / 16, box.y + 4 - 18, window);
        JS);
    $this->browser->until(fn (): bool => notesOnServer('Notes 1')[0] === [1920, 240, 62, 96], 'the note that was dragged');
    $this->browser->find('[data-notes] .velocity [role=slider]')->sendKeys(WebDriverKeys::ENTER);
    $entry = $this->browser->waitFor('[data-notes] .velocity input');
    $entry->sendKeys(WebDriverKeys::CONTROL.'a');
    $entry->sendKeys('30'.WebDriverKeys::ENTER);
    $this->browser->until(fn (): bool => notesOnServer('Notes 1')[0][3] === 30, 'its velocity');
    // It is heard: the level after the instrument moves.
    $this->browser->find('body')->sendKeys(' ');
    $this->browser->until(fn (): bool => (figure('notes-1:pre-fader') ?? -INF) > -60.0, 'its level');
    $this->browser->find('body')->sendKeys(' ');
    $this->browser->find('[data-notes] .roll')->sendKeys(WebDriverKeys::DELETE);
    $this->browser->until(fn (): bool => count(notesOnServer('Notes 1')) === 1, 'one note less');
    // The pitch wheel below the notes: a point, then lower and later by keys.
    choose('[data-strip]', 'Pitch wheel');
    $ground = $this->browser->waitFor('[data-controller-strip] .ground');
    (new WebDriverActions($this->browser->driver))->moveToElement($ground, 0, -10)->doubleClick()->perform();
    $this->browser->until(fn (): bool => count(controlsOnServer('Notes 1')) === 1, 'a movement');
    [$at, $controller, $value] = controlsOnServer('Notes 1')[0];
    expect($controller)->toBe(128)->and($value)->toBeGreaterThan(1000);
    $this->browser->script('document.querySelector("[data-point]").focus()');
    $this->browser->find('[data-point]')->sendKeys(WebDriverKeys::ARROW_DOWN);
    $this->browser->until(fn (): bool => controlsOnServer('Notes 1') === [[$at, 128, $value - 512]], 'it to go down');
    $this->browser->script('document.querySelector("[data-point]").focus()');
    $this->browser->find('[data-point]')->sendKeys(WebDriverKeys::ARROW_RIGHT);
    $this->browser->until(fn (): bool => controlsOnServer('Notes 1') === [[$at + 240, 128, $value - 512]], 'it to come later');
    $this->browser->script('document.querySelector("[data-point]").focus()');
    $this->browser->find('[data-point]')->sendKeys(WebDriverKeys::DELETE);
    $this->browser->until(fn (): bool => controlsOnServer('Notes 1') === [], 'no movement');
    expect($this->browser->complaints())->toBe([]);
});

it('makes a note channel of each part of a MIDI file, and says what is wrong with a broken one', function (): void {
    $folder = sys_get_temp_dir();
    $good = "{$folder}/hafen-song.mid";
    $bad = "{$folder}/hafen-broken.mid";
    $clip = static fn (int $key): NoteClip => new NoteClip('c1', 0, 3840, [new Note(0, 960, $key, 100)]);
    file_put_contents($good, MidiWriter::write([['Bells', [$clip(72)]], ['Low', [$clip(36)]]], 90.0));
    file_put_contents($bad, substr((string) file_get_contents($good), 0, 40));
    $this->browser->find('#hafen-import')->sendKeys($good);
    $this->browser->until(fn (): bool => notesOnServer('Low') === [[0, 960, 36, 100]] && notesOnServer('Bells') === [[0, 960, 72, 100]], 'both parts');
    expect(array_column(channelOnServer('Bells')['inserts'], 'processor'))->toBe(['synthesiser']);
    $this->browser->until(fn (): bool => str_contains($this->browser->find('body')->getText(), 'It plays at 90 BPM; the notes follow the session'), 'what is said of the tempo');
    $this->browser->find('#hafen-import')->sendKeys($bad);
    $this->browser->until(fn (): bool => str_contains($this->browser->find('body')->getText(), 'Not a MIDI file that can be read: at byte'), 'what is wrong');
    array_map(unlink(...), [$good, $bad]);
});

it('plays a note channel by the keys of the computer, stopped and while it plays, and keeps what was played', function (): void {
    $this->browser->script('[...document.querySelectorAll(".adding button")].find((one) => one.textContent.trim() === "note channel").click()');
    $this->browser->waitFor('[data-play-keys]')->click();
    $key = fn (string $type, string $key): mixed => $this->browser->script("document.body.dispatchEvent(new KeyboardEvent('{$type}', {key: '{$key}', bubbles: true}))");
    $level = fn (): bool => (figure('notes-1:pre-fader') ?? -INF) > -50.0;
    $key('keydown', 'a');
    $this->browser->until($level, 'the key to sound');
    $key('keyup', 'a');
    $this->browser->until(fn (): bool => ! $level(), 'the key to fall silent');
    // Counted in by a bar, with a click: what is played in that bar is not kept.
    $this->browser->find('[data-click]')->click();
    choose('[data-notes] [data-count-in]', '1 bar before');
    $this->browser->find('[data-record-keys]')->click();
    $this->browser->until(fn (): bool => $this->browser->script('return document.querySelector(".play, [aria-pressed=true].play, .transport button")?.textContent.includes("Stop") || [...document.querySelectorAll("button")].some((one) => one.textContent.includes("Stop"))'), 'it to play');
    $position = fn (): float => $this->browser->script('return window.hafen.player.position() ?? -1e9');
    $this->browser->until(fn (): bool => $position() > -90_000, 'the count-in');
    $key('keydown', 's');
    usleep(200_000);
    $key('keyup', 's');
    // The click of the count-in is heard, though nothing else sounds there.
    $this->browser->until(fn (): bool => $position() > 48_000, 'a beat behind the start');
    $key('keydown', 'd');
    usleep(600_000);
    $key('keyup', 'd');
    usleep(300_000);
    $this->browser->find('[data-record-keys]')->click();
    $this->browser->until(fn (): bool => count(notesOnServer('Notes 1')) === 1, 'what was played');
    [$at, $length, $pitch, $velocity] = notesOnServer('Notes 1')[0];
    expect($pitch)->toBe(64)->and($velocity)->toBe(96)->and($at)->toBeGreaterThan(0)->and($length)->toBeGreaterThan(200);
    // One step back, and the clip it made is gone with it.
    $this->browser->find('body')->sendKeys([WebDriverKeys::CONTROL, 'z']);
    $this->browser->until(fn (): bool => channelOnServer('Notes 1')['source']['clips'] === [], 'nothing recorded');
    // Where keys cannot sound, it says why.
    expect($this->browser->script('return document.querySelector("[data-silence]")'))->toBeNull();
    $this->browser->script('document.querySelector(\'[aria-label="Mute Notes 1"]\').click()');
    expect($this->browser->waitFor('[data-silence]')->getText())->toContain('Notes 1 is muted: its keys do not sound.')->and($this->browser->complaints())->toBe([]);
});
