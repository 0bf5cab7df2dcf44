<?php

declare(strict_types=1);

namespace Hafen\Edit\Insert;

use Hafen\Edit\Channels;
use Hafen\Edit\Edit;
use Hafen\Processor\ProcessorSpec;
use Hafen\Session\Session;

/**
 * Cuts a channel at one frequency with an equaliser at the end of its row: what a sweep found, or a remedy.
 *
 * Source: practice; boxy resonances take a cut of 3 to 6 dB, about an octave wide.
 */
final readonly class CutFrequency implements Edit
{
    public const PROCESSOR = 'parametric-eq';

    /** dB people choose from, and the one they start with. */
    public const DEPTHS = [3.0, 4.0, 5.0, 6.0];

    public const USUAL_DEPTH = 4.0;

    private const Q = 1.4;

    /**
     * @param  ProcessorSpec  $equaliser  of {@see PROCESSOR}
     * @param  float  $frequency  Hz
     * @param  float  $depth  dB by which it is cut, above 0
     */
    public function __construct(public string $channel, private ProcessorSpec $equaliser, public float $frequency, public float $depth)
    {
    }

    public function apply(Session $session): Session
    {
        return $this->insert()->apply($session);
    }

    public function label(Session $before): string
    {
        return sprintf('Cut at %.0f Hz on %s', $this->frequency, Channels::named($before, [$this->channel]));
    }

    public function touches(Session $before): array
    {
        return $this->insert()->touches($before);
    }

    private function insert(): AddInsert
    {
        return new AddInsert([$this->channel], $this->equaliser, parameters: [
            'bell-2-frequency' => $this->frequency, 'bell-2-gain' => -$this->depth, 'bell-2-q' => self::Q,
        ]);
    }
}
