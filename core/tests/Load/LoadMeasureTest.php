<?php

declare(strict_types=1);

use Hafen\Engine\Compiler;
use Hafen\Load\ChannelLoad;
use Hafen\Load\LoadMeasure;
use Hafen\Session\Channel\Channel;
use Hafen\Session\Channel\ChannelKind;
use Hafen\Session\Channel\Send;
use Hafen\Session\Channel\Width;
use Hafen\Session\Insert\Branch;
use Hafen\Session\Session;
use Hafen\Session\Source\Clip;
use Hafen\Session\Source\ClipSource;
use Hafen\Tests\Support\MemoryLibrary;
use Hafen\Tests\Support\Mix;
use Hafen\Tests\Support\Signal;

function loadedSession(): Session
{
    return Mix::session([
        Mix::track('cello', [
            Mix::insert('i1', 'filter'),
            Mix::split('s1', [new Branch('b1', 'Dry'), new Branch('b2', 'Wet', inserts: [Mix::insert('i2', 'drive'), Mix::split('s2', [new Branch('b3', 'One', inserts: [Mix::insert('i3', 'tilt')]), new Branch('b4', 'Two')])])]),
        ]),
        Mix::track('808', [Mix::insert('i4', 'compressor')], Width::Stereo)->withSends([new Send('n1', 'plate', -6.0)]),
        Mix::bus('plate', ChannelKind::Return, [Mix::insert('i5', 'reverb')]),
    ], [Mix::insert('i6', 'limiter')]);
}

function loadMeasure(int $blockSize = 512): LoadMeasure
{
    return new LoadMeasure(new Compiler(Mix::processors(), new MemoryLibrary(['cello' => [Signal::noise(48000, 3)], '808' => [Signal::noise(48000, 4), Signal::noise(48000, 5)]])), $blockSize);
}

it('measures every channel and every processor, in branches of branches too, and the parts add up to the whole', function (int $blockSize): void {
    $load = loadMeasure($blockSize)->measure(loadedSession(), 0.5);
    expect(array_map(strval(...), array_keys($load->channels)))->toBe(['cello', '808', 'plate', 'main'])
        ->and(array_map(static fn (ChannelLoad $channel): array => array_keys($channel->processors), array_values($load->channels)))->toBe([['i1', 'i2', 'i3'], ['i4'], ['i5'], ['i6']])
        ->and($load->seconds)->toEqualWithDelta(0.5, 0.05);
    $sum = $load->engine();
    foreach ($load->channels as $channel) {
        // A part is never more than what it is a part of.
        expect(min([...$channel->processors, $channel->own(), $channel->reading, $channel->afterFader]))->toBeGreaterThan(0.0);
        $sum += $channel->own() + $channel->reading + array_sum($channel->processors);
    }
    expect($sum)->toEqualWithDelta($load->total, 1e-9)
        ->and($load->engine())->toBeGreaterThanOrEqual(0.0);
})->with([512, 173]);

it('measures a session that is shorter than what is measured, and one without sound', function (): void {
    $short = Mix::session([Mix::track('cello', [Mix::insert('i1', 'filter')], length: 2000)], length: 2000);
    expect(loadMeasure()->measure($short, 0.3)->seconds)->toBeGreaterThanOrEqual(0.3);
    $empty = Mix::session([], length: 0);
    expect(loadMeasure()->measure($empty, 0.1)->channels)->toHaveKeys(['main']);
});

it('stops when it is told to', function (): void {
    $blocks = 0;
    expect(loadMeasure()->measure(loadedSession(), 5.0, static function () use (&$blocks): bool {
        return ++$blocks < 4;
    }))->toBeNull()->and($blocks)->toBe(4);
});

it('measures where most plays: what rests takes nothing', function (): void {
    $late = static fn (string $id, int $start): Channel => Mix::track($id, [Mix::insert("i-{$id}", 'parametric-eq', ['bell-1-gain' => 6.0])], Width::Stereo)->withSource(new ClipSource([new Clip("k-{$id}", '808', $start, 0, 48_000)]));
    $session = Mix::session([$late('early', 0), $late('one', 480_000), $late('two', 480_000), Mix::track('cello', [Mix::insert('i-cello', 'filter')], length: 960_000)->withSource(new ClipSource)], length: 960_000);
    $load = loadMeasure()->measure($session, 0.2);
    $of = static fn (string $id): float => $load?->channels[$id]->processors["i-{$id}"] ?? -1.0;
    expect([$of('early'), $of('cello')])->toBe([0.0, 0.0])->and(min($of('one'), $of('two')))->toBeGreaterThan(0.0);
});
