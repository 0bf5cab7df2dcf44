<?php

declare(strict_types=1);

namespace Hafen\Printing;

use Closure;
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
use Hafen\Session\Channel\ChannelKind;
use Hafen\Session\Session;
use Throwable;

/**
 * Renders taps of channels to files, faster than they play: one channel by itself, the sum of several, or several to files of one length.
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
        $plan = $this->compiler->compile($session, null, Excerpt::withFeeds($session, $tap->channel));

        return $this->run([$tap->id() => $this->file($session, [$tap], $path, $options)], 1, fn (array $writers): array => [$this->apart($plan, $writers, $options)], $progress)[$tap->id()];
    }

    /**
     * Prints channels to one file: one by itself, several added up, each once.
     *
     * @param  non-empty-list<string>  $channels  ids
     * @param  string  $tap  "source", "pre-fader", "post-fader", or "main": alone through all that is behind them
     * @param  ?callable(int, int): bool  $progress
     *
     * @throws RenderRefused when a channel or the range is not there
     * @throws RenderStopped when $progress said so
     * @throws UnableToWriteAudioFile when the file cannot be made or the disk is full
     * @throws LoopsNotSafe when something in this process may interrupt the engine
     * @throws LoopFault when PHP complains while it runs
     */
    public function channels(Session $session, array $channels, string $tap, string $path, PrintOptions $options = new PrintOptions, ?callable $progress = null): PrintResult
    {
        if ($tap === 'main') {
            return $this->print(Isolation::alone($session, $channels), new Tap($session->main()->id), $path, $options, $progress);
        }
        $taps = array_map(static fn (string $id): Tap => new Tap($id, $tap), Isolation::heardOnce($session, array_values(array_unique($channels))));
        assert($taps !== []);

        return count($taps) === 1 ? $this->print($session, $taps[0], $path, $options, $progress) : $this->together($session, $taps, $path, $options, $progress);
    }

    /**
     * Prints the sum of several taps.
     *
     * @param  non-empty-list<Tap>  $taps
     * @param  ?callable(int, int): bool  $progress
     *
     * @throws RenderRefused when a tap or the range is not there
     * @throws RenderStopped when $progress said so
     * @throws UnableToWriteAudioFile when the file cannot be made or the disk is full
     * @throws LoopsNotSafe when something in this process may interrupt the engine
     * @throws LoopFault when PHP complains while it runs
     */
    public function together(Session $session, array $taps, string $path, PrintOptions $options = new PrintOptions, ?callable $progress = null): PrintResult
    {
        $this->check($session, $taps, $options);
        $plan = $this->compiler->compile($session);

        return $this->run(
            ['sum' => $this->file($session, $taps, $path, $options)],
            1,
            static fn (array $writers): array => [TapRecorder::together($plan, $taps, 'sum', $writers['sum'], $options->from, $options->to ?? $session->length, $options->tail)],
            $progress,
        )['sum'];
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
        $files = $this->files($session, $paths, $options);
        $plan = $this->compiler->compile($session);

        return $this->run($files, 1, fn (array $writers): array => [$this->apart($plan, $writers, $options)], $progress);
    }

    /**
     * Prints what each channel brings to the main, returns included, one after another; all files begin and end at the same samples.
     *
     * @param  non-empty-array<array-key, string>  $paths  by id of the channel's output, "channel:post-fader"
     * @param  ?callable(int, int): bool  $progress
     * @return array<string, PrintResult> by tap id
     *
     * @throws RenderRefused when a channel or the range is not there
     * @throws RenderStopped when $progress said so
     * @throws UnableToWriteAudioFile when a file cannot be made or the disk is full
     * @throws LoopsNotSafe when something in this process may interrupt the engine
     * @throws LoopFault when PHP complains while it runs
     */
    public function stemsWithReturns(Session $session, array $paths, PrintOptions $options = new PrintOptions, ?callable $progress = null): array
    {
        $files = $this->files($session, $paths, $options, new AudioFormat($session->sampleRate, 2, $options->format));
        $atMain = new Tap($session->main()->id, Tap::SOURCE);

        return $this->run($files, count($files), function (array $writers) use ($session, $atMain, $options): iterable {
            foreach ($writers as $id => $writer) {
                $plan = $this->compiler->compile(Isolation::share($session, self::tap($id)->channel));

                yield TapRecorder::together($plan, [$atMain], (string) $id, $writer, $options->from, $options->to ?? $session->length, $options->tail);
            }
        }, $progress);
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

    /**
     * The channels that get a file where what the returns bring is in the files of what sends to them.
     *
     * @param  list<string>  $channels  ids
     * @return list<string>
     */
    public static function withoutReturns(Session $session, array $channels): array
    {
        return array_values(array_filter($channels, static fn (string $id): bool => $session->channel($id)?->kind !== ChannelKind::Return));
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
     * Runs one recorder after another, and closes the files once all are of one length.
     *
     * @param  non-empty-array<array-key, Closure(): WavWriter>  $files  by id of the tap or the sum
     * @param  Closure(non-empty-array<array-key, WavWriter>): iterable<TapRecorder>  $recorders  given the writers by id
     * @param  ?callable(int, int): bool  $progress
     * @return array<string, PrintResult>
     */
    private function run(array $files, int $runs, Closure $recorders, ?callable $progress): array
    {
        $writers = $recorded = $faults = [];
        try {
            foreach ($files as $id => $file) {
                $writers[$id] = $file();
            }
            $run = 0;
            foreach ($recorders($writers) as $recorder) {
                $done = $progress === null ? null : static fn (int $frames, int $total): bool => $progress($run * $total + $frames, $runs * $total);
                $recorded += SampleLoops::run(static fn (): array => $recorder->record($done));
                $faults += $recorder->faults();
                ++$run;
            }
            assert($recorded !== []);
            $longest = max(array_map(static fn (RecordedTap $tap): int => $tap->frames(), $recorded));
            array_walk($recorded, static fn (RecordedTap $tap) => $tap->fill($longest));
            array_walk($writers, static fn (WavWriter $writer) => $writer->close());
        } catch (Throwable $failure) {
            array_walk($writers, static fn (WavWriter $writer) => $writer->discard());
            throw $failure;
        }
        $results = [];
        foreach ($recorded as $id => $tap) {
            $results[(string) $id] = new PrintResult($tap->frames(), $writers[$id]->format->channels, $tap->peak(), $tap->clipped(), $tap->firstClip(), array_values($faults));
        }

        return $results;
    }

    /** @param  non-empty-array<array-key, WavWriter>  $writers  by tap id */
    private function apart(Plan $plan, array $writers, PrintOptions $options): TapRecorder
    {
        return TapRecorder::apart($plan, $writers, $options->from, $options->to ?? $plan->session->length, $options->tail);
    }

    /**
     * @param  non-empty-array<array-key, string>  $paths  by tap id
     * @return non-empty-array<array-key, Closure(): WavWriter>
     */
    private function files(Session $session, array $paths, PrintOptions $options, ?AudioFormat $format = null): array
    {
        $this->check($session, array_map(self::tap(...), array_keys($paths)), $options);
        $files = [];
        foreach ($paths as $id => $path) {
            $files[$id] = $this->file($session, [self::tap($id)], $path, $options, $format);
        }

        return $files;
    }

    /**
     * A file for one tap, or for the sum of several; mono where all of them are, unless the format is given.
     *
     * @param  non-empty-list<Tap>  $taps
     * @return Closure(): WavWriter
     */
    private function file(Session $session, array $taps, string $path, PrintOptions $options, ?AudioFormat $format = null): Closure
    {
        $names = [];
        $sides = 1;
        foreach ($taps as $tap) {
            $channel = $session->channel($tap->channel);
            assert($channel !== null);
            $names[] = $channel->name;
            $sides = StereoStages::of($channel, $this->processors)->at($tap->stage) ? 2 : $sides;
        }
        $description = (new BroadcastExtension(description: mb_strcut(implode(', ', [...$names, $taps[0]->stage]), 0, 256)))->withTimeReference($options->from);
        $dither = $options->format === SampleFormat::Int16 || $options->format === SampleFormat::Int24 ? new Dither : null;

        return static fn (): WavWriter => WavWriter::create($path, $format ?? new AudioFormat($session->sampleRate, $sides, $options->format), $description, $dither);
    }
}
