<?php

declare(strict_types=1);

namespace Hafen\Session;

/** Where a channel's sound comes from. */
interface Source
{
}
