<?php

declare(strict_types=1);

namespace Hafen\Demo;

/** An instrument of the demo: made by code, the same every time. */
interface Voice
{
    /**
     * The whole part.
     *
     * @return list<list<float>> one list of {@see Score::frames()} samples per side
     */
    public function play(Score $score): array;
}
