<?php

declare(strict_types=1);

namespace Hafen\Headroom\Remedies;

use Hafen\Audio\Decibel;
use Hafen\Edit\Json\EditRequest;
use Hafen\Headroom\Proposal;
use Hafen\Headroom\Relief;
use Hafen\Headroom\Remedy;
use Hafen\Headroom\Situation;
use Hafen\Session\Channel\Channel;

/** Lowers the one channel that frees most, by as much as it takes, though never by more than a mix can stand. */
final readonly class LowerOffender implements Remedy
{
    /** dB by which one channel is lowered at most. */
    public const MOST = 12.0;

    public function id(): string
    {
        return 'lower-offender';
    }

    public function title(): string
    {
        return 'Lower what fills most';
    }

    public function hasAmount(): bool
    {
        return true;
    }

    public function propose(Situation $situation, float $amount): ?Proposal
    {
        $channel = self::offender($situation);
        if ($amount <= 0.0 || $channel === null || $channel->fader === null) {
            return null;
        }
        $relief = new Relief($situation->survey->moments());
        $by = self::MOST;
        for ($tried = 0.1; $tried < self::MOST; $tried += 0.1) {
            if ($relief->of($channel->id, $tried) >= $amount) {
                $by = $tried;
                break;
            }
        }
        $by = min($by, $channel->fader + 60.0);

        return new Proposal(
            "Lower {$channel->name} ".Decibel::text(-$by, 'dB', true),
            [EditRequest::moveFaders([$channel->id], -$by)],
            [sprintf('%s brings %d %% of the loudest moment; its balance with the others changes.', $channel->name, (int) round(100 * self::share($situation, $channel)))],
        );
    }

    /** Of what feeds the main. */
    public static function offender(Situation $situation): ?Channel
    {
        $relief = new Relief($situation->survey->moments());
        $best = null;
        $most = 0.0;
        foreach (array_keys($situation->survey->loudest()->contributions ?? []) as $id) {
            $freed = $relief->of((string) $id, self::MOST);
            if ($freed > $most) {
                $most = $freed;
                $best = $situation->session->channel((string) $id);
            }
        }

        return $best;
    }

    private static function share(Situation $situation, Channel $channel): float
    {
        return $situation->survey->loudest()?->shares()[$channel->id] ?? 0.0;
    }
}
