<?php

declare(strict_types=1);

namespace Hafen\Hardware\Outboard;

use Hafen\Audio\Block;
use Hafen\Dsp\Filter\BiquadCascade;
use Hafen\Dsp\Filter\BiquadCoefficients;
use Hafen\Processor\Colour\TubeStage;
use Hafen\Processor\ParameterSpec;
use Hafen\Processor\ParameterValues;
use Hafen\Processor\Setting;

/** Coils and capacitors that lift and cut broadly, at the same place if wanted, and a valve that makes up for the loss. Stereo. */
final class PassiveEqualiser implements Circuit
{
    private readonly BiquadCascade $coils;

    private readonly TubeStage $valve;

    public static function spec(): UnitSpec
    {
        return new UnitSpec(
            'passive-equaliser',
            'Passive equaliser',
            'Broad lifts and cuts, low and high.',
            [
                ParameterSpec::choice('low-frequency', 'Low', ['30hz' => '30 Hz', '60hz' => '60 Hz', '100hz' => '100 Hz'], '60hz'),
                ParameterSpec::number('low-lift', 'Low lift', '', 0.0, 10.0, 0.0),
                ParameterSpec::number('low-cut', 'Low cut', '', 0.0, 10.0, 0.0),
                ParameterSpec::choice('high-frequency', 'High', ['3khz' => '3 kHz', '5khz' => '5 kHz', '8khz' => '8 kHz', '12khz' => '12 kHz'], '8khz'),
                ParameterSpec::number('high-lift', 'High lift', '', 0.0, 10.0, 0.0),
                ParameterSpec::number('high-cut', 'High cut', '', 0.0, 10.0, 0.0),
            ],
            isStereo: true, delay: 1.9, level: -0.3, highest: 19_000.0, hum: -88.0, hiss: -92.0, tail: 200.0,
        );
    }

    public function __construct(private readonly Setting $setting)
    {
        $this->coils = new BiquadCascade;
        $this->valve = new TubeStage($setting);
        $this->valve->set(ParameterValues::of(TubeStage::spec(), ['drive' => -10.0, 'output' => 10.0]));
    }

    public function turn(array $knobs): void
    {
        $rate = $this->setting->sampleRate;
        $low = (float) $knobs['low-frequency'];
        $this->coils->set([
            // Lift and cut meet a little apart, so that both together dip above what they lift.
            'low lift' => BiquadCoefficients::lowShelf($low, 0.6, 1.2 * (float) $knobs['low-lift'], $rate),
            'low cut' => BiquadCoefficients::lowShelf(2.0 * $low, 0.6, -1.4 * (float) $knobs['low-cut'], $rate),
            'high lift' => BiquadCoefficients::peaking(1000.0 * (float) $knobs['high-frequency'], 0.7, 1.4 * (float) $knobs['high-lift'], $rate),
            'high cut' => BiquadCoefficients::highShelf(min(10_000.0, 0.4 * $rate), 0.6, -1.4 * (float) $knobs['high-cut'], $rate),
        ]);
    }

    public function process(Block $block): void
    {
        $this->coils->process($block);
        $this->valve->process($block);
    }

    public function latency(): int
    {
        return $this->valve->latency();
    }
}
