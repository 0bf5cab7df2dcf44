<?php

declare(strict_types=1);

namespace Hafen\Hardware\Plug;

use Hafen\Audio\AudioSource;
use Hafen\Audio\Samples;

/** A file that is played again and again, both sides as one. */
final readonly class PlayedFile implements Plug
{
    /** @param  AudioSource  $file  at the rate of the session */
    public function __construct(private AudioSource $file)
    {
    }

    public function sound(int $at, int $frames): array
    {
        $length = $this->file->frames();
        $sound = [];
        while (count($sound) < $frames && $length > 0) {
            $from = ($at + count($sound)) % $length;
            $sides = $this->file->read($from, min($frames - count($sound), $length - $from));
            array_push($sound, ...(isset($sides[1]) ? Samples::mid($sides[0], $sides[1]) : $sides[0]));
        }

        return $length > 0 ? $sound : array_fill(0, $frames, 0.0);
    }
}
