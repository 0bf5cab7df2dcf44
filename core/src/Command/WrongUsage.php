<?php

declare(strict_types=1);

namespace Hafen\Command;

use RuntimeException;

/** A command line that cannot be understood. */
final class WrongUsage extends RuntimeException
{
}
