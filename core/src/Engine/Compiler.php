<?php

declare(strict_types=1);

namespace Hafen\Engine;

use Hafen\Processor\ParameterValues;
use Hafen\Processor\ProcessorCatalogue;
use Hafen\Processor\Setting;
use Hafen\Routing\Audibility;
use Hafen\Session\Channel;
use Hafen\Session\ChannelKind;
use Hafen\Session\ClipSource;
use Hafen\Session\Insert;
use Hafen\Session\ProcessorInsert;
use Hafen\Session\Row;
use Hafen\Session\Session;

/** Turns a session into a plan; from one revision to the next it keeps every strip and processor that is still there. */
final readonly class Compiler
{
    public function __construct(private ProcessorCatalogue $processors, private AudioLibrary $library)
    {
    }

    public function compile(Session $session, ?Plan $before = null): Plan
    {
        if ($before !== null && ($before->session->sampleRate !== $session->sampleRate || $before->session->tempo !== $session->tempo)) {
            $before = null;
        }
        $audibility = Audibility::of($session);
        $setting = new Setting($session->sampleRate, $session->tempo);
        $main = $session->main();
        $strips = [];
        $feeding = [];
        foreach ($session->channels as $channel) {
            $strips[$channel->id] = $this->strip($channel, $session, $audibility->has($channel->id), $setting, $before);
            if ($channel->output === $main->id && $channel->kind !== ChannelKind::Main) {
                $feeding[] = $channel->id;
            }
        }
        $mainStrip = $strips[$main->id];
        unset($strips[$main->id]);

        $latest = 0;
        foreach ($feeding as $id) {
            $latest = max($latest, $strips[$id]->latency());
        }
        foreach ($feeding as $id) {
            $strips[$id]->align($latest - $strips[$id]->latency());
        }

        return new Plan($session, $strips, $feeding, $mainStrip, $latest);
    }

    private function strip(Channel $channel, Session $session, bool $audible, Setting $setting, ?Plan $before): Strip
    {
        $known = $before?->strip($channel->id);
        $isTrack = $channel->source instanceof ClipSource;
        if ($known !== null && ($known->clips !== null) !== $isTrack) {
            $known = null;
        }
        $strip = $known ?? new Strip($channel->id, $isTrack ? new ClipPlayer($this->library, $session->sampleRate) : null, $session->sampleRate);
        if ($channel->source instanceof ClipSource) {
            $strip->clips?->set($channel->source->clips, $channel->width);
        }
        $slots = [];
        foreach ($before?->strips() ?? [] as $earlier) {
            foreach ($earlier->allSlots() as $slot) {
                $slots[$slot->id] = $slot;
            }
        }
        $strip->slots = $this->row($channel, Row::Inserts, $slots, $setting);
        $strip->postSlots = $this->row($channel, Row::PostInserts, $slots, $setting);
        $strip->configure($channel, $session->panLaw, $audible);
        if ($known === null) {
            $strip->settle();
        }

        return $strip;
    }

    /**
     * @param  array<string, Slot>  $slots  that were there before, by insert id
     * @return list<Slot>
     */
    private function row(Channel $channel, Row $row, array $slots, Setting $setting): array
    {
        return array_map(function (Insert $insert) use ($channel, $slots, $setting): Slot {
            assert($insert instanceof ProcessorInsert);
            $slot = $slots[$insert->id] ?? null;
            if ($slot === null || $slot->processorId !== $insert->processor) {
                $spec = $this->processors->spec($insert->processor);
                $slot = new Slot(
                    $insert->id,
                    $insert->processor,
                    $spec,
                    $this->processors->make($insert->processor, $insert->parameters, $setting),
                    ParameterValues::of($spec, $insert->parameters),
                    $setting->sampleRate,
                );
            }
            $slot->configure($insert, $channel->insertsOn);

            return $slot;
        }, $channel->row($row));
    }
}
