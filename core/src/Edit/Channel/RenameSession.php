<?php

declare(strict_types=1);

namespace Hafen\Edit\Channel;

use Hafen\Edit\Edit;
use Hafen\Session\Session;

/** Gives the session another name. */
final readonly class RenameSession implements Edit
{
    public function __construct(public string $name)
    {
    }

    public function apply(Session $session): Session
    {
        return $session->withName($this->name);
    }

    public function label(Session $before): string
    {
        return "Session renamed to {$this->name}";
    }

    public function touches(Session $before): array
    {
        return ['name'];
    }
}
