<?php

declare(strict_types=1);

namespace Hafen\Survey;

use Hafen\Audio\Decibel;
use Hafen\Engine\Fault;
use Hafen\Metering\Loudness;
use Hafen\Metering\Spectrum;
use Hafen\Metering\TapReading;
use Hafen\Routing\ChannelStages;
use Hafen\Routing\PanLaw;
use Hafen\Routing\SessionGraph;
use Hafen\Session\Channel\Channel;
use Hafen\Session\Session;

/** The measurements of a session over a range, complete or partial. */
final readonly class SurveyResult
{
    /**
     * @param  array<string, TapReading>  $taps  by tap key, "channel:stage"
     * @param  array<string, float>  $loads  of one core, by channel id and insert tap key
     * @param  list<Fault>  $faults
     * @param  array<string, SourceFigures>  $sources  by channel id
     * @param  array<string, OutputFigures>  $outputs  by channel id
     * @param  array<string, Spectrum>  $low  after the fader, up to 600 Hz, by channel id
     * @param  ?MainFigures  $main  null while it is not known
     * @param  list<string>  $unknown  ids of the parts that are not measured
     */
    private function __construct(
        public string $mainId,
        public TimeRange $range,
        public array $taps,
        public array $loads,
        public array $faults,
        public array $sources,
        public array $outputs,
        public array $low,
        public ?MainFigures $main,
        public array $unknown,
    ) {
    }

    /** Collects the stored measurements of a session. */
    public static function of(Session $session, SurveyMap $map, SurveyStore $store): self
    {
        $taps = $loads = $faults = $sources = $outputs = $unknown = [];
        $main = null;
        foreach ($map->parts as $id => $part) {
            $measures = $store->measures($part->hash);
            if ($measures === null) {
                $unknown[] = (string) $id;

                continue;
            }
            $taps += $measures->taps;
            foreach ($measures->loads as $what => $load) {
                $loads[$what] = ($loads[$what] ?? 0.0) + $load;
            }
            array_push($faults, ...$measures->faults);
            if ($measures->source !== null) {
                $sources[$part->channel] = $measures->source;
            }
            if ($measures->output !== null) {
                $outputs[$part->channel] = $measures->output;
            }
            $main ??= $measures->main;
        }

        return new self($session->main()->id, $map->range, $taps, $loads, $faults, $sources, $outputs, self::low($session, $sources, $outputs), $main, $unknown);
    }

    /** @return list<string> taps whose figures are not those of the session now */
    public function staleTaps(Session $session): array
    {
        $taps = [];
        foreach ($session->channels as $channel) {
            $stages = ChannelStages::of($channel);
            foreach ([[Section::UpToFader, $stages->upToFader], [Section::FromFader, $stages->fromFader]] as [$section, $names]) {
                if (in_array("{$channel->id}:{$section->value}", $this->unknown, true)) {
                    array_push($taps, ...array_map(static fn (string $stage): string => "{$channel->id}:{$stage}", $names));
                }
            }
        }

        return $taps;
    }

    /** Time the engine needs for a second of sound, of one core; null while not all of it is known. */
    public function load(Session $session): ?float
    {
        if (! $this->isWhole()) {
            return null;
        }

        return array_sum(array_map(fn (Channel $channel): float => $this->loads[$channel->id] ?? 0.0, $session->channels));
    }

    /** @return list<string> taps that a file in whole numbers would clip, see {@see TapReading} */
    public function tapsAboveFullScale(): array
    {
        return array_map(strval(...), array_keys(array_filter($this->taps, static fn (TapReading $tap): bool => $tap->overs > 0)));
    }

    public function isWhole(): bool
    {
        return $this->unknown === [];
    }

    /** Peak of the main's output in dBFS; null is silence or unknown. */
    public function peak(): ?float
    {
        return ($this->taps["{$this->mainId}:post-fader"] ?? null)?->peakLevel();
    }

    /** True peak of the main's output in dBTP; null is silence or unknown. */
    public function truePeak(): ?float
    {
        return ($this->outputs[$this->mainId] ?? null)?->truePeak;
    }

    /** Loudness of the main's output; null is unknown. */
    public function loudness(): ?Loudness
    {
        return ($this->outputs[$this->mainId] ?? null)?->loudness;
    }

    /** Loudest moment of the main's input; null when silent or unknown. */
    public function loudest(): ?LoudestMoment
    {
        return $this->moments()[0] ?? null;
    }

    /** @return list<LoudestMoment> of what enters the main, the loudest first */
    public function moments(): array
    {
        return ($this->sources[$this->mainId] ?? null)->loudest ?? [];
    }

    /**
     * @param  array<string, SourceFigures>  $sources
     * @param  array<string, OutputFigures>  $outputs
     * @return array<string, Spectrum>
     */
    private static function low(Session $session, array $sources, array $outputs): array
    {
        $audibility = SessionGraph::audibility($session);
        $low = [];
        foreach ($session->channels as $channel) {
            $source = $sources[$channel->id] ?? null;
            $output = $outputs[$channel->id] ?? null;
            if ($source === null || $output === null) {
                continue;
            }
            $gain = $audibility->has($channel->id) ? Decibel::toGain($channel->fader) : 0.0;
            [$left, $right] = PanLaw::gains($channel->width, $channel->pan, $session->panLaw);
            $low[$channel->id] = $output->low ?? $source->low->after($gain * $left, $gain * $right);
        }

        return $low;
    }
}
