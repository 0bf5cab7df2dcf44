<?php

declare(strict_types=1);

namespace Hafen\Edit\Channel;

use Hafen\Edit\Edit;
use Hafen\Edit\Level\SetFader;
use Hafen\Session\Channel\Channel;
use Hafen\Session\Channel\FaderScale;
use Hafen\Session\Channel\Performer;
use Hafen\Session\Channel\PerformerPart;

/** The few faders whoever hears a cue has for themselves. */
enum PerformerFader: string
{
    case Me = 'me';
    case Band = 'band';
    case Click = 'click';
    case Volume = 'volume';

    /** The click at its lowest is no click. */
    private const LOWEST_CLICK = -60.0;

    /** @return list<self> those a cue has: none for oneself where no track is one's own */
    public static function of(Channel $cue): array
    {
        return array_values(array_filter(self::cases(), static fn (self $fader): bool => $fader !== self::Me || ($cue->performer->tracks ?? []) !== []));
    }

    public function label(Channel $cue): string
    {
        return match ($this) {
            self::Me => 'Me',
            self::Band => ($cue->performer->tracks ?? []) === [] ? 'All' : 'Band',
            self::Click => 'Click',
            self::Volume => 'Volume',
        };
    }

    /** In dB, the click in dBFS; null is silence. */
    public function gain(Channel $cue): ?float
    {
        $performer = $cue->performer ?? new Performer;

        return match ($this) {
            self::Me => $performer->me,
            self::Band => $performer->band,
            self::Click => $cue->click,
            self::Volume => $cue->fader,
        };
    }

    /** What it puts on top of the sends; null where it sets something else. */
    public function part(): ?PerformerPart
    {
        return match ($this) {
            self::Me => PerformerPart::Me,
            self::Band => PerformerPart::Band,
            self::Click, self::Volume => null,
        };
    }

    public function lowest(): float
    {
        return $this === self::Click ? self::LOWEST_CLICK : FaderScale::LOWEST;
    }

    public function highest(): float
    {
        return $this === self::Click ? 0.0 : FaderScale::HIGHEST;
    }

    /** @param  ?float  $gain  null is silence */
    public function edit(Channel $cue, ?float $gain): Edit
    {
        return match ($this) {
            self::Me => new SetPerformerGain($cue->id, PerformerPart::Me, $gain),
            self::Band => new SetPerformerGain($cue->id, PerformerPart::Band, $gain),
            self::Click => new SetClick($cue->id, $gain === self::LOWEST_CLICK ? null : $gain),
            self::Volume => new SetFader([$cue->id], $gain),
        };
    }
}
