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

it('routes to the same bit with the JIT on and off', function (): void {
    $code = <<<'PHP'
        require "vendor/autoload.php";
        use Hafen\Session\Insert\Branch;
        use Hafen\Session\Insert\Row;
        use Hafen\Session\Insert\SplitBy;
        use Hafen\Session\Channel\Width;
        use Hafen\Tests\Support\{MemoryLibrary, Mix, RandomRouting, Signal};
        $hash = hash_init("sha256");
        foreach (range(201, 212) as $seed) {
            [$session, $library] = RandomRouting::make($seed, 40, 4000);
            $sound = Mix::render($session, $library, 64);
            hash_update($hash, pack("e*", ...$sound->left).pack("e*", ...$sound->right));
        }
        $bands = Mix::split("s1", [new Branch("b1", "Low", -3.0), new Branch("b2", "Mid", 2.0, 0.4), new Branch("b3", "High", invert: true)], SplitBy::Frequency, 300.0, 2500.0);
        $session = Mix::session([Mix::track("a", [$bands], Width::Stereo)]);
        $sound = Mix::render($session, new MemoryLibrary(["a" => [Signal::noise(48000, 1), Signal::noise(48000, 2)]]));
        hash_update($hash, pack("e*", ...$sound->left).pack("e*", ...$sound->right));
        echo hash_final($hash), " ", (opcache_get_status(false)["jit"]["on"] ?? false) ? "on" : "off";
        PHP;
    $run = static fn (string $jit): string => (string) shell_exec('PHP_INI_SCAN_DIR=:config/php '.PHP_BINARY." -d opcache.jit={$jit} -r ".escapeshellarg($code));
    [$with, $on] = explode(' ', $run('tracing'));
    [$without, $off] = explode(' ', $run('off'));
    expect([$on, $off])->toBe(['on', 'off'])->and($with)->toBe($without);
});
