<?php

declare(strict_types=1);

namespace Hafen\Pilot;

use Hafen\Edit\Json\EditRequest;
use Hafen\Metering\SoundSketch;
use Hafen\Session\Channel\Channel;
use Hafen\Session\Channel\ChannelKind;

/** Two microphones of one source whose polarities are opposed, or a stereo channel whose sides are: together they cancel. */
final readonly class AgainstItsPair implements Check
{
    /** Correlation below which two microphones hear the same the wrong way round: less has other reasons. */
    private const AGAINST = -0.7;

    /** Correlation of sides below which little is left in mono. */
    private const SIDES_AGAINST = -0.4;

    /** What the names of a pair end in. */
    private const ENDS = '/[\s_.-]+(left|right|l|r|in|out|top|bottom|near|far|close|room|front|back|1|2)$/iu';

    public function advice(SessionFacts $facts): array
    {
        return [...$this->pairs($facts), ...$this->sides($facts)];
    }

    /** @return list<Advice> */
    private function pairs(SessionFacts $facts): array
    {
        $advice = [];
        foreach (self::byStem($facts->ofKind(ChannelKind::Track)) as $pair) {
            if (count($pair) !== 2) {
                continue;
            }
            [$one, $other] = $pair;
            $correlation = SoundSketch::correlation($facts->survey->sources[$one->id]->sketch ?? '', $facts->survey->sources[$other->id]->sketch ?? '');
            if ($correlation !== null && $correlation <= self::AGAINST) {
                $advice[] = new Advice('against-its-pair', Severity::Severe, $other->id, null,
                    sprintf("%s runs against %s (correlation \u{2212}%.2f): together they cancel.", $other->name, $one->name, -$correlation),
                    new Fix('Invert its polarity', EditRequest::setPolarity([$other->id], ! $other->trim->invert)));
            }
        }

        return $advice;
    }

    /** @return list<Advice> */
    private function sides(SessionFacts $facts): array
    {
        $advice = [];
        foreach ($facts->ofKind(ChannelKind::Track) as $channel) {
            $correlation = $facts->survey->outputs[$channel->id]->correlation ?? null;
            if ($correlation !== null && $correlation <= self::SIDES_AGAINST) {
                $advice[] = new Advice('against-its-pair', Severity::Advice, $channel->id, null,
                    sprintf("The sides of %s run against each other (correlation \u{2212}%.2f): in mono they cancel.", $channel->name, -$correlation));
            }
        }

        return $advice;
    }

    /**
     * @param  list<Channel>  $tracks
     * @return array<string, list<Channel>>
     */
    private static function byStem(array $tracks): array
    {
        $stems = [];
        foreach ($tracks as $track) {
            $stem = preg_replace(self::ENDS, '', $track->name);
            if ($stem !== null && $stem !== $track->name) {
                $stems[mb_strtolower($stem)][] = $track;
            }
        }

        return $stems;
    }
}
