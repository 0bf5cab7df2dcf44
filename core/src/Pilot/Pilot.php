<?php

declare(strict_types=1);

namespace Hafen\Pilot;

use Hafen\Processor\AudioFiles;
use Hafen\Processor\ProcessorCatalogue;
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
            new StaleFreeze,
            new MissingFreeze,
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
            new MissingAudioFile,
            new LevelTwice,
            new HeardTwice,
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
     * @param  ?AudioFiles  $audioFiles  where effects find theirs; whether they do is not looked at without
     * @return list<Advice> the severe ones first, otherwise in the order of the channels
     */
    public function advice(Session $session, ProcessorCatalogue $processors, ?SurveyResult $survey = null, ?AudioFiles $audioFiles = null): array
    {
        $facts = new SessionFacts($session, $processors, $survey, $audioFiles);
        $advice = array_merge(...array_map(static fn (Check $check): array => $check->advice($facts), $this->checks));
        // What is switched off does nothing, right or wrong.
        $advice = array_filter($advice, static fn (Advice $one): bool => $session->channel($one->channel)?->off !== true);
        $order = [];
        foreach ($session->channels as $index => $channel) {
            $order[$channel->id] = $index;
        }
        usort($advice, static fn (Advice $a, Advice $b): int => [$a->severity->rank(), $order[$a->channel]] <=> [$b->severity->rank(), $order[$b->channel]]);

        return $advice;
    }
}
