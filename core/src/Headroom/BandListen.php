<?php

declare(strict_types=1);

namespace Hafen\Headroom;

use Hafen\Edit\EditRefused;
use Hafen\Edit\Insert\AddInsert;
use Hafen\Edit\Refusals\NoSuchInsert;
use Hafen\Processor\ParameterValues;
use Hafen\Processor\ProcessorCatalogue;
use Hafen\Session\Insert\ProcessorInsert;
use Hafen\Session\Session;

/**
 * One band of an equaliser alone, for the ears only: what lies under its bell, as a band-pass of the same frequency and Q hears it,
 * or on the side of its shelf.
 *
 * Source: practice; the filter is the sweep filter at rest, whose damping is 1/Q.
 */
final readonly class BandListen
{
    public function __construct(public string $insert, public string $band)
    {
    }

    /**
     * A session with the band-pass right after the equaliser.
     *
     * @throws EditRefused when the insert is gone, has no such band, or the row has no room
     */
    public function heardIn(Session $session, ProcessorCatalogue $processors): Session
    {
        $location = $session->locate($this->insert);
        $insert = $location?->insert;
        if ($location === null || ! $insert instanceof ProcessorInsert) {
            throw NoSuchInsert::withId($this->insert);
        }
        $spec = $processors->spec($insert->processor);
        $band = EqBand::of($spec, ParameterValues::of($spec, $insert->parameters), $this->band)
            ?? throw NoSuchInsert::withId("{$this->insert}/{$this->band}");
        $resonance = 100.0 * log(1.0 / $band->q / M_SQRT2) / log(0.05 / M_SQRT2);

        return (new AddInsert([$location->channel->id], $processors->spec('sweep-filter'), $location->row, $location->index + 1, [
            'type' => $band->type,
            'frequency' => min(16000.0, max(30.0, $band->frequency)),
            'resonance' => min(100.0, max(0.0, $resonance)),
            'envelope' => 0.0,
            'depth' => 0.0,
        ], $location->branch))->apply($session);
    }
}
