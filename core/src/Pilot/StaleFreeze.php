<?php

declare(strict_types=1);

namespace Hafen\Pilot;

use Hafen\Document\ContentHashes;
use Hafen\Edit\Json\EditRequest;

/** A frozen channel that would sound otherwise unfrozen: what feeds it was changed since. */
final readonly class StaleFreeze implements Check
{
    public function advice(SessionFacts $facts): array
    {
        return array_map(static fn (string $id): Advice => new Advice(
            'freeze-stale',
            Severity::Severe,
            $id,
            null,
            "{$facts->name($id)} plays a freeze of what it was: what feeds it was changed since. Freeze it again, or unfreeze it.",
            new Fix('Unfreeze', EditRequest::unfreeze([$id])),
        ), ContentHashes::of($facts->session, $facts->processors)->stale());
    }
}
