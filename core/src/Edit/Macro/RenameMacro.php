<?php

declare(strict_types=1);

namespace Hafen\Edit\Macro;

use Hafen\Edit\Edit;
use Hafen\Session\Session;

final readonly class RenameMacro implements Edit
{
    public function __construct(public string $macro, public string $name)
    {
    }

    public function apply(Session $session): Session
    {
        $location = Macros::find($session, $this->macro);

        return $session->withChannel($location->channel->withMacro($location->macro->withName($this->name)));
    }

    public function label(Session $before): string
    {
        return "Name macro {$this->name}";
    }

    public function touches(Session $before): array
    {
        return ["macros/{$this->macro}/name"];
    }
}
