<?php

declare(strict_types=1);

namespace Hafen\Pilot;

use Hafen\Processor\ProcessorCatalogue;
use Hafen\Processor\Recordings;
use Hafen\Session\Session;
use Hafen\Survey\SurveyResult;

/** Looks a session over, by every check there is. */
final readonly class Pilot
{
    /** @param  list<Check>  $checks */
    private function __construct(private array $checks)
    {
    }

    public static function standard(): self
    {
        return new self([
            new ClipsAtOutput,
            new LimiterNotLast,
            new FadeIntoLimiter,
            new PathOutOfTime,
            new NoWayToMain,
            new ReturnNotWet,
            new AllWetOnTrack,
            new EffectSendBeforeFader,
            new CueSendAfterFader,
            new ReturnNotSoloSafe,
            new EqualBranches,
            new OverIntoLevelDependent,
            new AgainstItsPair,
            new ConstantOffset,
            new ClippedFile,
            new MissingRecording,
            new LevelTwice,
            new DrivesAfterMovement,
            new EffectOrder,
            new HighGainFirst,
            new NothingArrives,
            new SilentAtWork,
            new AmbienceTwice,
            new MutedInCue,
        ]);
    }

    /**
     * @param  ?SurveyResult  $survey  what is known of the sound; what needs it is not looked at without
     * @param  ?Recordings  $recordings  where effects find theirs; whether they do is not looked at without
     * @return list<Note> the severe ones first, otherwise in the order of the channels
     */
    public function notes(Session $session, ProcessorCatalogue $processors, ?SurveyResult $survey = null, ?Recordings $recordings = null): array
    {
        $chart = new Chart($session, $processors, $survey, $recordings);
        $notes = array_merge(...array_map(static fn (Check $check): array => $check->notes($chart), $this->checks));
        $place = [];
        foreach ($session->channels as $index => $channel) {
            $place[$channel->id] = $index;
        }
        usort($notes, static fn (Note $a, Note $b): int => [$a->severity->rank(), $place[$a->channel]] <=> [$b->severity->rank(), $place[$b->channel]]);

        return $notes;
    }
}
