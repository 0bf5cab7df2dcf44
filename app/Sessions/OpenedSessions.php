<?php

declare(strict_types=1);

namespace App\Sessions;

use Hafen\Document\SessionCodec;
use Hafen\Refusal;
use Hafen\Session\Session;

/** Sessions by their documents, each decoded once: what an edit stored is what its answer shows. */
final class OpenedSessions
{
    private const MOST = 3;

    /** @var array<array-key, Session> by the hash of their document */
    private array $sessions = [];

    public function __construct(private readonly SessionCodec $codec)
    {
    }

    /** @throws Refusal when the document cannot be read */
    public function of(string $document): Session
    {
        $hash = 'x'.hash('xxh128', $document);
        $session = $this->sessions[$hash] ?? $this->codec->decode($document);
        unset($this->sessions[$hash]);
        $this->sessions[$hash] = $session;
        if (count($this->sessions) > self::MOST) {
            array_shift($this->sessions);
        }

        return $session;
    }
}
