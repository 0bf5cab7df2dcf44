<?php

declare(strict_types=1);

namespace Hafen\Pilot;

use Hafen\Audio\Decibel;
use Hafen\Session\ProcessorInsert;

/**
 * A drive that is turned up far in front of one that is not: what the first has flattened the second cannot shape any more. From low
 * gain to high they build up on each other.
 */
final readonly class HighGainFirst implements Check
{
    private const DRIVES = ['drive', 'distortion', 'tube-stage', 'waveshaper'];

    /** dB of drive by which the first is turned up more. */
    private const FAR = 9.0;

    public function notes(Chart $chart): array
    {
        $notes = [];
        foreach ($chart->session->channels as $channel) {
            $drives = array_values(array_filter(
                Chart::working($channel, $channel->inserts),
                static fn (ProcessorInsert $insert): bool => in_array($insert->processor, self::DRIVES, true),
            ));
            foreach (array_slice($drives, 1) as $index => $second) {
                $first = $drives[$index];
                $place = $chart->session->place($second->id);
                if ($place === null || self::drive($chart, $first) - self::drive($chart, $second) < self::FAR) {
                    continue;
                }
                $notes[] = new Note('high-gain-first', Severity::Advice, $channel->id, $first->id, sprintf(
                    '%s at %s on %s runs into %s at %s: the second has little left to shape. From low to high they build up.',
                    $chart->spec($first)->name,
                    Decibel::text(self::drive($chart, $first)),
                    $channel->name,
                    $chart->spec($second)->name,
                    Decibel::text(self::drive($chart, $second)),
                ), new Mend('Put it after', ['type' => 'move-insert', 'insert' => $first->id, 'channel' => $channel->id, 'row' => 'inserts', 'at' => $place->index + 1]));
            }
        }

        return $notes;
    }

    private static function drive(Chart $chart, ProcessorInsert $insert): float
    {
        $value = $insert->parameters['drive'] ?? $chart->spec($insert)->parameter('drive')->default ?? 0.0;

        return is_float($value) ? $value : 0.0;
    }
}
