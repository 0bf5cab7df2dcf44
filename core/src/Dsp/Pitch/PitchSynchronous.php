<?php

declare(strict_types=1);

namespace Hafen\Dsp\Pitch;

use Closure;
use Hafen\Audio\Block;
use Hafen\Audio\Samples;

/**
 * Moves the pitch of a single voice and leaves its formants where they are, or moves them by themselves.
 *
 * Source: E. Moulines, F. Charpentier, "Pitch-synchronous waveform processing", Speech Communication 1990 (time domain, PSOLA): one grain a
 * period, put down closer or wider apart. Each half of a grain is a half of a Hann window as long as the way to the next mark, so that
 * grains left in place add up to the sound itself. Where there is no pitch, grains stay in place. Work is done every
 * {@see HOP} samples (at 48 kHz) counted from the first, whatever the blocks.
 */
final class PitchSynchronous
{
    /** Samples from one look at the pitch to the next, up to 68 kHz; see {@see PitchTracker::scale()}. */
    private const HOP = 512;

    /** Half a window, a hop and two of the longest periods. */
    private const DELAY = 3072;

    /** Samples from mark to mark where there is no pitch. */
    private const UNVOICED = 320.0;

    private const KEPT = 6144;

    /** Samples grains may reach beyond the delay. */
    private const AHEAD = 4096;

    private readonly int $scale;

    private readonly int $hop;

    private readonly PitchTracker $tracker;

    /** @var list<float> what was heard up to the last look, `base` is the number of the first */
    private array $left = [];

    /** @var list<float> */
    private array $right = [];

    /** @var list<float> what was heard since the last look */
    private array $newLeft = [];

    /** @var list<float> */
    private array $newRight = [];

    /** @var list<float> what is put out up to the next look */
    private array $readyLeft = [];

    /** @var list<float> */
    private array $readyRight = [];

    private int $base = 0;

    /** Samples heard. */
    private int $count = 0;

    /** @var array<int, float> sum of grains, from the sample that is put out after the next look */
    private array $outLeft = [];

    /** @var array<int, float> */
    private array $outRight = [];

    /** @var list<array{float, float}> marks in the sound heard: places and the period from each to the next */
    private array $marks = [];

    /** Where the next grain is put down. */
    private float $next = 0.0;

    /** Samples of silence, one after another, up to the last look. */
    private int $quiet = 0;

    /** Period found last, samples. */
    private ?float $period = null;

    public function __construct(int $sampleRate)
    {
        $this->scale = PitchTracker::scale($sampleRate);
        $this->hop = self::HOP * $this->scale;
        $this->tracker = new PitchTracker($sampleRate);
        $this->reset();
    }

    /** Samples by which the sound comes later. */
    public static function delay(int $sampleRate): int
    {
        return self::DELAY * PitchTracker::scale($sampleRate);
    }

    /** Samples from one look at the pitch to the next. */
    public static function hop(int $sampleRate): int
    {
        return self::HOP * PitchTracker::scale($sampleRate);
    }

    /** Samples by which the sound that is moved lies behind a look at the pitch: half of what is looked at. */
    public static function lookBack(int $sampleRate): int
    {
        return intdiv(PitchTracker::WINDOW * PitchTracker::scale($sampleRate), 2);
    }

    /** Period found last in samples, null where there is no pitch. */
    public function period(): ?float
    {
        return $this->period;
    }

    public function reset(): void
    {
        $silence = array_fill(0, self::KEPT * $this->scale, 0.0);
        $this->left = $this->right = $silence;
        $this->base = -self::KEPT * $this->scale;
        $this->count = 0;
        $this->newLeft = $this->newRight = [];
        $this->readyLeft = $this->readyRight = array_fill(0, $this->hop, 0.0);
        $this->outLeft = $this->outRight = array_fill(0, (self::DELAY + self::AHEAD) * $this->scale, 0.0);
        $this->marks = [[-2.0 * self::UNVOICED, self::UNVOICED]];
        $this->next = -2.0 * self::UNVOICED;
        $this->period = null;
        $this->quiet = 0;
    }

    /**
     * @param  Closure(?float): float  $ratio  what to multiply the pitch by, for the period in samples; asked once every {@see hop()}
     * @param  float  $formants  what to multiply the formants by
     */
    public function process(Block $block, Closure $ratio, float $formants = 1.0): void
    {
        $mono = $block->mono && $this->left === $this->right && $this->newLeft === $this->newRight;
        if ($block->mono && ! $mono) {
            $block->widen();
        }
        $inLeft = $block->left;
        $inRight = $block->right();
        $left = $right = [];
        for ($done = 0, $frames = count($inLeft); $done < $frames; $done = $end) {
            $at = $this->count % $this->hop;
            $end = min($frames, $done + $this->hop - $at);
            $length = $end - $done;
            array_push($this->newLeft, ...array_slice($inLeft, $done, $length));
            array_push($left, ...array_slice($this->readyLeft, $at, $length));
            if ($mono) {
                $this->newRight = $this->newLeft;
            } else {
                array_push($this->newRight, ...array_slice($inRight, $done, $length));
                array_push($right, ...array_slice($this->readyRight, $at, $length));
            }
            $this->count += $length;
            if ($this->count % $this->hop === 0) {
                $this->look($ratio, $formants, $mono);
            }
        }
        $block->left = $left;
        $block->right = $right;
    }

    private function look(Closure $ratio, float $formants, bool $mono): void
    {
        $isSilent = Samples::peak($this->newLeft) === 0.0 && ($mono || Samples::peak($this->newRight) === 0.0);
        $this->quiet = $isSilent ? $this->quiet + $this->hop : 0;
        if ($this->isQuiet()) {
            // All that is kept is silent already, and stays so.
            $this->newLeft = $this->newRight = [];
            $this->base += $this->hop;
            $this->work($ratio, $formants, $mono);

            return;
        }
        $this->left = [...$this->left, ...$this->newLeft];
        $this->right = $mono ? $this->left : [...$this->right, ...$this->newRight];
        $this->newLeft = $this->newRight = [];
        $this->work($ratio, $formants, $mono);
        [$this->readyLeft, $this->outLeft] = $this->divided($this->outLeft);
        [$this->readyRight, $this->outRight] = $mono ? [$this->readyLeft, $this->outLeft] : $this->divided($this->outRight);
    }

    /** Whether silence has gone through all of it. */
    private function isQuiet(): bool
    {
        return $this->quiet >= (self::KEPT + self::DELAY + self::AHEAD + self::HOP) * $this->scale;
    }

    /**
     * @param  array<int, float>  $out
     * @return array{list<float>, list<float>} what is put out until the next look, and what comes after it
     */
    private function divided(array $out): array
    {
        return [array_slice($out, 0, $this->hop), [...array_slice($out, $this->hop), ...array_fill(0, $this->hop, 0.0)]];
    }

    private function work(Closure $ratio, float $formants, bool $mono): void
    {
        $spare = count($this->left) - self::KEPT * $this->scale;
        if ($spare > 0) {
            $this->left = array_slice($this->left, $spare);
            $this->right = $mono ? $this->left : array_slice($this->right, $spare);
            $this->base += $spare;
        }
        // Marks are set on, so that it goes on as it would have; grains of silence add nothing.
        $isSilent = $this->isQuiet();
        $window = $isSilent ? [] : array_slice($this->left, -$this->tracker->window);
        $this->period = $isSilent ? null : $this->tracker->period($mono ? $window : Samples::mid($window, array_slice($this->right, -$this->tracker->window)));
        /** @var float $factor */
        $factor = $ratio($this->period);
        // The window's middle lies so far back: marks are set up to there.
        $until = $this->count - intdiv($this->tracker->window, 2);
        [$position] = $this->marks[count($this->marks) - 1];
        $step = $this->period ?? self::UNVOICED * $this->scale;
        while ($position + $step < $until) {
            $this->marks[count($this->marks) - 1][1] = $step;
            $position += $step;
            $this->marks[] = [$position, $step];
        }
        $reach = $this->marks[count($this->marks) - 1][0];
        while ($this->next < $reach) {
            $mark = $this->nearest($this->next);
            if ($mark + 1 >= count($this->marks)) {
                break;
            }
            [$position, $after] = $this->marks[$mark];
            $before = $mark > 0 ? $this->marks[$mark - 1][1] : $after;
            $isSilent || $this->put($position, $this->next, $before, $after, $formants, 1.0 / sqrt($factor), $mono);
            $this->next += $after / $factor;
        }
        while (count($this->marks) > 3 && $this->marks[1][0] < min($this->next, $reach) - 2000.0 * $this->scale) {
            array_shift($this->marks);
        }
    }

    private function nearest(float $position): int
    {
        $best = 0;
        foreach ($this->marks as $index => [$at]) {
            if (abs($at - $position) <= abs($this->marks[$best][0] - $position)) {
                $best = $index;
            }
        }

        return $best;
    }

    /** Puts down the grain around one place at another. */
    private function put(float $from, float $to, float $before, float $after, float $formants, float $gain, bool $mono): void
    {
        $before /= $formants;
        $after /= $formants;
        // The first sample put out next is number count - delay.
        $origin = $this->count - self::DELAY * $this->scale;
        $first = max((int) ceil($to - $before), $origin);
        $last = (int) floor($to + $after);
        $offset = $from - $this->base;
        self::grain($this->outLeft, $this->left, $first, $last, $origin, $offset, $to, $before, $after, $formants, $gain);
        if (! $mono) {
            self::grain($this->outRight, $this->right, $first, $last, $origin, $offset, $to, $before, $after, $formants, $gain);
        }
    }

    /**
     * @param  array<int, float>  $out  is changed where it is: a copy for each grain would cost more than the grain
     * @param  list<float>  $in
     *
     * @param-out array<int, float> $out
     */
    private static function grain(array &$out, array $in, int $first, int $last, int $origin, float $offset, float $to, float $before, float $after, float $formants, float $gain): void
    {
        $highest = count($in) - 3;
        for ($i = $first; $i <= $last; ++$i) {
            $away = $i - $to;
            $share = $away < 0.0 ? -$away / $before : $away / $after;
            $at = $offset + $formants * $away;
            $whole = (int) $at;
            if ($whole < 1 || $whole > $highest || $share >= 1.0) {
                continue;
            }
            $part = $at - $whole;
            $a = $in[$whole - 1];
            $b = $in[$whole];
            $c = $in[$whole + 1];
            $d = $in[$whole + 2];
            $read = $b + 0.5 * $part * ($c - $a + $part * (2.0 * $a - 5.0 * $b + 4.0 * $c - $d + $part * (3.0 * ($b - $c) + $d - $a)));
            $out[$i - $origin] += $gain * (0.5 + 0.5 * cos(M_PI * $share)) * $read;
        }
    }
}
