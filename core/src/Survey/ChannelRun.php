<?php

declare(strict_types=1);

namespace Hafen\Survey;

use Hafen\Engine\ChannelStrip;
use Hafen\Engine\Fault;
use Hafen\Engine\Tap;
use Hafen\Metering\TapReading;
use Hafen\Metering\Window;
use Hafen\Session\Channel\Channel;
use Hafen\Session\Channel\ChannelKind;
use Hafen\Session\Session;

/** Measures one or both parts of a channel while the engine works it, block by block, and captures what others will need. */
final class ChannelRun
{
    /** Seconds by which an unaligned channel can be early. */
    private const AHEAD = 1;

    private readonly ?UpToFaderProbe $upProbe;

    private readonly ?FromFaderProbe $fromProbe;

    /** Whether there is anything to measure; otherwise only what is recorded is wanted. */
    public readonly bool $isMeasured;

    /** Source position behind the last block that counts. */
    public readonly int $end;

    private ?Fault $fault = null;

    /**
     * @param  ?SurveyPart  $up  the part up to the fader, where it is to be measured
     * @param  ?SurveyPart  $from  the part from the fader on, likewise
     * @param  int  $arrival  samples by which sound comes late to the channel
     * @param  int  $row  latency of the inserts before the fader in samples
     * @param  array<string, AudioCapture>  $captures  by stage
     * @param  bool  $isUpKnown  whether the part up to the fader was measured before, and only its recording is missing
     */
    public function __construct(
        private readonly ChannelStrip $strip,
        private readonly Channel $channel,
        Session $session,
        TimeRange $range,
        private readonly ?SurveyPart $up,
        private readonly ?SurveyPart $from,
        int $arrival,
        int $row,
        private readonly array $captures,
        bool $isUpKnown,
    ) {
        $after = $strip->postInserts->latency();
        $window = new Window($range->from, $range->to, $arrival + ($up === null ? $row : 0));
        $strip->measureOnly($window);
        foreach (array_keys($captures) as $stage) {
            $strip->keep((string) $stage);
        }
        $this->isMeasured = ! $isUpKnown || $from !== null;
        $this->upProbe = $up === null || $isUpKnown ? null : new UpToFaderProbe($strip, $channel, $session, $window, $window->delayedBy($arrival + $row));
        $this->fromProbe = $from === null ? null : new FromFaderProbe($strip, $channel, $session, $window->delayedBy($arrival + $row + $after));
        // Unaligned channels end early, so they run on until the slowest listener is done.
        $this->end = $range->to + $arrival + $row + $after + ($channel->aligned ? 0 : self::AHEAD * $session->sampleRate);
    }

    /**
     * Looks at the block the strip processed last.
     *
     * @param  bool  $sound  whether it was numbers
     *
     * @throws SurveyStoreFull
     */
    public function look(int $sourcePosition, int $frames, bool $sound): void
    {
        if (! $sound) {
            $this->fault ??= new Fault($this->strip->id, $sourcePosition);
        }
        foreach ($this->captures as $stage => $capture) {
            $capture->write($this->strip->passing((string) $stage, $frames));
        }
        $this->upProbe?->look($sourcePosition);
        $this->fromProbe?->look($sourcePosition);
    }

    /** @return array<string, TapReading> what is measured up to now, by tap key */
    public function soFar(): array
    {
        $readings = [];
        foreach ($this->strip->meters() as $stage => $meter) {
            $readings["{$this->channel->id}:{$stage}"] = $meter->soFar();
        }

        return $readings;
    }

    /**
     * Makes what was captured visible.
     *
     * @throws SurveyStoreFull
     */
    public function close(): void
    {
        foreach ($this->captures as $capture) {
            $capture->close();
        }
    }

    public function discard(): void
    {
        foreach ($this->captures as $capture) {
            $capture->discard();
        }
    }

    /**
     * What was measured, by the key of the part.
     *
     * @param  float  $audio  nanoseconds of sound that could have been worked in the time it took
     * @param  list<ClippedClip>  $clipped
     * @return array<string, PartMeasures>
     */
    public function measures(float $audio, array $clipped): array
    {
        [$upTime, $fromTime] = $this->strip->takeSections();
        $upTaps = $fromTaps = [];
        $after = [...array_keys($this->strip->postInserts->meters()), Tap::POST_FADER];
        foreach ($this->strip->meters() as $stage => $meter) {
            $key = "{$this->channel->id}:{$stage}";
            if (in_array((string) $stage, $after, true)) {
                $fromTaps[$key] = $meter->read();
            } else {
                $upTaps[$key] = $meter->read();
            }
        }
        $faults = $this->fault === null ? [] : [$this->fault];
        $measures = [];
        if ($this->up !== null && $this->upProbe !== null) {
            $measures[$this->up->hash] = new PartMeasures(
                $upTaps, $this->loads($upTime, $this->strip->inserts->runners(), $audio), $this->from === null ? $faults : [], $this->upProbe->figures($clipped), null, null,
            );
        }
        if ($this->from !== null && $this->fromProbe !== null) {
            $measures[$this->from->hash] = new PartMeasures(
                $fromTaps, $this->loads($fromTime, $this->strip->postInserts->runners(), $audio), $faults, null, $this->fromProbe->figures(),
                $this->channel->kind === ChannelKind::Main ? $this->fromProbe->main() : null,
            );
        }

        return $measures;
    }

    /**
     * @param  array<string, \Hafen\Engine\InsertRunner>  $runners  by stage
     * @return array<string, float> of a core, by channel id and tap key
     */
    private function loads(int $nanoseconds, array $runners, float $audio): array
    {
        $loads = [$this->channel->id => $nanoseconds / $audio];
        foreach ($runners as $stage => $runner) {
            $loads["{$this->channel->id}:{$stage}"] = $runner->takeNanoseconds() / $audio;
        }

        return $loads;
    }
}
