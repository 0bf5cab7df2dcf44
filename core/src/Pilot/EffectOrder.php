<?php

declare(strict_types=1);

namespace Hafen\Pilot;

use Hafen\Edit\Json\EditRequest;
use Hafen\Session\Channel\Channel;
use Hafen\Session\Channel\ChannelKind;
use Hafen\Session\Insert\ProcessorInsert;

/**
 * Effects in an order that works against one of them: ambience into a drive, a pitch to be found behind echoes, a gate behind what
 * lifts the noise. Offers the other order; never changes it.
 */
final readonly class EffectOrder implements Check
{
    public function advice(SessionFacts $facts): array
    {
        $advice = [];
        foreach ($facts->session->channels as $channel) {
            $working = SessionFacts::working($channel, $channel->inserts);
            foreach ($working as $index => $insert) {
                $after = array_slice($working, $index + 1);
                $before = array_slice($working, 0, $index);
                $advice[] = $this->ambienceIntoDrive($facts, $channel, $insert, $after)
                    ?? $this->late($facts, $channel, $insert, $before, 'pitch-correction', ['Movement', 'Space'], 'finds no clear pitch behind %s')
                    ?? $this->late($facts, $channel, $insert, $before, 'gate', ['Dynamics', 'Colour'], 'hears the noise %s has lifted');
            }
        }

        return array_values(array_filter($advice));
    }

    /** @param  list<ProcessorInsert>  $after */
    private function ambienceIntoDrive(SessionFacts $facts, Channel $channel, ProcessorInsert $insert, array $after): ?Advice
    {
        // On a return it is often meant so.
        if (! $facts->spec($insert)->wetOnly || $channel->kind === ChannelKind::Return) {
            return null;
        }
        $drives = array_values(array_filter($after, static fn (ProcessorInsert $other): bool => in_array($other->processor, ['drive', 'distortion', 'tube-stage', 'amplifier'], true)));
        $last = $drives === [] ? null : $facts->session->locate($drives[count($drives) - 1]->id);

        return $last === null ? null : new Advice('ambience-into-drive', Severity::Advice, $channel->id, $insert->id,
            sprintf('%s on %s runs into %s: its tail is driven along and covers the sound.', $facts->spec($insert)->name, $channel->name, $facts->spec($drives[0])->name),
            self::fix('Put it after', $insert, $channel, $last->index + 1));
    }

    /**
     * @param  list<ProcessorInsert>  $before
     * @param  list<string>  $categories  what it should stand before
     */
    private function late(SessionFacts $facts, Channel $channel, ProcessorInsert $insert, array $before, string $processor, array $categories, string $why): ?Advice
    {
        if ($insert->processor !== $processor) {
            return null;
        }
        foreach ($before as $other) {
            $location = $facts->session->locate($other->id);
            if ($location !== null && $other->processor !== $processor && in_array($facts->spec($other)->category, $categories, true)) {
                return new Advice("{$processor}-too-late", Severity::Advice, $channel->id, $insert->id,
                    sprintf('%s on %s %s.', $facts->spec($insert)->name, $channel->name, sprintf($why, $facts->spec($other)->name)),
                    self::fix('Put it before', $insert, $channel, $location->index));
            }
        }

        return null;
    }

    private static function fix(string $label, ProcessorInsert $insert, Channel $channel, int $at): Fix
    {
        return new Fix($label, EditRequest::moveInsert($insert->id, $channel->id, $at));
    }
}
