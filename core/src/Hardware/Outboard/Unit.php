<?php

declare(strict_types=1);

namespace Hafen\Hardware\Outboard;

use Hafen\Audio\Block;
use Hafen\Audio\Decibel;
use Hafen\Audio\Samples;
use Hafen\Dsp\Noise;
use Hafen\Processor\Setting;

/** A unit of outboard that is made by code: its circuit, with the delay, the band, the level, the hum and the hiss of its electronics. */
final class Unit
{
    /** Hz. */
    private const MAINS = 50;

    /** Samples of delay its electronics need. */
    private const SHORTEST = 26.0;

    private readonly UnitSpec $spec;

    /** @var list<Electronics> of each side */
    private array $electronics = [];

    /** @var list<Noise> of each side */
    private array $hiss = [];

    /** @var list<float> the hum over a time after which it repeats */
    private readonly array $hum;

    /** Where in it the next sample is. */
    private int $at = 0;

    /** Samples of silence that came in last. */
    private int $silent;

    /** @param  array<string, float|string|bool>  $knobs  those that are not as it comes */
    public function __construct(private readonly Circuit $circuit, array $knobs, private readonly int $sampleRate)
    {
        $this->spec = $circuit::spec();
        for ($side = 0; $side < ($this->spec->isStereo ? 2 : 1); ++$side) {
            $this->electronics[] = new Electronics($this->delay() - $circuit->latency(), $this->spec->highest, $sampleRate);
            $this->hiss[] = new Noise(crc32($this->spec->id) + 7919 * $side);
        }
        $hum = [];
        $level = M_SQRT2 * Decibel::toGain($this->spec->hum);
        $turn = 2.0 * M_PI * self::MAINS / $sampleRate;
        for ($i = 0, $repeats = $sampleRate % self::MAINS === 0 ? intdiv($sampleRate, self::MAINS) : $sampleRate; $i < $repeats; ++$i) {
            $hum[] = $level * (0.9 * sin($turn * $i) + 0.43 * sin(3.0 * $turn * $i));
        }
        $this->hum = $hum;
        $this->silent = $this->tail();
        $this->turn($knobs);
    }

    /**
     * @param  array<string, float|string|bool>  $knobs  those that are not as it comes
     *
     * @throws \OutOfBoundsException where there is no such unit
     */
    public static function named(string $id, array $knobs, Setting $setting): self
    {
        $circuit = Rack::circuit($id);

        return new self(new $circuit($setting), $knobs, $setting->sampleRate);
    }

    /** @param  array<string, float|string|bool>  $knobs  those that are not as it comes */
    public function turn(array $knobs): void
    {
        $this->circuit->turn($this->spec->positions($knobs));
    }

    /** Its delay in samples. */
    public function delay(): float
    {
        return max($this->spec->delay / 1000.0 * $this->sampleRate, $this->circuit->latency() + self::SHORTEST);
    }

    private function tail(): int
    {
        return (int) ceil($this->spec->tail / 1000.0 * $this->sampleRate);
    }

    public function process(Block $block): void
    {
        if ($this->spec->isStereo) {
            $block->widen();
        }
        $this->silent = Samples::peak($block->left) > 0.0 || Samples::peak($block->right()) > 0.0 ? 0 : $this->silent + $block->frames();
        if ($this->silent < $this->tail()) {
            $this->circuit->process($block);
            $block->left = $this->electronics[0]->process($block->left);
            if ($this->spec->isStereo) {
                $block->right = $this->electronics[1]->process($block->right());
            }
        }
        $block->left = $this->noisy($block->left, $this->hiss[0]);
        if ($this->spec->isStereo) {
            $block->right = $this->noisy($block->right(), $this->hiss[1]);
        }
        $this->at = ($this->at + $block->frames()) % count($this->hum);
    }

    /**
     * With its level, its hum (the mains and their third harmonic) and its hiss.
     *
     * @param  list<float>  $samples
     * @return list<float>
     */
    private function noisy(array $samples, Noise $hissing): array
    {
        $level = Decibel::toGain($this->spec->level);
        // Evenly spread noise has a third of its peak's energy.
        $hiss = sqrt(3.0) * Decibel::toGain($this->spec->hiss);
        $noise = $hissing->samples(count($samples));
        $hum = $this->hum;
        $at = $this->at;
        $repeats = count($hum);
        for ($i = 0, $n = count($samples); $i < $n; ++$i) {
            $samples[$i] = $level * $samples[$i] + $hum[$at] + $hiss * $noise[$i];
            if (++$at === $repeats) {
                $at = 0;
            }
        }

        return $samples;
    }
}
