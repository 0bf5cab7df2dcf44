<?php

declare(strict_types=1);

namespace Hafen\Processor\Movement;

use Hafen\Audio\Block;
use Hafen\Audio\Decibel;
use Hafen\Audio\Samples;
use Hafen\Dsp\Delay\WaveringTap;
use Hafen\Dsp\Filter\BiquadCascade;
use Hafen\Dsp\Filter\LinkwitzRiley;
use Hafen\Dsp\Lfo;
use Hafen\Processor\Axis;
use Hafen\Processor\ChipLabel;
use Hafen\Processor\ParameterSpec;
use Hafen\Processor\ParameterValues;
use Hafen\Processor\Picture;
use Hafen\Processor\Positioned;
use Hafen\Processor\Processor;
use Hafen\Processor\ProcessorSpec;
use Hafen\Processor\Scale;
use Hafen\Processor\Setting;

/**
 * A loudspeaker that turns: the highs from a horn, the lows from a drum the other way round, heard from both sides.
 *
 * Source: J. O. Smith, S. Serafin, J. Abel, D. Berners, DAFx 2002, on simulating Doppler shifts of turning loudspeakers: for each side the path is longer by
 * r/c cos(angle), the level follows the angle. Horn and drum part at 800 Hz (Linkwitz-Riley) and come up to speed with an inertia
 * of their own. The middle of the path, 1 ms, is declared as latency.
 */
final class Rotary implements Positioned, Processor
{
    private const STEP = 64;

    private const CROSSOVER = 800.0;

    private const MIDDLE_MILLISECONDS = 1.0;

    /** Slow and fast in Hz, seconds to come up to speed, ms of Doppler each way, share of the level that turns. */
    private const HORN = ['slow' => 0.8, 'fast' => 6.7, 'inertia' => 0.5, 'path' => 0.55, 'depth' => 0.6];

    private const DRUM = ['slow' => 0.66, 'fast' => 5.7, 'inertia' => 2.2, 'path' => 0.35, 'depth' => 0.35];

    private readonly Lfo $horn;

    private readonly Lfo $drum;

    private readonly BiquadCascade $high;

    private readonly BiquadCascade $low;

    private readonly WaveringTap $hornTap;

    private readonly WaveringTap $drumTap;

    private float $hornRate = -1.0;

    private float $drumRate = -1.0;

    private string $speed = 'slow';

    private float $amount = 1.0;

    private float $width = 1.0;

    public static function spec(): ProcessorSpec
    {
        return new ProcessorSpec(
            'rotary',
            'Rotary',
            'Rotary', 'Movement',
            'A loudspeaker that turns.',
            [
                ParameterSpec::choice('speed', 'Speed', ['stop' => 'Still', 'slow' => 'Slow', 'fast' => 'Fast'], 'slow'),
                ParameterSpec::number('depth', 'Depth', '%', 0.0, 100.0, 80.0, step: 1.0),
                ParameterSpec::number('width', 'Width', '%', 0.0, 100.0, 80.0, step: 1.0),
                ParameterSpec::decibels('horn', 'Horn', -24.0, 12.0, 0.0),
                ParameterSpec::decibels('drum', 'Drum', -24.0, 12.0, 0.0),
            ],
            widens: true,
            synonyms: ['rotating', 'organ', 'speaker', 'doppler', 'modulation', 'tremolo'],
        );
    }

    public static function label(ParameterValues $values): string
    {
        return 'Rotary '.match ($values->choice('speed')) {
            'stop' => 'still',
            default => $values->choice('speed'),
        };
    }

    public static function chip(ParameterValues $values): ChipLabel
    {
        return new ChipLabel('Rotary', $values->choice('speed') === 'stop' ? 'still' : $values->choice('speed'));
    }

    public static function picture(ParameterValues $values, Setting $setting): Picture
    {
        $curves = [];
        $depth = $values->number('depth') / 100.0;
        foreach (['horn' => self::HORN, 'drum' => self::DRUM] as $name => $part) {
            $rate = $values->choice('speed') === 'stop' ? 0.0 : $part[$values->choice('speed')];
            $points = array_map(static fn (int $i): array => [$i / 60, round(100.0 * (1.0 - $depth * $part['depth'] * (0.5 - 0.5 * cos(2.0 * M_PI * $rate * $i / 60))), 2)], range(0, 120));
            $curves[] = ['label' => $name, 'points' => $points];
        }

        return new Picture('Level on the left', new Axis('s', 0.0, 2.0, Scale::Linear), new Axis('%', 0.0, 110.0, Scale::Linear), $curves);
    }

    public static function latencyOf(ParameterValues $values, Setting $setting): int
    {
        return (int) round(self::MIDDLE_MILLISECONDS * $setting->sampleRate / 1000.0);
    }

    private float $hornGain = 1.0;

    private float $drumGain = 1.0;

    public function __construct(private readonly Setting $setting)
    {
        $room = (int) ceil(2.0 * self::MIDDLE_MILLISECONDS * $setting->sampleRate / 1000.0);
        $this->horn = new Lfo;
        $this->drum = new Lfo;
        $this->hornTap = new WaveringTap($room);
        $this->drumTap = new WaveringTap($room);
        $this->high = new BiquadCascade;
        $this->low = new BiquadCascade;
        $this->high->set(LinkwitzRiley::band(1, [self::CROSSOVER], $setting->sampleRate));
        $this->low->set(LinkwitzRiley::band(0, [self::CROSSOVER], $setting->sampleRate));
    }

    public function set(ParameterValues $values): void
    {
        $this->speed = $values->choice('speed');
        $this->amount = $values->number('depth') / 100.0;
        $this->width = $values->number('width') / 100.0;
        $this->hornGain = Decibel::toGain($values->number('horn'));
        $this->drumGain = Decibel::toGain($values->number('drum'));
        if ($this->hornRate < 0.0) {
            $this->hornRate = self::target(self::HORN, $this->speed);
            $this->drumRate = self::target(self::DRUM, $this->speed);
            $this->horn->rate($this->hornRate, $this->setting->sampleRate);
            $this->drum->rate($this->drumRate, $this->setting->sampleRate);
        }
    }

    public function at(int $position): void
    {
        $this->horn->at($position);
        $this->drum->at($position);
    }

    public function process(Block $block): void
    {
        $mid = Samples::mid($block->left, $block->right());
        $high = Block::mono($mid);
        $low = Block::mono($mid);
        $this->high->process($high);
        $this->low->process($low);
        $this->hornTap->hear($high->left);
        $this->drumTap->hear($low->left);
        $hornAngles = $drumAngles = [];
        for ($done = 0, $frames = count($mid); $done < $frames; $done = $end) {
            $into = $this->horn->position() % self::STEP;
            if ($into === 0) {
                $this->hornRate = $this->turned($this->horn, $this->hornRate, self::HORN);
                $this->drumRate = $this->turned($this->drum, $this->drumRate, self::DRUM);
            }
            $end = min($frames, $done + self::STEP - $into);
            $hornAngles = self::angles($hornAngles, $this->horn, $end - $done);
            $drumAngles = self::angles($drumAngles, $this->drum, $end - $done);
        }
        $sides = [];
        foreach ([0.0, M_PI * $this->width] as $ear) {
            // The drum turns the other way.
            $horn = $this->heard($this->hornTap, $hornAngles, $ear, 1.0, self::HORN, $this->hornGain);
            $drum = $this->heard($this->drumTap, $drumAngles, $ear, -1.0, self::DRUM, $this->drumGain);
            $sides[] = Samples::addScaled($horn, $drum, 1.0);
        }
        [$block->left, $block->right] = $sides;
        $block->mono = false;
    }

    public function reset(): void
    {
        foreach ([$this->horn, $this->drum, $this->high, $this->low, $this->hornTap, $this->drumTap] as $part) {
            $part->reset();
        }
        $this->hornRate = self::target(self::HORN, $this->speed);
        $this->drumRate = self::target(self::DRUM, $this->speed);
        $this->horn->rate($this->hornRate, $this->setting->sampleRate);
        $this->drum->rate($this->drumRate, $this->setting->sampleRate);
        $this->horn->reset();
        $this->drum->reset();
    }

    public function latency(): int
    {
        return (int) round(self::MIDDLE_MILLISECONDS * $this->setting->sampleRate / 1000.0);
    }

    public function tail(): int
    {
        return intdiv($this->setting->sampleRate, 50);
    }

    /** @param  array{slow: float, fast: float, inertia: float, path: float, depth: float}  $part */
    private static function target(array $part, string $speed): float
    {
        return match ($speed) {
            'slow' => $part['slow'],
            'fast' => $part['fast'],
            default => 0.0,
        };
    }

    /**
     * Comes a step nearer to the wanted speed.
     *
     * @param  array{slow: float, fast: float, inertia: float, path: float, depth: float}  $part
     */
    private function turned(Lfo $lfo, float $rate, array $part): float
    {
        $target = self::target($part, $this->speed);
        if ($rate === $target) {
            return $rate;
        }
        $rate = $target + ($rate - $target) * exp(-self::STEP / ($part['inertia'] * $this->setting->sampleRate));
        if (abs($rate - $target) < 0.001) {
            $rate = $target;
        }
        $lfo->rate($rate, $this->setting->sampleRate);

        return $rate;
    }

    /**
     * @param  list<float>  $angles
     * @return list<float>
     */
    private static function angles(array $angles, Lfo $lfo, int $frames): array
    {
        [$phase, $turn, $since] = $lfo->angle();
        for ($i = 0; $i < $frames; ++$i) {
            $angles[] = $phase + $turn * ($since + $i);
        }
        $lfo->advance($frames);

        return $angles;
    }

    /**
     * One part as one ear hears it.
     *
     * @param  list<float>  $angles
     * @param  array{slow: float, fast: float, inertia: float, path: float, depth: float}  $part
     * @return list<float>
     */
    private function heard(WaveringTap $tap, array $angles, float $ear, float $direction, array $part, float $gain): array
    {
        $middle = self::MIDDLE_MILLISECONDS * $this->setting->sampleRate / 1000.0;
        $path = $this->amount * $part['path'] * $this->setting->sampleRate / 1000.0;
        $half = 0.5 * $this->amount * $part['depth'];
        $delays = $gains = [];
        for ($i = 0, $n = count($angles); $i < $n; ++$i) {
            $near = cos($direction * $angles[$i] - $ear);
            $delays[] = $middle - $path * $near;
            $gains[] = $gain * (1.0 - $half + $half * $near);
        }

        return Samples::multiply($tap->read($delays), $gains);
    }
}
