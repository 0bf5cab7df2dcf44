<?php

declare(strict_types=1);

namespace Hafen\Edit\Insert;

use Hafen\Edit\Channels;
use Hafen\Edit\Edit;
use Hafen\Processor\ProcessorSpec;
use Hafen\Session\FreshIds;
use Hafen\Session\Insert\ProcessorInsert;
use Hafen\Session\Session;

/**
 * Puts another processor in an insert's place. On/off stays, and the mix too unless it was or will be a processor
 * that puts out only wet sound.
 */
final readonly class ReplaceInsert implements Edit
{
    public function __construct(public string $insert, public ProcessorSpec $processor, private bool $wasWetOnly)
    {
    }

    public function apply(Session $session): Session
    {
        $location = Channels::insert($session, $this->insert);
        $old = $location->insert;
        $mix = $old instanceof ProcessorInsert && $this->wasWetOnly === $this->processor->wetOnly ? $old->mix : UsualMix::of($this->processor, $location->channel, $location->branch !== null);

        return $session->withInsert($location, new ProcessorInsert(FreshIds::of($session)->insert(), $this->processor->id, $old->isOn(), $mix));
    }

    public function label(Session $before): string
    {
        $location = $before->locate($this->insert);

        return "{$this->processor->name} in place on ".($location->channel->name ?? '');
    }

    public function touches(Session $before): array
    {
        return ["inserts/{$this->insert}", ...Channels::paths(array_filter([$before->locate($this->insert)?->channel->id]), 'row')];
    }
}
