<?php

declare(strict_types=1);

namespace Hafen\Session;

use Hafen\Session\Channel\Channel;
use Hafen\Session\Channel\ChannelKind;
use Hafen\Session\Channel\SendLocation;
use Hafen\Session\Hardware\HardwareLoop;
use Hafen\Session\Insert\Branch;
use Hafen\Session\Insert\BranchLocation;
use Hafen\Session\Insert\Insert;
use Hafen\Session\Insert\InsertLocation;
use Hafen\Session\Insert\Inserts;
use Hafen\Session\Insert\Row;
use Hafen\Session\Insert\Split;
use Hafen\Session\Macro\MacroLocation;
use Hafen\Session\Sound\SoundLocation;
use LogicException;

/**
 * A whole mix as an immutable value. Lengths in samples at `sampleRate`; `panLaw` is the gain in dB at the centre.
 */
final readonly class Session
{
    /** @var array<array-key, Channel> by id */
    private array $byId;

    /**
     * @param  list<Channel>  $channels in the order they are shown; exactly one is the main
     * @param  list<HardwareLoop>  $loops
     */
    public function __construct(
        public string $name,
        public int $sampleRate,
        public float $tempo,
        public float $panLaw,
        public int $length,
        public array $channels,
        public array $loops = [],
    ) {
        $byId = [];
        foreach ($channels as $channel) {
            $byId[$channel->id] ??= $channel;
        }
        $this->byId = $byId;
    }

    public function channel(string $id): ?Channel
    {
        return $this->byId[$id] ?? null;
    }

    public function loop(string $id): ?HardwareLoop
    {
        foreach ($this->loops as $loop) {
            if ($loop->id === $id) {
                return $loop;
            }
        }

        return null;
    }

    /** @throws LogicException when there is none, which no document that was read leads to */
    public function main(): Channel
    {
        foreach ($this->channels as $channel) {
            if ($channel->kind === ChannelKind::Main) {
                return $channel;
            }
        }
        throw new LogicException('A session has a channel of kind "main"; documents without one are refused.');
    }

    public function locate(string $insertId): ?InsertLocation
    {
        foreach ($this->channels as $channel) {
            foreach (Row::cases() as $row) {
                $location = self::locateIn($channel, $row, $channel->row($row), $insertId, null);
                if ($location !== null) {
                    return $location;
                }
            }
        }

        return null;
    }

    public function branch(string $branchId): ?BranchLocation
    {
        foreach ($this->channels as $channel) {
            foreach (Row::cases() as $row) {
                foreach (Inserts::all($channel->row($row)) as $insert) {
                    if (! $insert instanceof Split) {
                        continue;
                    }
                    foreach ($insert->branches as $index => $branch) {
                        if ($branch->id === $branchId) {
                            return new BranchLocation($channel, $row, $insert, $index, $branch);
                        }
                    }
                }
            }
        }

        return null;
    }

    public function send(string $sendId): ?SendLocation
    {
        foreach ($this->channels as $channel) {
            foreach ($channel->sends as $send) {
                if ($send->id === $sendId) {
                    return new SendLocation($channel, $send);
                }
            }
        }

        return null;
    }

    public function macro(string $macroId): ?MacroLocation
    {
        foreach ($this->channels as $channel) {
            $macro = $channel->macro($macroId);
            if ($macro !== null) {
                return new MacroLocation($channel, $macro);
            }
        }

        return null;
    }

    public function soundSwitch(string $id): ?SoundLocation
    {
        foreach ($this->channels as $channel) {
            $switch = $channel->soundSwitch($id);
            if ($switch !== null) {
                return new SoundLocation($channel, $switch);
            }
        }

        return null;
    }

    /** The session with the channel of the same id replaced. */
    public function withChannel(Channel $changed): self
    {
        return $this->withChannels(array_map(
            static fn (Channel $channel): Channel => $channel->id === $changed->id ? $changed : $channel,
            $this->channels,
        ));
    }

    /** @param  list<Channel>  $channels */
    public function withChannels(array $channels): self
    {
        return $this->copy(channels: $channels);
    }

    /** @param  list<HardwareLoop>  $loops */
    public function withLoops(array $loops): self
    {
        return $this->copy(loops: $loops);
    }

    public function withName(string $name): self
    {
        return $this->copy(name: $name);
    }

    public function withTempo(float $tempo): self
    {
        return $this->copy(tempo: $tempo);
    }

    public function withLength(int $length): self
    {
        return $this->copy(length: $length);
    }

    /** The session with one insert replaced by another in its place, or by several, or by none. */
    public function withInsert(InsertLocation $location, Insert ...$by): self
    {
        $row = Inserts::replace($location->channel->row($location->row), $location->insert->id(), array_values($by));

        return $this->withChannel($location->channel->withRow($location->row, $row));
    }

    /** The session with one branch changed. */
    public function withBranch(BranchLocation $location, Branch $changed): self
    {
        $row = Inserts::changeBranch($location->channel->row($location->row), $location->branch->id, static fn (): Branch => $changed);

        return $this->withChannel($location->channel->withRow($location->row, $row));
    }

    /** A channel id made from a name, with a number where it is taken. */
    public function freeChannelId(string $name): string
    {
        $plain = trim((string) preg_replace('/[^a-z0-9]+/', '-', strtolower($name)), '-');
        $base = substr($plain === '' || $plain === 'none' ? 'channel' : $plain, 0, 40);
        $id = $base;
        for ($number = 2; $this->channel($id) !== null; ++$number) {
            $id = "{$base}-{$number}";
        }

        return $id;
    }

    /** @param  list<Insert>  $inserts */
    private static function locateIn(Channel $channel, Row $row, array $inserts, string $id, ?string $inBranch): ?InsertLocation
    {
        foreach ($inserts as $index => $insert) {
            if ($insert->id() === $id) {
                return new InsertLocation($channel, $row, $index, $insert, $inserts, $inBranch);
            }
            foreach ($insert->branches() as $branch) {
                $location = self::locateIn($channel, $row, $branch->inserts, $id, $branch->id);
                if ($location !== null) {
                    return $location;
                }
            }
        }

        return null;
    }

    private function copy(mixed ...$changes): self
    {
        $properties = get_object_vars($this);
        unset($properties['byId']);

        /** @phpstan-ignore argument.type (callers pass properties of this class under their own names) */
        return new self(...[...$properties, ...$changes]);
    }
}
