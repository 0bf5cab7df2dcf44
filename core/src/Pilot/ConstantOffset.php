<?php

declare(strict_types=1);

namespace Hafen\Pilot;

use Hafen\Audio\Decibel;
use Hafen\Edit\Json\EditRequest;
use Hafen\Headroom\Remedies\CutLowEnd;
use Hafen\Session\Channel\ChannelKind;

/** A recording that does not swing around zero: the offset takes headroom and clicks at every cut. */
final readonly class ConstantOffset implements Check
{
    /** Amplitude from which it matters, -50 dBFS. */
    private const LEAST = 0.00316;

    public function advice(SessionFacts $facts): array
    {
        $advice = [];
        foreach ($facts->ofKind(ChannelKind::Track) as $channel) {
            $offset = abs($facts->survey->sources[$channel->id]->offset ?? 0.0);
            if ($offset >= self::LEAST && CutLowEnd::highPass($channel) <= 0.0) {
                $advice[] = new Advice('constant-offset', Severity::Advice, $channel->id, null,
                    sprintf('%s has a constant offset of %s: it takes headroom and clicks at cuts.', $channel->name, Decibel::text(Decibel::fromGain($offset), 'dBFS')),
                    new Fix('High-pass at 20 Hz', EditRequest::addInsert([$channel->id], 'filter', ['type' => 'high-pass', 'frequency' => 20.0], 0)));
            }
        }

        return $advice;
    }
}
