<?php

declare(strict_types=1);

namespace Hafen\Headroom;

use Hafen\Metering\Spectrum;
use Hafen\Routing\SessionGraph;
use Hafen\Session\Session;
use Hafen\Survey\SurveyResult;

/**
 * How much of the energy that enters the main each channel that feeds it brings, over the whole length: in all, below 100 Hz,
 * where mud sits (200 to 500 Hz), and above.
 *
 * Energies of channels are added; where two carry the same sound the main holds more, or less, than their sum.
 */
final readonly class EnergyShares
{
    /** Hz: a band's name and its ends. */
    public const BANDS = ['low' => [0.0, 100.0], 'mud' => [200.0, 500.0]];

    private const ABOVE = 500.0;

    /**
     * @param  array<string, array{all: float, low: float, mud: float, above: float}>  $channels  shares, 0 to 1, by channel id, the
     *                                                                                         largest first
     */
    private function __construct(public array $channels)
    {
    }

    public static function of(Session $session, SurveyResult $survey): self
    {
        $energies = [];
        $sums = ['all' => 0.0, 'low' => 0.0, 'mud' => 0.0, 'above' => 0.0];
        // Nothing is sent to the main: what feeds it puts out to it, after its fader.
        foreach (SessionGraph::routes($session)->into($session->main()->id) as $route) {
            foreach (self::energies($route->from, $survey) as $band => $energy) {
                $energies[$route->from][$band] = ($energies[$route->from][$band] ?? 0.0) + $energy;
                $sums[$band] += $energy;
            }
        }
        $shares = [];
        foreach ($energies as $id => $bands) {
            $share = static fn (string $band): float => $sums[$band] > 0.0 ? ($bands[$band] ?? 0.0) / $sums[$band] : 0.0;
            $shares[$id] = ['all' => $share('all'), 'low' => $share('low'), 'mud' => $share('mud'), 'above' => $share('above')];
        }
        uasort($shares, static fn (array $a, array $b): int => $b['all'] <=> $a['all']);

        return new self($shares);
    }

    /** @return array{all: float, low: float, mud: float, above: float} mean squares of what leaves a channel */
    private static function energies(string $channel, SurveyResult $survey): array
    {
        $low = $survey->low[$channel] ?? Spectrum::silence();
        $all = $survey->taps["{$channel}:post-fader"]->meanSquare ?? 0.0;

        return [
            'all' => $all,
            'low' => $low->between(...self::BANDS['low']),
            'mud' => $low->between(...self::BANDS['mud']),
            'above' => max(0.0, $all - $low->between(0.0, self::ABOVE)),
        ];
    }
}
