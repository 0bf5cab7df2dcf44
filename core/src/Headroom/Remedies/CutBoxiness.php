<?php

declare(strict_types=1);

namespace Hafen\Headroom\Remedies;

use Hafen\Audio\Decibel;
use Hafen\Edit\Json\EditRequest;
use Hafen\Headroom\Boxiness;
use Hafen\Headroom\Proposal;
use Hafen\Headroom\Remedy;
use Hafen\Headroom\Situation;

/** A cut of 3 to 6 dB at the boxy resonance of the channel that brings most to the mix there. */
final readonly class CutBoxiness implements Remedy
{
    public function id(): string
    {
        return 'cut-boxiness';
    }

    public function title(): string
    {
        return 'Cut where it piles up, 200 to 500 Hz';
    }

    public function hasAmount(): bool
    {
        return false;
    }

    public function propose(Situation $situation, float $amount): ?Proposal
    {
        $main = $situation->session->main();
        $best = $resonance = null;
        $most = 0.0;
        foreach ($situation->session->channels as $channel) {
            $low = $situation->survey->low[$channel->id] ?? null;
            $found = $channel->output === $main->id && $low !== null ? Boxiness::of($low) : null;
            if ($low !== null && $found !== null && Boxiness::excess($low, $found->frequency) > $most) {
                $most = Boxiness::excess($low, $found->frequency);
                [$best, $resonance] = [$channel, $found];
            }
        }
        if ($best === null || $resonance === null) {
            return null;
        }
        $sum = 0.0;
        foreach ($situation->session->channels as $channel) {
            $low = $channel->output === $main->id ? $situation->survey->low[$channel->id] ?? null : null;
            $sum += $low === null ? 0.0 : Boxiness::excess($low, $resonance->frequency);
        }

        return new Proposal(
            sprintf('Cut %s %s at %.0f Hz', $best->name, Decibel::text(-$resonance->cut()), $resonance->frequency),
            [EditRequest::cutFrequency($best->id, $resonance->frequency, $resonance->cut())],
            [sprintf('It stands %.1f dB out there and brings %.0f %% of the mix at that spot.', $resonance->rise, 100 * $most / max(1e-30, $sum))],
        );
    }
}
