<?php

declare(strict_types=1);

namespace Hafen\Headroom;

use Hafen\Edit\EditRefused;
use Hafen\Edit\Insert\AddInsert;
use Hafen\Processor\ProcessorCatalogue;
use Hafen\Session\Session;

/**
 * A narrow boost that is moved over a channel while somebody listens: where it sounds worst, a cut helps most.
 *
 * Source: practice; boosts of about 10 dB find a resonance, cuts of 3 to 6 dB fix it.
 */
final readonly class Sweep
{
    public const BOOST = 10.0;

    public const Q = 5.0;

    /** Hz that can be swept. */
    public const LOWEST = 60.0;

    public const HIGHEST = 4000.0;

    /** Hz between which it moves by itself: where boxiness lies. */
    public const FROM = 180.0;

    public const TO = 560.0;

    public function __construct(public string $channel, public float $frequency)
    {
    }

    /**
     * A session with the boost last before the fader of the channel.
     *
     * @throws EditRefused when the channel is gone, or has no room
     */
    public function heardIn(Session $session, ProcessorCatalogue $processors): Session
    {
        return (new AddInsert([$this->channel], $processors->spec('parametric-eq'), parameters: [
            'bell-2-frequency' => $this->frequency, 'bell-2-gain' => self::BOOST, 'bell-2-q' => self::Q,
        ]))->apply($session);
    }
}
