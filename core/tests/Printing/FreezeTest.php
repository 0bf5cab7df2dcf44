<?php

declare(strict_types=1);

use Hafen\Audio\Block;
use Hafen\Audio\SampleFormat;
use Hafen\Document\ContentHashes;
use Hafen\Edit\EditRefused;
use Hafen\Edit\Refusals\ChannelsAreFrozen;
use Hafen\Printing\FreezeOptions;
use Hafen\Refusal;
use Hafen\Routing\SessionGraph;
use Hafen\Session\Automation\AutomationLane;
use Hafen\Session\Automation\AutomationPoint;
use Hafen\Session\Automation\AutomationTarget;
use Hafen\Session\Channel\Channel;
use Hafen\Session\Channel\ChannelKind;
use Hafen\Session\Channel\Send;
use Hafen\Session\Channel\TapPoint;
use Hafen\Session\Channel\Width;
use Hafen\Session\Insert\Branch;
use Hafen\Session\Session;
use Hafen\Session\Source\TapSource;
use Hafen\Tests\Support\Freezes;
use Hafen\Tests\Support\MemoryLibrary;
use Hafen\Tests\Support\Mix;
use Hafen\Tests\Support\RandomEdits;
use Hafen\Tests\Support\RandomRouting;
use Hafen\Tests\Support\Signal;

require_once __DIR__.'/../Support/edited.php';

/** @return list<string> some channels of a session that can be frozen */
function freezable(Session $session, int $count): array
{
    $ids = array_map(static fn (Channel $channel): string => $channel->id, array_values(array_filter($session->channels, static fn (Channel $channel): bool => $channel->kind->canBeFrozen())));
    shuffle($ids);

    return array_slice($ids, 0, $count);
}

// Source: what is frozen against what is not, sample by sample.
it('nulls to the bit against what is not frozen, in any routing, at every tap', function (int $seed): void {
    [$session, $library] = RandomRouting::make($seed);
    $frozen = $session;
    $ids = freezable($session, 1 + $seed % 3);
    foreach ($ids as $id) {
        $frozen = Freezes::freeze($frozen, $library, $id, new FreezeOptions(format: SampleFormat::Float64));
    }
    $hashes = ContentHashes::of($frozen, Mix::processors());
    foreach ([$session->main()->id.':post-fader', "{$ids[0]}:pre-fader", "{$ids[0]}:source", "{$ids[0]}:post-fader"] as $tap) {
        $before = Mix::render($session, $library, [64, 512, 509][$seed % 3], $tap);
        $after = Mix::render($frozen, $library, [64, 512, 509][$seed % 3], $tap);
        expect(Mix::engine($frozen, $library)->plan()->unplayable)->toBe([])
            ->and($after->left === $before->left && $after->right() === $before->right())->toBeTrue("{$tap} of routing {$seed}, ".implode(' ', $ids).' frozen');
    }
    expect($hashes->stale())->toBe([]);
})->with(range(1, 25));

it('nulls to the bits of its format with effects of every kind, automation and latency, at several rates', function (int $rate, Width $width, SampleFormat $format): void {
    $library = new MemoryLibrary(['voice' => $width === Width::Mono ? [Signal::noise($rate, 1, 0.3)] : [Signal::noise($rate, 1, 0.3), Signal::noise($rate, 2, 0.3)], 'kick' => [Signal::noise($rate, 3, 0.5)]], $rate);
    $voice = Mix::track('voice', [
        Mix::insert('i1', 'compressor', ['threshold' => -30.0])->withSidechain(new TapSource('kick', TapPoint::PostFader)),
        Mix::split('s1', [new Branch('b1', 'Dry'), new Branch('b2', 'Wide', -6.0, inserts: [Mix::insert('i2', 'drive', ['drive' => 9.0]), Mix::insert('i3', 'chorus')])]),
        Mix::insert('i4', 'limiter', ['ceiling' => -12.0], 0.7),
        Mix::insert('i5', 'reverb', [], 0.3),
    ], $width, $rate)->withLane(new AutomationLane(AutomationTarget::mix('i5'), [new AutomationPoint(0, 0.0), new AutomationPoint($rate, 0.8)]))
        ->withLane(new AutomationLane(AutomationTarget::fader(), [new AutomationPoint(0, -12.0), new AutomationPoint($rate, 0.0)]));
    $at48 = Mix::session([$voice, Mix::track('kick', [Mix::insert('i6', 'limiter')], Width::Mono, $rate)], [], $rate);
    $session = new Session('Test', $rate, 120.0, -3.0, $rate, $at48->channels);
    $frozen = Freezes::freeze($session, $library, 'voice', new FreezeOptions(format: $format));
    $before = Mix::render($session, $library, 512, 'voice:pre-fader');
    $after = Mix::render($frozen, $library, 441, 'voice:pre-fader');
    $peak = max(array_map(abs(...), $before->left));
    expect(Mix::difference($after, $before))->toBeLessThanOrEqual($format === SampleFormat::Float64 ? 0.0 : $peak * 2.0 ** -24)
        ->and($peak)->toBeGreaterThan(0.01)
        ->and(Mix::difference(Mix::render($frozen, $library, 64), Mix::render($session, $library, 512)))->toBeLessThanOrEqual($format === SampleFormat::Float64 ? 0.0 : 2.0 ** -23);
})->with([[44100, Width::Mono, SampleFormat::Float32], [96000, Width::Stereo, SampleFormat::Float32], [48000, Width::Stereo, SampleFormat::Float64], [44100, Width::Mono, SampleFormat::Float64]]);

it('keeps a tail as long as it is heard, so many seconds, or none', function (): void {
    $library = new MemoryLibrary(['tone' => [Signal::noise(4800, 1, 0.5)]]);
    $session = Mix::session([Mix::track('tone', [Mix::insert('i1', 'reverb', ['decay' => 1.0], 1.0)], Width::Mono, 4800)], [], 4800);
    [$heard, $sides] = Freezes::render($session, $library, 'tone');
    [$two] = Freezes::render($session, $library, 'tone', new FreezeOptions(2.0));
    [$none] = Freezes::render($session, $library, 'tone', new FreezeOptions(0.0));
    // The decay is the time in which it falls by 60 dB (ISO 3382): by 90 dB it takes one and a half times as long.
    expect($heard->tail)->toBeGreaterThan(48000)->toBeLessThan(96000)
        ->and([$two->tail, $none->tail, $two->frames])->toBe([96000, 0, 100800])
        ->and($heard->faded)->toBeTrue()->and($none->faded)->toBeFalse()
        ->and(max(array_map(abs(...), array_slice($sides[0], -2048))))->toBeLessThan($heard->peak * 10 ** (-80 / 20));
    // What was cut is stale when the session gets longer, what faded out is not.
    $longer = $session->withLength(9600);
    $hashes = [ContentHashes::of($session, Mix::processors()), ContentHashes::of($longer, Mix::processors())];
    expect($hashes[1]->ofFreeze('tone', true))->toBe($heard->hash)->and($hashes[0]->ofFreeze('tone', false))->toBe($none->hash)
        ->and($hashes[1]->ofFreeze('tone', false))->not->toBe($none->hash);
});

it('cannot be changed in its sound without its freeze being stale, by any sequence of edits', function (int $seed): void {
    [$session, $library] = RandomRouting::make(3000 + $seed, 7);
    foreach (freezable($session, 2) as $id) {
        $session = Freezes::freeze($session, $library, $id, new FreezeOptions(format: SampleFormat::Float64));
    }
    $made = $refused = $compared = 0;
    for ($i = 0; $i < 60; ++$i) {
        try {
            $after = edited($session, RandomEdits::next($session));
        } catch (ChannelsAreFrozen $frozen) {
            expect($frozen->channels)->not->toBe([])->and($frozen->getMessage())->toContain($session->channel($frozen->channels[0])->name);
            ++$refused;

            continue;
        } catch (Refusal) {
            continue;
        }
        ++$made;
        $session = $after;
        $hashes = ContentHashes::of($session, Mix::processors());
        $thawed = $hashes->thawed($session);
        foreach ($session->channels as $channel) {
            if ($hashes->isFresh($channel->id) && SessionGraph::audibility($session)->has($channel->id)) {
                ++$compared;
                $tap = "{$channel->id}:pre-fader";
                expect(Mix::difference(Mix::render($session, $library, 64, $tap), Mix::render($thawed, $library, 64, $tap)))->toBe(0.0, "{$tap} after edit {$i}");
            }
        }
    }
    expect($made)->toBeGreaterThan(5)->and($compared + $refused)->toBeGreaterThan(0);
})->with(range(1, 8));

it('plays the channel itself where its file is gone or no freeze, and says so', function (): void {
    $library = new MemoryLibrary(['tone' => [Signal::noise(4800, 1, 0.5)]]);
    $session = Mix::session([Mix::track('tone', [Mix::insert('i1', 'drive')], Width::Mono, 4800)], [], 4800);
    $frozen = Freezes::freeze($session, $library, 'tone');
    unset($library->files['frozen-tone']);
    $engine = Mix::engine($frozen, $library);
    expect($engine->plan()->unplayable)->toBe(['tone' => 'There is no readable file here.'])
        ->and(Mix::render($frozen, $library))->toEqual(Mix::render($session, $library));
    $library->files['frozen-tone'] = [[0.0], [0.0], [0.0]];
    expect(Mix::engine($frozen, $library)->plan()->unplayable['tone'])->toContain('3 channels');
});

it('lets what only feeds a frozen group sleep, and wakes it when it is heard again', function (): void {
    $library = new MemoryLibrary(['one' => [Signal::noise(48000, 1, 0.3)], 'two' => [Signal::noise(48000, 2, 0.3)]]);
    $session = Mix::session([
        Mix::track('one', [Mix::insert('i1', 'drive')])->withOutput('group'),
        Mix::track('two', [Mix::insert('i2', 'drive')])->withOutput('group')->withSends([new Send('n1', 'main', -12.0, TapPoint::PreFader)]),
        Mix::bus('group', ChannelKind::Group, [Mix::insert('i3', 'compressor')]),
    ]);
    $frozen = Freezes::freeze($session, $library, 'group', new FreezeOptions(format: SampleFormat::Float64));
    $engine = Mix::engine($frozen, $library);
    $engine->start(0);
    $first = Mix::take($engine, 9728);
    $loads = $engine->loads();
    expect($loads['one'])->toBe(0.0)->and($loads['two'])->toBeGreaterThan(0.0)
        ->and(Mix::difference($first, Mix::render($session, $library, frames: 9728)))->toBe(0.0);
    // Unfrozen while it plays, both are worked again; after the short fade it sounds as ever, as far as what has memory allows.
    $engine->change($session);
    Mix::take($engine, 19456);
    $later = Mix::take($engine, 9728);
    $all = Mix::render($session, $library, frames: 38912);
    $there = new Block(array_slice($all->left, 29184, 9728), array_slice($all->right, 29184, 9728));
    expect($engine->loads()['one'])->toBeGreaterThan(0.0)->and(Mix::difference($later, $there))->toBeLessThan(0.01);
});

it('is not stale while a solo elsewhere silences it, and stale when a solo is among what it froze', function (): void {
    $library = new MemoryLibrary(['one' => [Signal::noise(4800, 1)], 'two' => [Signal::noise(4800, 2)], 'else' => [Signal::noise(4800, 3)]]);
    $session = Mix::session([
        Mix::track('one', [], Width::Mono, 4800)->withOutput('group'), Mix::track('two', [], Width::Mono, 4800)->withOutput('group'), Mix::track('else', [], Width::Mono, 4800),
        Mix::bus('group', ChannelKind::Group, [Mix::insert('i3', 'drive')]),
    ], [], 4800);
    $frozen = Freezes::freeze($session, $library, 'group');
    $solo = static fn (string $id): array => ContentHashes::of(edited($frozen, ['type' => 'set-solo', 'channels' => [$id], 'solo' => true]), Mix::processors())->stale();
    expect($solo('else'))->toBe([])->and($solo('one'))->toBe(['group']);
});

it('refuses what would change a frozen channel, and says what can be frozen', function (array $edit, string $message): void {
    $library = new MemoryLibrary(['one' => [Signal::noise(4800, 1)], 'two' => [Signal::noise(4800, 2)]]);
    $session = Mix::session([
        Mix::track('one', [Mix::insert('i1', 'compressor')->withSidechain(new TapSource('two', TapPoint::PreFader))], Width::Mono, 4800),
        Mix::track('two', [Mix::insert('i2', 'drive')], Width::Mono, 4800),
    ], [], 4800);
    $session = Freezes::freeze($session, $library, 'one');
    expect(fn () => edited($session, $edit))->toThrow(EditRefused::class, $message);
})->with([
    'its insert' => [['type' => 'set-insert-on', 'inserts' => ['i1'], 'on' => false], 'One is frozen'],
    'several channels' => [['type' => 'set-trim', 'channels' => ['one', 'two'], 'gain' => -3.0], 'One is frozen'],
    'what it listens to' => [['type' => 'set-parameter', 'insert' => 'i2', 'parameter' => 'drive', 'value' => 3.0], 'One is frozen'],
    'the sidechain goes' => [['type' => 'remove-channels', 'channels' => ['two']], 'One is frozen'],
    'a lane' => [['type' => 'set-automation', 'channel' => 'one', 'target' => 'mix:i1', 'points' => [['at' => 0, 'value' => 0.5]]], 'One is frozen'],
    'in one of several' => [['type' => 'several', 'label' => 'x', 'edits' => [['type' => 'set-fader', 'channels' => ['one'], 'gain' => -3.0], ['type' => 'remove-inserts', 'inserts' => ['i1']]]], 'One is frozen'],
    'the main' => [['type' => 'freeze', 'channels' => [['channel' => 'main', 'file' => 'x', 'hash' => str_repeat('0', 32)]]], 'Main cannot be frozen'],
    'another state' => [['type' => 'freeze', 'channels' => [['channel' => 'two', 'file' => 'x', 'hash' => str_repeat('0', 32)]]], 'Two was changed since'],
]);

it('leaves the fader, sends and what stands after the fader free', function (): void {
    $library = new MemoryLibrary(['one' => [Signal::noise(4800, 1)]]);
    $session = Freezes::freeze(Mix::session([Mix::track('one', [Mix::insert('i1', 'drive')], Width::Mono, 4800), Mix::bus('hall', ChannelKind::Return)], [], 4800), $library, 'one');
    foreach ([
        ['type' => 'set-fader', 'channels' => ['one'], 'gain' => -3.0],
        ['type' => 'set-pan', 'channels' => ['one'], 'pan' => 0.5],
        ['type' => 'rename-channel', 'channel' => 'one', 'name' => 'Uno'],
        ['type' => 'add-send', 'channels' => ['one'], 'to' => 'hall', 'tap' => 'pre-fader'],
        ['type' => 'add-insert', 'channels' => ['one'], 'processor' => 'gain', 'row' => 'postInserts'],
        ['type' => 'set-mute', 'channels' => ['one'], 'mute' => true],
    ] as $edit) {
        $session = edited($session, $edit);
        expect(ContentHashes::of($session, Mix::processors())->stale())->toBe([]);
    }
    expect(edited($session, ['type' => 'unfreeze', 'channels' => ['one']])->channel('one')?->frozen)->toBeNull();
});
