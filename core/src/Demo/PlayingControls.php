<?php

declare(strict_types=1);

namespace Hafen\Demo;

use Hafen\Processor\ProcessorCatalogue;
use Hafen\Session\FreshIds;
use Hafen\Session\Insert\Branch;
use Hafen\Session\Insert\ProcessorInsert;
use Hafen\Session\Insert\Row;
use Hafen\Session\Insert\Selector;
use Hafen\Session\Insert\SelectorRange;
use Hafen\Session\Insert\Split;
use Hafen\Session\Macro\Macro;
use Hafen\Session\Macro\MacroMove;
use Hafen\Session\Macro\MacroTarget;
use Hafen\Session\Session;
use Hafen\Session\Sound\Sound;
use Hafen\Session\Sound\SoundControls;
use Hafen\Session\Sound\SoundSwitch;

/**
 * What a player turns and switches in the demo session: three sounds of the bass, a selector between places of the choir, in one of which
 * it speaks through the bars, and a macro of the cello. All stand so that the mix sounds as without them.
 */
final class PlayingControls
{
    public static function on(Session $session): Session
    {
        return self::macro(self::places(self::sounds($session)));
    }

    /** Clean, Driven (as the row stands) and Lead. */
    private static function sounds(Session $session): Session
    {
        $controls = new SoundControls(ProcessorCatalogue::standard());
        $ids = FreshIds::of($session);
        $bass = $session->channel('bass');
        assert($bass !== null);
        $drive = $compressor = '';
        foreach ($bass->inserts as $insert) {
            $drive = $insert instanceof ProcessorInsert && $insert->processor === 'drive' ? $insert->id : $drive;
            $compressor = $insert instanceof ProcessorInsert && $insert->processor === 'compressor' ? $insert->id : $compressor;
        }
        $driven = $controls->standing($bass);
        $sounds = array_map(static fn (string $name, array $changes): Sound => new Sound($ids->sound(), $name, [...$driven, ...$changes]), ['Clean', 'Driven', 'Lead'], [
            ["on:{$drive}" => 0.0],
            [],
            ["parameter:{$drive}:drive" => 18.0, "parameter:{$drive}:output" => -9.0, "mix:{$drive}" => 0.8, "parameter:{$compressor}:threshold" => -28.0],
        ]);

        return $session->withChannel($bass->withSounds([new SoundSwitch($ids->soundSwitch(), 'Bass', $sounds, $sounds[1]->id, 120.0)]));
    }

    /** The choir where it stands, across the water, through the door, and in the voice of the bars, of which the selector opens one. */
    private static function places(Session $session): Session
    {
        $choir = $session->channel('choir');
        assert($choir !== null);
        $ids = FreshIds::of($session);
        $ranges = SelectorRange::evenly(4);
        $split = new Split($ids->split(), [
            new Branch($ids->branch(), 'Near', range: $ranges[0]),
            new Branch($ids->branch(), 'Across', inserts: [
                new ProcessorInsert($ids->insert(), 'filter', parameters: ['frequency' => 300.0]),
                new ProcessorInsert($ids->insert(), 'room', mix: 0.7),
            ], range: $ranges[1]),
            new Branch($ids->branch(), 'Indoors', 2.0, inserts: [
                new ProcessorInsert($ids->insert(), 'filter', parameters: ['type' => 'low-pass', 'frequency' => 700.0, 'slope' => '24dB']),
            ], range: $ranges[2]),
            new Branch($ids->branch(), 'Bars', range: $ranges[3], inserts: [
                new ProcessorInsert($ids->insert(), 'vocoder', parameters: ['level' => 12.0], notes: 'bars'),
            ]),
        ], selector: new Selector($ranges[0]->middle()));

        return $session->withChannel($choir->withRow(Row::Inserts, [...$choir->inserts, $split]));
    }

    /** More of the springs and of the room at once. */
    private static function macro(Session $session): Session
    {
        $cello = $session->channel('cello');
        assert($cello !== null);
        $moves = [];
        foreach ([['mix:h1', 0.4, 0.85], ['send:'.($cello->sendTo('hall')->id ?? ''), -16.0, -6.0]] as [$text, $from, $to]) {
            $target = MacroTarget::fromString($text);
            assert($target !== null);
            $moves[] = new MacroMove($target, $from, $to);
        }

        return $session->withChannel($cello->withMacros([new Macro(FreshIds::of($session)->macro(), 'Depth', moves: $moves)]));
    }
}
