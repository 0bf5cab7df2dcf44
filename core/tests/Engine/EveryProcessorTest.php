<?php

declare(strict_types=1);

use Hafen\Processor\ParameterKind;
use Hafen\Processor\ParameterSpec;
use Hafen\Processor\ProcessorCatalogue;
use Hafen\Session\Channel\Width;
use Hafen\Session\Session;
use Hafen\Tests\Support\MemoryLibrary;
use Hafen\Tests\Support\Mix;
use Hafen\Tests\Support\Signal;

require_once __DIR__.'/../Support/edited.php';

dataset('every processor', static fn (): array => ProcessorCatalogue::standard()->effects());

/** What they put out depends on everything they ever heard: where they splice, or at which period of a voice they stand. */
const REMEMBERS_FOREVER = ['pitch-shift', 'formant-shift', 'pitch-correction'];

/** One stereo track of noise through one insert, some seconds long. @param  array<string, float|string|bool>  $parameters */
function throughOne(string $processor, array $parameters, int $length): Session
{
    return Mix::session([Mix::track('one', [Mix::insert('i1', $processor, $parameters)], Width::Stereo, $length)], length: $length);
}

function noiseOf(int $length): MemoryLibrary
{
    return new MemoryLibrary(['one' => [Signal::noise($length, 61, 0.3), Signal::noise($length, 62, 0.3)]]);
}

it('comes, by a setting made while it plays, to where a fresh start would be', function (string $id): void {
    $length = 240_000;
    $library = noiseOf($length);
    // What moves goes on from where it is when its rate changes; so the rate is there from the start.
    $rate = array_intersect_key(Signal::busy($id), ['rate' => 0, 'speed' => 0, 'shape' => 0]);
    $engine = Mix::engine(throughOne($id, $rate, $length), $library);
    $engine->start(0);
    Mix::take($engine, 40 * 512);
    $busy = throughOne($id, Signal::busy($id), $length);
    $engine->change($busy);
    // Long enough for the glide, and for what still sounds of the old setting.
    Mix::take($engine, 380 * 512);
    $from = $engine->position();
    $fresh = Mix::engine($busy, $library);
    $fresh->start($from, $from);
    $played = Mix::take($engine, 4096);
    $level = Signal::rms($played->left) + Signal::rms($played->right());
    $off = Mix::difference($played, Mix::take($fresh, 4096));
    if (in_array($id, REMEMBERS_FOREVER, true)) {
        // As loud, and as bright: what it makes of the same noise, if not sample by sample.
        $fresh = Mix::engine($busy, $library);
        $fresh->start($from, $from);
        $again = Mix::take($fresh, 4096);
        $rms = static fn (array $left, array $right): float => sqrt(Signal::rms($left) ** 2 + Signal::rms($right) ** 2);
        $steps = static fn (array $samples): array => array_map(static fn (int $i): float => $samples[$i] - $samples[$i - 1], range(1, count($samples) - 1));
        $loudness = $rms($played->left, $played->right()) / $rms($again->left, $again->right());
        $brightness = $rms($steps($played->left), $steps($played->right())) / $rms($steps($again->left), $steps($again->right()));
        expect($level)->toBeGreaterThan(0.05)
            ->and($loudness)->toBeGreaterThan(0.85)->toBeLessThan(1.18)
            ->and($brightness)->toBeGreaterThan(0.8)->toBeLessThan(1.25)
            ->and(max(Signal::peak($played->left), Signal::peak($played->right())))->toBeLessThan(1.5 * max(Signal::peak($again->left), Signal::peak($again->right())));
    } else {
        expect($off)->toBeLessThan(2e-4 * $level);
    }
})->with('every processor');

it('moves every number it has by a lane, the same in blocks of any length, and stays finite', function (string $id): void {
    $length = 9600;
    $library = noiseOf($length);
    $numbers = array_filter(ProcessorCatalogue::standard()->spec($id)->parameters, static fn (ParameterSpec $parameter): bool => $parameter->kind === ParameterKind::Number);
    expect(count($numbers) === 0)->toBe(in_array($id, ['polarity', 'channels'], true));
    // Sliders of a kind are one like the other.
    foreach (array_slice(array_values($numbers), 0, 8) as $parameter) {
        $session = edited(throughOne($id, Signal::busy($id), $length), ['type' => 'set-automation', 'channel' => 'one', 'target' => "parameter:i1:{$parameter->id}", 'points' => [
            ['at' => 0, 'value' => $parameter->min], ['at' => 5000, 'value' => $parameter->max], ['at' => 8000, 'value' => $parameter->default],
        ]]);
        $whole = Mix::render($session, $library, 512);
        expect(is_finite(array_sum($whole->left) + array_sum($whole->right())))->toBeTrue($parameter->id);
        foreach ([64, 480] as $size) {
            $most = max(1.0, Signal::peak($whole->left));
            expect(Mix::difference($whole, Mix::render($session, $library, $size)))->toBeLessThan(1e-8 * $most, "{$parameter->id} in blocks of {$size}");
        }
    }
})->with('every processor');

it('is out of the way when it is bypassed while it plays, and back as it was', function (string $id): void {
    $length = 144_000;
    $library = noiseOf($length);
    $session = throughOne($id, Signal::busy($id), $length);
    $engine = Mix::engine($session, $library);
    $engine->start(0);
    Mix::take($engine, 20 * 512);
    $engine->change(edited($session, ['type' => 'set-insert-on', 'inserts' => ['i1'], 'on' => false]));
    Mix::take($engine, 20 * 512);
    // Bypassed it is the plain sound to the bit, at its place in spite of the latency.
    $from = $engine->position();
    $plain = Mix::take($engine, 2048);
    expect($plain->left)->toEqual(array_slice($library->files['one'][0], $from, 2048))
        ->and($plain->right())->toEqual(array_slice($library->files['one'][1], $from, 2048));
    $engine->change($session);
    $back = Mix::take($engine, 60 * 512);
    $jumps = static fn (array $samples): float => max(array_map(static fn (int $i): float => abs($samples[$i] - $samples[$i - 1]), range(1, count($samples) - 1)));
    $own = Mix::render($session, $library, frames: 60 * 512);
    // No click louder than the effect makes of noise anyway.
    expect($jumps($back->left))->toBeLessThan(1.5 * max($jumps($own->left), $jumps($plain->left)) + 0.05);
})->with('every processor');
