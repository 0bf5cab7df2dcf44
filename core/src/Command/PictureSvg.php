<?php

declare(strict_types=1);

namespace Hafen\Command;

use Hafen\Processor\Axis;
use Hafen\Processor\Picture;
use Hafen\Processor\Scale;

/** A picture of a processor as SVG, in the colours of paper and ink. */
final class PictureSvg
{
    private const WIDTH = 480;

    private const HEIGHT = 220;

    private const MARGIN = 40;

    public static function of(Picture $picture): string
    {
        $lines = '';
        foreach (self::ticks($picture->x) as $tick) {
            $x = self::scaled($tick, $picture->x, self::MARGIN, self::WIDTH - 10);
            $lines .= self::line([[$x, 10], [$x, self::HEIGHT - 30]], '#c9d3d1', 1).self::text($x, self::HEIGHT - 16, self::short($tick), 'middle');
        }
        foreach (self::ticks($picture->y) as $tick) {
            $y = self::scaled($tick, $picture->y, self::HEIGHT - 30, 10);
            $lines .= self::line([[self::MARGIN, $y], [self::WIDTH - 10, $y]], '#c9d3d1', 1).self::text(self::MARGIN - 5, $y + 4, self::short($tick), 'end');
        }
        foreach ($picture->curves as $index => $curve) {
            $points = array_map(static fn (array $point): array => [
                self::scaled($point[0], $picture->x, self::MARGIN, self::WIDTH - 10),
                self::scaled($point[1], $picture->y, self::HEIGHT - 30, 10),
            ], $curve['points']);
            $lines .= $curve['label'] === 'unchanged' ? self::line($points, '#8fa3a6', 1) : self::line($points, ['#1d6f87', '#b8862d', '#69b0bb'][$index % 3], 1.6);
        }

        return sprintf('<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 %d %d" width="%d" height="%d" font-family="sans-serif" font-size="10" fill="#4b6268">', self::WIDTH, self::HEIGHT, self::WIDTH, self::HEIGHT)
            .'<rect width="100%" height="100%" fill="#fbf9f2"/>'.$lines
            .self::text(self::WIDTH - 12, self::HEIGHT - 4, trim("{$picture->title}: {$picture->x->unit} across, {$picture->y->unit} up"), 'end')."</svg>\n";
    }

    /** Within the frame. */
    private static function scaled(float $value, Axis $axis, float $from, float $to): float
    {
        $value = min(max($value, $axis->min), $axis->max);
        $share = $axis->scale === Scale::Logarithmic ? log($value / $axis->min) / log($axis->max / $axis->min) : ($value - $axis->min) / max(1e-9, $axis->max - $axis->min);

        return round($from + $share * ($to - $from), 1);
    }

    /** @return list<float> */
    private static function ticks(Axis $axis): array
    {
        if ($axis->scale === Scale::Logarithmic) {
            return array_values(array_filter([20.0, 50.0, 100.0, 200.0, 500.0, 1000.0, 2000.0, 5000.0, 10000.0, 20000.0], static fn (float $f): bool => $f >= $axis->min && $f <= $axis->max));
        }
        $rough = ($axis->max - $axis->min) / 5.0;
        $power = 10.0 ** floor(log10($rough));
        $step = $power * ($rough / $power < 1.5 ? 1.0 : ($rough / $power < 3.5 ? 2.0 : ($rough / $power < 7.5 ? 5.0 : 10.0)));
        $ticks = [];
        for ($k = (int) ceil($axis->min / $step); $k * $step <= $axis->max + 1e-9; ++$k) {
            $ticks[] = $k * $step;
        }

        return $ticks;
    }

    private static function short(float $value): string
    {
        return abs($value) >= 1000.0 ? round($value / 1000.0, 2).'k' : (string) round($value, 2);
    }

    /** @param  array<array{float, float}>  $points */
    private static function line(array $points, string $colour, float $width): string
    {
        $path = implode(' ', array_map(static fn (array $point): string => "{$point[0]},{$point[1]}", $points));

        return "<polyline points=\"{$path}\" fill=\"none\" stroke=\"{$colour}\" stroke-width=\"{$width}\"/>";
    }

    private static function text(float $x, float $y, string $text, string $anchor): string
    {
        return "<text x=\"{$x}\" y=\"{$y}\" text-anchor=\"{$anchor}\">".htmlspecialchars($text).'</text>';
    }
}
