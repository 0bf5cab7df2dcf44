<?php

declare(strict_types=1);

namespace Hafen\Processor\Instrument;

/**
 * One struck bar: the modes of vibration, each a decaying sine.
 *
 * Source: y[n] = 2 r cos(w) y[n-1] - r^2 y[n-2] is r^n sin(w n), two multiplications a sample.
 */
final class StruckBarVoice implements Voice
{
    /** Amplitude at which it is over. */
    private const SILENCE = 1e-6;

    /** Seconds in which it falls silent when it is choked. */
    private const CHOKE = 0.003;

    /** @var list<array{float, float, float, float}> 2 r cos w, r^2, y[n-1], y[n-2] of each mode */
    private array $modes = [];

    private bool $isReleased = false;

    private float $level = 1.0;

    /** What its level is multiplied with each sample once it is damped. */
    private float $fall = 1.0;

    /** Frames until it is over. */
    private int $left = 0;

    /**
     * @param  list<array{float, float, float}>  $modes  frequency in Hz, amplitude, time in seconds in which it falls by 60 dB
     * @param  float  $damping  time in seconds in which it falls by 60 dB once its note has ended; 0 lets it ring
     */
    public function __construct(array $modes, private readonly float $damping, private readonly int $sampleRate)
    {
        foreach ($modes as [$frequency, $amplitude, $seconds]) {
            $angle = 2.0 * M_PI * $frequency / $sampleRate;
            if ($angle < 0.95 * M_PI) {
                $r = 10.0 ** (-3.0 / ($seconds * $sampleRate));
                // The sine begins at the stroke: y[0] = 0.
                $this->left = max($this->left, (int) ceil(log(self::SILENCE / max(self::SILENCE, $amplitude)) / log($r)));
                $this->modes[] = [2.0 * $r * cos($angle), $r * $r, 0.0, -$amplitude * sin($angle) / $r];
            }
        }
    }

    public function release(): void
    {
        $this->isReleased = true;
        if ($this->damping > 0.0) {
            $this->fallWithin(2.0 * $this->damping);
        }
    }

    public function choke(): void
    {
        $this->isReleased = true;
        $this->fallWithin(self::CHOKE);
    }

    /** Falls by 120 dB in so many seconds. */
    private function fallWithin(float $seconds): void
    {
        $frames = max(1.0, $seconds * $this->sampleRate);
        $this->fall = min($this->fall, 10.0 ** (-6.0 / $frames));
        $this->left = min($this->left, (int) ceil($frames));
    }

    public function isReleased(): bool
    {
        return $this->isReleased;
    }

    public function isOver(): bool
    {
        return $this->left <= 0;
    }

    public function add(array $sound, int $from, int $to, float $bend): array
    {
        // It ends at a sample of its own, so that blocks of any length sound the same.
        $to = min($to, $from + $this->left);
        $this->left -= $to - $from;
        $struck = $this->level;
        $fall = $this->fall;
        $level = $struck;
        foreach ($this->modes as $m => [$a, $b, $one, $two]) {
            $level = $struck;
            for ($i = $from; $i < $to; ++$i) {
                $y = $a * $one - $b * $two;
                $two = $one;
                $one = $y;
                $level *= $fall;
                $sound[$i] += $level * $y;
            }
            $this->modes[$m] = [$a, $b, $one, $two];
        }
        $this->level = $level;

        return $sound;
    }
}
