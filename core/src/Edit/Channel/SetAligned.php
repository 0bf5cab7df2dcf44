<?php

declare(strict_types=1);

namespace Hafen\Edit\Channel;

use Hafen\Edit\Channels;
use Hafen\Edit\Edit;
use Hafen\Session\Channel\Channel;
use Hafen\Session\Session;

/** Lines channels up with the others, or lets them come as late as their processors make them. */
final readonly class SetAligned implements Edit
{
    /** @param  list<string>  $channels */
    public function __construct(public array $channels, public bool $aligned)
    {
    }

    public function apply(Session $session): Session
    {
        return Channels::each($session, $this->channels, fn (Channel $channel): Channel => $channel->withAligned($this->aligned));
    }

    public function label(Session $before): string
    {
        return 'Alignment of '.Channels::named($before, $this->channels).($this->aligned ? ' on' : ' off');
    }

    public function touches(Session $before): array
    {
        return Channels::paths($this->channels, 'aligned');
    }
}
