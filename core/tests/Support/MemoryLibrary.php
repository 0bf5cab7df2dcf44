<?php

declare(strict_types=1);

namespace Hafen\Tests\Support;

use Hafen\Audio\AudioSource;
use Hafen\Audio\UnreadableAudioFile;
use Hafen\Engine\AudioLibrary;

/** Sound that exists only in a test. */
final class MemoryLibrary implements AudioLibrary
{
    /** @param  array<string, list<list<float>>>  $files sides by name */
    public function __construct(public array $files, private readonly int $rate = 48000)
    {
    }

    public function open(string $file): AudioSource
    {
        $sides = $this->files[$file] ?? throw UnreadableAudioFile::missing($file);

        return new class($sides, $this->rate) implements AudioSource
        {
            /** @param  list<list<float>>  $sides */
            public function __construct(private readonly array $sides, private readonly int $rate)
            {
            }

            public function sampleRate(): int
            {
                return $this->rate;
            }

            public function channels(): int
            {
                return count($this->sides);
            }

            public function frames(): int
            {
                return count($this->sides[0]);
            }

            public function read(int $from, int $count): array
            {
                return array_map(static function (array $side) use ($from, $count): array {
                    $out = [];
                    for ($i = 0; $i < $count; ++$i) {
                        $out[] = $side[$from + $i] ?? 0.0;
                    }

                    return $out;
                }, $this->sides);
            }
        };
    }
}
