<?php

declare(strict_types=1);

namespace Hafen\Headroom;

use Hafen\Audio\Decibel;
use Hafen\Metering\TapReading;
use Hafen\Processor\ProcessorCatalogue;
use Hafen\Session\Session;

/** What else changes when remedies are applied, one sentence a fact. */
final class SideEffects
{
    /** dB from which gain reduction is a hit. */
    private const HIT = 1.0;

    /** @return list<string> */
    public static function of(Prediction $prediction, Session $session, ProcessorCatalogue $processors): array
    {
        return array_values(array_filter([
            self::fed($prediction, $session, $processors),
            self::compensated($prediction->compensated),
            self::limiting($prediction, $session),
            self::returns($prediction, $session),
        ]));
    }

    private static function compensated(int $count): ?string
    {
        return match ($count) {
            0 => null,
            1 => 'One level-dependent effect is set to do what it did.',
            default => "{$count} level-dependent effects are set to do what they did.",
        };
    }

    private static function fed(Prediction $prediction, Session $session, ProcessorCatalogue $processors): ?string
    {
        if ($prediction->fed === []) {
            return null;
        }
        $changes = array_map(static fn (FedDifferently $fed): float => $fed->by, $prediction->fed);
        $names = array_map(static fn (FedDifferently $fed): string => sprintf('%s on %s', $processors->spec($fed->processor)->name, $session->channel($fed->channel)->name ?? $fed->channel), $prediction->fed);
        $count = count($names);

        return sprintf(
            '%s: %s%s.',
            $count === 1 ? 'One level-dependent effect is fed '.self::range($changes) : "{$count} level-dependent effects are fed ".self::range($changes),
            implode(', ', array_slice($names, 0, 4)),
            $count > 4 ? ' and '.($count - 4).' more' : '',
        );
    }

    private static function returns(Prediction $prediction, Session $session): ?string
    {
        if ($prediction->returns === []) {
            return null;
        }
        $names = array_map(static fn (string $id): string => $session->channel($id)->name ?? $id, array_map(strval(...), array_keys($prediction->returns)));

        return implode(', ', $names).(count($names) === 1 ? ' is fed ' : ' are fed ').self::range(array_values($prediction->returns)).'.';
    }

    private static function limiting(Prediction $prediction, Session $session): ?string
    {
        if ($prediction->reductions === []) {
            return null;
        }
        $hits = 0;
        $seconds = 0;
        $isIn = false;
        foreach ($prediction->reductions as $reduction) {
            $hits += ! $isIn && $reduction >= self::HIT ? 1 : 0;
            $isIn = $reduction >= self::HIT;
            $seconds += $isIn ? 1 : 0;
        }

        return sprintf(
            'It takes up to %.1f dB, %.1f s in all on %d %s of 1 dB and more.',
            max($prediction->reductions),
            $seconds * TapReading::REDUCTION_STEP / $session->sampleRate,
            $hits,
            $hits === 1 ? 'hit' : 'hits',
        );
    }

    /** @param  non-empty-list<float>|list<float>  $changes */
    private static function range(array $changes): string
    {
        [$low, $high] = $changes === [] ? [0.0, 0.0] : [min($changes), max($changes)];

        return abs($high - $low) < 0.1
            ? Decibel::text($low, 'dB', true)
            : rtrim(Decibel::text($low, '', true)).' to '.Decibel::text($high, 'dB', true);
    }
}
