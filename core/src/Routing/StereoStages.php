<?php

declare(strict_types=1);

namespace Hafen\Routing;

use Hafen\Processor\ProcessorCatalogue;
use Hafen\Session\Automation\AutomationTarget;
use Hafen\Session\Automation\ControlCurves;
use Hafen\Session\Channel\Channel;
use Hafen\Session\Channel\Width;
use Hafen\Session\Insert\Insert;
use Hafen\Session\Insert\ProcessorInsert;
use Hafen\Session\Insert\Split;
use Hafen\Session\Insert\SplitBy;

/**
 * At which stages of a channel sound is stereo: from a stereo source, or from the first insert on that makes stereo of mono.
 * The pan places sound between two sides, so that everything from the fader on counts as stereo.
 */
final class StereoStages
{
    /** @var array<string, bool> by stage: "source", "into:ID", "branch:ID", "insert:ID", "pre-fader", "post-fader" */
    private array $stages;

    private function __construct(private readonly Channel $channel, private readonly ProcessorCatalogue $processors)
    {
        $isStereo = $channel->width === Width::Stereo;
        $this->stages = ['source' => $isStereo];
        $this->stages['pre-fader'] = $this->row($channel->inserts, $isStereo);
        $this->row($channel->postInserts, true);
        $this->stages['post-fader'] = true;
    }

    public static function of(Channel $channel, ProcessorCatalogue $processors): self
    {
        return new self($channel, $processors);
    }

    /** @return array<string, bool> by stage */
    public function all(): array
    {
        return $this->stages;
    }

    /** Whether sound is stereo at a stage; a stage that is not there counts as stereo. */
    public function at(string $stage): bool
    {
        return $this->stages[$stage] ?? true;
    }

    /** @param  list<Insert>  $row */
    private function row(array $row, bool $isStereo): bool
    {
        foreach ($row as $insert) {
            $isStereo = $insert instanceof Split ? $this->split($insert, $isStereo) : $isStereo || $this->widens($insert);
            $this->stages["insert:{$insert->id()}"] = $isStereo;
        }

        return $isStereo;
    }

    private function widens(Insert $insert): bool
    {
        return $insert instanceof ProcessorInsert
            && $this->channel->insertsOn
            && ($insert->on || ControlCurves::isMoved($this->channel, "on:{$insert->id}"))
            && ($insert->mix > 0.0 || ControlCurves::isMoved($this->channel, AutomationTarget::mix($insert->id)->text()))
            && $this->processors->spec($insert->processor)->widens;
    }

    private function split(Split $split, bool $isStereo): bool
    {
        $this->stages["into:{$split->id}"] = $isStereo;
        $given = match ($split->by) {
            SplitBy::LeftRight => true,
            SplitBy::MidSide => false,
            default => $isStereo,
        };
        $sum = $split->by === SplitBy::MidSide;
        foreach ($split->branches as $branch) {
            $comesOut = $this->row($branch->inserts, $given) || $branch->pan !== 0.0;
            $this->stages["branch:{$branch->id}"] = $comesOut;
            $sum = $sum || $comesOut;
        }

        return $split->on && $this->channel->insertsOn ? $sum : $isStereo;
    }
}
