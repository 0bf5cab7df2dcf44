<?php

declare(strict_types=1);

namespace App\Prints;

use Hafen\Edit\Print\AfterPrint;
use Hafen\Printing\PrintOptions;
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
     * @param  string  $pattern  of the names of new tracks and files, see {@see StemNames}
     */
    public function __construct(
        public array $channels,
        public string $tap,
        public PrintOptions $options,
        public bool $inPlace,
        public bool $toFiles,
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

    /** @return array<array-key, string> by channel id */
    public function names(Session $session): array
    {
        return StemNames::of($session, $this->channels, $this->tap, $this->pattern);
    }
}
