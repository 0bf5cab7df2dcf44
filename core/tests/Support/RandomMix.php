<?php

declare(strict_types=1);

namespace Hafen\Tests\Support;

use Hafen\Session\Channel\ChannelKind;
use Hafen\Session\Channel\ChannelTrim;
use Hafen\Session\Channel\Send;
use Hafen\Session\Channel\TapPoint;
use Hafen\Session\Channel\Width;
use Hafen\Session\Insert\ProcessorInsert;
use Hafen\Session\Session;
use Hafen\Session\Source\TapSource;

/** Small mixes as people draw them: tracks, a group, a return, what depends on level in many places, and a main that is too hot. */
final class RandomMix
{
    public const LENGTH = 28800;

    /** @return array{Session, MemoryLibrary} */
    public static function make(int $seed): array
    {
        mt_srand($seed);
        $files = $channels = [];
        $id = 0;
        $level = static fn (int $from, int $to): float => mt_rand(10 * $from, 10 * $to) / 10;
        $tracks = 0;
        $insert = static function () use (&$id, &$tracks, $level): ProcessorInsert {
            [$processor, $parameters] = [
                ['compressor', ['threshold' => $level(-30, -12), 'ratio' => 3.0]],
                ['drive', ['drive' => $level(0, 12)]],
                ['parametric-eq', ['bell-1-gain' => $level(-6, 6)]],
                ['limiter', ['ceiling' => $level(-6, 0)]],
                ['gain', ['gain' => $level(-6, 3)]],
            ][mt_rand(0, 4)];

            // A compressor may listen to a track that comes before.
            $key = $processor === 'compressor' && $tracks > 0 && mt_rand(0, 1) === 0 ? new TapSource('t'.mt_rand(0, $tracks - 1), TapPoint::cases()[mt_rand(0, 2)]) : null;

            return Mix::insert('i'.++$id, $processor, $parameters, mt_rand(0, 3) === 0 ? 0.5 : 1.0, mt_rand(0, 5) > 0)->withSidechain($key);
        };
        $count = mt_rand(3, 5);
        for ($i = 0; $i < $count; ++$i) {
            $tracks = $i;
            $stereo = mt_rand(0, 1) === 1;
            $files["t{$i}"] = array_map(static fn (int $side): array => self::sound(100 * $seed + 10 * $i + $side), $stereo ? [0, 1] : [0]);
            $channel = Mix::track("t{$i}", array_map($insert, array_fill(0, mt_rand(0, 2), null)), $stereo ? Width::Stereo : Width::Mono, self::LENGTH)
                ->withOutput(mt_rand(0, 2) === 0 ? 'group' : 'main')
                ->withFader($level(-12, 0));
            $channels[] = mt_rand(0, 2) === 0
                ? $channel->withSends([new Send('n'.++$id, 'return', $level(-20, -6), TapPoint::cases()[mt_rand(0, 2)])])
                : $channel;
        }
        $tracks = $count;
        $channels[] = Mix::bus('group', ChannelKind::Group, [$insert()]);
        $channels[] = Mix::bus('return', ChannelKind::Return, [Mix::insert('i'.++$id, 'reverb')]);
        $session = Mix::session($channels, mt_rand(0, 1) === 1 ? [$insert()] : [], self::LENGTH);
        $library = new MemoryLibrary($files);
        // The main's own trim makes it as hot as the demo's, whatever came before.
        $peak = Mix::survey($session, $library)->peak() ?? 0.0;

        return [$session->withChannel($session->main()->withTrim(new ChannelTrim(min(24.0, 1.0 - $peak)))), $library];
    }

    /** @return list<float> a decaying tone over and over, with some noise */
    private static function sound(int $seed): array
    {
        $noise = Signal::noise(self::LENGTH, 7919 * $seed);
        $frequency = 60.0 * 2.0 ** mt_rand(0, 5);
        $every = mt_rand(6000, 12000);
        $sound = [];
        for ($i = 0; $i < self::LENGTH; ++$i) {
            $sound[] = exp(-($i % $every) / 4000) * (0.6 * sin(2.0 * M_PI * $frequency * $i / 48000) + 0.1 * $noise[$i]);
        }

        return $sound;
    }
}
