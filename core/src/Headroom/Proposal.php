<?php

declare(strict_types=1);

namespace Hafen\Headroom;

use Hafen\Edit\Json\EditRequest;

/** What a remedy would do: edits, what to call them, and what is to be known about them beforehand. */
final readonly class Proposal
{
    /**
     * @param  list<EditRequest>  $edits
     * @param  list<string>  $facts  one sentence each
     */
    public function __construct(public string $label, public array $edits, public array $facts = [])
    {
    }
}
