<?php

declare(strict_types=1);

namespace Hafen\Routing;

use Hafen\Processor\ProcessorCatalogue;
use Hafen\Session\Channel\Channel;
use Hafen\Session\Insert\Insert;
use Hafen\Session\Insert\Inserts;
use Hafen\Session\Insert\Row;
use Hafen\Session\Insert\Split;
use Hafen\Session\Session;

/** Monitoring without the inserts that alone make a live input later than a chosen delay. They are there when the clips play. */
final readonly class QuickMonitoring
{
    /** Delays there are to choose from, in milliseconds. */
    public const DELAYS = [1.0, 2.0, 3.0, 5.0, 10.0];

    /** The one it begins with. */
    public const USUAL = 3.0;

    public function __construct(private ProcessorCatalogue $processors, public float $milliseconds)
    {
    }

    /** @return list<string> ids of the inserts of a channel that are left out */
    public function sleeping(Session $session, Channel $channel): array
    {
        $latency = new RowLatency($this->processors, $session);
        $most = $this->milliseconds / 1000 * $session->sampleRate;

        return array_values(array_map(
            static fn (Insert $insert): string => $insert->id(),
            array_filter($channel->allInserts(), static fn (Insert $insert): bool => ! $insert instanceof Split && $latency->insert($insert) > $most),
        ));
    }

    /** The channel without them. */
    public function of(Session $session, Channel $channel): Channel
    {
        foreach ($this->sleeping($session, $channel) as $insert) {
            foreach (Row::cases() as $row) {
                $channel = $channel->withRow($row, Inserts::replace($channel->row($row), $insert, []));
            }
        }

        return $channel;
    }
}
