<?php

declare(strict_types=1);

use Hafen\Audio\Block;
use Hafen\Processor\ProcessorCatalogue;
use Hafen\Session\Channel\Width;
use Hafen\Session\Session;
use Hafen\Tests\Support\MemoryLibrary;
use Hafen\Tests\Support\Mix;
use Hafen\Tests\Support\RandomMix;
use Hafen\Tests\Support\RandomRouting;
use Hafen\Tests\Support\Signal;

/*
 * What the engine put out before it was made faster (November 2026), at 64 places and as sums of squares, in Fixtures/renders.json. Written anew with
 * HAFEN_WRITE_RENDERS=1, which is right only where a sound is meant to change.
 */

const STORED_RENDERS = __DIR__.'/../Fixtures/renders.json';

/** @return array<string, Closure(): array{Session, MemoryLibrary}> */
function storedRenders(): array
{
    $renders = [];
    foreach (ProcessorCatalogue::standard()->effects() as $id) {
        foreach ([Width::Stereo, Width::Mono] as $width) {
            $renders["{$id}, {$width->value}"] = static fn (): array => [
                Mix::session([Mix::track('one', [Mix::insert('i1', $id, Signal::busy($id))], $width, 14_400)], length: 19_200),
                // Sound, a gap, and sound again.
                new MemoryLibrary(['one' => array_map(
                    static fn (int $seed): array => [...Signal::noise(4800, $seed, 0.3), ...array_fill(0, 4800, 0.0), ...Signal::noise(4800, $seed + 2, 0.6)],
                    $width === Width::Stereo ? [61, 62] : [61],
                )]),
            ];
        }
    }
    for ($seed = 1; $seed <= 6; ++$seed) {
        $renders["random mix {$seed}"] = static fn (): array => RandomMix::make(400 + $seed);
        $renders["random routing {$seed}"] = static fn (): array => array_slice(RandomRouting::make(800 + $seed, 16, 2400), 0, 2);
    }

    return $renders;
}

/** @return array{frames: int, energy: list<float>, samples: list<float>} */
function figuresOf(Block $block): array
{
    $samples = [];
    for ($i = 0; $i < 64; ++$i) {
        $at = intdiv($i * $block->frames(), 64) + $i % 7;
        array_push($samples, round($block->left[$at] ?? 0.0, 13), round($block->right()[$at] ?? 0.0, 13));
    }

    return ['frames' => $block->frames(), 'energy' => [Signal::rms($block->left), Signal::rms($block->right())], 'samples' => $samples];
}

it('puts out what it did before', function (string $name): void {
    [$session, $library] = storedRenders()[$name]();
    $figures = figuresOf(Mix::render($session, $library));
    if (getenv('HAFEN_WRITE_RENDERS') === '1') {
        $stored = json_decode((string) @file_get_contents(STORED_RENDERS), true) ?: [];
        $stored[$name] = $figures;
        file_put_contents(STORED_RENDERS, str_replace('},"', "},\n\"", (string) json_encode($stored, JSON_THROW_ON_ERROR))."\n");
    }
    $stored = json_decode((string) file_get_contents(STORED_RENDERS), true, flags: JSON_THROW_ON_ERROR)[$name];
    $loudest = max(1e-3, ...array_map(abs(...), $stored['samples']));
    $worst = max(array_map(static fn (float $one, float $other): float => abs($one - $other), [...$figures['energy'], ...$figures['samples']], [...$stored['energy'], ...$stored['samples']]));
    expect($figures['frames'])->toBe($stored['frames']);
    if (preg_match('/^(pitch|formant)-/', $name) === 1) {
        // Where they splice hangs on the last bit, which differs from processor to processor: they are as loud.
        expect($figures['energy'][0] / $stored['energy'][0])->toEqualWithDelta(1.0, 0.1);

        return;
    }
    // Sums in another order differ by the rounding of 64 bits; recursive filters add that up.
    expect($worst)->toBeLessThan(1e-9 * $loudest);
})->with(array_keys(storedRenders()));
