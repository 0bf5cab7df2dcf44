<?php

declare(strict_types=1);

namespace Hafen\Hardware\Outboard;

use Hafen\Audio\Block;
use Hafen\Audio\Samples;
use Hafen\Dsp\Delay\DelayLine;
use Hafen\Processor\Colour\Drive;
use Hafen\Processor\ParameterSpec;
use Hafen\Processor\ParameterValues;
use Hafen\Processor\Setting;
use Hafen\Processor\Space\Spring;

/** A box with two springs: what drives them can be overdriven, and they are mixed with the direct sound. Mono. */
final class SpringTank implements Circuit
{
    /** Samples the springs work at a time. Long blocks take less of the machine, and the way through the springs is longer still. */
    private const AT_A_TIME = 512;

    private const WAY_SECONDS = 0.028;

    private readonly Drive $driver;

    private readonly Spring $springs;

    private readonly DelayLine $direct;

    /** What is left of the way through the springs, which takes a while. */
    private readonly DelayLine $way;

    private readonly int $atATime;

    /** @var list<float> what goes to the springs next */
    private array $waiting = [];

    /** @var list<float> what comes from them next */
    private array $sprung;

    private float $share = 0.0;

    public static function spec(): UnitSpec
    {
        return new UnitSpec(
            'spring-tank',
            'Spring tank',
            'Two springs in a box.',
            [
                ParameterSpec::number('dwell', 'Dwell', '', 0.0, 10.0, 5.0),
                ParameterSpec::number('tone', 'Tone', '', 0.0, 10.0, 5.0),
                ParameterSpec::number('mix', 'Mix', '', 0.0, 10.0, 3.0),
            ],
            isStereo: false, delay: 3.15, level: -1.4, highest: 14_000.0, hum: -78.0, hiss: -82.0, tail: 2500.0,
        );
    }

    public function __construct(Setting $setting)
    {
        $this->driver = new Drive($setting);
        $this->springs = new Spring($setting);
        $this->direct = new DelayLine($this->driver->latency());
        $way = (int) (self::WAY_SECONDS * $setting->sampleRate);
        $this->atATime = min($way, self::AT_A_TIME);
        $this->sprung = array_fill(0, $this->atATime, 0.0);
        $this->way = new DelayLine($way - $this->atATime);
    }

    public function turn(array $knobs): void
    {
        $drive = 3.0 * (float) $knobs['dwell'] - 9.0;
        $this->driver->set(ParameterValues::of(Drive::spec(), ['drive' => $drive, 'output' => -0.5 * $drive]));
        $this->springs->set(ParameterValues::of(Spring::spec(), ['decay' => 2.2, 'damping' => 800.0 * 2.0 ** (0.25 * (float) $knobs['tone'])]));
        $this->share = (float) $knobs['mix'] / 10.0;
    }

    public function process(Block $block): void
    {
        $wet = $this->throughSprings($block->left);
        $this->direct->process($block);
        $block->left = Samples::addScaled(Samples::scale($block->left, 1.0 - $this->share), $wet, $this->share);
    }

    /**
     * @param  list<float>  $samples
     * @return list<float> as many
     */
    private function throughSprings(array $samples): array
    {
        array_push($this->waiting, ...$samples);
        while (count($this->waiting) >= $this->atATime) {
            $wet = Block::mono(array_splice($this->waiting, 0, $this->atATime));
            $this->driver->process($wet);
            $this->way->process($wet);
            $this->springs->process($wet);
            array_push($this->sprung, ...Samples::mid($wet->left, $wet->right()));
        }

        return array_splice($this->sprung, 0, count($samples));
    }

    public function latency(): int
    {
        return $this->driver->latency();
    }
}
