<?php

declare(strict_types=1);

namespace Hafen\Metering;

use Hafen\Audio\Block;
use Hafen\Audio\Samples;

/** Records regions above full scale; regions less than 0.1 s apart are merged. */
final class OverRegions
{
    /** Number of regions kept; later ones are only counted. */
    public const MOST = 400;

    /** @var list<OverRegion> */
    private array $regions = [];

    private int $samples = 0;

    public function __construct(private readonly int $sampleRate)
    {
    }

    /** @param  int  $position  of the block's first sample */
    public function measure(Block $block, int $position): void
    {
        foreach ($block->mono ? [$block->left] : [$block->left, $block->right] as $side) {
            if (Samples::peak($side) <= 1.0) {
                continue;
            }
            foreach ($side as $i => $sample) {
                if (abs($sample) > 1.0) {
                    $this->note($position + $i, abs($sample), $block->mono ? 2 : 1);
                }
            }
        }
    }

    /** Samples beyond full scale, both sides counted. */
    public function samples(): int
    {
        return $this->samples;
    }

    /** @return list<OverRegion> in the order of time */
    public function regions(): array
    {
        return $this->regions;
    }

    private function note(int $position, float $peak, int $samples): void
    {
        $this->samples += $samples;
        $last = count($this->regions) - 1;
        $region = $this->regions[$last] ?? null;
        if ($region !== null && $position < $region->to + intdiv($this->sampleRate, 10)) {
            $this->regions[$last] = new OverRegion(min($region->from, $position), max($region->to, $position + 1), $region->samples + $samples, max($region->peak, $peak));
        } elseif ($last + 1 < self::MOST) {
            $this->regions[] = new OverRegion($position, $position + 1, $samples, $peak);
        }
    }
}
