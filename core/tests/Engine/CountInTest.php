<?php

declare(strict_types=1);

use Hafen\Audio\AudioFormat;
use Hafen\Audio\Block;
use Hafen\Audio\SampleFormat;
use Hafen\Audio\WavReader;
use Hafen\Engine\Tap;
use Hafen\Printing\TakeWriter;
use Hafen\Session\Channel\ChannelKind;
use Hafen\Session\Channel\Send;
use Hafen\Session\Channel\TapPoint;
use Hafen\Session\Session;
use Hafen\Tests\Support\MemoryLibrary;
use Hafen\Tests\Support\Mix;
use Hafen\Tests\Support\Signal;

require_once __DIR__.'/../Support/edited.php';

/** A track with a limiter that looks ahead and moves over time, and a cue with a click. */
function clicked(int $length = 48000): Session
{
    $track = Mix::track('cello', [Mix::insert('i1', 'limiter', ['look-ahead' => '10ms']), Mix::insert('i2', 'tremolo')], length: $length);
    $session = Mix::session([
        $track->withSends([new Send('n1', 'cue', -6.0, TapPoint::PreFader)]),
        Mix::bus('cue', ChannelKind::Cue),
    ], length: $length);

    return edited(edited($session, ['type' => 'set-click', 'cue' => 'cue', 'click' => -6.0]), ['type' => 'fade', 'channels' => ['cello'], 'direction' => 'in', 'from' => 0, 'to' => 20000]);
}

it('begins before the start of the session, silent but for the click, and is the same from there on', function (int $before): void {
    $library = new MemoryLibrary(['cello' => [Signal::noise(48000, 3, 0.4)]]);
    $counted = Mix::engine(clicked(), $library);
    $counted->start(-$before, 4800);
    expect($counted->position())->toBe(-$before);
    $lead = Mix::take($counted, $before);
    expect(max(array_map(abs(...), $lead->left)))->toBe(0.0)->and($counted->position())->toBe(0);
    $plain = Mix::engine(clicked(), $library);
    $plain->start(0, 4800);
    expect(Mix::difference(Mix::take($counted, 20480), Mix::take($plain, 20480)))->toBeLessThan(1e-12);
})->with([512, 48128, 96256]);

// At 120 beats a minute and 48 kHz a beat is 24,000 samples; the sine begins at 0, so that its second sample tells where it stands.
it('clicks on each beat to the sample, higher on the first of four, in the cue alone, as late as the cue is', function (): void {
    $silent = new MemoryLibrary(['cello' => [array_fill(0, 200_000, 0.0)]]);
    $engine = Mix::engine(clicked(200_000), $silent);
    $engine->listenAt(new Tap('cue'));
    $engine->start(-48000);
    $heard = Mix::take($engine, 192_000)->left;
    $begins = [];
    for ($i = 1; $i < count($heard); ++$i) {
        if (abs($heard[$i]) > 0.01 && ($begins === [] || $i - end($begins) > 10000)) {
            $begins[] = $i;
        }
    }
    expect($begins)->toBe([1, 24001, 48001, 72001, 96001, 120001, 144001, 168001]);
    // Zero crossings tell the pitch: the beat at the session's start, and four after it, are the first of four.
    $pitch = static fn (int $at): int => count(array_filter(range($at, $at + 478), static fn (int $i): bool => $heard[$i] * $heard[$i + 1] < 0));
    expect($pitch(48001))->toBeGreaterThan($pitch(72001))->and($pitch(144001))->toBe($pitch(48001))->and($pitch(72001))->toBe($pitch(1));
    expect(max(array_map(abs(...), $heard)))->toBeLessThan(0.5013)->toBeGreaterThan(0.4);
    $main = Mix::engine(clicked(200_000), $silent);
    $main->start(0);
    expect(max(array_map(abs(...), Mix::take($main, 48000)->left)))->toBe(0.0);
    expect(fn () => edited(clicked(), ['type' => 'set-click', 'cue' => 'main', 'click' => -6.0]))->toThrow(Hafen\Edit\Refusals\NotACue::class, 'only cues hear the click');
});

it('keeps of a recording what lies in a range, to the sample, in any blocks, and of each pass of a loop', function (int $latency, int $from, ?int $to, int $start): void {
    $path = sys_get_temp_dir().'/hafen-punch-'.bin2hex(random_bytes(4));
    $writer = new TakeWriter(static fn (int $number): string => "{$path}-{$number}", new AudioFormat(48000, 1, SampleFormat::Float64), $latency, $from, $to);
    // What passes is the number of its place, as it is late.
    $pass = static function (int $first, int $count) use ($writer, $latency): void {
        for ($at = $first; $at < $first + $count; $at += $frames) {
            $frames = min(13 + abs($at) % 500, $first + $count - $at);
            $writer->take(new Block(array_map(static fn (int $i): float => ($i - $latency) / 1e6, range($at, $at + $frames - 1)), [], true), $at);
        }
    };
    $pass($start, 9000);
    $takes = $writer->close();
    $last = min($to ?? PHP_INT_MAX, $start + 9000 - $latency);
    $first = max($from, 0, $start - $latency);
    expect($takes)->toHaveCount($first < $last ? 1 : 0);
    foreach ($takes as $take) {
        expect($take->start)->toBe($first)->and($take->frames)->toBe($last - $first);
        $samples = WavReader::open($take->path)->read(0, $take->frames)[0];
        expect($samples[0])->toBe($first / 1e6)->and($samples[$take->frames - 1])->toBe(($last - 1) / 1e6);
        unlink($take->path);
    }
})->with([0, 700])->with([[0, null, -4000], [2000, 5000, 0], [1, 2, -300], [4000, 4001, 3999], [20000, 30000, 0], [2000, null, 500]]);
