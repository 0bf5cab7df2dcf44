<?php

declare(strict_types=1);

use Hafen\Audio\Block;
use Hafen\Processor\ProcessorCatalogue;
use Hafen\Tests\Support\Signal;

/*
 * Two sides that are the same may come as one list or as two; what comes out must not depend on it, nor on when it changes. Left out is pitch shift, where the last bit decides at
 * which of two equally good places it splices.
 */

it('puts out the same whether equal sides come as one list or as two', function (string $id): void {
    mt_srand(crc32($id));
    $one = Signal::processor($id, Signal::busy($id));
    $other = Signal::processor($id, Signal::busy($id));
    $left = Signal::noise(64 * 256, 71, 0.3);
    $right = Signal::noise(64 * 256, 72, 0.3);
    $worst = $loudest = 0.0;
    // Wide, mono, silent, in runs of some blocks: what rings on is of two sides or of one.
    for ($at = 0, $kind = 'mono'; $at < 64 * 256; $at += 256) {
        $kind = mt_rand(0, 4) === 0 ? ['wide', 'mono', 'silence'][mt_rand(0, 2)] : $kind;
        $samples = $kind === 'silence' ? array_fill(0, 256, 0.0) : array_slice($left, $at, 256);
        $others = $kind === 'wide' ? array_slice($right, $at, 256) : $samples;
        $asOne = $kind === 'wide' ? new Block($samples, $others) : Block::mono($samples);
        $asTwo = new Block($samples, $others);
        $one->process($asOne);
        $other->process($asTwo);
        foreach ([[$asOne->left, $asTwo->left], [$asOne->right(), $asTwo->right()]] as [$mine, $theirs]) {
            foreach ($theirs as $i => $sample) {
                $worst = max($worst, abs($mine[$i] - $sample));
                $loudest = max($loudest, abs($sample));
            }
        }
    }
    expect($worst)->toBeLessThan(1e-10 * max(1e-3, $loudest));
})->with(static fn (): array => array_values(array_diff(ProcessorCatalogue::standard()->effects(), ['pitch-shift'])));
