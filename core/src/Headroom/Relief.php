<?php

declare(strict_types=1);

namespace Hafen\Headroom;

use Hafen\Audio\Decibel;
use Hafen\Survey\LoudestMoment;

/**
 * By how much the peak of what enters the main would fall were one of its channels lowered: read off the loudest moments that are
 * known, so good to a few tenths of a dB. What is after it on the main is left out of account.
 */
final readonly class Relief
{
    /** @param  list<LoudestMoment>  $moments */
    public function __construct(private array $moments)
    {
    }

    /**
     * @param  string  $channel  that feeds the main
     * @param  ?float  $by  dB it is lowered by; null silences it
     * @return float dB, above 0 where the peak falls
     */
    public function of(string $channel, ?float $by): float
    {
        $kept = $by === null ? 0.0 : Decibel::toGain(-$by);
        $before = $after = 0.0;
        foreach ($this->moments as $moment) {
            $before = max($before, abs($moment->value));
            $after = max($after, abs($moment->value - (1.0 - $kept) * ($moment->contributions[$channel] ?? 0.0)));
        }

        return $before > 0.0 && $after > 0.0 ? 20.0 * log10($before / $after) : 0.0;
    }
}
