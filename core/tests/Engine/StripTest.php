<?php

declare(strict_types=1);

use Hafen\Audio\Block;
use Hafen\Audio\Decibel;
use Hafen\Engine\StripFader;
use Hafen\Engine\StripInput;
use Hafen\Session\Channel\Width;
use Hafen\Tests\Support\Mix;

require_once __DIR__.'/../Support/edited.php';

/** What a fader makes of ones, for a session of one cello. */
function throughFader(array $edits, int $position, int $frames, float $panLaw = -3.0, Width $width = Width::Mono, bool $audible = true): Block
{
    $session = Mix::session([Mix::track('cello', [], $width)]);
    foreach ($edits as $edit) {
        $session = edited($session, $edit);
    }
    $fader = new StripFader(48000);
    $fader->configure($session->channel('cello'), $panLaw, $audible);
    $fader->settle();
    $block = $width === Width::Mono ? Block::mono(array_fill(0, $frames, 1.0)) : new Block(array_fill(0, $frames, 1.0), array_fill(0, $frames, 1.0));
    $fader->process($block, $position);

    return $block;
}

it('sets fader and pan by the pan law', function (float $law, float $pan, float $left, float $right): void {
    $block = throughFader([['type' => 'set-fader', 'channels' => ['cello'], 'gain' => -6.0], ['type' => 'set-pan', 'channels' => ['cello'], 'pan' => $pan]], 0, 64, $law);
    $level = Decibel::toGain(-6.0);
    expect($block->left[63])->toEqualWithDelta($level * $left, 1e-9)
        ->and($block->right()[63])->toEqualWithDelta($level * $right, 1e-9);
})->with([
    // Sine and cosine of a quarter turn: constant power, nothing lost at an end.
    'middle at -3 dB' => [-3.0, 0.0, M_SQRT1_2, M_SQRT1_2],
    'left' => [-3.0, -1.0, 1.0, 0.0],
    'right' => [-3.0, 1.0, 0.0, 1.0],
    'middle at -6 dB, where both add up to 1' => [-6.0, 0.0, 0.5, 0.5],
    'middle at 0 dB' => [0.0, 0.0, 1.0, 1.0],
]);

it('is silent where its channel is not heard, whatever its automation says', function (): void {
    $lane = ['type' => 'set-automation', 'channel' => 'cello', 'target' => 'fader', 'points' => [['at' => 0, 'value' => 0.0], ['at' => 47999, 'value' => 6.0]]];
    expect(max(throughFader([$lane], 0, 128, audible: false)->left))->toBe(0.0)
        ->and(max(throughFader([$lane], 0, 128)->left))->toBeGreaterThan(0.7);
});

it('follows automation on the session’s clock, from whichever block it begins at', function (): void {
    $lane = ['type' => 'set-automation', 'channel' => 'cello', 'target' => 'fader', 'points' => [['at' => 0, 'value' => 0.0], ['at' => 24000, 'value' => -12.0]]];
    $pan = ['type' => 'set-automation', 'channel' => 'cello', 'target' => 'pan', 'points' => [['at' => 0, 'value' => -1.0], ['at' => 24000, 'value' => 1.0]]];
    $whole = throughFader([$lane, $pan], 0, 24000, width: Width::Stereo);
    foreach ([[0, 512], [777, 333], [12000, 1], [23000, 1000]] as [$at, $frames]) {
        $part = throughFader([$lane, $pan], $at, $frames, width: Width::Stereo);
        expect(Mix::difference($part, new Block(array_slice($whole->left, $at, $frames), array_slice($whole->right, $at, $frames))))->toBeLessThan(1e-9, "at {$at}");
    }
    // A travel of half the way is less than half the dB at the end of a fader: by its law, -12 and 0 meet at about -5.6.
    $middle = throughFader([$lane], 12000, 1)->left[0] / throughFader([], 12000, 1)->left[0];
    expect(Decibel::fromGain($middle))->toBeLessThan(-4.5)->toBeGreaterThan(-6.0);
});

it('reads silence where nothing feeds it, and is as wide as its channel', function (): void {
    $input = new StripInput(null);
    $input->widthOf(Width::Mono);
    $block = $input->read(0, 77);
    expect($block->frames())->toBe(77)->and($block->mono)->toBeTrue()->and(max($block->left))->toBe(0.0)
        ->and($input->tail(['cello' => 5000]))->toBe(0)
        ->and($input->contributions())->toBe([]);
    $input->keepContributions();
    $input->read(0, 8);
    expect($input->contributions())->toBe([]);
});
