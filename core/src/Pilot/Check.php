<?php

declare(strict_types=1);

namespace Hafen\Pilot;

/** Looks for one thing. */
interface Check
{
    /** @return list<Note> */
    public function notes(Chart $chart): array;
}
