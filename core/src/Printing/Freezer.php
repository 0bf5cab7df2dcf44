<?php

declare(strict_types=1);

namespace Hafen\Printing;

use Hafen\Audio\AudioFormat;
use Hafen\Audio\BroadcastExtension;
use Hafen\Audio\LoopFault;
use Hafen\Audio\LoopsNotSafe;
use Hafen\Audio\SampleLoops;
use Hafen\Audio\UnableToWriteAudioFile;
use Hafen\Audio\WavWriter;
use Hafen\Document\ContentHashes;
use Hafen\Engine\Compiler;
use Hafen\Engine\Excerpt;
use Hafen\Engine\Tap;
use Hafen\Note\Ticks;
use Hafen\Processor\ProcessorCatalogue;
use Hafen\Routing\StereoStages;
use Hafen\Session\Channel\Channel;
use Hafen\Session\Session;
use Hafen\Session\Source\ClipSource;
use Hafen\Session\Source\NoteSource;
use Throwable;

/**
 * Renders a channel up to its fader to a file that can play in its place. Sample 0 of the file is sample 0 of the session.
 *
 * Only the channel and what feeds it are worked. A file that is not finished is removed.
 */
final readonly class Freezer
{
    public function __construct(private Compiler $compiler, private ProcessorCatalogue $processors)
    {
    }

    /**
     * Whether a channel can be frozen.
     *
     * @throws FreezeRefused saying why not
     */
    public static function check(Session $session, string $id): Channel
    {
        $channel = $session->channel($id) ?? throw FreezeRefused::noSuchChannel($id);
        if (! $channel->kind->canBeFrozen()) {
            throw FreezeRefused::kind($channel);
        }

        return $session->length === 0 ? throw FreezeRefused::empty($channel) : $channel;
    }

    /**
     * @param  ?callable(int, int): bool  $progress  gets frames done and in all; false stops
     *
     * @throws FreezeRefused when the channel cannot be frozen
     * @throws RenderStopped when $progress said so
     * @throws UnableToWriteAudioFile when the file cannot be made or the disk is full
     * @throws LoopsNotSafe when something in this process may interrupt the engine
     * @throws LoopFault when PHP complains while it runs
     */
    public function freeze(Session $session, string $id, string $path, FreezeOptions $options = new FreezeOptions, ?callable $progress = null): FreezeResult
    {
        $channel = self::check($session, $id);
        $thawed = $session->withChannel($channel->withFrozen(null));
        $sides = StereoStages::of($channel, $this->processors)->at(Tap::PRE_FADER) ? 2 : 1;
        $writer = WavWriter::create(
            $path,
            new AudioFormat($session->sampleRate, $sides, $options->format),
            new BroadcastExtension(description: mb_strcut("Freeze of {$channel->name}", 0, 256)),
        );
        try {
            $result = SampleLoops::run(fn (): FreezeResult => $this->write($thawed, $channel, $writer, $options, $progress));
            $writer->close();
        } catch (Throwable $failure) {
            $writer->discard();
            throw $failure;
        }

        return $result;
    }

    /** @param  ?callable(int, int): bool  $progress */
    private function write(Session $session, Channel $channel, WavWriter $writer, FreezeOptions $options, ?callable $progress): FreezeResult
    {
        $tap = new Tap($channel->id, Tap::PRE_FADER);
        $plan = $this->compiler->compile($session, null, Excerpt::withFeeds($session, $channel->id));
        $recorder = TapRecorder::apart($plan, [$tap->id() => $writer], 0, $session->length, $options->tail);
        $recorded = $recorder->record($progress)[$tap->id()];
        $fault = $recorder->faults()[$channel->id] ?? null;
        if ($fault !== null) {
            throw FreezeRefused::fault($channel, $fault->position);
        }
        $faded = $options->tail === null && $recorded->hasFaded() && self::end($session) <= $session->length;
        $hash = ContentHashes::of($session, $this->processors)->ofFreeze($channel->id, $faded);

        return new FreezeResult($hash, $recorded->frames(), $recorded->frames() - $session->length, $recorded->peak(), $faded);
    }

    /** Where the last clip of sound or of notes ends, in samples. */
    private static function end(Session $session): int
    {
        $ticks = new Ticks($session->tempo, $session->sampleRate);

        return max([0, ...array_map(
            static fn (Channel $channel): int => match (true) {
                $channel->source instanceof ClipSource => $channel->source->end(),
                $channel->source instanceof NoteSource => $ticks->sample($channel->source->end()),
                default => 0,
            },
            $session->channels,
        )]);
    }
}
