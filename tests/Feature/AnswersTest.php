<?php

declare(strict_types=1);

use Hafen\Session\Channel\Width;
use Hafen\Session\Insert\Branch;
use Hafen\Session\Insert\SplitBy;
use Hafen\Tests\Support\Mix;
use Tests\Support\Demo;

/** What the server answers, for the tests of the front end: written by `HAFEN_WRITE_ANSWERS=1 vendor/bin/pest tests/Feature/AnswersTest.php`. */
const ANSWERS = __DIR__.'/../../resources/js/fixtures/answers.json';

/** Times and loads differ from run to run: they become 0. */
function withoutTimes(mixed $answer, string $key = ''): mixed
{
    if (in_array($key, ['loads', 'load', 'cost'], true)) {
        return is_array($answer) ? array_map(static fn (): float => 0.0, $answer) : ($answer === null ? null : 0.0);
    }

    return is_array($answer) ? array_combine(array_keys($answer), array_map(withoutTimes(...), $answer, array_map(strval(...), array_keys($answer)))) : (is_float($answer) ? round($answer, 9) : $answer);
}

it('answers as the tests of the front end expect', function (): void {
    $session = Demo::session(Mix::session([
        Mix::track('cello', [
            Mix::insert('i1', 'filter'),
            Mix::split('s1', [new Branch('b1', 'Low'), new Branch('b2', 'High', -3.0, mute: true, inserts: [Mix::insert('i2', 'reverb')])], SplitBy::Frequency, 400.0),
        ]),
        Mix::track('bass', [Mix::insert('i3', 'drive'), Mix::insert('i4', 'reverb', [], 0.25)], Width::Stereo),
    ], [Mix::insert('i5', 'limiter')]));
    $this->postJson("/api/sessions/{$session->id}/edits", ['base' => 1, 'edit' => ['type' => 'send-to-new-return', 'channels' => ['cello'], 'processor' => 'plate']])->assertOk();
    $this->postJson("/api/sessions/{$session->id}/edits", ['base' => 2, 'edit' => ['type' => 'set-automation', 'channel' => 'cello', 'target' => 'fader', 'points' => [['at' => 0, 'value' => -12.0, 'curve' => 0.5], ['at' => 24000, 'value' => 18.0]]]])->assertOk();
    $this->postJson("/api/sessions/{$session->id}/survey")->assertAccepted();
    $wanted = ['filter', 'reverb', 'drive', 'limiter', 'plate', 'parametric-eq', 'compressor'];
    $answers = [
        'rules' => $this->getJson('/api/rules')->assertOk()->json(),
        'processors' => array_values(array_filter($this->getJson('/api/processors')->json(), static fn (array $spec): bool => in_array($spec['id'], $wanted, true))),
        'session' => $this->getJson("/api/sessions/{$session->id}")->assertOk()->json(),
        'survey' => $this->getJson("/api/sessions/{$session->id}/survey")->assertOk()->assertJsonPath('current', true)->json(),
        'stages' => $this->getJson("/api/sessions/{$session->id}/stages")->assertOk()->json(),
    ];
    $json = json_encode(withoutTimes($answers), JSON_PRETTY_PRINT | JSON_UNESCAPED_UNICODE | JSON_UNESCAPED_SLASHES)."\n";
    if (getenv('HAFEN_WRITE_ANSWERS') === '1') {
        file_put_contents(ANSWERS, $json);
    }
    // Whatever the spaces of the file: only what it says counts.
    $said = json_encode(json_decode((string) file_get_contents(ANSWERS)), JSON_PRETTY_PRINT | JSON_UNESCAPED_UNICODE | JSON_UNESCAPED_SLASHES)."\n";
    expect($json)->toBe($said, 'The server answers otherwise than the fixture says. Write it again (see ANSWERS), and run the tests of the front end.');
});
