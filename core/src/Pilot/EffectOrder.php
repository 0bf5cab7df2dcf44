<?php

declare(strict_types=1);

namespace Hafen\Pilot;

use Hafen\Session\Channel;
use Hafen\Session\ChannelKind;
use Hafen\Session\ProcessorInsert;

/**
 * Effects in an order that works against one of them: ambience into a drive, a pitch to be found behind echoes, a gate behind what
 * lifts the noise. Offers the other order; never changes it.
 */
final readonly class EffectOrder implements Check
{
    public function notes(Chart $chart): array
    {
        $notes = [];
        foreach ($chart->session->channels as $channel) {
            $working = Chart::working($channel, $channel->inserts);
            foreach ($working as $index => $insert) {
                $after = array_slice($working, $index + 1);
                $before = array_slice($working, 0, $index);
                $notes[] = $this->ambienceIntoDrive($chart, $channel, $insert, $after)
                    ?? $this->late($chart, $channel, $insert, $before, 'pitch-correction', ['Movement', 'Space'], 'finds no clear pitch behind %s')
                    ?? $this->late($chart, $channel, $insert, $before, 'gate', ['Dynamics', 'Colour'], 'hears the noise %s has lifted');
            }
        }

        return array_values(array_filter($notes));
    }

    /** @param  list<ProcessorInsert>  $after */
    private function ambienceIntoDrive(Chart $chart, Channel $channel, ProcessorInsert $insert, array $after): ?Note
    {
        // On a return it is often meant so.
        if (! $chart->spec($insert)->wetOnly || $channel->kind === ChannelKind::Return) {
            return null;
        }
        $drives = array_values(array_filter($after, static fn (ProcessorInsert $other): bool => in_array($other->processor, ['drive', 'distortion', 'tube-stage', 'amplifier'], true)));
        $last = $drives === [] ? null : $chart->session->place($drives[count($drives) - 1]->id);

        return $last === null ? null : new Note('ambience-into-drive', Severity::Advice, $channel->id, $insert->id,
            sprintf('%s on %s runs into %s: its tail is driven along and covers the sound.', $chart->spec($insert)->name, $channel->name, $chart->spec($drives[0])->name),
            self::mend('Put it after', $insert, $channel, $last->index + 1));
    }

    /**
     * @param  list<ProcessorInsert>  $before
     * @param  list<string>  $categories  what it should stand before
     */
    private function late(Chart $chart, Channel $channel, ProcessorInsert $insert, array $before, string $processor, array $categories, string $why): ?Note
    {
        if ($insert->processor !== $processor) {
            return null;
        }
        foreach ($before as $other) {
            $place = $chart->session->place($other->id);
            if ($place !== null && $other->processor !== $processor && in_array($chart->spec($other)->category, $categories, true)) {
                return new Note("{$processor}-too-late", Severity::Advice, $channel->id, $insert->id,
                    sprintf('%s on %s %s.', $chart->spec($insert)->name, $channel->name, sprintf($why, $chart->spec($other)->name)),
                    self::mend('Put it before', $insert, $channel, $place->index));
            }
        }

        return null;
    }

    private static function mend(string $label, ProcessorInsert $insert, Channel $channel, int $at): Mend
    {
        return new Mend($label, ['type' => 'move-insert', 'insert' => $insert->id, 'channel' => $channel->id, 'row' => 'inserts', 'at' => $at]);
    }
}
