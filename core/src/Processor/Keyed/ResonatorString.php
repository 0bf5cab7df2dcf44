<?php

declare(strict_types=1);

namespace Hafen\Processor\Keyed;

/** One string of the {@see Resonator}. */
final class ResonatorString
{
    /** @var list<float> one period */
    private array $line;

    private int $at = 0;

    private readonly float $feedback;

    private readonly float $pass;

    private float $passed = 0.0;

    private float $entered = 0.0;

    private float $low = 0.0;

    /** Frames until it is over; null while its key is held. */
    private ?int $left = null;

    private readonly int $ringing;

    /** @param  float  $damping  0 to 1 */
    public function __construct(public readonly int $key, float $frequency, float $decay, private readonly float $damping, int $sampleRate)
    {
        $period = $sampleRate / $frequency;
        // A one-pole low-pass y += (1 - d)(x - y) is d / (1 - d) samples late at low frequencies.
        $smoothing = 0.5 * $damping;
        $length = max(2, (int) floor($period - $smoothing / (1.0 - $smoothing) - 0.3));
        $rest = $period - $smoothing / (1.0 - $smoothing) - $length;
        $this->pass = (1.0 - $rest) / (1.0 + $rest);
        $this->line = array_fill(0, $length, 0.0);
        // 144 dB down.
        $this->ringing = (int) ceil(2.4 * $decay * $sampleRate);
        $this->feedback = 10.0 ** (-3.0 * $period / ($decay * $sampleRate));
    }

    public function hold(): void
    {
        $this->left = null;
    }

    public function letGo(): void
    {
        $this->left ??= $this->ringing;
    }

    public function isOver(): bool
    {
        return $this->left === 0;
    }

    /**
     * Adds what it sounds while it is driven.
     *
     * @param  list<float>  $sound
     * @param  list<float>  $in  as long, or nothing
     * @return list<float>
     */
    public function ring(array $sound, array $in): array
    {
        $line = $this->line;
        $length = count($line);
        $keep = 1.0 - 0.5 * $this->damping;
        // As loud as what drives it, when that is the string's own pitch.
        $drive = 1.0 - $this->feedback;
        [$at, $passed, $entered, $low] = [$this->at, $this->passed, $this->entered, $this->low];
        // It ends at a sample of its own, so that blocks of any length sound the same.
        $n = min(count($sound), $this->left ?? PHP_INT_MAX);
        $this->left = $this->left === null ? null : $this->left - $n;
        for ($i = 0; $i < $n; ++$i) {
            $out = $line[$at];
            $passed = $this->pass * ($out - $passed) + $entered;
            $entered = $out;
            $low += $keep * ($passed - $low);
            $y = $this->feedback * $low + ($in === [] ? 0.0 : $drive * $in[$i]);
            $line[$at] = $y;
            $at = $at + 1 === $length ? 0 : $at + 1;
            $sound[$i] += $y;
        }
        $this->line = $line;
        [$this->at, $this->passed, $this->entered, $this->low] = [$at, $passed, $entered, $low];

        return $sound;
    }
}
