<?php

declare(strict_types=1);

namespace Hafen\Printing;

use Closure;
use Hafen\Audio\AudioFormat;
use Hafen\Audio\Block;
use Hafen\Audio\BroadcastExtension;
use Hafen\Audio\Samples;
use Hafen\Audio\UnableToWriteAudioFile;
use Hafen\Audio\WavWriter;

/**
 * Writes what passes a tap while it plays to takes: one from where recording begins, and another each time a loop begins anew. Each
 * take knows where in the session it was played, to the sample, with latency taken off. Its file is made with its first sample.
 */
final class TakeWriter
{
    /** @var list<Take> that are whole */
    private array $takes = [];

    private ?WavWriter $writer = null;

    private string $path = '';

    private int $start = 0;

    /** Position in the session of the sample that comes next. */
    private int $at = 0;

    private int $frames = 0;

    private float $peak = 0.0;

    /** Source position the next block should have. */
    private ?int $expected = null;

    /** Frames from before a jump that are still on their way to the tap. */
    private int $arriving = 0;

    /** Where the take begins that follows the jump. */
    private int $next = 0;

    /**
     * @param  Closure(int): string  $paths  where the file of a take goes, by its number
     * @param  int  $latency  samples by which sound comes late to the tap
     * @param  int  $from  position in the session of the first sample that is kept
     * @param  ?int  $to  position after the last; null is as long as it is recorded
     */
    public function __construct(private readonly Closure $paths, private readonly AudioFormat $format, private readonly int $latency, private readonly int $from = 0, private readonly ?int $to = null)
    {
    }

    /**
     * @param  int  $source  position of the block's first sample, as the sources count
     *
     * @throws UnableToWriteAudioFile
     */
    public function take(Block $block, int $source): void
    {
        $frames = $block->frames();
        if ($this->expected === null) {
            // What is at the tap was read so many samples ago.
            $this->begin($source - $this->latency);
        } elseif ($source !== $this->expected) {
            $this->arriving = $this->latency;
            $this->next = $source;
            if ($this->arriving === 0) {
                $this->end();
                $this->begin($this->next);
            }
        }
        $this->expected = $source + $frames;
        $from = min($this->arriving, $frames);
        if ($this->arriving > 0) {
            $this->write($block, 0, $from);
            $this->arriving -= $from;
            if ($this->arriving === 0) {
                $this->end();
                $this->begin($this->next);
            }
        }
        $this->write($block, $from, $frames);
    }

    /** Samples in the take that is being written. */
    public function frames(): int
    {
        return $this->frames;
    }

    /** Highest sample of the take that is being written. */
    public function peak(): float
    {
        return $this->peak;
    }

    /**
     * Ends the recording.
     *
     * @return list<Take> in the order they were played
     *
     * @throws UnableToWriteAudioFile
     */
    public function close(): array
    {
        $this->end();

        return $this->takes;
    }

    /** Removes what is not whole. */
    public function discard(): void
    {
        $this->writer?->discard();
        $this->writer = null;
    }

    private function begin(int $start): void
    {
        $this->at = $start;
        $this->frames = 0;
        $this->peak = 0.0;
    }

    private function end(): void
    {
        if ($this->writer === null) {
            return;
        }
        $this->writer->close();
        $this->writer = null;
        $this->takes[] = new Take($this->path, $this->start, $this->frames, $this->peak);
    }

    private function write(Block $block, int $from, int $to): void
    {
        $at = $this->at;
        $this->at += $to - $from;
        // Before the session's start, and outside of the range, nothing is kept.
        $first = max($from, $from + $this->from - $at);
        $last = $this->to === null ? $to : min($to, $from + $this->to - $at);
        if ($first >= $last) {
            return;
        }
        if ($this->writer === null) {
            $this->start = $at + $first - $from;
            $this->path = ($this->paths)(count($this->takes) + 1);
            $this->writer = WavWriter::create($this->path, $this->format, (new BroadcastExtension)->withTimeReference($this->start));
        }
        [$from, $to] = [$first, $last];
        $left = array_slice($block->left, $from, $to - $from);
        $right = $block->mono ? $left : array_slice($block->right, $from, $to - $from);
        $this->peak = max($this->peak, Samples::peak($left), $block->mono ? 0.0 : Samples::peak($right));
        $this->writer->write($this->format->channels === 1 ? [$block->mono ? $left : Samples::mid($left, $right)] : [$left, $right]);
        $this->frames += $to - $from;
    }
}
