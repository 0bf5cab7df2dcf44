<?php

declare(strict_types=1);

namespace Hafen\Load;

use Hafen\Routing\SessionGraph;
use Hafen\Routing\Sleepers;
use Hafen\Session\Channel\Channel;
use Hafen\Session\Session;
use Hafen\Session\Source\ClipSource;

/** What freezing channels would give back, from what was measured of the session. Loads as shares of a core. */
final readonly class FreezeForecast
{
    /**
     * A frozen channel has its fader and the meter behind it, and one meter more before it: that takes about half of what the
     * first two take.
     */
    private const METER_BEFORE_FADER = 0.5;

    /** What reading a file takes where nothing was measured that reads one. */
    private const READING = 0.004;

    private float $reading;

    public function __construct(private Session $session, private SessionLoad $load)
    {
        $readings = [];
        foreach ($session->channels as $channel) {
            if ($channel->frozen !== null || ($channel->source instanceof ClipSource && $channel->source->clips !== [])) {
                $readings[] = $load->channels[$channel->id]->reading;
            }
        }
        $readings = array_filter($readings, static fn (float $reading): bool => $reading > 0.0);
        sort($readings);
        // Half of the files read faster: stereo ones and those in many bytes take longer.
        $this->reading = $readings === [] ? self::READING : $readings[intdiv(count($readings), 2)];
    }

    /** @return list<string> ids of channels that can be frozen and take something */
    public function candidates(): array
    {
        $asleep = $this->asleep([]);

        return array_values(array_map(
            static fn (Channel $channel): string => $channel->id,
            array_filter($this->session->channels, static fn (Channel $channel): bool => $channel->kind->canBeFrozen() && $channel->frozen === null && ! $channel->off && ! isset($asleep[$channel->id])),
        ));
    }

    /**
     * What the whole session takes with some more channels frozen.
     *
     * @param  list<string>  $channels
     */
    public function with(array $channels): float
    {
        return $this->load->engine() + array_sum($this->loadsWith($channels));
    }

    /**
     * What each channel takes with some more channels frozen.
     *
     * @param  list<string>  $channels
     * @return array<array-key, float> by channel id
     */
    public function loadsWith(array $channels): array
    {
        $asleep = $this->asleep($channels);
        $loads = [];
        foreach ($this->load->channels as $id => $load) {
            $loads[$id] = match (true) {
                isset($asleep[$id]) => 0.0,
                in_array((string) $id, $channels, true) => $this->frozen($load),
                default => $load->total,
            };
        }

        return $loads;
    }

    /** What freezing one channel gives back. */
    public function saving(string $channel): float
    {
        return $this->load->total - $this->with([$channel]);
    }

    /** Seconds of a core it takes to freeze a channel: it and all that feeds it is worked once. */
    public function seconds(string $channel): float
    {
        $needed = [$channel, ...SessionGraph::routes($this->session)->needed($channel)];
        $load = array_sum(array_map(fn (string $id): float => $this->load->channels[$id]->total, $needed));

        return $load * $this->session->length / $this->session->sampleRate;
    }

    private function frozen(ChannelLoad $load): float
    {
        return $this->reading + (1.0 + self::METER_BEFORE_FADER) * $load->afterFader;
    }

    /**
     * @param  list<string>  $channels
     * @return array<string, true>
     */
    private function asleep(array $channels): array
    {
        $frozen = array_fill_keys($channels, true);
        foreach ($this->session->channels as $channel) {
            if ($channel->frozen !== null || $channel->off) {
                $frozen[$channel->id] = true;
            }
        }

        return Sleepers::of($this->session, $frozen, SessionGraph::routes($this->session)->order());
    }
}
