<?php

declare(strict_types=1);

namespace App\Work;

use Illuminate\Contracts\Cache\Repository;
use Throwable;

/** Why tasks do not reach the workers just now. They wait and go on by themselves; whoever looks at a page is told. */
final readonly class QueueTrouble
{
    private const KEY = 'queue-trouble';

    /** Seconds after which it is over where nobody says it again: the supervisor tries more often. */
    private const LASTS = 30;

    public function __construct(private Repository $cache)
    {
    }

    /** @param  string  $what  fails, as a sentence begins */
    public function say(string $what, Throwable $why): void
    {
        $reason = trim((string) preg_replace('/[^\x20-\x7e]+/', ' ', strtok($why->getMessage(), "\n") ?: ''));
        $this->cache->put(self::KEY, "{$what}: ".rtrim(mb_substr($reason, 0, 160), '.').'. Work waits, and goes on by itself.', self::LASTS);
    }

    public function end(): void
    {
        if ($this->words() !== null) {
            $this->cache->forget(self::KEY);
        }
    }

    /** In printable ASCII; null where tasks get through. */
    public function words(): ?string
    {
        $words = $this->cache->get(self::KEY);

        return is_string($words) ? $words : null;
    }
}
