<?php

declare(strict_types=1);

namespace Hafen\Edit\Print;

use Hafen\Edit\Channel\NewChannels;
use Hafen\Edit\Channels;
use Hafen\Edit\Edit;
use Hafen\Edit\Refusals\CannotBeSwitchedOff;
use Hafen\Edit\Refusals\NothingSelected;
use Hafen\Edit\Refusals\TooManyChannels;
use Hafen\Edit\Version\Versions;
use Hafen\Session\Channel\Channel;
use Hafen\Session\Channel\ChannelKind;
use Hafen\Session\Channel\ChannelTrim;
use Hafen\Session\Channel\Send;
use Hafen\Session\Channel\TapPoint;
use Hafen\Session\FreshIds;
use Hafen\Session\Insert\Insert;
use Hafen\Session\Insert\Row;
use Hafen\Session\Session;
use Hafen\Session\Source\ClipSource;

/**
 * Puts prints into a session as one step: each on a track of its own below what it was printed from, or in place of the clips of its track,
 * which are kept as a version. Levels and effects that are in a print are not applied to it again; a new track has the fader, pan
 * and sends that are not in its print, and no inserts: what is printed dry stays dry. A print of several channels has none of theirs.
 */
final readonly class PutPrints implements Edit
{
    /** @param  list<PlacedPrint>  $prints */
    public function __construct(public array $prints, public bool $inPlace, public AfterPrint $after)
    {
    }

    public function apply(Session $session): Session
    {
        if ($this->prints === []) {
            throw NothingSelected::atAll();
        }
        foreach ($this->prints as $print) {
            $session = $this->inPlace ? self::inPlace($session, $print) : $this->below($session, $print);
            $session = $session->withLength(max($session->length, $print->clip()->end()));
        }

        return $session;
    }

    public function label(Session $before): string
    {
        return 'Print '.Channels::named($before, $this->channels());
    }

    public function touches(Session $before): array
    {
        // New tracks stand among the others, and what was printed is changed in many ways.
        return ['order', ...array_map(static fn (string $id): string => "channels/{$id}", $this->channels())];
    }

    /** @return list<string> */
    private function channels(): array
    {
        return array_values(array_unique(array_merge([], ...array_map(static fn (PlacedPrint $print): array => $print->from->channels(), $this->prints))));
    }

    private function below(Session $session, PlacedPrint $print): Session
    {
        if (count($session->channels) >= NewChannels::MOST) {
            throw TooManyChannels::thanMost(NewChannels::MOST);
        }
        $from = Channels::find($session, $print->from->channel);
        $others = array_map(static fn (string $id): Channel => Channels::find($session, $id), $print->from->with);
        $isAlone = $others === [];
        $name = NewChannels::name($session, $print->name);
        $main = $session->main()->id;
        $track = (new Channel($session->freeChannelId($name), ChannelKind::Track, $name, $print->file->width, new ClipSource([$print->clip()])))
            ->withOutput(match (true) {
                $print->from->tap === 'main' => 'none',
                array_filter($others, static fn (Channel $other): bool => $other->output !== $from->output) !== [] => $main,
                $from->kind->endsAtInterface() => $from->id === $main ? 'none' : $main,
                default => $from->output,
            });
        if ($isAlone && ($print->from->tap === 'source' || $print->from->tap === 'pre-fader')) {
            // Fader, pan and sends are not in the print: the new track has them as the channel did.
            $track = $track->withFader($from->fader)->withPan($from->pan);
        }
        if ($isAlone && $print->from->tap !== 'main' && $from->kind->canSend()) {
            $ids = FreshIds::of($session);
            $track = $track->withSends(array_map(static fn (Send $send): Send => $send->withId($ids->send()), self::sendsAfter($from, $print->from->tap)));
        }
        foreach ([$from, ...$others] as $printed) {
            $session = $this->treat($session, $printed);
        }
        $channels = $session->channels;
        $at = array_search($from->id, array_map(static fn (Channel $channel): string => $channel->id, $channels), true);
        // Below a track; tracks stand above all that sums them.
        if ($from->kind !== ChannelKind::Track) {
            return NewChannels::put($session, $track);
        }
        array_splice($channels, (int) $at + 1, 0, [$track]);

        return $session->withChannels($channels);
    }

    /** @return list<Send> those that take sound where the print still has to pass */
    private static function sendsAfter(Channel $from, string $tap): array
    {
        return array_values(array_filter($from->sends, static fn (Send $send): bool => match ($send->tap) {
            TapPoint::PostFader => true,
            TapPoint::PreFader => $tap !== 'post-fader',
            TapPoint::Source => $tap === 'source',
        }));
    }

    private function treat(Session $session, Channel $from): Session
    {
        if ($this->after === AfterPrint::Off && ! $from->kind->canBeFrozen()) {
            throw CannotBeSwitchedOff::kind($from);
        }

        return $session->withChannel(match ($this->after) {
            AfterPrint::Keep => $from,
            AfterPrint::Mute => $from->withMute(true),
            AfterPrint::Off => $from->withOff(true),
            // What is not seen should not be heard beside its print.
            AfterPrint::Hide => $from->withMute(true)->withHidden(true),
        });
    }

    private static function inPlace(Session $session, PlacedPrint $print): Session
    {
        $channel = Versions::keep(Versions::track($session, $print->from->channel), 'Before the print');
        $channel = $channel->withClips([$print->clip()])->withWidth($print->file->width)->withTrim(new ChannelTrim);
        if ($print->from->tap !== 'source') {
            $channel = $channel->withRow(Row::Inserts, self::off($channel->inserts));
        }
        if ($print->from->tap === 'post-fader' || $print->from->tap === 'main') {
            $channel = $channel->withRow(Row::PostInserts, self::off($channel->postInserts))->withFader(0.0)->withPan(0.0)
                ->withAutomation(array_values(array_filter($channel->automation, static fn ($lane): bool => ! in_array($lane->target->text(), ['fader', 'pan', 'mute'], true))));
        }

        return $session->withChannel($channel);
    }

    /**
     * @param  list<Insert>  $row
     * @return list<Insert>
     */
    private static function off(array $row): array
    {
        return array_map(static fn (Insert $insert): Insert => $insert->withOn(false), $row);
    }
}
