<?php

declare(strict_types=1);

namespace Hafen\Edit\Split;

use Hafen\Audio\Decibel;
use Hafen\Edit\Edit;
use Hafen\Session\Insert\Branch;
use Hafen\Session\Session;

/** Sets the level of branches in dB; null is silence. */
final readonly class SetBranchGain implements Edit
{
    /** @param  list<string>  $branches */
    public function __construct(public array $branches, public ?float $gain)
    {
    }

    public function apply(Session $session): Session
    {
        return Branches::each($session, $this->branches, fn (Branch $branch): Branch => $branch->withGain($this->gain));
    }

    public function label(Session $before): string
    {
        return Branches::named($before, $this->branches).' '.Decibel::text($this->gain, 'dB', true);
    }

    public function touches(Session $before): array
    {
        return Branches::paths($this->branches, 'gain');
    }
}
