<?php

declare(strict_types=1);

namespace Hafen\Survey;

use Hafen\Audio\Block;
use Hafen\Audio\SampleDecoder;
use Hafen\Engine\Replay;

/** Reads captured audio at any position; equal sides are returned as mono. Written by {@see AudioCapture}. */
final class CapturedAudio implements Replay
{
    /** @var resource */
    private $stream;

    /** @var list<int> where each block begins, and where the last one ends */
    private readonly array $offsets;

    /**
     * @param  int  $start  place of the first sample
     *
     * @throws SurveyStoreFull when it is not there
     */
    public function __construct(private readonly string $path, private readonly int $start, private readonly int $blockSize)
    {
        $stream = is_file($path) ? @fopen($path, 'rb') : false;
        if ($stream === false) {
            throw SurveyStoreFull::gone($path);
        }
        $this->stream = $stream;
        fseek($stream, -8, SEEK_END);
        $blocks = self::numbers((string) fread($stream, 8))[0] ?? 0;
        $end = (int) ftell($stream) - 8 * ($blocks + 1);
        fseek($stream, $end);
        $this->offsets = [...self::numbers((string) stream_get_contents($stream, 8 * $blocks)), $end];
        @touch($path);
    }

    public function read(int $sourcePosition, int $frames): Block
    {
        $at = $sourcePosition - $this->start;
        if ($at % $this->blockSize === 0 && $frames === $this->blockSize) {
            return $this->block(intdiv($at, $this->blockSize));
        }
        $left = $right = [];
        $mono = true;
        for ($done = 0; $done < $frames;) {
            $index = (int) floor(($at + $done) / $this->blockSize);
            $first = $at + $done - $index * $this->blockSize;
            $count = min($this->blockSize - $first, $frames - $done);
            $block = $this->block($index);
            $mono = $mono && $block->mono;
            $left[] = array_slice($block->left, $first, $count);
            $right[] = array_slice($block->right(), $first, $count);
            $done += $count;
        }

        return $mono ? Block::mono(array_merge(...$left)) : new Block(array_merge(...$left), array_merge(...$right));
    }

    private function block(int $index): Block
    {
        $from = $this->offsets[$index] ?? null;
        $to = $this->offsets[$index + 1] ?? null;
        if ($index < 0 || $from === null || $to === null) {
            return Block::silence($this->blockSize);
        }
        fseek($this->stream, $from);
        $bytes = (string) fread($this->stream, max(1, $to - $from));
        if (strlen($bytes) !== $to - $from) {
            throw SurveyStoreFull::gone($this->path);
        }
        $size = 8 * $this->blockSize;

        return match ($bytes[0]) {
            AudioCapture::MONO => Block::mono(self::samples(substr($bytes, 1, $size))),
            AudioCapture::STEREO => new Block(self::samples(substr($bytes, 1, $size)), self::samples(substr($bytes, 1 + $size))),
            AudioCapture::SILENT_MONO => Block::mono(array_fill(0, $this->blockSize, 0.0)),
            default => Block::silence($this->blockSize),
        };
    }

    /** @return list<float> */
    private static function samples(string $bytes): array
    {
        return SampleDecoder::float64($bytes);
    }

    /** @return list<int> */
    private static function numbers(string $bytes): array
    {
        /** @var array<int, int> $numbers */
        $numbers = (array) unpack('P*', $bytes);

        return array_values($numbers);
    }
}
