<?php

declare(strict_types=1);

namespace Hafen\Survey;

use Hafen\Engine\AudioLibrary;
use Hafen\Engine\Compiler;
use Hafen\Hardware\AudioInterface;
use Hafen\Processor\ProcessorCatalogue;
use Hafen\Session\Session;

/** Measures a session part by part in this process, skipping parts with stored measurements. */
final readonly class SessionSurvey
{
    private PartRunner $runner;

    /** @param  ?AudioInterface  $interface  hardware loops go through */
    public function __construct(private ProcessorCatalogue $processors, AudioLibrary $library, private SurveyStore $store, ?AudioInterface $interface = null)
    {
        $this->runner = new PartRunner(new Compiler($processors, $library, $interface), $processors, $library);
    }

    /**
     * @param  ?callable(int, int): bool  $progress  gets work done and in all; false stops
     * @param  list<string>  $captures  ids of channels whose recording before the fader is wanted as well
     * @return ?SurveyResult null when stopped
     *
     * @throws SurveyStoreFull
     */
    public function measure(Session $session, ?TimeRange $range = null, ?callable $progress = null, array $captures = []): ?SurveyResult
    {
        $map = SurveyMap::of($session, $this->processors, $range);
        $missing = $map->missing($this->store, array_map(
            static fn (string $channel): string => $map->part($channel, Section::UpToFader)->id(),
            $captures,
        ));
        // Where nothing is kept for later, nothing needs to be recorded.
        $passes = $missing === [] ? [] : ($this->store->keepsCaptures() ? SurveyMap::passes($missing) : [array_values($missing)]);
        $total = array_sum(array_map(self::weight(...), $passes));
        $done = 0;
        foreach ($passes as $parts) {
            $weight = self::weight($parts);
            $onward = $progress === null ? null : static fn (int $frames, int $all): bool => $progress(
                (int) (1000 * ($done + $weight * $frames / $all)),
                1000 * $total,
            );
            if (! $this->runner->run($session, $map, $parts, $this->store, $onward, $captures)) {
                return null;
            }
            $done += $weight;
        }

        return SurveyResult::of($session, $map, $this->store);
    }

    /**
     * Groups parts into runs, each after the parts it needs.
     *
     * @param  array<SurveyPart>  $parts
     * @return array<string, non-empty-list<SurveyPart>> by channel id
     */
    public static function byChannel(array $parts): array
    {
        $channels = [];
        foreach ($parts as $part) {
            $channels[$part->channel][] = $part;
        }

        return $channels;
    }

    /** @param  list<SurveyPart>  $parts */
    public static function weight(array $parts): int
    {
        return array_sum(array_map(static fn (SurveyPart $part): int => $part->weight, $parts));
    }
}
