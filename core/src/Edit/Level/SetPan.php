<?php

declare(strict_types=1);

namespace Hafen\Edit\Level;

use Hafen\Edit\Channels;
use Hafen\Edit\Edit;
use Hafen\Session\Channel\Channel;
use Hafen\Session\Session;

/** Pan from -1 (left) to +1 (right). */
final readonly class SetPan implements Edit
{
    /** @param  list<string>  $channels */
    public function __construct(public array $channels, public float $pan)
    {
    }

    public function apply(Session $session): Session
    {
        return Channels::each($session, $this->channels, fn (Channel $channel): Channel => $channel->withPan($this->pan));
    }

    public function label(Session $before): string
    {
        return 'Pan of '.Channels::named($before, $this->channels).' '.self::percent($this->pan);
    }

    public function touches(Session $before): array
    {
        return Channels::paths($this->channels, 'pan');
    }

    private static function percent(float $pan): string
    {
        $percent = (int) round(abs($pan) * 100);

        return $percent === 0 ? 'centre' : ($pan < 0 ? 'left ' : 'right ').$percent;
    }
}
