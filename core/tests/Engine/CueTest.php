<?php

declare(strict_types=1);

use Hafen\Audio\Decibel;
use Hafen\Audio\Samples;
use Hafen\Edit\EditRefused;
use Hafen\Engine\Compiler;
use Hafen\Engine\Engine;
use Hafen\Engine\Parallel\Processes;
use Hafen\Engine\Tap;
use Hafen\Session\Channel\ChannelKind;
use Hafen\Session\Channel\Send;
use Hafen\Session\Channel\TapPoint;
use Hafen\Session\Channel\Width;
use Hafen\Session\Session;
use Hafen\Tests\Support\MemoryLibrary;
use Hafen\Tests\Support\Mix;
use Hafen\Tests\Support\Signal;

require_once __DIR__.'/../Support/edited.php';

/** A singer and a bass, both sent to the singer's cue at -6 and -12 dB; the bass's send moves over time where it is asked for. */
function cueSession(bool $isMoved = false): Session
{
    $session = Mix::session([
        Mix::track('voice', width: Width::Stereo)->withSends([new Send('n1', 'cue', -6.0, TapPoint::PreFader)]),
        Mix::track('bass', width: Width::Stereo)->withSends([new Send('n2', 'cue', -12.0, TapPoint::PreFader)]),
        Mix::bus('cue', ChannelKind::Cue),
    ]);

    return $isMoved
        ? edited($session, ['type' => 'set-automation', 'channel' => 'bass', 'target' => 'send:n2', 'points' => [['at' => 0, 'value' => -12.0]]])
        : $session;
}

function cueLibrary(): MemoryLibrary
{
    return new MemoryLibrary(['voice' => [Signal::noise(48000, 3, 0.3), Signal::noise(48000, 4, 0.3)], 'bass' => [Signal::noise(48000, 5, 0.3), Signal::noise(48000, 6, 0.3)]]);
}

// By hand: each source at the gain of its send, and of the performer on top.
it('puts what the performer sets on top of the sends, and leaves the main as it is', function (bool $isMoved, ?float $me, ?float $band): void {
    $plain = cueSession($isMoved);
    $session = edited(edited(edited($plain, ['type' => 'set-performer', 'cue' => 'cue', 'tracks' => ['voice']]),
        ['type' => 'set-performer-gain', 'cue' => 'cue', 'part' => 'me', 'gain' => $me]),
        ['type' => 'set-performer-gain', 'cue' => 'cue', 'part' => 'band', 'gain' => $band]);
    $heard = static function (Session $session, string $tap): Hafen\Audio\Block {
        $engine = Mix::engine($session, cueLibrary());
        $engine->listenAt(new Tap($tap));
        $engine->start(0);

        return Mix::take($engine, 8192);
    };
    $voice = Decibel::toGain($me === null ? null : $me - 6.0);
    $bass = Decibel::toGain($band === null ? null : $band - 12.0);
    $wanted = array_map(static fn (float $a, float $b): float => $voice * $a + $bass * $b, array_slice(Signal::noise(48000, 3, 0.3), 0, 8192), array_slice(Signal::noise(48000, 5, 0.3), 0, 8192));
    $left = $heard($session, 'cue')->left;
    expect(max(array_map(static fn (float $a, float $b): float => abs($a - $b), $left, $wanted)))->toBeLessThan(1e-9)
        ->and(Mix::difference($heard($session, 'main'), $heard($plain, 'main')))->toBe(0.0);
})->with([false, true])->with([[3.0, -4.0], [0.0, null], [null, 6.0]]);

it('forgets a track that is removed, takes the performer away whole, and has one on cues only', function (): void {
    $session = edited(edited(cueSession(), ['type' => 'set-performer', 'cue' => 'cue', 'tracks' => ['voice', 'bass']]), ['type' => 'set-performer-gain', 'cue' => 'cue', 'part' => 'band', 'gain' => 2.0]);
    $removed = edited($session, ['type' => 'remove-channels', 'channels' => ['bass']]);
    expect($removed->channel('cue')?->performer?->tracks)->toBe(['voice'])->and($removed->channel('cue')?->performer?->band)->toBe(2.0)
        ->and(edited($session, ['type' => 'set-performer', 'cue' => 'cue', 'tracks' => null])->channel('cue')?->performer)->toBeNull()
        ->and(fn () => edited($session, ['type' => 'set-performer', 'cue' => 'main', 'tracks' => ['voice']]))->toThrow(EditRefused::class, 'only cues have a performer')
        ->and(fn () => edited($session, ['type' => 'set-performer', 'cue' => 'cue', 'tracks' => ['nobody']]))->toThrow(EditRefused::class);
});

it('lets a cue be heard beside the main, each on an ear of its own, in one process and in several', function (int $processes): void {
    $session = cueSession()->withChannel(cueSession()->main()->withFader(-3.0));
    $alone = static function (string $tap) use ($session): array {
        $engine = Mix::engine($session, cueLibrary());
        $engine->listenAt(new Tap($tap));
        $engine->start(0);
        $block = Mix::take($engine, 8192);

        return Samples::mid($block->left, $block->right());
    };
    $engine = $processes === 1 ? Mix::engine($session, cueLibrary()) : new Engine(new Compiler(Mix::processors(), cueLibrary()), $session, 512, true, new Processes(Mix::processors(), cueLibrary(), PHP_BINARY, $processes, false));
    $engine->listenAt(new Tap('cue'), true);
    $engine->start(0);
    $heard = Mix::take($engine, 8192);
    expect($heard->left)->toBe($alone('main'))->and($heard->right)->toBe($alone('cue'));
    // What is heard beside it goes away with a fade over one block, and with the cue itself.
    $engine->change(edited($session, ['type' => 'remove-channels', 'channels' => ['cue']]));
    Mix::take($engine, 4096);
    expect($engine->tap()->channel)->toBe('main')->and(Mix::take($engine, 512)->left)->not->toBe(array_fill(0, 512, 0.0));
})->with([1, 2]);
