<?php

declare(strict_types=1);

namespace Hafen\Printing;

use Hafen\Audio\AudioFormat;
use Hafen\Audio\BroadcastExtension;
use Hafen\Audio\Dither;
use Hafen\Audio\LoopFault;
use Hafen\Audio\LoopsNotSafe;
use Hafen\Audio\SampleFormat;
use Hafen\Audio\SampleLoops;
use Hafen\Audio\UnableToWriteAudioFile;
use Hafen\Audio\WavWriter;
use Hafen\Engine\Compiler;
use Hafen\Engine\Excerpt;
use Hafen\Engine\Plan;
use Hafen\Engine\Tap;
use Hafen\Processor\ProcessorCatalogue;
use Hafen\Routing\StereoStages;
use Hafen\Session\Channel\Channel;
use Hafen\Session\Session;
use Throwable;

/**
 * Renders taps of channels to files, faster than they play: one channel by itself, or several in one run to files of one length.
 * Files that are not finished are removed.
 */
final readonly class Printer
{
    public function __construct(private Compiler $compiler, private ProcessorCatalogue $processors)
    {
    }

    /**
     * Prints one tap; only its channel and what feeds it is worked.
     *
     * @param  ?callable(int, int): bool  $progress  gets frames done and in all; false stops
     *
     * @throws RenderRefused when the tap or the range is not there
     * @throws RenderStopped when $progress said so
     * @throws UnableToWriteAudioFile when the file cannot be made or the disk is full
     * @throws LoopsNotSafe when something in this process may interrupt the engine
     * @throws LoopFault when PHP complains while it runs
     */
    public function print(Session $session, Tap $tap, string $path, PrintOptions $options = new PrintOptions, ?callable $progress = null): PrintResult
    {
        $this->check($session, [$tap], $options);

        return $this->run($session, $this->compiler->compile($session, null, Excerpt::withFeeds($session, $tap->channel)), [$tap->id() => $path], $options, $progress)[$tap->id()];
    }

    /**
     * Prints several taps in one run: all files begin and end at the same samples.
     *
     * @param  non-empty-array<array-key, string>  $paths  by tap id
     * @param  ?callable(int, int): bool  $progress
     * @return array<string, PrintResult> by tap id
     *
     * @throws RenderRefused when a tap or the range is not there
     * @throws RenderStopped when $progress said so
     * @throws UnableToWriteAudioFile when a file cannot be made or the disk is full
     * @throws LoopsNotSafe when something in this process may interrupt the engine
     * @throws LoopFault when PHP complains while it runs
     */
    public function stems(Session $session, array $paths, PrintOptions $options = new PrintOptions, ?callable $progress = null): array
    {
        $this->check($session, array_map(self::tap(...), array_keys($paths)), $options);

        return $this->run($session, $this->compiler->compile($session), $paths, $options, $progress);
    }

    /**
     * The session with one channel heard alone, through all that is behind it.
     */
    public static function alone(Session $session, string $channel): Session
    {
        return $session->withChannels(array_map(
            static fn (Channel $one): Channel => $one->withSolo($one->id === $channel)->withMute($one->id !== $channel && $one->mute),
            $session->channels,
        ));
    }

    /**
     * What adds up to the main: the channels whose output is the main, in the order of the session.
     *
     * @return list<string> ids
     */
    public static function stemsOf(Session $session): array
    {
        $main = $session->main()->id;
        $ids = array_values(array_map(
            static fn (Channel $channel): string => $channel->id,
            array_filter($session->channels, static fn (Channel $channel): bool => $channel->output === $main),
        ));

        return $ids === [] ? [$main] : $ids;
    }

    /** @param  list<Tap>  $taps */
    private function check(Session $session, array $taps, PrintOptions $options): void
    {
        $to = $options->to ?? $session->length;
        if ($options->from < 0 || $to <= $options->from) {
            throw RenderRefused::nothing($options->from, $to);
        }
        $most = RenderOptions::LONGEST * $session->sampleRate;
        $total = $to - $options->from + (int) (($options->tail ?? 0.0) * $session->sampleRate);
        if ($total > $most) {
            throw RenderRefused::tooLong($total, $most);
        }
        $stages = [Tap::SOURCE, Tap::PRE_FADER, Tap::POST_FADER];
        foreach ($taps as $tap) {
            if ($session->channel($tap->channel) === null || ! in_array($tap->stage, $stages, true)) {
                $known = [];
                foreach ($session->channels as $channel) {
                    array_push($known, ...array_map(static fn (string $stage): string => "{$channel->id}:{$stage}", $stages));
                }
                throw RenderRefused::noSuchTap($tap, $known);
            }
        }
    }

    private static function tap(int|string $id): Tap
    {
        return Tap::fromString((string) $id) ?? new Tap((string) $id, '');
    }

    /**
     * @param  non-empty-array<array-key, string>  $paths
     * @param  ?callable(int, int): bool  $progress
     * @return array<string, PrintResult>
     */
    private function run(Session $session, Plan $plan, array $paths, PrintOptions $options, ?callable $progress): array
    {
        $writers = [];
        try {
            foreach ($paths as $id => $path) {
                $tap = self::tap($id);
                $writers[$tap->id()] = $this->writer($session, $tap, $path, $options);
            }
            $recorder = new TapRecorder($plan, $writers, $options->from, $options->to ?? $session->length, $options->tail);
            $recorded = SampleLoops::run(static fn (): array => $recorder->record($progress));
            array_walk($writers, static fn (WavWriter $writer) => $writer->close());
        } catch (Throwable $failure) {
            array_walk($writers, static fn (WavWriter $writer) => $writer->discard());
            throw $failure;
        }

        return array_map(static fn (RecordedTap $tap): PrintResult => new PrintResult(
            $tap->frames(),
            $writers[$tap->tap->id()]->format->channels,
            $tap->peak(),
            $tap->clipped(),
            $tap->firstClip(),
            array_values($recorder->faults()),
        ), $recorded);
    }

    private function writer(Session $session, Tap $tap, string $path, PrintOptions $options): WavWriter
    {
        $channel = $session->channel($tap->channel);
        assert($channel !== null);
        $description = (new BroadcastExtension(description: mb_strcut("{$channel->name}, {$tap->stage}", 0, 256)))->withTimeReference($options->from);
        $dither = $options->format === SampleFormat::Int16 || $options->format === SampleFormat::Int24 ? new Dither : null;

        return WavWriter::create($path, new AudioFormat($session->sampleRate, StereoStages::of($channel, $this->processors)->at($tap->stage) ? 2 : 1, $options->format), $description, $dither);
    }
}
