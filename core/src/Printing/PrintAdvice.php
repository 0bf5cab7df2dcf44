<?php

declare(strict_types=1);

namespace Hafen\Printing;

use Hafen\Audio\Decibel;
use Hafen\Processor\ProcessorCatalogue;
use Hafen\Routing\StereoStages;
use Hafen\Session\Channel\Channel;
use Hafen\Session\Channel\ChannelKind;
use Hafen\Session\Channel\Send;
use Hafen\Session\Channel\Width;
use Hafen\Session\Insert\Insert;
use Hafen\Session\Session;

/** What to know before channels are printed: which level and which effects are in the print, and what becomes of those that are not. */
final class PrintAdvice
{
    /**
     * @param  list<string>  $channels  ids
     * @param  string  $tap  "source", "pre-fader", "post-fader" or "main"
     * @param  bool  $together  all in one audio
     * @param  bool  $withReturns  what the returns bring of each channel is in its file
     * @return list<string> sentences
     */
    public static function of(Session $session, ProcessorCatalogue $processors, array $channels, string $tap, PrintPlace $place, bool $together = false, bool $withReturns = false): array
    {
        $advice = [...($together ? self::together($session, $channels, $tap, $place) : []), ...($withReturns ? self::withReturns($session, $channels) : [])];
        foreach ($channels as $id) {
            $channel = $session->channel($id);
            if ($channel !== null && ! ($withReturns && $channel->kind === ChannelKind::Return)) {
                array_push($advice, ...self::about($session, $channel, $tap, $place, $together), ...($together || $withReturns ? [] : self::sends($channel, $tap)), ...self::width($channel, $processors, $tap));
            }
        }
        $main = $session->main();
        if ($tap === 'main' && self::working([...$main->inserts, ...$main->postInserts]) > 0) {
            $advice[] = "The effects of {$main->name} are in the print. The new track goes nowhere at first, so that they are not heard twice.";
        }

        return $advice;
    }

    /**
     * @param  list<string>  $channels  ids
     * @return list<string>
     */
    private static function together(Session $session, array $channels, string $tap, PrintPlace $place): array
    {
        $advice = [];
        foreach ($tap === 'main' ? [] : array_diff($channels, Isolation::heardOnce($session, $channels)) as $id) {
            $advice[] = "{$session->channel($id)?->name} is in the print once: through what it leads to, which is printed as well.";
        }
        $isBeforeFader = $tap === 'source' || $tap === 'pre-fader';
        $known = array_filter(array_map($session->channel(...), $channels));
        if (array_filter($known, static fn (Channel $channel): bool => $channel->fader !== 0.0 || $channel->pan !== 0.0) !== []) {
            $advice[] = $isBeforeFader
                ? 'Faders and pans are not in the print: all are in it as loud as they are before their faders.'
                : 'Faders and pans are in the print'.($place === PrintPlace::Files ? '.' : '; the new track stands at 0.0.');
        }
        if ($tap !== 'main' && array_filter($known, self::sendsSomething(...)) !== []) {
            $advice[] = 'What they send to returns is not in the print'.($place === PrintPlace::Files ? '.' : ', and the new track sends nothing.');
        }

        return $advice;
    }

    /**
     * @param  list<string>  $channels  ids
     * @return list<string>
     */
    private static function withReturns(Session $session, array $channels): array
    {
        $returns = array_filter(array_map($session->channel(...), $channels), static fn (?Channel $channel): bool => $channel?->kind === ChannelKind::Return);

        return array_values(array_map(
            static fn (Channel $return): string => "{$return->name} gets no file: what it brings is in the files of what sends to it.",
            $returns,
        ));
    }

    /** @return list<string> */
    private static function sends(Channel $channel, string $tap): array
    {
        return $tap === 'post-fader' && self::sendsSomething($channel) ? ["The sends of {$channel->name} stay sends: what they lead to is not in the print."] : [];
    }

    private static function sendsSomething(Channel $channel): bool
    {
        return array_filter($channel->sends, static fn (Send $send): bool => $send->on) !== [];
    }

    /** @return list<string> */
    private static function about(Session $session, Channel $channel, string $tap, PrintPlace $place, bool $together): array
    {
        $advice = [];
        if ($tap === 'post-fader' || $tap === 'main') {
            $advice[] = match (true) {
                $channel->fader === null => "The fader of {$channel->name} is down: the print is silent.",
                $channel->lane('fader') !== null => "The moves of {$channel->name}'s fader are in the print".match ($place) {
                    PrintPlace::NewTrack => '; the new track stands at 0.0.',
                    PrintPlace::InPlace => '; its lane is removed.',
                    PrintPlace::Files => '.',
                },
                $channel->fader !== 0.0 && ! $together && $place === PrintPlace::Files => sprintf('%s stands at %s dB, and that is in its file.', $channel->name, self::decibels($channel->fader)),
                $channel->fader !== 0.0 && ! $together => sprintf(
                    '%s stands at %s dB, and that is in the print. %s at 0.0; at %s again it would be %s in all.',
                    $channel->name,
                    self::decibels($channel->fader),
                    $place === PrintPlace::InPlace ? 'The fader starts anew' : 'The new track starts',
                    self::decibels($channel->fader),
                    self::decibels(2.0 * $channel->fader),
                ),
                default => '',
            };
            if ($channel->mute) {
                $advice[] = "{$channel->name} is muted".($tap === 'main' ? '; for the print it is heard.' : ': the print is silent.');
            }
        }
        if ($tap === 'source' && $place === PrintPlace::NewTrack && self::working($channel->inserts) > 0) {
            $advice[] = "{$channel->name} is printed dry: its ".(self::working($channel->inserts) === 1 ? 'effect is' : 'effects are').' not in the print, nor on the new track.';
        }
        if ($channel->output !== $session->main()->id && ($channel->output !== 'none') && $tap === 'main' && ($group = $session->channel($channel->output)) !== null) {
            $advice[] = "{$channel->name} goes through {$group->name}, whose effects are in the print.";
        }

        return array_values(array_filter($advice, static fn (string $sentence): bool => $sentence !== ''));
    }

    /** @return list<string> */
    private static function width(Channel $channel, ProcessorCatalogue $processors, string $tap): array
    {
        if ($channel->width === Width::Stereo || $tap === 'source') {
            return [];
        }

        return match (true) {
            StereoStages::of($channel, $processors)->at('pre-fader') => ["{$channel->name} is mono, and its effects make it stereo: so is the print."],
            $tap !== 'pre-fader' && $channel->pan !== 0.0 => ["{$channel->name} is mono, and its pan is in the print: that is stereo."],
            default => [],
        };
    }

    /** @param  list<Insert>  $row */
    private static function working(array $row): int
    {
        return count(array_filter($row, static fn (Insert $insert): bool => $insert->isOn()));
    }

    private static function decibels(float $level): string
    {
        return trim(str_replace('dB', '', Decibel::text($level)));
    }
}
