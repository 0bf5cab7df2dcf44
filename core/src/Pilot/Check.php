<?php

declare(strict_types=1);

namespace Hafen\Pilot;

/** Looks for one thing. */
interface Check
{
    /** @return list<Advice> */
    public function advice(SessionFacts $facts): array;
}
