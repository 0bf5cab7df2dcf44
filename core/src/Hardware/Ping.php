<?php

declare(strict_types=1);

namespace Hafen\Hardware;

use Hafen\Audio\Decibel;
use Hafen\Audio\Samples;
use Hafen\Dsp\Spectrum\Fft;
use Hafen\Session\Hardware\HardwareLoop;
use Hafen\Session\Hardware\MeasuredDelay;

/**
 * Measures a hardware loop with sweeps: they go out, what comes back is averaged and divided by them.
 *
 * Source: Farina, "Simultaneous measurement of impulse response and distortion with a swept-sine technique", AES 108 (2000), with the division done
 * in the frequency domain. The whole delay is where the response is highest; what is left of it, a part of a sample, is the slope of its phase
 * between 1 and 6 kHz. Only what comes first counts: echoes and springs come later.
 */
final readonly class Ping
{
    private const SWEEPS = 3;

    /** Peak of the sweep in dBFS. */
    private const LEVEL = -18.0;

    /** Samples of a sweep. */
    private const LENGTH = 8192;

    /** Seconds a loop can take at the most. */
    private const LONGEST = 0.6;

    /** Samples before and after the first sound that belong to it. */
    private const NEAR = 256;

    /** Below this nothing came back, in dB. */
    private const LOWEST_LEVEL = -60.0;

    /** How far the first sound stands out of the rest. */
    private const STANDS_OUT = 6.0;

    public function __construct(private AudioInterface $interface, private int $sampleRate)
    {
    }

    /** Seconds it takes. */
    public static function seconds(int $sampleRate): float
    {
        return self::SWEEPS * self::period($sampleRate) / $sampleRate;
    }

    /** @throws PingFailed when nothing comes back, or it clips */
    public function measure(HardwareLoop $loop): PingResult
    {
        $sweep = $this->sweep();
        $period = self::period($this->sampleRate);
        $size = 1 << (int) ceil(log($period, 2));
        $this->interface->readings();
        $noise = $this->noise($loop);
        $response = array_fill(0, $size, 0.0);
        for ($i = 0; $i < self::SWEEPS; ++$i) {
            $response = Samples::addScaled($response, [...$this->response($loop, $sweep, $period), ...array_fill(0, $size - $period, 0.0)], 1.0 / self::SWEEPS);
        }
        $readings = $this->interface->readings();
        $clipped = array_sum(array_map(static fn (int $port): int => ($readings[$port] ?? null)->clipped ?? 0, $loop->inputs()));
        if ($clipped > 0) {
            throw PingFailed::clipped($loop, $clipped);
        }
        $impulse = $this->divided($response, [...$sweep, ...array_fill(0, $size - count($sweep), 0.0)], $size);

        return $this->read($impulse, $loop, $noise);
    }

    /**
     * @param  list<float>  $impulse
     *
     * @throws PingFailed
     */
    private function read(array $impulse, HardwareLoop $loop, ?float $noise): PingResult
    {
        $at = 0;
        foreach ($impulse as $i => $sample) {
            if (abs($sample) > abs($impulse[$at])) {
                $at = $i;
            }
        }
        $size = count($impulse);
        $rest = sqrt((Samples::energy($impulse) - Samples::energy(array_slice($impulse, max(0, $at - self::NEAR), 2 * self::NEAR))) / $size);
        $near = [];
        for ($i = -self::NEAR; $i < self::NEAR; ++$i) {
            // A window, so that its edges are not heard as clicks.
            $near[] = $impulse[($at + $i + $size) % $size] * (0.5 + 0.5 * cos(M_PI * $i / self::NEAR));
        }
        [$cosines, $sines] = (new Fft(2 * self::NEAR))->transform($near, array_fill(0, 2 * self::NEAR, 0.0));
        $sign = $impulse[$at] < 0.0 ? -1.0 : 1.0;
        $slope = $weights = $power = 0.0;
        $bins = 0;
        for ($bin = 1; $bin < self::NEAR; ++$bin) {
            $frequency = $bin * $this->sampleRate / (2 * self::NEAR);
            // The window begins so many samples before the peak.
            $turn = M_PI * $bin;
            $real = $sign * ($cosines[$bin] * cos($turn) - $sines[$bin] * sin($turn));
            $imaginary = $sign * ($sines[$bin] * cos($turn) + $cosines[$bin] * sin($turn));
            $weight = $real * $real + $imaginary * $imaginary;
            if ($frequency >= 1000.0 && $frequency <= min(6000.0, 0.3 * $this->sampleRate)) {
                $angle = M_PI * $bin / self::NEAR;
                $slope -= $weight * $angle * atan2($imaginary, $real);
                $weights += $weight * $angle * $angle;
            }
            if ($frequency >= 700.0 && $frequency <= 1400.0) {
                $power += $weight;
                ++$bins;
            }
        }
        $level = Decibel::fromGain(sqrt($power / max(1, $bins)));
        if ($level === null || $level < self::LOWEST_LEVEL || abs($impulse[$at]) < self::STANDS_OUT * $rest) {
            throw PingFailed::nothingBack($loop);
        }

        return new PingResult(new MeasuredDelay(round($at + $slope / $weights, 2), $this->interface->latency()->buffer), round($level, 2), $sign < 0.0, $noise);
    }

    /**
     * One sweep through the loop.
     *
     * @param  list<float>  $sweep
     * @return list<float> of the period
     */
    private function response(HardwareLoop $loop, array $sweep, int $period): array
    {
        $gain = Decibel::toGain($loop->returnTrim) * ($loop->invert ? -1.0 : 1.0);
        $sent = Samples::scale([...$sweep, ...array_fill(0, $period - count($sweep), 0.0)], Decibel::toGain($loop->sendTrim));
        $back = [];
        for ($at = 0; $at < $period; $at += $frames) {
            $frames = min($this->interface->longestBlock(), $period - $at);
            $this->interface->capture($frames);
            $sides = array_map($this->interface->input(...), $loop->inputs());
            $back = [...$back, ...(isset($sides[1]) ? Samples::mid($sides[0], $sides[1]) : $sides[0])];
            $out = array_slice($sent, $at, $frames);
            $this->interface->play(array_fill_keys($loop->outputs(), $out), $frames, null);
        }

        return Samples::scale($back, $gain);
    }

    /** What comes back while nothing goes out, in dBFS (RMS). */
    private function noise(HardwareLoop $loop): ?float
    {
        $energy = 0.0;
        $count = 0;
        while ($count < $this->sampleRate / 10) {
            $frames = $this->interface->longestBlock();
            $this->interface->capture($frames);
            $energy += Samples::energy($this->interface->input($loop->inputs()[0]));
            $count += $frames;
            $this->interface->play([], $frames, null);
        }
        $noise = Decibel::fromGain(sqrt($energy / $count));

        return $noise === null ? null : round($noise, 1);
    }

    /** @return list<float> from 100 Hz up to 0.45 of the rate, evenly in octaves, faded at its ends */
    private function sweep(): array
    {
        $peak = Decibel::toGain(self::LEVEL);
        $lowest = 2.0 * M_PI * 100.0 / $this->sampleRate;
        $octaves = log(0.9 * M_PI / $lowest);
        $sweep = [];
        for ($i = 0; $i < self::LENGTH; ++$i) {
            $fade = min(1.0, $i / 256, (self::LENGTH - 1 - $i) / 64);
            $sweep[] = $peak * $fade * sin($lowest * self::LENGTH / $octaves * (exp($octaves * $i / self::LENGTH) - 1.0));
        }

        return $sweep;
    }

    /**
     * What a loop makes of an impulse, from what it made of a sweep.
     *
     * @param  list<float>  $response
     * @param  list<float>  $sweep
     * @return list<float>
     */
    private function divided(array $response, array $sweep, int $size): array
    {
        $fft = new Fft($size);
        [$re, $im, $sweepRe, $sweepIm] = $fft->transformTwo($response, $sweep);
        $most = 0.0;
        foreach ($sweepRe as $k => $real) {
            $most = max($most, $real * $real + $sweepIm[$k] * $sweepIm[$k]);
        }
        $cosines = $sines = array_fill(0, $size, 0.0);
        for ($k = 1, $half = $size >> 1; $k < $half; ++$k) {
            // Where the sweep has nothing, nothing is made of what came back.
            $power = $sweepRe[$k] * $sweepRe[$k] + $sweepIm[$k] * $sweepIm[$k] + 1e-6 * $most;
            $cosines[$k] = ($re[$k] * $sweepRe[$k] + $im[$k] * $sweepIm[$k]) / $power;
            $sines[$k] = ($im[$k] * $sweepRe[$k] - $re[$k] * $sweepIm[$k]) / $power;
            $cosines[$size - $k] = $cosines[$k];
            $sines[$size - $k] = -$sines[$k];
        }
        // Backwards: the transform of the conjugate.
        [$impulse] = $fft->transform(array_values($cosines), array_values(array_map(static fn (float $sine): float => -$sine, $sines)));

        return array_map(static fn (float $sample): float => $sample / $size, $impulse);
    }

    private static function period(int $sampleRate): int
    {
        return self::LENGTH + (int) (self::LONGEST * $sampleRate);
    }
}
