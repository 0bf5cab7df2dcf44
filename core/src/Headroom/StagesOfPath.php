<?php

declare(strict_types=1);

namespace Hafen\Headroom;

use Hafen\Processor\ProcessorCatalogue;
use Hafen\Session\Channel\Channel;
use Hafen\Session\Channel\InterfacePorts;
use Hafen\Session\Insert\Insert;
use Hafen\Session\Insert\ProcessorInsert;
use Hafen\Session\Session;

/** The stages of a channel and of all its sound goes through on its way out, in their order. */
final class StagesOfPath
{
    /**
     * @param  callable(string): bool  $isFixed  whether a file, by its id, holds whole numbers
     * @return list<Stage>
     */
    public static function of(Session $session, ProcessorCatalogue $processors, Channel $channel, callable $isFixed): array
    {
        $stages = [];
        for ($at = $channel; $at !== null; $at = $session->channel($at->output)) {
            array_push($stages, ...self::channel($at, $processors, $at === $channel ? self::source($at, $isFixed) : ["{$at->name} in", false], $at === $channel));
            if (InterfacePorts::isPair($at->output)) {
                // The converters take whole numbers.
                $stages[] = new Stage($at->id, "{$at->id}:post-fader", 'output '.substr($at->output, 3), isFixed: true);
            }
        }

        return $stages;
    }

    /**
     * @param  array{string, bool}  $entry  label, and whether it is fixed
     * @return list<Stage>
     */
    private static function channel(Channel $channel, ProcessorCatalogue $processors, array $entry, bool $isFirst): array
    {
        $source = "{$channel->id}:source";
        $stages = [new Stage($channel->id, $source, $entry[0], -($channel->trim->gain ?? 0.0), isFixed: $entry[1])];
        if (($channel->trim->gain ?? 0.0) !== 0.0) {
            $stages[] = new Stage($channel->id, $source, 'trim');
        }
        foreach ($channel->insertsOn ? $channel->inserts : [] as $insert) {
            $stages[] = self::insert($channel, $insert, $processors);
        }
        $name = $isFirst ? 'fader' : "{$channel->name} fader";
        if ($channel->postInserts === [] || ! $channel->insertsOn) {
            return [...$stages, new Stage($channel->id, "{$channel->id}:post-fader", $name)];
        }
        if ($channel->fader !== null) {
            $stages[] = new Stage($channel->id, "{$channel->id}:pre-fader", $name, $channel->fader);
        }
        foreach ($channel->postInserts as $insert) {
            $stages[] = self::insert($channel, $insert, $processors);
        }

        return $stages;
    }

    private static function insert(Channel $channel, Insert $insert, ProcessorCatalogue $processors): Stage
    {
        $isProcessor = $insert instanceof ProcessorInsert;

        return new Stage(
            $channel->id,
            "{$channel->id}:insert:{$insert->id()}",
            $isProcessor ? $processors->label($insert->processor, $insert->parameters) : 'Split',
            shortName: $isProcessor ? $processors->chip($insert->processor, $insert->parameters)->name : '',
            levelDependent: $isProcessor && $insert->on && $processors->spec($insert->processor)->levelDependent,
        );
    }

    /**
     * @param  callable(string): bool  $isFixed
     * @return array{string, bool}
     */
    private static function source(Channel $channel, callable $isFixed): array
    {
        foreach ($channel->source->clips() as $clip) {
            if ($isFixed($clip->file)) {
                return ['source', true];
            }
        }

        return ['source', false];
    }
}
