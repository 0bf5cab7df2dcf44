<?php

declare(strict_types=1);

namespace App\Listening;

use Hafen\Audio\Block;
use Hafen\Metering\TapReading;

/**
 * The binary frames of a listening stream (docs/formats/listening.md): one letter, a 32-bit length, a payload; little-endian.
 */
final class Frames
{
    public const HEADER = "HAFEN1\n\0";

    /** @param  array<string, mixed>  $layout */
    public static function layout(array $layout): string
    {
        return self::frame('L', self::json($layout));
    }

    /** @param  list<Block>  $blocks that follow each other, stereo */
    public static function audio(int $position, array $blocks): string
    {
        $left = array_merge(...array_map(static fn (Block $block): array => $block->left, $blocks));
        $right = array_merge(...array_map(static fn (Block $block): array => $block->right, $blocks));

        return self::frame('A', pack('eV', $position, count($left)).pack('g*', ...$left).pack('g*', ...$right));
    }

    /**
     * @param  list<string>  $taps  as in the layout
     * @param  array<string, TapReading>  $readings  by tap; of those that are read
     * @param  array<string, float>  $loads  in the order of the layout
     */
    public static function meters(int $position, float $engineLoad, array $taps, array $readings, array $loads): string
    {
        $numbers = [$engineLoad];
        foreach ($taps as $tap) {
            $reading = $readings[$tap] ?? null;
            if ($reading === null) {
                array_push($numbers, NAN, NAN, NAN, NAN);

                continue;
            }
            $numbers[] = $reading->peakLevel() ?? -INF;
            $numbers[] = $reading->rmsLevel() ?? -INF;
            $numbers[] = (float) $reading->overs;
            $numbers[] = $reading->gainReduction;
        }

        return self::frame('M', pack('e', $position).pack('g*', ...$numbers, ...array_values($loads)));
    }

    /** @param  array<string, mixed>  $notice */
    public static function notice(array $notice): string
    {
        return self::frame('N', self::json($notice));
    }

    public static function end(): string
    {
        return self::frame('E', '');
    }

    private static function frame(string $kind, string $payload): string
    {
        return $kind.pack('V', strlen($payload)).$payload;
    }

    /** @param  array<string, mixed>  $data */
    private static function json(array $data): string
    {
        return json_encode($data, JSON_THROW_ON_ERROR | JSON_UNESCAPED_UNICODE | JSON_UNESCAPED_SLASHES | JSON_PRESERVE_ZERO_FRACTION);
    }
}
