<?php

declare(strict_types=1);

namespace Hafen\Pilot;

use Hafen\Audio\Decibel;
use Hafen\Edit\Json\EditRequest;
use Hafen\Session\Channel\InterfacePorts;

/** What goes out above full scale: converters and files of whole numbers cut it off. */
final readonly class ClipsAtOutput implements Check
{
    /** dB that stay free above the peak when it is fixed. */
    private const SPARE = 1.0;

    public function advice(SessionFacts $facts): array
    {
        $advice = [];
        foreach ($facts->session->channels as $channel) {
            $reading = $facts->reading("{$channel->id}:post-fader");
            $peak = $reading?->peakLevel();
            if ($reading === null || $peak === null || $reading->overs === 0 || ! InterfacePorts::isPair($channel->output)) {
                continue;
            }
            $by = -ceil(10.0 * ($peak + self::SPARE)) / 10.0;
            $advice[] = new Advice('clips-at-output', Severity::Severe, $channel->id, null,
                sprintf('%s clips at its output: %d %s, by up to %s.', $channel->name, $reading->overs, $reading->overs === 1 ? 'sample' : 'samples', Decibel::text($peak)),
                $channel->fader === null || $channel->fader + $by < -60.0 ? null : new Fix(
                    'Lower its fader '.Decibel::text($by),
                    EditRequest::moveFaders([$channel->id], $by),
                ));
        }

        return $advice;
    }
}
