<?php

declare(strict_types=1);

namespace App\Prints;

use Hafen\Edit\Print\AfterPrint;
use Hafen\Engine\Tap;
use Hafen\Printing\Isolation;
use Hafen\Printing\Printer;
use Hafen\Printing\PrintOptions;
use Hafen\Printing\PrintPlace;
use Hafen\Printing\StemNames;
use Hafen\Session\Channel\Channel;
use Hafen\Session\Session;
use Hafen\Session\Source\ClipSource;

/** What is to be printed, from which tap, and whereto. */
final readonly class PrintWish
{
    /**
     * @param  non-empty-list<string>  $channels  ids
     * @param  string  $tap  one of {@see \Hafen\Session\Source\PrintedFrom::TAPS}
     * @param  bool  $toFiles  of one length, in one archive, beside the session
     * @param  bool  $together  all in one audio
     * @param  bool  $withReturns  what the returns bring of each channel is in its file
     * @param  string  $pattern  of the names of new tracks and files, see {@see StemNames}
     */
    public function __construct(
        public array $channels,
        public string $tap,
        public PrintOptions $options,
        public bool $inPlace,
        public bool $toFiles,
        public bool $together,
        public bool $withReturns,
        public AfterPrint $after,
        private string $pattern,
    ) {
    }

    /** @throws PrintRefused */
    public function check(Session $session, string $id): Channel
    {
        $channel = $session->channel($id) ?? throw PrintRefused::noSuchChannel($id);
        if ($this->toFiles && $this->tap === 'main') {
            throw PrintRefused::noFiles();
        }
        if ($this->together && $this->inPlace) {
            throw PrintRefused::togetherInPlace();
        }
        if ($this->withReturns && (! $this->toFiles || $this->together || $this->tap !== Tap::POST_FADER)) {
            throw PrintRefused::withReturns();
        }
        if ($this->inPlace && ! $channel->source instanceof ClipSource) {
            throw PrintRefused::notInPlace($channel);
        }
        if ($this->inPlace && $channel->frozen !== null) {
            throw PrintRefused::frozen($channel);
        }
        $to = $this->options->to ?? $session->length;
        foreach ($this->inPlace ? $channel->source->clips() : [] as $clip) {
            if ($clip->start < $this->options->from || $clip->end() > $to) {
                throw PrintRefused::rangeInPlace($channel);
            }
        }
        if ($to <= $this->options->from) {
            throw PrintRefused::nothing($this->options->from, $to);
        }

        return $channel;
    }

    public function place(): PrintPlace
    {
        return match (true) {
            $this->inPlace => PrintPlace::InPlace,
            $this->toFiles => PrintPlace::Files,
            default => PrintPlace::NewTrack,
        };
    }

    /**
     * The channels that get a file, or are in the one of all: what is in another of them already is left out.
     *
     * @return non-empty-list<string> ids
     *
     * @throws PrintRefused when only returns are left out
     */
    public function printed(Session $session): array
    {
        $printed = match (true) {
            $this->together && $this->tap !== 'main' => Isolation::heardOnce($session, $this->channels),
            $this->withReturns => Printer::withoutReturns($session, $this->channels),
            default => $this->channels,
        };

        return $printed === [] ? throw PrintRefused::onlyReturns() : $printed;
    }

    /** @return array<array-key, string> by channel id */
    public function names(Session $session): array
    {
        return StemNames::of($session, $this->printed($session), $this->tap, $this->pattern);
    }

    /** The name of what all are printed to: the pattern, with the first channel and how many more there are. */
    public function nameOfAll(Session $session): string
    {
        return StemNames::ofSeveral($session, $this->printed($session), $this->tap, $this->pattern);
    }
}
