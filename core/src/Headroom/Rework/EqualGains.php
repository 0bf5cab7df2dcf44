<?php

declare(strict_types=1);

namespace Hafen\Headroom\Rework;

use Hafen\Audio\Decibel;
use Hafen\Session\Channel\Channel;
use Hafen\Session\Channel\Send;
use Hafen\Session\Session;
use Hafen\Session\Source\Clip;
use Hafen\Session\Source\ClipSource;

/** A session with the trims, faders, send gains and clip gains of another: what still differs is not a matter of gain. */
final class EqualGains
{
    public static function of(Session $session, Session $other): Session
    {
        return $session->withChannels(array_map(static function (Channel $channel) use ($other): Channel {
            $model = $other->channel($channel->id);

            return $model === null ? $channel : self::channel($channel, $model);
        }, $session->channels));
    }

    /**
     * The factor between the gains of the same clips; null where they are not the same clips, or not all moved by the same.
     *
     * @param  list<Clip>  $one
     * @param  list<Clip>  $two
     */
    public static function ofClips(array $one, array $two): ?float
    {
        if (count($one) !== count($two)) {
            return null;
        }
        $factors = [];
        foreach ($two as $i => $clip) {
            if ($clip->withGain(null) != $one[$i]->withGain(null) || ($clip->gain === null) !== ($one[$i]->gain === null)) {
                return null;
            }
            if ($clip->gain !== null) {
                $factors[] = $clip->gain === $one[$i]->gain ? 1.0 : Decibel::toGain($clip->gain - $one[$i]->gain);
            }
        }

        return CommonFactor::of($factors);
    }

    private static function channel(Channel $channel, Channel $model): Channel
    {
        $sends = array_map(static function (Send $send) use ($model): Send {
            $known = array_values(array_filter($model->sends, static fn (Send $one): bool => $one->id === $send->id))[0] ?? null;

            return $known === null || ($known->gain === null) !== ($send->gain === null) ? $send : $send->withGain($known->gain);
        }, $channel->sends);
        $isMovedAlike = $channel->source instanceof ClipSource && $model->source instanceof ClipSource
            && self::ofClips($model->source->clips(), $channel->source->clips()) !== null;

        return $channel->withSends($sends)
            ->withTrim($model->trim)
            ->withFader(($model->fader === null) === ($channel->fader === null) ? $model->fader : $channel->fader)
            ->withSource($isMovedAlike ? $model->source : $channel->source);
    }
}
