<?php

declare(strict_types=1);

namespace Hafen\Session;

/** The sum of everything whose output is this channel. */
final readonly class BusSource implements Source
{
}
