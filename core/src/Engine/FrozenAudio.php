<?php

declare(strict_types=1);

namespace Hafen\Engine;

use Hafen\Audio\AudioSource;
use Hafen\Audio\Block;
use Hafen\Audio\UnreadableAudioFile;

/** Plays the file of a frozen channel in place of everything up to its fader, as late as the channel's inserts would be. */
final class FrozenAudio implements Replay
{
    /** Samples by which the sound comes late to the fader. */
    private int $latency = 0;

    private function __construct(public readonly string $file, private readonly ?AudioSource $source)
    {
    }

    /** @throws UnreadableAudioFile when it is not there, or is not a freeze of a session at this rate */
    public static function open(AudioLibrary $library, string $file, int $sampleRate): self
    {
        $source = $library->open($file);
        if ($source->sampleRate() !== $sampleRate || $source->channels() > 2) {
            throw UnreadableAudioFile::noFreeze($file, $source->sampleRate(), $source->channels(), $sampleRate);
        }

        return new self($file, $source);
    }

    /** A channel that is switched off: it plays silence. */
    public static function silence(): self
    {
        return new self('', null);
    }

    public function isSilence(): bool
    {
        return $this->source === null;
    }

    public function comesLate(int $samples): void
    {
        $this->latency = $samples;
    }

    public function read(int $sourcePosition, int $frames): Block
    {
        if ($this->source === null) {
            return Block::silent($frames);
        }
        $sides = $this->source->read($sourcePosition - $this->latency, $frames);

        return isset($sides[1]) ? new Block($sides[0], $sides[1]) : Block::mono($sides[0]);
    }
}
