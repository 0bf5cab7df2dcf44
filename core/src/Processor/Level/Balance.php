<?php

declare(strict_types=1);

namespace Hafen\Processor\Level;

use Hafen\Processor\Axis;
use Hafen\Processor\ChipLabel;
use Hafen\Processor\ParameterSpec;
use Hafen\Processor\ParameterValues;
use Hafen\Processor\Picture;
use Hafen\Processor\Processor;
use Hafen\Processor\ProcessorSpec;
use Hafen\Processor\Scale;
use Hafen\Processor\Setting;

/**
 * Moves the sound between the sides.
 *
 * Balance keeps the sides apart and turns down the one that is moved away from; pan makes one sound of both and places it
 * with constant power, -3.01 dB a side in the middle. Source: the sine and cosine law of a quarter turn (practice).
 */
final class Balance implements Processor
{
    use Matrix;

    public static function spec(): ProcessorSpec
    {
        return new ProcessorSpec(
            'balance',
            'Pan and balance',
            'Pan', 'Level',
            'Moves the sound between the sides inside the row.',
            [
                ParameterSpec::choice('mode', 'Mode', ['balance' => 'Balance', 'pan' => 'Pan'], 'balance'),
                ParameterSpec::number('position', 'Position', '%', -100.0, 100.0, 0.0, step: 1.0),
            ],
            widens: true,
            synonyms: ['pan', 'left', 'right', 'place', 'image'],
        );
    }

    public static function label(ParameterValues $values): string
    {
        $position = $values->number('position');

        return ($values->choice('mode') === 'pan' ? 'Pan ' : 'Balance ').($position === 0.0 ? 'middle' : round(abs($position)).($position < 0.0 ? ' L' : ' R'));
    }

    public static function chip(ParameterValues $values): ChipLabel
    {
        $position = $values->number('position');

        return new ChipLabel(
            $values->choice('mode') === 'pan' ? 'Pan' : 'Bal',
            round($position) === 0.0 ? 'middle' : ($position < 0.0 ? 'L ' : 'R ').round(abs($position)),
        );
    }

    public static function picture(ParameterValues $values, Setting $setting): Picture
    {
        $points = [[], []];
        for ($position = -100; $position <= 100; $position += 2) {
            foreach (self::gains($values->choice('mode'), $position / 100.0) as $side => $gain) {
                $points[$side][] = [(float) $position, round(max(-60.0, 20 * log10(max(1e-4, $gain))), 3)];
            }
        }

        return new Picture(
            'Level of the sides',
            new Axis('%', -100.0, 100.0, Scale::Linear),
            new Axis('dB', -40.0, 6.0, Scale::Linear),
            [['label' => 'left', 'points' => $points[0]], ['label' => 'right', 'points' => $points[1]]],
            [['label' => '', 'x' => $values->number('position'), 'y' => 0.0, 'xParameter' => 'position', 'yParameter' => null]],
        );
    }

    /** @return array{float, float, float, float} */
    private static function factors(ParameterValues $values): array
    {
        [$left, $right] = self::gains($values->choice('mode'), $values->number('position') / 100.0);

        return $values->choice('mode') === 'pan' ? [0.5 * $left, 0.5 * $left, 0.5 * $right, 0.5 * $right] : [$left, 0.0, 0.0, $right];
    }

    /** @return array{float, float} amplitude factors of the left and the right side, for a position from -1 to 1 */
    private static function gains(string $mode, float $position): array
    {
        if ($mode === 'balance') {
            return [min(1.0, 1.0 - $position), min(1.0, 1.0 + $position)];
        }
        $angle = M_PI_4 * ($position + 1.0);

        return [abs(cos($angle)), sin($angle)];
    }
}
