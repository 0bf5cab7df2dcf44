<?php

declare(strict_types=1);

namespace Hafen\Headroom;

use Hafen\Processor\ProcessorCatalogue;
use Hafen\Processor\ProcessorSpec;
use Hafen\Session\Channel\Channel;
use Hafen\Session\Insert\ProcessorInsert;
use Hafen\Session\Session;
use Hafen\Survey\SurveyResult;

/** A session, what was measured of it, and where its main should be. */
final readonly class Situation
{
    public function __construct(
        public Session $session,
        public ProcessorCatalogue $processors,
        public SurveyResult $survey,
        public Aim $aim,
    ) {
    }

    /** The same after some edits, with what was measured before them. */
    public function withSession(Session $session): self
    {
        return new self($session, $this->processors, $this->survey, $this->aim);
    }

    public function spec(ProcessorInsert $insert): ProcessorSpec
    {
        return $this->processors->spec($insert->processor);
    }

    /** @return list<Channel> tracks that carry clips */
    public function sources(): array
    {
        return array_values(array_filter(
            $this->session->channels,
            static fn (Channel $channel): bool => $channel->source->clips() !== [],
        ));
    }

    /** @return list<Channel> tracks and note channels: what plays something of its own */
    public function tracks(): array
    {
        return array_values(array_filter($this->session->channels, static fn (Channel $channel): bool => ! $channel->kind->isBus()));
    }

    /**
     * @param  list<Channel>  $channels
     * @return list<string>
     */
    public static function ids(array $channels): array
    {
        return array_map(static fn (Channel $channel): string => $channel->id, $channels);
    }
}
