<?php

declare(strict_types=1);

namespace Hafen\Session\Source;

use Hafen\Session\Copies;

/** Clips of a track that are kept beside those it plays. */
final readonly class Version
{
    use Copies;

    /** @param  list<Clip>  $clips */
    public function __construct(public string $id, public string $name, public array $clips)
    {
    }

    /** @param  list<Clip>  $clips */
    public function withClips(array $clips): self
    {
        return $this->copy(clips: $clips);
    }
}
