<?php

declare(strict_types=1);

namespace Hafen\Printing;

use Hafen\Audio\AudioFormat;
use Hafen\Audio\Block;
use Hafen\Audio\BroadcastExtension;
use Hafen\Audio\LoopFault;
use Hafen\Audio\LoopsNotSafe;
use Hafen\Audio\SampleLoops;
use Hafen\Audio\Samples;
use Hafen\Audio\UnableToWriteAudioFile;
use Hafen\Audio\WavWriter;
use Hafen\Document\ContentHashes;
use Hafen\Engine\ChannelStrip;
use Hafen\Engine\Compiler;
use Hafen\Engine\Excerpt;
use Hafen\Engine\Plan;
use Hafen\Engine\Tap;
use Hafen\Processor\ProcessorCatalogue;
use Hafen\Routing\SessionGraph;
use Hafen\Routing\StereoStages;
use Hafen\Session\Channel\Channel;
use Hafen\Session\Session;
use Hafen\Session\Source\Clip;
use Throwable;

/**
 * Renders a channel up to its fader to a file that can play in its place. Sample 0 of the file is sample 0 of the session.
 *
 * Only the channel and what feeds it are worked. A file that is not finished is removed.
 */
final readonly class Freezer
{
    private const BLOCK = 512;

    /** dB below the peak at which a tail is no longer heard. */
    private const SILENCE = -90.0;

    /** Seconds after which a tail that is still heard is cut. */
    private const LONGEST_TAIL = 120;

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
        $sides = StereoStages::of($channel, $this->processors)->all()['pre-fader'] ? 2 : 1;
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
        $plan = $this->compiler->compile($session, null, new Excerpt($channel->id, [], SessionGraph::routes($session)->needed($channel->id)));
        $strip = $plan->strips[$channel->id];
        $strip->keep(Tap::PRE_FADER);
        $latency = $plan->latencyAt(new Tap($channel->id, Tap::PRE_FADER));
        $tail = $options->tail === null ? self::tail($plan, $channel, $session->sampleRate) : (int) round($options->tail * $session->sampleRate);
        $total = $session->length + $tail;
        $peak = 0.0;
        $written = 0;
        $waiting = [];
        $asleep = $plan->asleep([$channel->id => true], []);
        for ($source = 0; $source < $total + $latency; $source += self::BLOCK) {
            SampleLoops::pause();
            self::work(array_diff_key($plan->strips, $asleep), $channel, $source);
            $block = self::cut($strip->passing(Tap::PRE_FADER, self::BLOCK), max(0, $latency - $source), min(self::BLOCK, $total + $latency - $source));
            if ($block === null) {
                continue;
            }
            $highest = max(Samples::peak($block->left), $block->mono ? 0.0 : Samples::peak($block->right));
            $peak = max($peak, $highest);
            $waiting[] = $block;
            $isTail = $options->tail === null && $source - $latency >= $session->length;
            // What comes after the end is written once something that can be heard follows.
            if (! $isTail || $highest > $peak * 10.0 ** (self::SILENCE / 20.0)) {
                $written += self::put($writer, $waiting);
                $waiting = [];
            }
            if ($progress !== null && ! $progress(min($total, max(0, $source + self::BLOCK - $latency)), $total)) {
                throw RenderStopped::at($written, $total);
            }
        }
        $hashes = ContentHashes::of($session, $this->processors);
        $faded = $options->tail === null && $written < $total && self::end($session) <= $session->length;

        return new FreezeResult($hashes->ofFreeze($channel->id, $faded), $written, $written - $session->length, $peak, $faded);
    }

    /** @param  array<string, ChannelStrip>  $strips */
    private static function work(array $strips, Channel $channel, int $source): void
    {
        foreach ($strips as $id => $strip) {
            if (! $strip->process($source, self::BLOCK, false, null) && (string) $id === $channel->id) {
                throw FreezeRefused::fault($channel, $source);
            }
        }
    }

    /** @param  list<Block>  $blocks */
    private static function put(WavWriter $writer, array $blocks): int
    {
        $frames = 0;
        foreach ($blocks as $block) {
            $writer->write($writer->format->channels === 1 ? [$block->left] : [$block->left, $block->right()]);
            $frames += $block->frames();
        }

        return $frames;
    }

    private static function cut(Block $block, int $from, int $to): ?Block
    {
        if ($from >= $to) {
            return null;
        }
        if ($from === 0 && $to === $block->frames()) {
            return $block;
        }

        return new Block(array_slice($block->left, $from, $to - $from), $block->mono ? [] : array_slice($block->right, $from, $to - $from), $block->mono);
    }

    /**
     * Samples after the end in which it is looked whether something can be heard: twice the tails its inserts and what feeds it name,
     * as those may end at −60 dB, and a moment in which what makes sound by itself shows.
     */
    private static function tail(Plan $plan, Channel $channel, int $sampleRate): int
    {
        $tails = [];
        foreach ($plan->strips as $id => $strip) {
            $tails[$id] = $strip->tail($tails);
        }

        return min(2 * $tails[$channel->id] + intdiv($sampleRate, 10), self::LONGEST_TAIL * $sampleRate);
    }

    /** Where the last clip ends, in samples. */
    private static function end(Session $session): int
    {
        return max([0, ...array_map(
            static fn (Channel $channel): int => max([0, ...array_map(static fn (Clip $clip): int => $clip->end(), $channel->source->clips())]),
            $session->channels,
        )]);
    }
}
