<?php

declare(strict_types=1);

namespace Hafen\Demo;

use Hafen\Note\Note;
use Hafen\Note\NoteClip;
use Hafen\Note\Ticks;
use Hafen\Session\Channel\Channel;
use Hafen\Session\Channel\ChannelKind;
use Hafen\Session\Channel\Send;
use Hafen\Session\Channel\Width;
use Hafen\Session\FreshIds;
use Hafen\Session\Insert\ProcessorInsert;
use Hafen\Session\Session;
use Hafen\Session\Source\NoteSource;

/** Struck bars that double the accordion: the chord of each bar is held, and an arpeggio plays it. */
final class Bars
{
    /** The bar in which they come in, counted from 0. */
    private const FIRST = 4;

    public static function in(Session $session, Score $score): Session
    {
        $ids = FreshIds::of($session);
        $bar = 4 * Ticks::PER_BEAT;
        $notes = [];
        for ($n = self::FIRST; $n < Score::BARS; ++$n) {
            foreach ($score->chord($n) as $k => $key) {
                $notes[] = new Note(($n - self::FIRST) * $bar, $bar - 60, $key + 12, 52 + 4 * $k + 2 * ($n % 4));
            }
        }
        $clip = (new NoteClip('c1', self::FIRST * $bar, (Score::BARS - self::FIRST) * $bar))->withNotes($notes);
        $bars = new Channel(
            'bars',
            ChannelKind::Note,
            'Bars',
            Width::Mono,
            new NoteSource([$clip]),
            inserts: [
                new ProcessorInsert($ids->insert(), 'arpeggio', parameters: ['order' => 'up-down', 'note' => '1/8', 'octaves' => 2.0, 'swing' => 12.0]),
                new ProcessorInsert($ids->insert(), 'struck-bar', parameters: ['decay' => 1.2, 'material' => 30.0, 'hardness' => 35.0]),
            ],
            fader: -12.0,
            pan: 0.3,
            sends: [new Send($ids->send(), 'hall', -9.0)],
        );
        $channels = [];
        foreach ($session->channels as $channel) {
            array_push($channels, $channel, ...($channel->id === 'accordion-body' ? [$bars] : []));
        }

        return $session->withChannels($channels);
    }
}
