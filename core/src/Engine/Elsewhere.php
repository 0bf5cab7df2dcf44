<?php

declare(strict_types=1);

namespace Hafen\Engine;

use Hafen\Engine\Parallel\RemoteSum;

/** What other processes work of a session, as this process takes it in. */
final readonly class Elsewhere
{
    /**
     * @param  array<string, Strip>  $strips  by channel id
     * @param  list<RemoteSum>  $sums
     */
    public function __construct(public array $strips = [], public array $sums = [])
    {
    }

    /** @return array<string, Contribution> sums of what feeds a channel, by {@see PartialSum::key()} */
    public function sumsInto(string $channel): array
    {
        $sums = [];
        foreach ($this->sums as $sum) {
            if ($sum->key->bus === $channel) {
                $sums[$sum->key->banks()] = $sum;
            }
        }

        return $sums;
    }

    /** Whether another process sums what comes into a channel from a bank. */
    public function hasSummed(string $channel, int $bank): bool
    {
        foreach ($this->sums as $sum) {
            if ($sum->key->bus === $channel && $sum->key->has($bank)) {
                return true;
            }
        }

        return false;
    }
}
