<?php

declare(strict_types=1);

namespace Hafen\Session;

/**
 * A whole mix as an immutable value. Lengths in samples at `sampleRate`; `panLaw` is the gain in dB at the centre.
 */
final readonly class Session
{
    use Copies;

    /** @param  list<Channel>  $channels in the order they are shown; exactly one is the main */
    public function __construct(
        public string $name,
        public int $sampleRate,
        public float $tempo,
        public float $panLaw,
        public int $length,
        public array $channels,
    ) {
    }

    public function channel(string $id): ?Channel
    {
        foreach ($this->channels as $channel) {
            if ($channel->id === $id) {
                return $channel;
            }
        }

        return null;
    }

    public function main(): Channel
    {
        foreach ($this->channels as $channel) {
            if ($channel->kind === ChannelKind::Main) {
                return $channel;
            }
        }
        throw InvalidDocument::at('/channels', 'There is no channel of kind "main"; one is needed');
    }

    public function place(string $insertId): ?InsertPlace
    {
        foreach ($this->channels as $channel) {
            foreach (Row::cases() as $row) {
                foreach ($channel->row($row) as $index => $insert) {
                    if ($insert->id() === $insertId) {
                        return new InsertPlace($channel, $row, $index, $insert);
                    }
                }
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

    /** The session with one insert replaced by another in its place. */
    public function withInsert(InsertPlace $place, Insert $changed): self
    {
        $row = $place->channel->row($place->row);
        $row[$place->index] = $changed;

        return $this->withChannel($place->channel->withRow($place->row, array_values($row)));
    }

    /** An insert id that is not taken: "i" and the next number. */
    public function freeInsertId(): string
    {
        $highest = 0;
        foreach ($this->channels as $channel) {
            foreach ($channel->allInserts() as $insert) {
                if (preg_match('/^i(\d{1,9})$/', $insert->id(), $found) === 1) {
                    $highest = max($highest, (int) $found[1]);
                }
            }
        }

        return 'i'.($highest + 1);
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
}
