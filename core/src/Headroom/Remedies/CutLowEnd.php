<?php

declare(strict_types=1);

namespace Hafen\Headroom\Remedies;

use Hafen\Edit\Json\EditRequest;
use Hafen\Headroom\LowEnd;
use Hafen\Headroom\Proposal;
use Hafen\Headroom\Remedy;
use Hafen\Headroom\Situation;
use Hafen\Session\Channel\Channel;
use Hafen\Session\Insert\ProcessorInsert;

/** A high-pass first on every track that carries nothing useful down there and has none yet. */
final readonly class CutLowEnd implements Remedy
{
    /** Share of the energy that is as good as silence, and needs no filter. */
    private const SILENT = 1e-6;

    public function id(): string
    {
        return 'cut-low-end';
    }

    public function title(): string
    {
        return 'High-pass where nothing is below';
    }

    public function hasAmount(): bool
    {
        return false;
    }

    public function propose(Situation $situation, float $amount): ?Proposal
    {
        $edits = $facts = [];
        foreach ($situation->sources() as $channel) {
            $figures = $situation->survey->sources[$channel->id] ?? null;
            $reading = $situation->survey->taps["{$channel->id}:pre-fader"] ?? null;
            $end = $figures === null || $reading === null ? null : LowEnd::of($figures->low, $reading->meanSquare);
            if ($end === null || $end->removed < self::SILENT || self::highPass($channel) >= 0.8 * $end->frequency) {
                continue;
            }
            $edits[] = EditRequest::addInsert([$channel->id], 'filter', ['type' => 'high-pass', 'frequency' => $end->frequency, 'slope' => $end->removed >= 0.1 ? '24dB' : '12dB'], 0);
            $facts[] = sprintf('%s at %.0f Hz: %s goes.', $channel->name, $end->frequency,
                $end->removed >= 0.1 ? sprintf('%.0f %% of its energy', 100 * $end->removed) : ($end->removed > 1e-9 ? sprintf("\u{2212}%.0f dB of it", -10 * log10($end->removed)) : 'nothing'));
        }

        return $edits === [] ? null : new Proposal(
            'High-pass where nothing is below: '.(count($edits) === 1 ? 'one channel' : count($edits).' channels'),
            $edits,
            $facts,
        );
    }

    /** Highest high-pass that works on a channel, in Hz; 0 where there is none. */
    public static function highPass(Channel $channel): float
    {
        $highest = 0.0;
        foreach ($channel->insertsOn ? $channel->inserts : [] as $insert) {
            if (! $insert instanceof ProcessorInsert || ! $insert->on || $insert->mix < 1.0) {
                continue;
            }
            $frequency = match (true) {
                $insert->processor === 'filter' && ($insert->parameters['type'] ?? 'high-pass') === 'high-pass' => $insert->parameters['frequency'] ?? 80.0,
                $insert->processor === 'parametric-eq' && ($insert->parameters['high-pass'] ?? false) === true => $insert->parameters['high-pass-frequency'] ?? 60.0,
                default => 0.0,
            };
            $highest = max($highest, (float) $frequency);
        }

        return $highest;
    }
}
