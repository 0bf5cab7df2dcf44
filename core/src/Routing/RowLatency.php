<?php

declare(strict_types=1);

namespace Hafen\Routing;

use Hafen\Processor\ProcessorCatalogue;
use Hafen\Processor\Setting;
use Hafen\Session\Insert\HardwareInsert;
use Hafen\Session\Insert\Insert;
use Hafen\Session\Insert\ProcessorInsert;
use Hafen\Session\Insert\Split;
use Hafen\Session\Session;

/** Latency of a row of inserts in samples: the sum of its processors and hardware loops, and the slowest branch of each split. */
final readonly class RowLatency
{
    private Setting $setting;

    public function __construct(private ProcessorCatalogue $processors, private Session $session)
    {
        $this->setting = new Setting($session->sampleRate, $session->tempo);
    }

    /** @param  list<Insert>  $row */
    public function of(array $row): int
    {
        return array_sum(array_map($this->insert(...), $row));
    }

    public function insert(Insert $insert): int
    {
        if ($insert instanceof Split) {
            return max($this->branches($insert));
        }

        if ($insert instanceof HardwareInsert) {
            return $this->session->loop($insert->loop)?->latency() ?? 0;
        }

        return $insert instanceof ProcessorInsert ? $this->processors->latency($insert->processor, $insert->parameters, $this->setting) : 0;
    }

    /** @return non-empty-list<int> of each branch */
    public function branches(Split $split): array
    {
        return array_map(fn ($branch): int => $this->of($branch->inserts), $split->branches);
    }
}
