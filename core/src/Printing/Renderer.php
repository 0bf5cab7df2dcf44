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
use Hafen\Audio\Samples;
use Hafen\Audio\UnableToWriteAudioFile;
use Hafen\Audio\WavWriter;
use Hafen\Engine\Compiler;
use Hafen\Engine\Engine;
use Hafen\Engine\Parallel\ProcessGone;
use Hafen\Engine\Parallel\ProcessStarter;
use Hafen\Engine\Tap;
use Hafen\Session\Session;
use Throwable;

/**
 * Renders a session to a WAV file with the engine that is listened to.
 *
 * Sample 0 of the session stays sample 0 of the file, whatever the latency. A file that is not finished is removed.
 */
final readonly class Renderer
{
    /** @param  ?ProcessStarter  $processes  starts more processes where they make the file sooner */
    public function __construct(private Compiler $compiler, private ?ProcessStarter $processes = null, private int $blockSize = 1024)
    {
    }

    /**
     * @param  ?callable(int, int): bool  $progress  gets frames done and in all; false stops
     *
     * @throws RenderRefused when the range or the tap is not there, or it is longer than a day
     * @throws RenderStopped when $progress said so
     * @throws UnableToWriteAudioFile when the file cannot be made or the disk is full
     * @throws LoopsNotSafe when something in this process may interrupt the engine
     * @throws LoopFault when PHP complains while it runs
     * @throws ProcessGone when a process of the engine ended
     */
    public function render(Session $session, string $path, RenderOptions $options, ?callable $progress = null): RenderResult
    {
        $to = $options->to ?? $session->length;
        if ($options->from < 0 || $to <= $options->from) {
            throw RenderRefused::nothing($options->from, $to);
        }
        $total = $options->frames($session);
        $most = RenderOptions::LONGEST * $session->sampleRate;
        if ($total > $most) {
            throw RenderRefused::tooLong($total, $most);
        }
        $engine = $this->processes?->engineToRender($this->compiler, $session, $this->blockSize) ?? new Engine($this->compiler, $session, $this->blockSize, false);
        $tap = $options->tap ?? new Tap($engine->plan()->main()->id);
        if (! $engine->listenAt($tap)) {
            throw RenderRefused::noSuchTap($tap, self::taps($engine));
        }
        // A pre-roll can take a while: whoever waits wants to stop it too.
        if (! $engine->start($options->from, $engine->plan()->preRoll(), $progress === null ? null : static fn (): bool => $progress(0, $total))) {
            throw RenderStopped::beforeItBegan();
        }
        $writer = WavWriter::create(
            $path,
            new AudioFormat($session->sampleRate, 2, $options->format),
            (new BroadcastExtension(description: mb_strcut($session->name, 0, 256)))->withTimeReference($options->from),
            $options->format === SampleFormat::Int16 || $options->format === SampleFormat::Int24 ? new Dither : null,
        );
        try {
            $result = SampleLoops::run(fn (): RenderResult => $this->write($engine, $writer, $options->from, $total, $progress));
            $writer->close();
        } catch (Throwable $failure) {
            $writer->discard();
            throw $failure;
        }

        return $result;
    }

    /** @param  ?callable(int, int): bool  $progress */
    private function write(Engine $engine, WavWriter $writer, int $from, int $total, ?callable $progress): RenderResult
    {
        $peak = 0.0;
        $peakAt = $from;
        $firstClip = null;
        $faults = [];
        for ($done = 0; $done < $total;) {
            $block = $engine->next();
            $count = min($block->frames(), $total - $done);
            if ($count < $block->frames()) {
                $block->left = array_slice($block->left, 0, $count);
                $block->right = array_slice($block->right, 0, $count);
            }
            foreach ([$block->left, $block->right] as $side) {
                $highest = Samples::peak($side);
                if ($highest > $peak) {
                    $peak = $highest;
                    $peakAt = $from + $done + (int) array_search($highest, array_map(abs(...), $side), true);
                }
            }
            $writer->write([$block->left, $block->right]);
            if ($firstClip === null && $writer->clipped() > 0) {
                $firstClip = $from + $done;
            }
            foreach ($engine->faults() as $fault) {
                $faults[$fault->channel] ??= $fault;
            }
            $done += $count;
            if ($progress !== null && ! $progress($done, $total)) {
                throw RenderStopped::at($done, $total);
            }
        }

        return new RenderResult($total, $peak, $peakAt, $writer->clipped(), $firstClip, array_values($faults), $engine->unplayable());
    }

    /** @return list<string> */
    private static function taps(Engine $engine): array
    {
        $taps = [];
        foreach (array_keys($engine->plan()->strips) as $id) {
            foreach ([Tap::SOURCE, Tap::PRE_FADER, Tap::POST_FADER] as $stage) {
                $taps[] = "{$id}:{$stage}";
            }
        }

        return $taps;
    }
}
