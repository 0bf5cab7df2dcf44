<?php

declare(strict_types=1);

namespace Hafen\Hardware\Plug;

/** What is plugged into an input of the simulated interface. */
interface Plug
{
    /**
     * What leaves it, before any gain: 1.0 is full scale of the converter at a gain of 0 dB.
     *
     * @param  int  $at  sample since its beginning: of the session while it plays along, of the clock otherwise; never negative
     * @return list<float>
     */
    public function sound(int $at, int $frames): array;
}
