<?php

declare(strict_types=1);

namespace Hafen\Pilot;

use Hafen\Audio\Decibel;
use Hafen\Edit\Json\EditRequest;
use Hafen\Session\Insert\ProcessorInsert;

/**
 * A drive that is turned up far in front of one that is not: what the first has flattened the second cannot shape any more. From low
 * gain to high they build up on each other.
 */
final readonly class HighGainFirst implements Check
{
    private const DRIVES = ['drive', 'distortion', 'tube-stage', 'waveshaper'];

    /** dB of drive by which the first is turned up more. */
    private const FAR = 9.0;

    public function advice(SessionFacts $facts): array
    {
        $advice = [];
        foreach ($facts->session->channels as $channel) {
            $drives = array_values(array_filter(
                SessionFacts::working($channel, $channel->inserts),
                static fn (ProcessorInsert $insert): bool => in_array($insert->processor, self::DRIVES, true),
            ));
            foreach (array_slice($drives, 1) as $index => $second) {
                $first = $drives[$index];
                $location = $facts->session->locate($second->id);
                if ($location === null || self::drive($facts, $first) - self::drive($facts, $second) < self::FAR) {
                    continue;
                }
                $advice[] = new Advice('high-gain-first', Severity::Advice, $channel->id, $first->id, sprintf(
                    '%s at %s on %s runs into %s at %s: the second has little left to shape. From low to high they build up.',
                    $facts->spec($first)->name,
                    Decibel::text(self::drive($facts, $first)),
                    $channel->name,
                    $facts->spec($second)->name,
                    Decibel::text(self::drive($facts, $second)),
                ), new Fix('Put it after', EditRequest::moveInsert($first->id, $channel->id, $location->index + 1)));
            }
        }

        return $advice;
    }

    private static function drive(SessionFacts $facts, ProcessorInsert $insert): float
    {
        $value = $insert->parameters['drive'] ?? $facts->spec($insert)->parameter('drive')->default ?? 0.0;

        return is_float($value) ? $value : 0.0;
    }
}
