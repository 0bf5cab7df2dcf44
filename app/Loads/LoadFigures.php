<?php

declare(strict_types=1);

namespace App\Loads;

use Hafen\Load\ChannelLoad;
use Hafen\Load\FreezeForecast;
use Hafen\Load\SessionLoad;
use Hafen\Session\Session;

/** Measured loads as they are stored, and as the browser gets them. */
final class LoadFigures
{
    /** @return array<string, mixed> */
    public static function stored(SessionLoad $load): array
    {
        return ['total' => $load->total, 'seconds' => $load->seconds, 'memory' => $load->memory, 'channels' => array_map(
            static fn (ChannelLoad $channel): array => [$channel->total, $channel->reading, $channel->afterFader, $channel->processors],
            $load->channels,
        )];
    }

    /** @param  array<string, mixed>  $stored  by {@see stored()} */
    public static function read(array $stored): SessionLoad
    {
        /** @var array{total: float|int, seconds: float|int, memory: int, channels: array<string, array{float|int, float|int, float|int, array<string, float|int>}>} $stored */
        return new SessionLoad((float) $stored['total'], array_map(
            static fn (array $channel): ChannelLoad => new ChannelLoad((float) $channel[0], (float) $channel[1], (float) $channel[2], array_map(floatval(...), $channel[3])),
            $stored['channels'],
        ), (float) $stored['seconds'], $stored['memory']);
    }

    /** @return array<string, mixed> loads as shares of a core */
    public static function of(Session $session, SessionLoad $load): array
    {
        $forecast = new FreezeForecast($session, $load);
        $candidates = array_flip($forecast->candidates());
        $channels = [];
        foreach ($session->channels as $channel) {
            $its = $load->channels[$channel->id] ?? null;
            if ($its === null) {
                continue;
            }
            $canBeFrozen = isset($candidates[$channel->id]);
            $channels[] = [
                'id' => $channel->id,
                'total' => $its->total,
                'reading' => $its->reading,
                'own' => $its->own(),
                'inserts' => (object) $its->processors,
                'saving' => $canBeFrozen ? $forecast->saving($channel->id) : null,
                'seconds' => $canBeFrozen ? $forecast->seconds($channel->id) : null,
            ];
        }

        return ['total' => $load->total, 'engine' => $load->engine(), 'seconds' => $load->seconds, 'memory' => $load->memory, 'channels' => $channels];
    }
}
