<?php

declare(strict_types=1);

namespace Hafen\Edit\Take;

use Hafen\Edit\Channel\NewFile;
use Hafen\Edit\Channels;
use Hafen\Edit\Edit;
use Hafen\Edit\Refusals\NothingSelected;
use Hafen\Edit\Version\Versions;
use Hafen\Session\Channel\Channel;
use Hafen\Session\Session;
use Hafen\Session\Source\ClipSource;
use Hafen\Session\Source\PrintedFrom;
use Hafen\Session\Source\Version;

/**
 * Puts what was recorded on a track, where it was played: the last take plays, those before it and what the track played are kept
 * as versions. The session grows to hold it.
 */
final readonly class PutTakes implements Edit
{
    /**
     * @param  list<NewFile>  $takes  in the order they were played
     * @param  ?PrintedFrom  $from  null where they came in at an input
     */
    public function __construct(public string $channel, public array $takes, public ?PrintedFrom $from = null)
    {
    }

    public function apply(Session $session): Session
    {
        $last = $this->takes[count($this->takes) - 1] ?? throw NothingSelected::atAll();
        $channel = Versions::track($session, $this->channel);
        if ($channel->source->clips() !== []) {
            $channel = Versions::keep($channel, $this->from === null ? self::next($channel) : 'Before the take');
        }
        foreach (array_slice($this->takes, 0, -1) as $index => $take) {
            $channel = Versions::keep($channel->withClips([$take->clip()->withPrintedFrom($this->from)]), $this->from === null ? self::next($channel) : 'Take '.($index + 1));
        }
        $clip = $last->clip()->withPrintedFrom($this->from);

        return $session
            ->withChannel($channel->withClips([$clip])->withWidth($last->width))
            ->withLength(max($session->length, $clip->end(), ...array_map(static fn (Version $version): int => (new ClipSource($version->clips))->end(), $channel->versions)));
    }

    /** What comes in again and again is counted on. */
    private static function next(Channel $channel): string
    {
        return 'Take '.(count($channel->versions) + 1);
    }

    public function label(Session $before): string
    {
        return 'Record on '.Channels::named($before, [$this->channel]);
    }

    public function touches(Session $before): array
    {
        return ["channels/{$this->channel}/source", "channels/{$this->channel}/versions"];
    }
}
