<?php

declare(strict_types=1);

namespace Hafen\Dsp\Reverb;

use Hafen\Audio\Samples;

/** Single echoes of both sides' middle, each so late and so loud on either side. */
final class Reflections
{
    /** @var list<float> what was heard last, the newest at the end */
    private array $past;

    private readonly int $room;

    /** @var list<array{int, float, float}> samples, amplitude factor left and right */
    private array $echoes = [];

    public function __construct(float $longestMilliseconds, private readonly int $sampleRate)
    {
        $this->room = (int) ceil($longestMilliseconds * $sampleRate / 1000.0);
        $this->past = array_fill(0, $this->room, 0.0);
    }

    /** @param  list<array{float, float, float}>  $echoes  ms, amplitude factor left and right */
    public function set(array $echoes): void
    {
        $this->echoes = array_map(fn (array $echo): array => [min($this->room, (int) round($echo[0] * $this->sampleRate / 1000.0)), $echo[1], $echo[2]], $echoes);
    }

    /**
     * @param  list<float>  $samples
     * @return array{list<float>, list<float>} left and right
     */
    public function process(array $samples): array
    {
        $n = count($samples);
        $line = [...$this->past, ...$samples];
        $this->past = array_slice($line, $n);
        $left = $right = array_fill(0, $n, 0.0);
        $toLeft = $toRight = [];
        foreach ($this->echoes as [$delay, $gainLeft, $gainRight]) {
            $heard = array_slice($line, $this->room - $delay, $n);
            $toLeft[] = [$heard, $gainLeft];
            $toRight[] = [$heard, $gainRight];
        }

        return [Samples::addAllScaled($left, $toLeft), Samples::addAllScaled($right, $toRight)];
    }

    public function reset(): void
    {
        $this->past = array_fill(0, $this->room, 0.0);
    }
}
