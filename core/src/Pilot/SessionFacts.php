<?php

declare(strict_types=1);

namespace Hafen\Pilot;

use Hafen\Metering\TapReading;
use Hafen\Processor\AudioFiles;
use Hafen\Processor\ProcessorCatalogue;
use Hafen\Processor\ProcessorSpec;
use Hafen\Routing\Alignment;
use Hafen\Routing\Routes;
use Hafen\Routing\SessionGraph;
use Hafen\Session\Channel\Channel;
use Hafen\Session\Channel\ChannelKind;
use Hafen\Session\Insert\Insert;
use Hafen\Session\Insert\ProcessorInsert;
use Hafen\Session\Session;
use Hafen\Survey\SurveyResult;

/** A session as the checks read it. */
final readonly class SessionFacts
{
    public Routes $routes;

    public Alignment $alignment;

    /**
     * @param  ?SurveyResult  $survey  what is known of the sound, where anything is
     * @param  ?AudioFiles  $audioFiles  where effects find theirs, if that can be looked up
     */
    public function __construct(
        public Session $session,
        public ProcessorCatalogue $processors,
        public ?SurveyResult $survey = null,
        public ?AudioFiles $audioFiles = null,
    ) {
        $this->routes = SessionGraph::routes($session);
        $this->alignment = SessionGraph::alignment($session, $processors);
    }

    public function spec(ProcessorInsert $insert): ProcessorSpec
    {
        return $this->processors->spec($insert->processor);
    }

    /** What was measured at a tap, "channel:stage"; null where nothing is known. */
    public function reading(string $tap): ?TapReading
    {
        return $this->survey->taps[$tap] ?? null;
    }

    /** @return list<Channel> */
    public function ofKind(ChannelKind ...$kinds): array
    {
        return array_values(array_filter($this->session->channels, static fn (Channel $channel): bool => in_array($channel->kind, $kinds, true)));
    }

    /**
     * The processors of a row that work, not those in splits.
     *
     * @param  list<Insert>  $row
     * @return list<ProcessorInsert>
     */
    public static function working(Channel $channel, array $row): array
    {
        $working = [];
        foreach ($channel->insertsOn ? $row : [] as $insert) {
            if ($insert instanceof ProcessorInsert && $insert->on && $insert->mix > 0.0) {
                $working[] = $insert;
            }
        }

        return $working;
    }

    /** Whether a channel puts out only wet sound by itself: a reverb or an echo, as on a return. */
    public function isEffect(Channel $channel): bool
    {
        foreach (self::working($channel, $channel->inserts) as $insert) {
            if ($this->spec($insert)->wetOnly) {
                return true;
            }
        }

        return false;
    }

    public function name(string $channel): string
    {
        return $this->session->channel($channel)->name ?? $channel;
    }
}
