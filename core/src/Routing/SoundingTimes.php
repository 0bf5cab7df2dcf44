<?php

declare(strict_types=1);

namespace Hafen\Routing;

use Hafen\Processor\ProcessorCatalogue;
use Hafen\Processor\Setting;
use Hafen\Session\Channel\Channel;
use Hafen\Session\Insert\HardwareInsert;
use Hafen\Session\Insert\ProcessorInsert;
use Hafen\Session\Session;
use Hafen\Session\Source\ClipSource;
use Hafen\Session\Source\NoteSource;

/** When channels of a session can sound: while their clips play or what feeds them sounds, and for the tails of their inserts. */
final class SoundingTimes
{
    /** @var array<string, list<array{int, int}>> by channel id */
    private array $known = [];

    private readonly Setting $setting;

    public function __construct(private readonly Session $session, private readonly ProcessorCatalogue $processors)
    {
        $this->setting = new Setting($session->sampleRate, $session->tempo);
    }

    /** @return list<array{int, int}> first sample, and the first after; a live input sounds at any time */
    public function of(string $channel): array
    {
        return $this->known[$channel] ??= $this->found($channel);
    }

    /** Whether two channels can sound at the same time. */
    public function overlap(string $one, string $other): bool
    {
        foreach ($this->of($one) as [$from, $to]) {
            foreach ($this->of($other) as [$start, $end]) {
                if ($from < $end && $start < $to) {
                    return true;
                }
            }
        }

        return false;
    }

    /** @return list<array{int, int}> */
    private function found(string $id): array
    {
        $channel = $this->session->channel($id);
        if ($channel === null || $channel->off) {
            return [];
        }
        if ($channel->source instanceof NoteSource || ($channel->source instanceof ClipSource && $channel->source->input !== null)) {
            return [[0, PHP_INT_MAX]];
        }
        $times = array_map(static fn ($clip): array => [$clip->start, $clip->end()], $channel->source->clips());
        foreach (array_unique(SessionGraph::routes($this->session)->sources($id)) as $source) {
            array_push($times, ...$this->of($source));
        }
        $tail = $this->tail($channel);

        return array_map(static fn (array $time): array => [$time[0], $time[1] > PHP_INT_MAX - $tail ? PHP_INT_MAX : $time[1] + $tail], $times);
    }

    private function tail(Channel $channel): int
    {
        $tail = 0;
        foreach ($channel->allInserts() as $insert) {
            if ($insert instanceof HardwareInsert) {
                $tail += (int) ceil(($this->session->loop($insert->loop)->tail ?? 0.0) / 1000.0 * $this->session->sampleRate);
            } elseif ($insert instanceof ProcessorInsert && $insert->on) {
                $tail += $this->processors->make($insert->processor, $insert->parameters, $this->setting)->tail();
            }
        }

        return $tail;
    }
}
