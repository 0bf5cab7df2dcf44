<?php

declare(strict_types=1);

use Hafen\Document\SessionCodec;
use Hafen\Edit\EditRefused;
use Hafen\Engine\Tap;
use Hafen\Refusal;
use Hafen\Routing\Routes;
use Hafen\Tests\Support\Mix;
use Hafen\Tests\Support\NaiveMix;
use Hafen\Tests\Support\RandomEdits;
use Hafen\Tests\Support\RandomRouting;
use Hafen\Tests\Support\Signal;

require_once __DIR__.'/../Support/edited.php';

it('leaves a valid document after any sequence of edits, or says in words why not', function (int $seed): void {
    [$session] = RandomRouting::make($seed, 10);
    $codec = new SessionCodec(Mix::processors());
    mt_srand($seed);
    $made = 0;
    for ($step = 0; $step < 150; ++$step) {
        $edit = RandomEdits::next($session);
        $before = $codec->encode($session);
        try {
            $after = edited($session, $edit);
            $again = $codec->decode($codec->encode($after));
            expect($again)->toEqual($after)->and(Routes::of($after)->loop())->toBeNull()->and($codec->encode($session))->toBe($before);
            $session = count($after->channels) > 24 ? $session : $after;
            ++$made;
        } catch (Refusal $refusal) {
            expect(strlen($refusal->getMessage()))->toBeGreaterThan(15, json_encode($edit));
            if ($refusal instanceof EditRefused) {
                expect($refusal->location)->not->toBe('');
            }
        }
    }
    expect($made)->toBeGreaterThan(40);
})->with(range(301, 312));

it('sounds, after any sequence of edits, as the paths say', function (int $seed): void {
    [$session, $library, $files] = RandomRouting::make($seed, 8);
    mt_srand($seed);
    for ($made = 0; $made < 30;) {
        $edit = RandomEdits::next($session);
        try {
            // NaiveMix has no clock: everything must be lined up. It knows no notes, and none of what moves a control from outside its lane.
            $isUnknown = in_array($edit['type'], ['set-aligned', 'add-notes', 'put-note-clip', 'set-notes'], true) || preg_match('/^(macro|sound):/', (string) ($edit['target'] ?? '')) === 1 && $edit['type'] === 'set-automation';
            $after = $isUnknown ? $session : edited($session, $edit);
            $session = count($after->channels) > 24 ? $session : $after;
            ++$made;
        } catch (Refusal) {
            // Nothing happened.
        }
    }
    $sound = Mix::render($session, $library, 64);
    $worst = 0.0;
    foreach ((new NaiveMix($session, $files))->at($session->main()->id, 'post-fader') as $i => [$left, $right]) {
        $worst = max($worst, abs($sound->left[$i] - $left), abs($sound->right[$i] - $right));
    }
    expect($worst)->toBeLessThan(1e-9);
})->with(range(401, 430));

it('arrives, by edits made while it plays, where a fresh start would', function (int $seed): void {
    // Long enough for every ramp and every delay to run out.
    [$session, $library] = RandomRouting::make($seed, 8, 40000);
    $engine = Mix::engine($session, $library);
    $engine->start(0);
    Mix::take($engine, 2048);
    mt_srand($seed);
    for ($made = 0; $made < 25;) {
        try {
            $after = edited($session, RandomEdits::next($session));
            $session = count($after->channels) > 20 ? $session : $after;
            $engine->change($session);
            Mix::take($engine, 512 * mt_rand(0, 2));
            ++$made;
        } catch (Refusal) {
            // Nothing happened.
        }
    }
    Mix::take($engine, 8192);
    foreach ($session->channels as $channel) {
        $tap = new Tap($channel->id, ['source', 'pre-fader', 'post-fader'][mt_rand(0, 2)]);
        expect($engine->listenAt($tap))->toBeTrue();
        Mix::take($engine, 512);
        $from = $engine->position();
        $fresh = Mix::engine($session, $library);
        $fresh->listenAt($tap);
        $fresh->start($from, 2048);
        expect(Mix::difference(Mix::take($engine, 512), Mix::take($fresh, 512)))->toBeLessThan(1e-9, $tap->id());
    }
})->with(range(501, 524));

it('surveys at every tap what a render of that tap holds', function (int $seed): void {
    [$session, $library] = RandomRouting::make($seed, 12, 700);
    $result = Mix::survey($session, $library);
    foreach (array_rand($result->taps, min(12, count($result->taps))) as $key) {
        $sound = Mix::render($session, $library, 512, $key);
        expect($result->taps[$key]->peak)->toEqualWithDelta(max(Signal::peak($sound->left), Signal::peak($sound->right)), 1e-12, $key)
            ->and($result->taps[$key]->meanSquare)->toEqualWithDelta((Signal::rms($sound->left) ** 2 + Signal::rms($sound->right) ** 2) / 2, 1e-12, $key);
    }
})->with(range(601, 615));
