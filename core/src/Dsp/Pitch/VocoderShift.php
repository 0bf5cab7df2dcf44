<?php

declare(strict_types=1);

namespace Hafen\Dsp\Pitch;

use Hafen\Audio\Block;
use Hafen\Audio\Samples;
use Hafen\Dsp\Spectrum\Fft;
use Hafen\Dsp\Spectrum\HannWindow;

/**
 * Moves every partial of a sound by itself, so that chords stay clear, at the price of soft attacks.
 *
 * Source: J. Laroche, M. Dolson, "New phase-vocoder techniques for pitch-shifting, harmonizing and other exotic effects", WASPAA 1999: the
 * bins around each peak of the spectrum are moved together by whole bins, and turned by the phase the move has gathered since; how
 * far follows from the frequency of the peak, read from its change of phase. Both sides are moved and turned alike, so that what lies
 * between them stays. Where the power leaps, the turns begin anew, and an attack stays one (practice). Frames are Hann windows that
 * overlap by three quarters, counted from the first sample whatever the blocks.
 */
final class VocoderShift
{
    /** Power of a frame over that of the one before from which it holds an attack. */
    private const ATTACK = 3.0;

    /** Power below which a bin is no peak. */
    private const FAINTEST = 1e-18;

    private readonly int $size;

    private readonly int $hop;

    private readonly Fft $fft;

    /** @var list<float> */
    private readonly array $window;

    /** @var list<float> the last frame, the newest at the end */
    private array $left = [];

    /** @var list<float> */
    private array $right = [];

    /** @var list<float> what was heard since */
    private array $newLeft = [];

    /** @var list<float> */
    private array $newRight = [];

    /** @var list<float> what is being put together, a frame long; its first hop is whole */
    private array $outLeft = [];

    /** @var list<float> */
    private array $outRight = [];

    private int $into = 0;

    /** @var list<list<float>> real and imaginary parts of the left and of the right side in the last frame */
    private array $before = [];

    private float $powerBefore = 0.0;

    /** @var list<float> phase by which each bin was turned in the last frame */
    private array $turns = [];

    private bool $mono = true;

    public function __construct(int $sampleRate)
    {
        $this->size = self::delay($sampleRate);
        $this->hop = intdiv($this->size, 4);
        $this->fft = new Fft($this->size);
        $this->window = HannWindow::of($this->size);
        $this->reset();
    }

    /** Samples by which the sound comes later: a frame, 85 ms at 48 kHz. */
    public static function delay(int $sampleRate): int
    {
        return $sampleRate > 50000 ? ($sampleRate > 100000 ? 16384 : 8192) : 4096;
    }

    public function reset(): void
    {
        $this->left = $this->right = $this->outLeft = $this->outRight = array_fill(0, $this->size, 0.0);
        $this->turns = array_fill(0, intdiv($this->size, 2) + 1, 0.0);
        $this->before = array_fill(0, 4, $this->turns);
        $this->powerBefore = 0.0;
        $this->newLeft = $this->newRight = [];
        $this->into = 0;
        $this->mono = true;
    }

    /** @param  float  $ratio  what to multiply the pitch by, 0.5 to 2 */
    public function process(Block $block, float $ratio): void
    {
        $mono = $block->mono && $this->mono;
        if (! $mono) {
            $block->widen();
            if ($this->mono) {
                $this->right = $this->left;
                $this->newRight = $this->newLeft;
                $this->outRight = $this->outLeft;
                $this->before[2] = $this->before[0];
                $this->before[3] = $this->before[1];
                $this->mono = false;
            }
        }
        $inLeft = $block->left;
        $inRight = $mono ? [] : $block->right;
        $left = $right = [];
        for ($done = 0, $frames = count($inLeft); $done < $frames; $done = $end) {
            $end = min($frames, $done + $this->hop - $this->into);
            $length = $end - $done;
            $left[] = array_slice($this->outLeft, $this->into, $length);
            array_push($this->newLeft, ...array_slice($inLeft, $done, $length));
            if (! $mono) {
                $right[] = array_slice($this->outRight, $this->into, $length);
                array_push($this->newRight, ...array_slice($inRight, $done, $length));
            }
            $this->into += $length;
            if ($this->into === $this->hop) {
                $this->left = [...array_slice($this->left, $this->hop), ...$this->newLeft];
                $this->right = $mono ? $this->left : [...array_slice($this->right, $this->hop), ...$this->newRight];
                $this->frame($ratio, $mono);
                $this->newLeft = $this->newRight = [];
                $this->into = 0;
            }
        }
        $block->left = array_merge(...$left);
        $block->right = $mono ? [] : array_merge(...$right);
    }

    /** Works the last frame and lays it over what is being put together. */
    private function frame(float $ratio, bool $mono): void
    {
        $real = Samples::multiply($this->left, $this->window);
        $sides = $this->fft->transformTwo($real, $mono ? $real : Samples::multiply($this->right, $this->window));
        $moved = $ratio === 1.0 ? $this->kept($sides) : $this->moved($sides, $ratio);
        $this->before = $sides;
        [$re, $im] = self::together($moved, $this->size);
        // The transform back is the transform of both parts exchanged; squared windows that overlap so add up to 1.5.
        [$right, $left] = $this->fft->transform($im, $re);
        $scale = 1.0 / (1.5 * $this->size);
        $this->outLeft = $this->laid($this->outLeft, $left, $scale);
        if (! $mono) {
            $this->outRight = $this->laid($this->outRight, $right, $scale);
        }
    }

    /**
     * Two real sides as one complex sound, the other way round of {@see Fft::transformTwo()}.
     *
     * @param  list<list<float>>  $sides
     * @return array{list<float>, list<float>}
     */
    private static function together(array $sides, int $n): array
    {
        [$lr, $li, $rr, $ri] = $sides;
        $re = $im = [];
        for ($k = 0, $half = $n >> 1; $k <= $half; ++$k) {
            $re[] = $lr[$k] - $ri[$k];
            $im[] = $li[$k] + $rr[$k];
        }
        for ($k = ($n >> 1) - 1; $k > 0; --$k) {
            $re[] = $lr[$k] + $ri[$k];
            $im[] = $rr[$k] - $li[$k];
        }

        return [$re, $im];
    }

    /**
     * Nothing is moved, and the next move begins without a turn.
     *
     * @param  list<list<float>>  $sides
     * @return list<list<float>>
     */
    private function kept(array $sides): array
    {
        $this->turns = array_fill(0, count($sides[0]), 0.0);
        $this->powerBefore = 0.0;

        return $sides;
    }

    /**
     * @param  list<list<float>>  $sides
     * @return list<list<float>>
     */
    private function moved(array $sides, float $ratio): array
    {
        $power = self::power($sides);
        $all = array_sum($power);
        $isAttack = $all > self::ATTACK * $this->powerBefore;
        $this->powerBefore = $all;
        $peaks = self::peaks($power);
        [$lr, $li, $rr, $ri] = $sides;
        [$plr, $pli, $prr, $pri] = $this->before;
        $half = count($lr) - 1;
        $silence = array_fill(0, $half + 1, 0.0);
        [$ylr, $yli, $yrr, $yri] = [$silence, $silence, $silence, $silence];
        $turns = $silence;
        $bin = M_PI / $half;
        for ($p = 0, $from = 0, $count = count($peaks); $p < $count; ++$p, $from = $to) {
            $k = $peaks[$p];
            $to = $p + 1 < $count ? (($k + $peaks[$p + 1]) >> 1) + 1 : $half + 1;
            $cr = $lr[$k] * $plr[$k] + $li[$k] * $pli[$k] + $rr[$k] * $prr[$k] + $ri[$k] * $pri[$k];
            $ci = $li[$k] * $plr[$k] - $lr[$k] * $pli[$k] + $ri[$k] * $prr[$k] - $rr[$k] * $pri[$k];
            $off = atan2($ci, $cr) - $bin * $k * $this->hop;
            $off -= 2.0 * M_PI * round($off / (2.0 * M_PI));
            $frequency = $bin * $k + ($cr === 0.0 && $ci === 0.0 ? 0.0 : $off / $this->hop);
            $further = ($ratio - 1.0) * $frequency;
            $turn = $isAttack ? 0.0 : fmod($this->turns[$k] + $further * $this->hop, 2.0 * M_PI);
            $bins = (int) round($further / $bin);
            // In the middle of the frame the phase is the true one, however far the bins are from where it should go.
            $angle = $turn + ($further - $bins * $bin) * $half;
            $cos = cos($angle);
            $sin = sin($angle);
            for ($i = $from; $i < $to; ++$i) {
                $turns[$i] = $turn;
                $at = $i + $bins;
                if ($at < 0 || $at > $half) {
                    continue;
                }
                $ylr[$at] += $cos * $lr[$i] - $sin * $li[$i];
                $yli[$at] += $cos * $li[$i] + $sin * $lr[$i];
                $yrr[$at] += $cos * $rr[$i] - $sin * $ri[$i];
                $yri[$at] += $cos * $ri[$i] + $sin * $rr[$i];
            }
        }
        $this->turns = $turns;
        // Neither end of the spectrum of a real sound turns.
        $yli[0] = $yri[0] = $yli[$half] = $yri[$half] = 0.0;

        return [$ylr, $yli, $yrr, $yri];
    }

    /**
     * @param  list<list<float>>  $sides
     * @return list<float> of both sides by bin
     */
    private static function power(array $sides): array
    {
        [$lr, $li, $rr, $ri] = $sides;
        $power = [];
        for ($k = 0, $n = count($lr); $k < $n; ++$k) {
            $power[] = $lr[$k] * $lr[$k] + $li[$k] * $li[$k] + $rr[$k] * $rr[$k] + $ri[$k] * $ri[$k];
        }

        return $power;
    }

    /**
     * Bins that stand out among the two on either side.
     *
     * @param  list<float>  $power
     * @return list<int>
     */
    private static function peaks(array $power): array
    {
        $peaks = [];
        for ($k = 2, $last = count($power) - 3; $k <= $last; ++$k) {
            $here = $power[$k];
            if ($here > self::FAINTEST && $here > $power[$k - 1] && $here >= $power[$k + 1] && $here > $power[$k - 2] && $here >= $power[$k + 2]) {
                $peaks[] = $k;
            }
        }

        return $peaks;
    }

    /**
     * Moves on by a hop and adds a frame.
     *
     * @param  list<float>  $sum
     * @param  list<float>  $frame
     * @return list<float>
     */
    private function laid(array $sum, array $frame, float $scale): array
    {
        $laid = [...array_slice($sum, $this->hop), ...array_fill(0, $this->hop, 0.0)];
        $window = $this->window;
        for ($i = 0, $n = count($laid); $i < $n; ++$i) {
            $laid[$i] += $scale * $window[$i] * $frame[$i];
        }

        return $laid;
    }
}
