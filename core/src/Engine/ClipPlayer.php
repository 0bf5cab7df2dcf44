<?php

declare(strict_types=1);

namespace Hafen\Engine;

use Hafen\Audio\AudioSource;
use Hafen\Audio\Block;
use Hafen\Audio\Decibel;
use Hafen\Audio\Resampler;
use Hafen\Audio\Samples;
use Hafen\Session\Channel\Width;
use Hafen\Session\Source\Clip;

/** Reads and sums a track's clips at the session's rate and the channel's width. */
final class ClipPlayer
{
    /** @var list<array{Clip, AudioSource}> */
    private array $clips = [];

    /** @var array<string, AudioSource> */
    private array $open = [];

    private Width $width = Width::Stereo;

    public function __construct(private readonly AudioLibrary $library, private readonly int $sampleRate)
    {
    }

    /** @param  list<Clip>  $clips */
    public function set(array $clips, Width $width): void
    {
        $open = [];
        $this->clips = [];
        foreach ($clips as $clip) {
            $open[$clip->file] = $this->open[$clip->file]
                ?? $open[$clip->file]
                ?? Resampler::to($this->library->open($clip->file), $this->sampleRate);
            $this->clips[] = [$clip, $open[$clip->file]];
        }
        $this->open = $open;
        $this->width = $width;
    }

    public function read(int $position, int $frames): Block
    {
        $block = null;
        foreach ($this->clips as [$clip, $source]) {
            if ($clip->start >= $position + $frames || $clip->end() <= $position || $clip->gain === null) {
                continue;
            }
            $sides = $this->sides($clip, $source, $position, $frames);
            if ($block === null) {
                $block = count($sides) === 1 ? Block::mono($sides[0]) : new Block($sides[0], $sides[1]);
            } else {
                self::add($block, $sides);
            }
        }

        return $block ?? Block::silent($frames);
    }

    /** @return array{0: list<float>, 1?: list<float>} */
    private function sides(Clip $clip, AudioSource $source, int $position, int $frames): array
    {
        $first = max($position, $clip->start);
        $last = min($position + $frames, $clip->end());
        $sides = $source->read($clip->offset + $first - $clip->start, $last - $first);
        $left = $sides[0];
        $right = $sides[1] ?? null;
        if ($this->width === Width::Mono && $right !== null) {
            $left = Samples::mid($left, $right);
            $right = null;
        }
        $gain = Decibel::toGain($clip->gain);
        $pair = [];
        foreach ($right === null ? [$left] : [$left, $right] as $side) {
            if ($gain !== 1.0) {
                $side = Samples::scale($side, $gain);
            }
            if ($last - $first < $frames) {
                $side = [
                    ...array_fill(0, $first - $position, 0.0),
                    ...$side,
                    ...array_fill(0, $position + $frames - $last, 0.0),
                ];
            }
            $pair[] = $side;
        }

        /** @var array{0: list<float>, 1?: list<float>} $pair */
        return $pair;
    }

    /** @param  array{0: list<float>, 1?: list<float>}  $sides */
    private static function add(Block $block, array $sides): void
    {
        if (isset($sides[1])) {
            $block->widen();
        }
        foreach ($sides[0] as $i => $sample) {
            $block->left[$i] += $sample;
        }
        if (! $block->mono) {
            foreach ($sides[1] ?? $sides[0] as $i => $sample) {
                $block->right[$i] += $sample;
            }
        }
    }
}
