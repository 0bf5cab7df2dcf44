<?php

declare(strict_types=1);

namespace Hafen\Processor;

/**
 * A picture that explains a processor's values: curves over two axes, and handles to drag.
 *
 * A handle's place is a pair of values on the axes; dragging it sets the parameters it names, so an editor
 * needs to know nothing about the processor.
 */
final readonly class Picture
{
    /**
     * @param  list<array{label: string, points: list<array{float, float}>}>  $curves
     * @param  list<array{label: string, x: float, y: float, xParameter: ?string, yParameter: ?string}>  $handles
     * @param  ?string  $reading  "transfer" when the level now and its reduction can be shown on the curve, "response" when the sound by
     *                            frequency can be shown behind it
     */
    public function __construct(
        public string $title,
        public Axis $x,
        public Axis $y,
        public array $curves,
        public array $handles = [],
        public ?string $reading = null,
    ) {
    }

    /**
     * Level in dB over frequency, from an amplitude function.
     *
     * @param  callable(float): float  $magnitude
     * @param  list<array{label: string, x: float, y: float, xParameter: ?string, yParameter: ?string}>  $handles
     */
    public static function response(callable $magnitude, int $sampleRate, float $range, array $handles = [], string $title = 'Response'): self
    {
        $points = [];
        $steps = 240;
        $highest = min(20000.0, 0.49 * $sampleRate);
        for ($i = 0; $i <= $steps; ++$i) {
            $frequency = 20.0 * ($highest / 20.0) ** ($i / $steps);
            $points[] = [round($frequency, 2), round(20 * log10(max(1e-7, $magnitude($frequency))), 3)];
        }

        return new self(
            $title,
            new Axis('Hz', 20.0, 20000.0, Scale::Logarithmic),
            new Axis('dB', -$range, $range, Scale::Linear),
            [['label' => 'response', 'points' => $points]],
            $handles,
            'response',
        );
    }

    /**
     * Output level over input level, both in dB.
     *
     * @param  callable(float): float  $curve
     * @param  list<array{label: string, x: float, y: float, xParameter: ?string, yParameter: ?string}>  $handles
     */
    public static function transfer(callable $curve, array $handles, float $lowest = -60.0): self
    {
        $points = [];
        for ($level = $lowest; $level <= 6.0; $level += 0.5) {
            $points[] = [$level, round($curve($level), 3)];
        }

        return new self(
            'Level in, level out',
            new Axis('dB in', $lowest, 6.0, Scale::Linear),
            new Axis('dB out', $lowest, 6.0, Scale::Linear),
            [['label' => 'unchanged', 'points' => [[$lowest, $lowest], [6.0, 6.0]]], ['label' => 'curve', 'points' => $points]],
            $handles,
            'transfer',
        );
    }

    /**
     * Pitch out over pitch in, both in semitones.
     *
     * @param  list<array{float, float}>  $points
     */
    public static function pitch(array $points, float $range, string $title = 'Pitch in, pitch out'): self
    {
        return new self(
            $title,
            new Axis('st in', -12.0, 12.0, Scale::Linear),
            new Axis('st out', -$range, $range, Scale::Linear),
            [['label' => 'unchanged', 'points' => [[-12.0, -12.0], [12.0, 12.0]]], ['label' => 'curve', 'points' => $points]],
        );
    }

    /** @return array<string, mixed> */
    public function toArray(): array
    {
        return [
            'title' => $this->title,
            'x' => $this->x->toArray(),
            'y' => $this->y->toArray(),
            'curves' => $this->curves,
            'handles' => $this->handles,
            'reading' => $this->reading,
        ];
    }
}
