<?php

declare(strict_types=1);

namespace Hafen\Tests\Support;

use Hafen\Session\Channel\Channel;
use Hafen\Session\Channel\ChannelKind;
use Hafen\Session\Channel\ChannelTrim;
use Hafen\Session\Channel\Send;
use Hafen\Session\Channel\TapPoint;
use Hafen\Session\Channel\Width;
use Hafen\Session\Insert\Branch;
use Hafen\Session\Insert\Insert;
use Hafen\Session\Insert\ProcessorInsert;
use Hafen\Session\Insert\Split;
use Hafen\Session\Insert\SplitBy;
use Hafen\Session\Session;
use Hafen\Session\Source\BusSource;
use Hafen\Session\Source\Clip;
use Hafen\Session\Source\ClipSource;
use Hafen\Session\Source\TapSource;

/** Sessions as nobody would draw them, without loops, with processors {@see NaiveMix} can follow and latencies of every size. */
final class RandomRouting
{
    private int $id = 0;

    private function __construct(private readonly int $length)
    {
    }

    /** @return array{Session, MemoryLibrary, array<string, list<list<float>>>} the session, and its files twice */
    public static function make(int $seed, int $most = 40, int $length = 300): array
    {
        mt_srand($seed);
        $self = new self($length);
        $files = ['one' => [Signal::noise($length, $seed)], 'two' => [Signal::noise($length, $seed + 1), Signal::noise($length, $seed + 2)]];
        $count = mt_rand(2, $most - 1);
        // Sound only ever goes to what comes later in this list, so that no loop can close.
        $kinds = [];
        for ($i = 0; $i < $count; ++$i) {
            $kinds[] = ['track', 'track', 'group', 'return', 'cue'][mt_rand(0, 4)];
        }
        $kinds[] = 'main';
        $channels = [];
        foreach ($kinds as $i => $kind) {
            $channels[] = $self->channel($i, ChannelKind::from($kind), $kinds);
        }
        shuffle($channels);

        return [new Session('Tangle', 48000, 120.0, -3.0, $length, $channels), new MemoryLibrary($files), $files];
    }

    /** @param  list<string>  $kinds */
    private function channel(int $i, ChannelKind $kind, array $kinds): Channel
    {
        $later = static fn (array $wanted): array => array_values(array_filter(array_keys($kinds), static fn (int $k): bool => $k > $i && in_array($kinds[$k], $wanted, true)));
        $outputs = $later(['group', 'return', 'main']);
        $sends = [];
        foreach ($kind === ChannelKind::Cue || $kind === ChannelKind::Main ? [] : $later(['group', 'return', 'cue']) as $target) {
            if (self::chance(0.25)) {
                $sends[] = new Send('n'.++$this->id, "c{$target}", self::level(), TapPoint::cases()[mt_rand(0, 2)], self::chance(0.8), self::pan());
            }
        }
        $isEnd = $kind === ChannelKind::Cue || $kind === ChannelKind::Main;

        return new Channel(
            "c{$i}",
            $kind,
            "Channel {$i}",
            self::chance(0.5) ? Width::Mono : Width::Stereo,
            match (true) {
                $kind !== ChannelKind::Track => new BusSource,
                $i > 0 && self::chance(0.3) => new TapSource('c'.mt_rand(0, $i - 1), TapPoint::cases()[mt_rand(0, 2)]),
                default => new ClipSource([new Clip('k1', self::chance(0.5) ? 'one' : 'two', mt_rand(0, 40), mt_rand(0, 20), mt_rand(50, $this->length), self::level())]),
            },
            new ChannelTrim(self::level(), self::chance(0.3)),
            self::chance(0.9),
            $this->row(2, $i),
            self::level(),
            self::pan(),
            self::chance(0.1),
            self::chance(0.05),
            self::chance(0.2),
            self::chance(0.3) ? $this->row(1, $i) : [],
            $isEnd ? 'none' : (self::chance(0.1) ? 'none' : 'c'.$outputs[array_rand($outputs)]),
            $sends,
        );
    }

    /**
     * @param  int  $i  of the channel it is for: what an insert listens to comes before it
     * @return list<Insert>
     */
    private function row(int $depth, int $i): array
    {
        $row = [];
        for ($n = mt_rand(0, 3); $n > 0; --$n) {
            $row[] = match (mt_rand(0, $depth > 0 ? 4 : 3)) {
                0 => new ProcessorInsert('i'.++$this->id, 'gain', self::chance(0.8), mt_rand(0, 4) / 4, ['gain' => (float) mt_rand(-12, 6)]),
                1 => new ProcessorInsert('i'.++$this->id, 'limiter', false, 1.0, ['look-ahead' => self::chance(0.5) ? '2ms' : '5ms']),
                2 => new ProcessorInsert('i'.++$this->id, 'drive', false),
                3 => new ProcessorInsert('i'.++$this->id, 'follower', self::chance(0.8), mt_rand(2, 4) / 4, sidechain: $i > 0 && self::chance(0.8) ? new TapSource('c'.mt_rand(0, $i - 1), TapPoint::cases()[mt_rand(0, 2)]) : null),
                default => $this->split($depth - 1, $i),
            };
        }

        return $row;
    }

    private function split(int $depth, int $i): Split
    {
        $by = [SplitBy::Copies, SplitBy::Copies, SplitBy::LeftRight, SplitBy::MidSide][mt_rand(0, 3)];
        $branches = [];
        for ($n = $by === SplitBy::Copies ? mt_rand(1, 3) : 2; $n > 0; --$n) {
            $branches[] = new Branch('b'.++$this->id, 'Branch', self::level(), self::pan(), self::chance(0.15), self::chance(0.1), self::chance(0.3), $this->row($depth, $i));
        }

        return new Split('s'.++$this->id, $branches, self::chance(0.9), $by);
    }

    private static function chance(float $of): bool
    {
        return mt_rand(0, 999) < 1000 * $of;
    }

    private static function level(): ?float
    {
        return self::chance(0.05) ? null : mt_rand(-300, 60) / 10;
    }

    private static function pan(): float
    {
        return self::chance(0.5) ? 0.0 : mt_rand(-100, 100) / 100;
    }
}
