<?php

declare(strict_types=1);

namespace Hafen\Session\Sound;

use Hafen\Processor\ProcessorCatalogue;
use Hafen\Session\Channel\Channel;
use Hafen\Session\Insert\Insert;
use Hafen\Session\Insert\ProcessorInsert;
use Hafen\Session\Insert\Split;
use Hafen\Session\Macro\MacroControls;
use Hafen\Session\Macro\MacroTarget;
use Hafen\Session\Session;

/** The rows of a channel as sounds have them: how they stand, and set to how a sound has them. */
final readonly class SoundControls
{
    private MacroControls $controls;

    public function __construct(private ProcessorCatalogue $processors)
    {
        $this->controls = new MacroControls($processors);
    }

    /** @return array<string, ?float> how all controls of both rows stand, by target */
    public function standing(Channel $channel): array
    {
        $standing = [];
        foreach ($channel->allInserts() as $insert) {
            foreach ($this->targets($insert) as $text) {
                $target = MacroTarget::fromString($text);
                if ($target !== null && $this->controls->range($target, $channel) !== null) {
                    $standing[$text] = $this->controls->value($target, $channel);
                }
            }
        }

        return $standing;
    }

    /** Whether the rows stand otherwise than when a sound was made. */
    public function isChanged(Channel $channel, Sound $sound): bool
    {
        $now = $this->standing($channel);
        $then = $sound->values;
        ksort($now);
        ksort($then);

        return $now !== $then;
    }

    /** The session with what differs between the sounds of a switch as one of them has it, and that one chosen. */
    public function chosen(Session $session, Channel $channel, SoundSwitch $switch, Sound $sound): Session
    {
        $session = $session->withChannel($channel->withSoundSwitch($switch->withChosen($sound->id)));
        foreach ($switch->targets() as $target) {
            $value = SoundSwitch::valueIn($sound, $target->text());
            if ($value !== [] && $this->controls->range($target, $channel) !== null) {
                $session = $this->controls->set($session, $target, $value[0]);
            }
        }

        return $session;
    }

    /** @return list<string> */
    private function targets(Insert $insert): array
    {
        $id = $insert->id();
        $targets = ["on:{$id}", "mix:{$id}"];
        foreach ($insert instanceof ProcessorInsert ? $this->processors->spec($insert->processor)->parameters : [] as $parameter) {
            $targets[] = "parameter:{$id}:{$parameter->id}";
        }
        foreach ($insert->branches() as $branch) {
            $targets[] = "branch:{$branch->id}";
        }

        return $insert instanceof Split ? [...$targets, "selector:{$id}"] : $targets;
    }
}
