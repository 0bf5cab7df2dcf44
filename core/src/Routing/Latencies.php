<?php

declare(strict_types=1);

namespace Hafen\Routing;

use Hafen\Processor\ProcessorCatalogue;
use Hafen\Processor\Setting;
use Hafen\Session\Channel;
use Hafen\Session\ChannelKind;
use Hafen\Session\ProcessorInsert;
use Hafen\Session\Session;

/** How late each channel comes by its own inserts, and how late the main's output is in all, in samples. */
final readonly class Latencies
{
    /** @param  array<string, int>  $channels by channel id */
    private function __construct(public array $channels, public int $session)
    {
    }

    public static function of(Session $session, ProcessorCatalogue $processors): self
    {
        $setting = new Setting($session->sampleRate, $session->tempo);
        $channels = [];
        $latest = 0;
        foreach ($session->channels as $channel) {
            $channels[$channel->id] = self::channel($channel, $processors, $setting);
            if ($channel->kind !== ChannelKind::Main && $channel->output !== 'none') {
                $latest = max($latest, $channels[$channel->id]);
            }
        }

        return new self($channels, $latest + $channels[$session->main()->id]);
    }

    private static function channel(Channel $channel, ProcessorCatalogue $processors, Setting $setting): int
    {
        $samples = 0;
        foreach ($channel->allInserts() as $insert) {
            if ($insert instanceof ProcessorInsert) {
                $samples += $processors->latency($insert->processor, $insert->parameters, $setting);
            }
        }

        return $samples;
    }
}
