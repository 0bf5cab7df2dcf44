<?php

declare(strict_types=1);

namespace Hafen\Session\Source;

/** Where a channel's sound comes from. */
interface Source
{
}
