<?php

declare(strict_types=1);

use App\Listening\Frames;
use App\Listening\ListeningStream;
use App\Models\Listening;
use App\Models\StoredSession;
use Hafen\Tests\Support\EngineProcesses;
use Hafen\Tests\Support\MemoryLibrary;
use Hafen\Tests\Support\Mix;
use Hafen\Tests\Support\Signal;
use Tests\Support\Demo;

/**
 * Frames of a stream as they come: kind and what is in it.
 *
 * @return Generator<int, array{kind: string, position?: float, left?: list<float>, data?: array<string, mixed>}>
 */
function streamed(string $listeningId, int $from = 0): Generator
{
    foreach (app(ListeningStream::class)->frames(Listening::query()->findOrFail($listeningId), $from) as $i => $frame) {
        if ($i === 0 && $frame === Frames::HEADER) {
            continue;
        }
        $payload = substr($frame, 5);
        expect(strlen($payload))->toBe(unpack('V', substr($frame, 1, 4))[1]);
        yield match ($frame[0]) {
            'A' => [
                'kind' => 'A',
                'position' => unpack('e', $payload)[1],
                'left' => array_values(unpack('g*', substr($payload, 12, 4 * unpack('V', substr($payload, 8, 4))[1]))),
            ],
            'M' => ['kind' => 'M', 'numbers' => array_values(unpack('g*', substr($payload, 8)))],
            'L', 'N' => ['kind' => $frame[0], 'data' => json_decode($payload, true)],
            default => ['kind' => $frame[0]],
        };
    }
}

/** @param  array<string, mixed>  $options */
function listen(StoredSession $session, array $options = []): string
{
    return test()->postJson("/api/sessions/{$session->id}/listenings", ['side' => 1, ...$options])->assertCreated()->json('id');
}

/** The sound of the small session, by the engine itself. */
function expectedSound(StoredSession $session, ?string $tap = null): array
{
    $library = new MemoryLibrary(['cello' => [Signal::noise(48000, 3, 0.6)], 'bass' => [Signal::noise(48000, 4, 0.6)]]);

    return Mix::render(app(App\Sessions\SessionBook::class)->open($session), $library, tap: $tap)->left;
}

beforeEach(fn () => config(['hafen.lead' => 0.4]));

it('streams the session as the engine computes it, then ends', function (): void {
    $session = Demo::session();
    $sound = [];
    $kinds = [];
    foreach (streamed(listen($session)) as $frame) {
        $kinds[] = $frame['kind'];
        if ($frame['kind'] === 'A') {
            expect((int) $frame['position'])->toBe(count($sound));
            $sound = [...$sound, ...$frame['left']];
        }
    }
    $expected = expectedSound($session);
    expect($kinds[0])->toBe('L')->and(array_count_values($kinds)['M'])->toBe(array_count_values($kinds)['A'])->and(end($kinds))->toBe('E')
        ->and(count($sound))->toBeGreaterThanOrEqual(48000);
    foreach ([0, 777, 20000, 47999] as $i) {
        expect($sound[$i])->toEqualWithDelta($expected[$i], 1e-6);
    }
});

it('takes an edit, another tap and a stop while it plays', function (): void {
    $session = Demo::session();
    $id = listen($session);
    $silentFrom = null;
    $heard = [];
    foreach (streamed($id) as $frame) {
        if ($frame['kind'] !== 'A') {
            continue;
        }
        $heard[] = Signal::rms($frame['left']);
        if (count($heard) === 3) {
            $this->postJson("/api/sessions/{$session->id}/edits", ['base' => 1, 'edit' => ['type' => 'set-fader', 'channels' => ['cello', 'bass'], 'gain' => null]])->assertOk();
        } elseif (count($heard) === 7) {
            $silentFrom = end($heard);
            $this->putJson("/api/listenings/{$id}", ['tap' => 'cello:pre-fader'])->assertOk();
        } elseif (count($heard) === 10) {
            $this->putJson("/api/listenings/{$id}", ['stopped' => true])->assertOk();
        }
    }
    expect($heard[1])->toBeGreaterThan(0.05)->and($silentFrom)->toBe(0.0)->and($heard[9])->toBeGreaterThan(0.05)->and(count($heard))->toBe(10);
});

it('reads the levels of the channels that are looked at, as that changes while it plays', function (): void {
    $session = Demo::session();
    $id = listen($session, ['metered' => ['cello', 'gone']]);
    $taps = [];
    $read = [];
    foreach (streamed($id) as $frame) {
        if ($frame['kind'] === 'L') {
            $taps = $frame['data']['taps'];
        } elseif ($frame['kind'] === 'M') {
            $read[] = array_values(array_filter($taps, static fn (string $tap, int $at): bool => ! is_nan($frame['numbers'][1 + 4 * $at]), ARRAY_FILTER_USE_BOTH));
            match (count($read)) {
                3 => $this->putJson("/api/listenings/{$id}", ['metered' => []])->assertOk(),
                6 => $this->putJson("/api/listenings/{$id}", ['metered' => null])->assertOk(),
                9 => $this->putJson("/api/listenings/{$id}", ['stopped' => true])->assertOk(),
                default => null,
            };
        }
    }
    $ends = array_values(array_filter($taps, static fn (string $tap): bool => str_ends_with($tap, ':post-fader')));
    expect($read[1])->toBe(array_values(array_filter($taps, static fn (string $tap): bool => str_starts_with($tap, 'cello:') || in_array($tap, $ends, true))))
        ->and($read[4])->toBe($ends)->and($read[7])->toBe($taps)->and(count($taps))->toBeGreaterThan(count($ends) + 4);
});

it('names the figures in the right order when a row is rebuilt while it plays', function (): void {
    $session = Demo::session();
    $id = listen($session);
    $layout = [];
    $meters = 0;
    foreach (streamed($id) as $frame) {
        if ($frame['kind'] === 'L') {
            $layout = $frame['data'];
        } elseif ($frame['kind'] === 'M') {
            ++$meters;
            expect(count($frame['numbers']))->toBe(1 + 4 * count($layout['taps']) + count($layout['loads']));
            if ($meters === 3) {
                $this->postJson("/api/sessions/{$session->id}/edits", ['base' => 1, 'edit' => ['type' => 'add-insert', 'channels' => ['cello'], 'processor' => 'gain', 'parameters' => ['gain' => -60]]])->assertOk();
            } elseif ($meters === 10) {
                // The trim is there, and what is read at its tap is what it puts out.
                $at = static fn (string $tap): float => $frame['numbers'][1 + 4 * array_search($tap, $layout['taps'], true)];
                expect($layout['taps'])->toContain('cello:insert:i4')
                    ->and($at('cello:insert:i4'))->toBeLessThan(-55.0)
                    ->and($at('cello:insert:i1'))->toBeGreaterThan(-20.0)
                    ->and($at('bass:source'))->toBeGreaterThan(-20.0);
                $this->putJson("/api/listenings/{$id}", ['stopped' => true]);
            }
        }
    }
    expect($meters)->toBe(10);
});

it('loops', function (): void {
    $session = Demo::session();
    $id = listen($session, ['loop' => ['start' => 4800, 'end' => 14400]]);
    $positions = [];
    foreach (streamed($id, 4800) as $frame) {
        if ($frame['kind'] === 'A') {
            $positions[] = (int) $frame['position'];
            if (count($positions) === 20) {
                $this->putJson("/api/listenings/{$id}", ['stopped' => true]);
            }
        }
    }
    expect(min($positions))->toBeGreaterThanOrEqual(4800)->and(max($positions))->toBeLessThan(14400);
    $jumps = array_filter(range(1, count($positions) - 1), static fn (int $i): bool => $positions[$i] < $positions[$i - 1]);
    expect(count($jumps))->toBeGreaterThan(1);
});

it('compares with bypass at matched level', function (): void {
    // A gain of 12 dB changes nothing but the level: matched, both sides must sound the same.
    $session = Demo::session(Mix::session([Mix::track('cello', [Mix::insert('i1', 'gain', ['gain' => 12.0])])]));
    $id = listen($session, ['compare' => ['insert' => 'i1'], 'side' => 2]);
    $sound = [];
    $gain = $momentary = null;
    foreach (streamed($id) as $frame) {
        if ($frame['kind'] === 'A') {
            $sound = [...$sound, ...$frame['left']];
        } elseif ($frame['kind'] === 'N' && $frame['data']['kind'] === 'compare') {
            $gain = $frame['data']['gain'];
        } elseif ($frame['kind'] === 'N') {
            $momentary = $frame['data']['momentary'] ?? $momentary;
        }
    }
    $expected = expectedSound($session);
    $loudness = new Hafen\Metering\LoudnessMeter(48000);
    $loudness->measure(new Hafen\Audio\Block($expected, $expected));
    expect($gain)->toEqualWithDelta(12.0, 0.2)->and($momentary)->toEqualWithDelta($loudness->read()->highestMomentary, 0.3);
    foreach ([20000, 30000, 47000] as $i) {
        expect($sound[$i])->toEqualWithDelta($expected[$i], 1e-4);
    }
});

it('compares in a loop with what is later than the session, block for block and position for position', function (int $side): void {
    $session = Demo::session(Mix::session([Mix::track('cello')], [Mix::insert('i1', 'limiter', ['ceiling' => 0.0, 'look-ahead' => '1ms'])]));
    $id = listen($session, ['compare' => ['insert' => 'i1', 'parameters' => ['look-ahead' => '10ms']], 'side' => $side, 'loop' => ['start' => 4800, 'end' => 14401]]);
    $expected = expectedSound($session);
    $sound = $refused = [];
    foreach (streamed($id) as $frame) {
        if ($frame['kind'] === 'A') {
            foreach ($frame['left'] as $i => $sample) {
                $sound[] = [(int) $frame['position'] + $i, $sample];
            }
        } elseif (($frame['data']['kind'] ?? '') === 'refused') {
            $refused[] = $frame['data']['message'];
        }
        if (count($sound) > 40000) {
            $this->putJson("/api/listenings/{$id}", ['stopped' => true]);
        }
    }
    expect($refused)->toBe([])->and(count($sound))->toBeGreaterThan(40000);
    $compared = 0;
    foreach ($sound as [$position, $sample]) {
        // Where a loop has just begun anew, what was before still rings.
        if ($position > 5500 && $position < 14000) {
            ++$compared;
            expect(abs($sample - $expected[$position]))->toBeLessThan(2e-3);
        }
    }
    expect($compared)->toBeGreaterThan(20000);
})->with([1, 2]);

it('tells what it cannot do and plays on', function (): void {
    $session = Demo::session();
    $id = listen($session);
    unlink(app(App\Media\MediaFolder::class)->original(App\Models\Media::query()->findOrFail('bass')));
    $frames = iterator_to_array(streamed($id), false);
    expect($frames[0]['kind'])->toBe('N')->and($frames[0]['data']['message'])->toContain('There is no readable file here')->and($frames[1]['kind'])->toBe('E');
});

it('refuses options with the field', function (array $options, string $place): void {
    $session = Demo::session();
    $this->postJson("/api/sessions/{$session->id}/listenings", $options)->assertUnprocessable()->assertJsonPath('location', $place);
})->with([
    [['tap' => 'no tap at all'], '/tap'], [['metered' => 'cello'], '/metered'], [['metered' => ['cello', '../x']], '/metered/1'], [['side' => 3], '/side'], [['loop' => ['start' => 10, 'end' => 20]], '/loop/end'], [['colour' => 1], '/colour'],
]);

it('sweeps a narrow boost over a channel for the ears only', function (): void {
    $session = Demo::session();
    $id = listen($session, ['sweep' => ['channel' => 'bass', 'frequency' => 1000.0]]);
    $sound = [];
    foreach (streamed($id) as $frame) {
        if ($frame['kind'] === 'A') {
            $sound = [...$sound, ...$frame['left']];
        }
        if (count($sound) > 20000) {
            $this->putJson("/api/listenings/{$id}", ['stopped' => true]);
        }
    }
    expect($session->refresh()->change)->toBe(1);
    // What the same boost as an insert of the session would sound like.
    edit($session, 1, ['type' => 'add-insert', 'channels' => ['bass'], 'processor' => 'parametric-eq', 'parameters' => ['bell-2-frequency' => 1000, 'bell-2-gain' => 10, 'bell-2-q' => 5]])->assertOk();
    $expected = expectedSound($session->refresh());
    foreach ([500, 7777, 19000] as $i) {
        expect($sound[$i])->toEqualWithDelta($expected[$i], 1e-6);
    }
});

it('shows an insert by frequency while it plays, and follows what is changed', function (): void {
    $session = Demo::session(Mix::session([Mix::track('cello', [Mix::insert('i1', 'parametric-eq', ['bell-3-frequency' => 1000.0, 'bell-3-gain' => 6.0])])]));
    $id = listen($session, ['watch' => 'i1', 'loop' => ['start' => 0, 'end' => 48000]]);
    $seen = [];
    foreach (streamed($id) as $frame) {
        if ($frame['kind'] !== 'N' || $frame['data']['kind'] !== 'watch') {
            continue;
        }
        $seen[] = $frame['data'];
        if (count($seen) === 4) {
            $this->postJson("/api/sessions/{$session->id}/edits", ['base' => 1, 'edit' => ['type' => 'set-parameter', 'insert' => 'i1', 'parameter' => 'bell-3-gain', 'value' => -12]])->assertOk();
        } elseif (count($seen) === 8) {
            $this->postJson("/api/sessions/{$session->id}/edits", ['base' => 2, 'edit' => ['type' => 'remove-inserts', 'inserts' => ['i1']]])->assertOk();
            break;
        }
    }
    $at = array_search(1000, $seen[0]['frequencies'], false);
    expect($seen[3]['insert'])->toBe('i1')
        ->and($seen[3]['after'][$at][2] - $seen[3]['before'][$at][2])->toEqualWithDelta(6.0, 1.1)
        ->and($seen[7]['after'][$at][2] - $seen[7]['before'][$at][2])->toEqualWithDelta(-12.0, 1.6)
        ->and($seen[3]['bands']['bell-3'][2])->toBeLessThan(0.0);
    // What is not there is not watched, and nothing breaks.
    $this->postJson("/api/sessions/{$session->id}/listenings", ['watch' => 'a/b'])->assertStatus(422)->assertJsonPath('location', '/watch');
    $gone = listen($session, ['watch' => 'i1']);
    $count = 0;
    foreach (streamed($gone) as $frame) {
        expect($frame['data']['kind'] ?? '')->not->toBe('watch');
        if (++$count === 30) {
            break;
        }
    }
});

it('streams from several processes what it streams from one, with figures, edits and taps', function (): void {
    $session = Demo::session(Mix::session([
        Mix::track('cello', [Mix::insert('i1', 'filter')]),
        Mix::track('bass', [Mix::insert('i2', 'compressor', ['threshold' => -24.0])]),
    ]));
    $streams = [];
    foreach ([1, 3] as $number) {
        config(['hafen.engine_processes' => $number]);
        $change = $session->refresh()->change;
        $id = listen($session);
        $layout = [];
        $sound = $levels = $kinds = [];
        $loud = null;
        $children = 0;
        foreach (streamed($id) as $frame) {
            $kinds[] = $frame['kind'];
            if ($frame['kind'] === 'L') {
                $layout = $frame['data'];
            } elseif ($frame['kind'] === 'M') {
                expect(count($frame['numbers']))->toBe(1 + 4 * count($layout['taps']) + count($layout['loads']));
                $levels[] = $frame['numbers'][1 + 4 * array_search('bass:insert:i2', $layout['taps'], true)];
            } elseif ($frame['kind'] === 'A') {
                $sound = [...$sound, ...$frame['left']];
                if (count($levels) === 6) {
                    $children = count(EngineProcesses::ids());
                    $this->postJson("/api/sessions/{$session->id}/edits", ['base' => $change, 'edit' => ['type' => 'add-insert', 'channels' => ['cello'], 'processor' => 'gain', 'parameters' => ['gain' => -60]]])->assertOk();
                } elseif (count($levels) === 12) {
                    $loud = Signal::rms($frame['left']);
                    $this->putJson("/api/listenings/{$id}", ['tap' => 'cello:pre-fader'])->assertOk();
                } elseif (count($levels) === 18) {
                    $this->putJson("/api/listenings/{$id}", ['stopped' => true])->assertOk();
                }
            }
        }
        expect(max($levels))->toBeGreaterThan(-30.0)->and($loud)->toBeGreaterThan(0.02)->and(Signal::rms(array_slice($sound, -1024)))->toBeLessThan(0.001);
        $streams[$number] = ['sound' => array_slice($sound, 0, 8000), 'kinds' => array_count_values($kinds)];
        $number === 3 ? expect($children)->toBeGreaterThanOrEqual(1) : null;
        $this->postJson("/api/sessions/{$session->id}/undo")->assertOk();
    }
    expect($streams[3]['sound'])->toBe($streams[1]['sound']);
});

it('tells that a process of the engine was replaced, and plays on', function (): void {
    config(['hafen.engine_processes' => 2]);
    $session = Demo::session();
    $id = listen($session);
    $notices = [];
    $blocks = 0;
    $last = 0.0;
    foreach (streamed($id) as $frame) {
        if ($frame['kind'] === 'A') {
            $last = Signal::rms($frame['left']);
            if (++$blocks === 5) {
                EngineProcesses::kill();
            } elseif ($blocks === 20) {
                $this->putJson("/api/listenings/{$id}", ['stopped' => true])->assertOk();
            }
        } elseif ($frame['kind'] === 'N') {
            $notices[] = $frame['data']['kind'];
        }
    }
    expect($notices)->toContain('process-replaced')->and(array_count_values($notices)['process-replaced'])->toBe(1)->and($last)->toBeGreaterThan(0.05);
});

it('plays in one process where no other can be started', function (): void {
    config(['hafen.engine_processes' => 2]);
    app()->bind(App\Sessions\EngineFactory::class, static fn (): App\Sessions\EngineFactory => new App\Sessions\EngineFactory(
        app(Hafen\Processor\ProcessorCatalogue::class), app(App\Media\MediaFolder::class), app(Hafen\Survey\SurveyStore::class), 2, 2, '/nowhere/php',
    ));
    $sound = [];
    foreach (streamed(listen(Demo::session())) as $frame) {
        $sound = $frame['kind'] === 'A' ? [...$sound, ...$frame['left']] : $sound;
    }
    expect(count($sound))->toBeGreaterThanOrEqual(48000)->and(Signal::rms(array_slice($sound, 20000, 4000)))->toBeGreaterThan(0.05);
});
