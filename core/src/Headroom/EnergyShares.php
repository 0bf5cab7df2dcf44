<?php

declare(strict_types=1);

namespace Hafen\Headroom;

use Hafen\Audio\Decibel;
use Hafen\Metering\Spectrum;
use Hafen\Routing\Route;
use Hafen\Routing\Routes;
use Hafen\Session\Session;
use Hafen\Session\TapPoint;
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
        foreach (Routes::of($session)->into($session->main()->id) as $route) {
            foreach (self::energies($route, $survey) as $band => $energy) {
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

    /** @return array{all: float, low: float, mud: float, above: float} mean squares */
    private static function energies(Route $route, SurveyResult $survey): array
    {
        $post = $route->tap === TapPoint::PostFader;
        $reading = $survey->taps["{$route->from}:{$route->tap->value}"] ?? null;
        $low = $post ? $survey->low[$route->from] ?? Spectrum::silence() : ($survey->sources[$route->from]->low ?? Spectrum::silence());
        $gain = $route->send === null ? 1.0 : ($route->send->on ? Decibel::toGain($route->send->gain) : 0.0);
        $all = $reading->meanSquare ?? 0.0;
        $power = $gain * $gain;

        return [
            'all' => $power * $all,
            'low' => $power * $low->between(...self::BANDS['low']),
            'mud' => $power * $low->between(...self::BANDS['mud']),
            'above' => $power * max(0.0, $all - $low->between(0.0, self::ABOVE)),
        ];
    }
}
