<?php

declare(strict_types=1);

namespace Hafen\Engine\Parallel\Message;

use Hafen\Engine\AudioLibrary;
use Hafen\Engine\Parallel\Part;
use Hafen\Processor\Processor;
use Hafen\Session\Session;

/** Begin to work channels of a session. Answered by {@see SectionFacts}. */
final readonly class OpenSection
{
    /**
     * @param  list<class-string<Processor>>  $processors
     * @param  bool  $fadesIn  whether they take over from a process that ended
     */
    public function __construct(
        public array $processors,
        public AudioLibrary $library,
        public Session $session,
        public Part $part,
        public bool $metered,
        public bool $fadesIn,
    ) {
    }
}
