<?php

declare(strict_types=1);

use Hafen\Metering\MusicalKey;

/** Chords one after the other, a second each, three harmonics. @param  list<list<int>>  $chords notes, 69 is A4 @return list<float> */
function chords(array $chords): array
{
    $samples = [];
    foreach ($chords as $chord) {
        for ($i = 0; $i < 48000; ++$i) {
            $sum = 0.0;
            foreach ($chord as $note) {
                $angle = 2 * M_PI * 440 * 2 ** (($note - 69) / 12) * $i / 48000;
                $sum += sin($angle) + 0.4 * sin(2 * $angle) + 0.2 * sin(3 * $angle);
            }
            $samples[] = 0.05 * $sum;
        }
    }

    return $samples;
}

// Source: the profiles of Krumhansl & Kessler (from memory), on cadences whose key is known.
it('finds the key of a cadence', function (int $root, bool $minor, string $key, string $scale): void {
    $third = $minor ? 3 : 4;
    $tonic = [$root, $root + $third, $root + 7];
    $fourth = [$root + 5, $root + 5 + $third, $root + 12];
    $fifth = [$root + 7, $root + 11, $root + 14];
    $estimate = MusicalKey::of(chords([$tonic, $fourth, $tonic, $fifth, $tonic]), 48000);
    expect($estimate?->key)->toBe($key)->and($estimate?->scale)->toBe($scale)->and($estimate?->lead)->toBeGreaterThan(0.0);
})->with([[60, false, 'c', 'major'], [62, true, 'd', 'minor'], [57, true, 'a', 'minor'], [66, false, 'f-sharp', 'major'], [58, false, 'b-flat', 'major']]);

it('finds no key in silence', function (): void {
    expect(MusicalKey::of(array_fill(0, 48000, 0.0), 48000))->toBeNull();
});
