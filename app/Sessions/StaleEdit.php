<?php

declare(strict_types=1);

namespace App\Sessions;

use Hafen\Refusal;

/** An edit made on a state that has changed since, in the very part the edit touches. */
final class StaleEdit extends Refusal
{
    /** @var list<string> labels of what changed meanwhile */
    public array $changed = [];

    public int $change = 0;

    /** @param  list<string>  $labels */
    public static function meanwhile(array $labels, int $change): self
    {
        $refusal = new self('base', 'Changed meanwhile in another window: '.implode('; ', $labels).'. The newest state is shown; make your change again.');
        $refusal->changed = $labels;
        $refusal->change = $change;

        return $refusal;
    }
}
