<?php

declare(strict_types=1);

use Hafen\Tests\Support\Mix;
use Hafen\Tests\Support\NaiveMix;
use Hafen\Tests\Support\RandomRouting;

// Source: the order of a channel and the rules of sends, solo and mute, worked out sample by sample in NaiveMix.
it('sounds as every path says, in any routing, at every tap', function (int $seed): void {
    [$session, $library, $files] = RandomRouting::make($seed);
    $naive = new NaiveMix($session, $files);
    $taps = [$session->main()->id.':post-fader'];
    foreach (array_rand($session->channels, min(4, count($session->channels))) as $index) {
        $taps[] = $session->channels[$index]->id.':'.['source', 'pre-fader', 'post-fader'][mt_rand(0, 2)];
    }
    foreach ($taps as $tap) {
        $sound = Mix::render($session, $library, [64, 512][$seed % 2], $tap);
        $worst = 0.0;
        foreach ($naive->at(...explode(':', $tap)) as $i => [$left, $right]) {
            $worst = max($worst, abs($sound->left[$i] - $left), abs($sound->right[$i] - $right));
        }
        expect($worst)->toBeLessThan(1e-9, "{$tap} of routing {$seed}");
    }
})->with(range(1, 60));

it('sounds the same to the bit in whatever order the channels stand', function (int $seed): void {
    [$session, $library] = RandomRouting::make($seed);
    $sound = Mix::render($session, $library);
    $channels = $session->channels;
    for ($round = 0; $round < 3; ++$round) {
        shuffle($channels);
        expect(Mix::render($session->withChannels($channels), $library))->toEqual($sound);
    }
})->with(range(101, 110));
