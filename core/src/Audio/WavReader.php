<?php

declare(strict_types=1);

namespace Hafen\Audio;

/** A WAV, RF64 or Broadcast Wave file, read from any place in constant memory. */
final class WavReader implements AudioSource
{
    /**
     * @param  resource  $stream
     */
    private function __construct(
        private readonly string $path,
        private $stream,
        public readonly WavHeader $header,
    ) {
    }

    /** @throws UnreadableAudioFile naming what is wrong and at which byte */
    public static function open(string $path): self
    {
        $stream = is_file($path) && is_readable($path) ? fopen($path, 'rb') : false;
        if ($stream === false) {
            throw UnreadableAudioFile::missing($path);
        }

        return new self($path, $stream, WavHeader::read($stream, $path));
    }

    public function sampleRate(): int
    {
        return $this->header->format->sampleRate;
    }

    public function channels(): int
    {
        return $this->header->format->channels;
    }

    public function frames(): int
    {
        return $this->header->frames;
    }

    public function read(int $from, int $count): array
    {
        $channels = $this->header->format->channels;
        $first = max(0, $from);
        $last = min($this->header->frames, $from + $count);
        if ($last <= $first) {
            return array_fill(0, $channels, array_fill(0, $count, 0.0));
        }
        $sides = SampleDecoder::sides($this->bytes($first, $last - $first), $this->header->format->samples, $channels);
        if ($last - $first === $count) {
            return $sides;
        }
        $before = $first > $from ? array_fill(0, $first - $from, 0.0) : [];
        $after = array_fill(0, $from + $count - $last, 0.0);

        return array_map(static fn (array $side): array => [...$before, ...$side, ...$after], $sides);
    }

    /** Whether samples from a place on may lie between the highest a 16-bit file can say and full scale; where it says no, none does. */
    public function mayBeFull(int $from, int $count): bool
    {
        $first = max(0, $from);
        $last = min($this->header->frames, $from + $count);

        return $last > $first && SampleDecoder::mayBeFull($this->bytes($first, $last - $first), $this->header->format->samples);
    }

    /** How many samples from a place on are no numbers, or infinite, and are read as silence. */
    public function unreadable(int $from, int $count): int
    {
        $first = max(0, $from);
        $last = min($this->header->frames, $from + $count);

        return $last <= $first || ! $this->header->format->samples->isFloat()
            ? 0
            : SampleDecoder::unreadable($this->bytes($first, $last - $first), $this->header->format->samples);
    }

    private function bytes(int $first, int $frames): string
    {
        $frame = $this->header->format->bytesPerFrame();
        fseek($this->stream, $this->header->dataStart + $first * $frame);
        $wanted = max(1, $frames * $frame);
        $bytes = (string) fread($this->stream, $wanted);
        while (strlen($bytes) < $wanted) {
            $more = (string) fread($this->stream, max(1, $wanted - strlen($bytes)));
            if ($more === '') {
                throw UnreadableAudioFile::gone($this->path);
            }
            $bytes .= $more;
        }

        return $bytes;
    }
}
