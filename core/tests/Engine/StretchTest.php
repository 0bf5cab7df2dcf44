<?php

declare(strict_types=1);

use Hafen\Audio\Block;
use Hafen\Engine\Compiler;
use Hafen\Engine\Engine;
use Hafen\Engine\Loop;
use Hafen\Engine\Parallel\Processes;
use Hafen\Engine\Piece;
use Hafen\Engine\Tap;
use Hafen\Hardware\InputPort;
use Hafen\Hardware\InterfaceProfile;
use Hafen\Hardware\PlugKind;
use Hafen\Hardware\SimulatedInterface;
use Hafen\Session\Session;
use Hafen\Session\Source\LiveSource;
use Hafen\Tests\Support\MemoryLibrary;
use Hafen\Tests\Support\Mix;
use Hafen\Tests\Support\RandomMix;
use Hafen\Tests\Support\Signal;

require_once __DIR__.'/../Support/edited.php';

/** A random mix in which some tracks carry what comes in at the interface. */
function partlyLive(int $seed, string ...$live): array
{
    [$session, $library] = RandomMix::make($seed);
    foreach ($live as $id) {
        $session = $session->withChannel($session->channel($id)->withSource(new LiveSource('in:1')));
    }

    return [$session, $library];
}

/** @param  int  $stretch  frames that channels may be worked at a time which do not wait for the input */
function stretchEngine(Session $session, MemoryLibrary $library, int $buffer, int $stretch, ?Processes $processes = null): Engine
{
    $interface = new SimulatedInterface(InterfaceProfile::standard()->withBuffer($buffer)->withInput(1, new InputPort('Tone', PlugKind::Tone)), 48000, 96.0, static fn (): null => null);

    return new Engine(new Compiler(Mix::processors(), $library, $interface), $session, $stretch, true, $processes);
}

/** What is heard and what is recorded over so many frames, end to end. */
function heardAndRecorded(Engine $engine, int $frames): array
{
    $sound = [];
    $expected = $engine->position();
    for ($done = 0; $done < $frames;) {
        $block = $engine->next();
        foreach (['heard' => $block] + $engine->recorded() as $where => $passed) {
            $sound[$where][0] = [...$sound[$where][0] ?? [], ...$passed->left];
            $sound[$where][1] = [...$sound[$where][1] ?? [], ...$passed->right()];
        }
        $done += $block->frames();
    }

    return array_map(static fn (array $sides): Block => new Block(array_slice($sides[0], 0, $frames), array_slice($sides[1], 0, $frames)), $sound);
}

it('sounds the same whether channels without a live input are worked in stretches or in blocks as short as its own', function (int $seed, int $buffer, array $live): void {
    [$session, $library] = partlyLive($seed, ...$live);
    $sounds = [];
    foreach ([$buffer, 512] as $stretch) {
        $engine = stretchEngine($session, $library, $buffer, $stretch);
        $engine->record(new Tap('t1', Tap::SOURCE), new Tap('t2', Tap::PRE_FADER), new Tap('group'), new Tap('return'));
        $engine->loopOver(new Loop(700, 9001));
        $engine->start(5000, 3000);
        expect($engine->next()->frames())->toBe($buffer);
        $sounds[] = heardAndRecorded($engine, 16000);
    }
    expect(array_keys($sounds[1]))->toBe(['heard', 't1:source', 't2:pre-fader', 'group:post-fader', 'return:post-fader']);
    foreach ($sounds[0] as $where => $block) {
        expect(Mix::difference($block, $sounds[1][$where]))->toBeLessThan(1e-9, $where);
    }
    // A live channel and all behind it is worked as short as the buffer, the others are not.
    expect(array_intersect($live, array_keys($engine->plan()->ahead)))->toBe([])->and($engine->plan()->ahead)->not->toHaveKey('main');
})->with(static function (): iterable {
    foreach (range(1, 8) as $seed) {
        yield "mix {$seed}" => [$seed, [32, 64, 128, 256][$seed % 4], [['t0'], ['t1'], ['t0', 't2']][$seed % 3]];
    }
});

it('works ahead what a live channel listens to, and nothing that listens to a live channel', function (): void {
    $key = static fn (string $of): Hafen\Session\Source\TapSource => new Hafen\Session\Source\TapSource($of, Hafen\Session\Channel\TapPoint::PreFader);
    $session = Mix::session([
        Mix::track('drum'),
        Mix::track('bass', [Mix::insert('i1', 'compressor')->withSidechain($key('voice'))]),
        Mix::track('voice', [Mix::insert('i2', 'compressor')->withSidechain($key('drum'))]),
        Mix::track('shaker'),
    ]);
    $live = $session->withChannel($session->channel('voice')->withSource(new LiveSource('in:1')));
    $plan = stretchEngine($live, new MemoryLibrary(array_fill_keys(['drum', 'bass', 'shaker'], [Signal::noise(48000, 3, 0.3)])), 128, 512)->plan();
    expect(array_keys($plan->ahead))->toEqualCanonicalizing(['drum', 'shaker']);
});

it('keeps the bits where other processes work the stretches', function (int $number, int $buffer): void {
    [$session, $library] = partlyLive(11, 't0');
    $sounds = [];
    foreach ([null, new Processes(Mix::processors(), $library, PHP_BINARY, $number, false)] as $processes) {
        $engine = stretchEngine($session, $library, $buffer, 512, $processes);
        $engine->record(new Tap('t1', Tap::SOURCE), new Tap('t2'));
        $engine->loopOver(new Loop(0, 7001));
        $engine->start(0);
        $sounds[] = heardAndRecorded($engine, 12000);
    }
    expect($sounds[1])->toEqual($sounds[0]);
})->with([2, 3])->with([32, 128]);

it('loses and repeats no sample where it is listened elsewhere, recorded or edited within a stretch', function (bool $hasOthers, int $after): void {
    [$session, $library] = partlyLive(12, 't0');
    $louder = edited($session, ['type' => 'set-fader', 'channels' => ['t1'], 'gain' => -30.0]);
    $take = static function (?Session $to, Tap $tap) use ($session, $library, $hasOthers, $after): array {
        $processes = $hasOthers ? new Processes(Mix::processors(), $library, PHP_BINARY, 2, false) : null;
        $engine = stretchEngine($session, $library, 128, 512, $processes);
        $engine->start(0);
        for ($i = 0; $i < $after; ++$i) {
            $engine->next();
        }
        $to === null || $engine->change($to);
        $engine->listenAt($tap);
        $engine->record(new Tap('t2'));
        $source = $engine->sourcePosition();
        $sound = [];
        while (count($sound) < 14000) {
            expect($engine->sourcePosition())->toBe($source + count($sound));
            $at = $engine->position() - count($sound);
            $block = $engine->next();
            array_push($sound, ...$block->left);
        }

        // As late as it is at the end: another tap may come earlier.
        return [$at, $sound, $engine->recorded()['t2:post-fader']];
    };
    [$at, $heard, $recorded] = $take($louder, new Tap('t1'));
    // The fader has long come to rest in the last 6000 samples.
    $reference = Mix::render($louder, $library, tap: 't1:post-fader');
    for ($i = 8000; $i < 14000; $i += 7) {
        expect($heard[$i])->toEqualWithDelta($reference->left[$at + $i], 1e-9);
    }
    expect($recorded->frames())->toBe(128);
    [, $unchanged] = $take(null, new Tap('main'));
    $engine = stretchEngine($session, $library, 128, 512);
    $engine->start(0);
    $straight = heardAndRecorded($engine, 20000)['heard']->left;
    expect(array_slice($unchanged, 0, 14000))->toEqual(array_slice($straight, 128 * $after, 14000));
})->with([false, true])->with([1, 2, 4, 7]);

it('is a part of a stretch, the last one as long as what is left', function (): void {
    $pieces = [];
    for ($piece = Piece::first(1000, 300, 128); $piece !== null; $piece = $piece->next(128)) {
        $pieces[] = [$piece->position(), $piece->frames, $piece->isFirst(), $piece->isLast(), $piece->isWhole()];
    }
    expect($pieces)->toBe([[1000, 128, true, false, false], [1128, 128, false, false, false], [1256, 44, false, true, false]])
        ->and(Piece::whole(5, 512)->isWhole())->toBeTrue()->and(Piece::first(0, 64, 128)->isLast())->toBeTrue();
});
