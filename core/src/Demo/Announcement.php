<?php

declare(strict_types=1);

namespace Hafen\Demo;

use Hafen\Audio\Block;
use Hafen\Dsp\Filter\BiquadCascade;
use Hafen\Dsp\Filter\BiquadCoefficients;
use Hafen\Dsp\Noise;

/** Speech-like: a voice through moving vowels over the hall's loudspeakers. It says nothing in any language. */
final readonly class Announcement implements Voice
{
    /** First and second formant of some vowels in Hz. */
    private const VOWELS = [[730, 1090], [270, 2290], [530, 1840], [300, 870], [660, 1720], [490, 1350]];

    /** Start in seconds of each phrase and its syllables. */
    private const PHRASES = [[6.4, 9], [16.6, 12], [25.6, 6]];

    public function play(Score $score): array
    {
        $part = array_fill(0, $score->frames(), 0.0);
        $noise = new Noise(2026);
        foreach (self::PHRASES as [$seconds, $syllables]) {
            $start = (int) ($seconds * $score->sampleRate);
            for ($s = 0; $s < $syllables; ++$s) {
                $length = (int) ((0.15 + 0.05 * abs($noise->next())) * $score->sampleRate);
                $pitch = 176.0 * (1.12 - 0.22 * $s / $syllables) * (1.0 + 0.04 * $noise->next());
                $vowel = self::VOWELS[($s * 5 + $syllables) % 6];
                foreach (self::syllable($length, $pitch, $vowel, $score->sampleRate, $noise, $s % 3 === 0) as $i => $sample) {
                    if ($start + $i < count($part)) {
                        $part[$start + $i] += 0.5 * $sample;
                    }
                }
                $start += $length + (int) (0.025 * $score->sampleRate);
            }
        }

        return [$part];
    }

    /**
     * @param  array{int, int}  $vowel
     * @return list<float>
     */
    private static function syllable(int $length, float $pitch, array $vowel, int $sampleRate, Noise $noise, bool $hissed): array
    {
        $pulses = [];
        $phase = 0.0;
        for ($i = 0; $i < $length; ++$i) {
            $phase += $pitch / $sampleRate;
            $phase -= $phase >= 1.0 ? 1.0 : 0.0;
            $t = $i / $length;
            $consonant = $hissed && $t < 0.22 ? 0.5 * $noise->next() : 0.0;
            $glottis = $phase < 0.6 ? sin(M_PI * $phase / 0.6) ** 2 - 0.35 : -0.35;
            $pulses[] = $consonant + $glottis * sin(M_PI * $t) ** 0.6;
        }
        $throat = new BiquadCascade;
        $throat->set([
            'first' => BiquadCoefficients::peaking($vowel[0], 5.0, 16.0, $sampleRate),
            'second' => BiquadCoefficients::peaking($vowel[1], 8.0, 14.0, $sampleRate),
            'third' => BiquadCoefficients::peaking(2800.0, 7.0, 9.0, $sampleRate),
            'low' => BiquadCoefficients::highPass(110.0, 0.7, $sampleRate),
            'high' => BiquadCoefficients::lowPass(6500.0, 0.7, $sampleRate),
        ]);
        $block = Block::mono($pulses);
        $throat->process($block);
        $peak = max(1e-9, ...array_map(abs(...), $block->left));

        return array_map(static fn (float $sample): float => $sample / $peak, $block->left);
    }
}
