<?php

declare(strict_types=1);

namespace Hafen\Edit\Insert;

use Hafen\Processor\ProcessorSpec;
use Hafen\Session\Channel\Channel;
use Hafen\Session\Channel\ChannelKind;

/** The mix an insert starts with: all wet where the dry sound takes another way, on the row of a return. */
final class UsualMix
{
    /** @return float 0 to 1 */
    public static function of(ProcessorSpec $processor, Channel $channel, bool $isInBranch): float
    {
        return $channel->kind === ChannelKind::Return && ! $isInBranch ? 1.0 : $processor->mixOnTrack();
    }
}
