<?php

declare(strict_types=1);

use Hafen\Audio\Block;
use Hafen\Audio\WavReader;
use Hafen\Engine\Compiler;
use Hafen\Engine\Engine;
use Hafen\Engine\Parallel\Processes;
use Hafen\Hardware\InputPort;
use Hafen\Hardware\InterfaceProfile;
use Hafen\Hardware\NoInterface;
use Hafen\Hardware\PlugKind;
use Hafen\Hardware\SimulatedInterface;
use Hafen\Printing\Freezer;
use Hafen\Printing\Renderer;
use Hafen\Printing\RenderOptions;
use Hafen\Session\Channel\ChannelKind;
use Hafen\Session\Hardware\HardwareLoop;
use Hafen\Session\Hardware\MeasuredDelay;
use Hafen\Session\Insert\Branch;
use Hafen\Session\Insert\HardwareInsert;
use Hafen\Session\Session;
use Hafen\Survey\FolderStore;
use Hafen\Survey\SessionSurvey;
use Hafen\Tests\Support\MemoryLibrary;
use Hafen\Tests\Support\Mix;
use Hafen\Tests\Support\Signal;

require_once __DIR__.'/../Support/edited.php';

/** An interface with a cable from output 3 to input 4, and one from outputs 5 and 6 to inputs 5 and 6. */
function patched(int $buffer = 128, float $gain = 0.0): SimulatedInterface
{
    $profile = InterfaceProfile::standard()->withBuffer($buffer)->withInput(4, new InputPort('Mono', PlugKind::Cable, $gain, output: 3))
        ->withInput(5, new InputPort('Left', PlugKind::Cable, output: 5))->withInput(6, new InputPort('Right', PlugKind::Cable, output: 6));

    return new SimulatedInterface($profile, 48000, 96.0, static fn (): null => null);
}

/** @param  array<string, mixed>  $changes */
function cableLoop(int $buffer = 128, array $changes = [], bool $isStereo = false): HardwareLoop
{
    $loop = new HardwareLoop($isStereo ? 'l2' : 'l1', 'Cable', $isStereo ? 'hw:5-6' : 'hw:3', $isStereo ? 'in:5-6' : 'in:4', tail: 0.0, delay: new MeasuredDelay(2 * $buffer + 44, $buffer));

    return $loop->with($changes);
}

function throughLoops(Session $session, HardwareLoop ...$loops): Session
{
    return $session->withLoops(array_values($loops));
}

function loopLibrary(int $length = 24000): MemoryLibrary
{
    return new MemoryLibrary(['cello' => [Signal::noise($length, 3, 0.2)], 'horn' => [Signal::noise($length, 9, 0.2), Signal::noise($length, 10, 0.2)], 'bass' => [Signal::noise($length, 4, 0.2)]]);
}

function loopEngine(Session $session, SimulatedInterface $interface, ?Processes $processes = null, int $blockSize = 512): Engine
{
    return new Engine(new Compiler(Mix::processors(), loopLibrary(), $interface), $session, $blockSize, true, $processes);
}

function heardThrough(Session $session, SimulatedInterface $interface, int $frames = 12000, int $from = 0, int $blockSize = 512): Block
{
    $engine = loopEngine($session, $interface, null, $blockSize);
    $engine->start($from, 4800);

    return Mix::take($engine, $frames);
}

// The dry session is the reference: what goes through a cable comes back as it was but for two conversions to 24 bits.
it('brings sound back lined up to the sample, on a track, a group, a return, the main and in a branch, for every buffer', function (int $buffer, string $place): void {
    $insert = new HardwareInsert('h1', 'l1');
    $row = [Mix::insert('i1', 'gain', ['gain' => -3.0]), $insert, Mix::insert('i2', 'gain', ['gain' => 3.0])];
    $dry = [Mix::insert('i1', 'gain', ['gain' => -3.0]), Mix::insert('i2', 'gain', ['gain' => 3.0])];
    $build = static fn (array $row): Session => match ($place) {
        'track' => Mix::session([Mix::track('cello', $row, length: 24000), Mix::track('bass', [Mix::insert('i3', 'limiter', ['look-ahead' => '10ms'])], length: 24000)], length: 24000),
        'group' => Mix::session([Mix::track('cello', length: 24000)->withOutput('strings'), Mix::track('bass', length: 24000), Mix::bus('strings', ChannelKind::Group, $row)], length: 24000),
        'main' => Mix::session([Mix::track('cello', length: 24000), Mix::track('bass', length: 24000)], $row, 24000),
        default => Mix::session([Mix::track('cello', [Mix::split('s1', [new Branch('b1', 'One'), new Branch('b2', 'Two', inserts: $row)])], length: 24000), Mix::track('bass', length: 24000)], length: 24000),
    };
    // The two sides of a bus come back through one port as one: it carries mono here.
    $through = throughLoops($build($row), cableLoop($buffer));
    foreach ([0, 7777] as $from) {
        $heard = heardThrough($through, patched($buffer), 9000, $from);
        $wanted = Mix::render($build($dry), loopLibrary(), from: $from, frames: 9000);
        expect(Mix::difference($heard, $wanted))->toBeLessThan(4 / 8_388_608);
    }
})->with([32, 128, 512, 2048])->with(['track', 'group', 'main', 'branch']);

it('lines a loop up with another buffer than it was pinged with, also while revisions change', function (int $pinged, int $buffer): void {
    $session = static fn (array $row): Session => Mix::session([Mix::track('cello', $row, length: 24000), Mix::track('bass', length: 24000)], length: 24000);
    $through = throughLoops($session([new HardwareInsert('h1', 'l1')]), cableLoop($pinged));
    $engine = loopEngine($through, patched($buffer));
    $engine->start(0, 0);
    $first = Mix::take($engine, 2048);
    $engine->change(throughLoops($session([new HardwareInsert('h1', 'l1')]), cableLoop($pinged, ['name' => 'Renamed'])));
    $heard = [...$first->left, ...Mix::take($engine, 8192)->left];
    $wanted = Mix::render($session([]), loopLibrary(), frames: count($heard))->left;
    expect(max(array_map(static fn (float $a, float $b): float => abs($a - $b), $heard, $wanted)))->toBeLessThan(4 / 8_388_608);
})->with([[128, 512], [32, 2048], [512, 64]]);

it('sends both sides out of a stereo loop and brings them back each to its own', function (): void {
    $track = static fn (array $row): Session => Mix::session([Mix::track('horn', $row, Hafen\Session\Channel\Width::Stereo, 24000)], length: 24000);
    $through = throughLoops($track([new HardwareInsert('h1', 'l2')]), cableLoop(isStereo: true));
    expect(Mix::difference(heardThrough($through, patched()), Mix::render($track([]), loopLibrary(), frames: 12000)))->toBeLessThan(2 / 8_388_608);
});

it('mixes with a dry copy as late, trims both ways and turns polarity over', function (): void {
    $track = static fn (array $row): Session => Mix::session([Mix::track('cello', $row, length: 24000)], length: 24000);
    $wanted = Mix::render($track([]), loopLibrary(), frames: 12000);
    // Inverted and at half: nothing is left.
    $half = throughLoops($track([new HardwareInsert('h1', 'l1', mix: 0.5)]), cableLoop(changes: ['invert' => true]));
    expect(Hafen\Audio\Samples::peak(heardThrough($half, patched())->left))->toBeLessThan(2 / 8_388_608);
    $trimmed = throughLoops($track([new HardwareInsert('h1', 'l1')]), cableLoop(changes: ['sendTrim' => -12.0, 'returnTrim' => 8.0]));
    expect(Mix::difference(heardThrough($trimmed, patched(gain: 4.0)), $wanted))->toBeLessThan(10 / 8_388_608);
    $off = throughLoops($track([new HardwareInsert('h1', 'l1', on: false)]), cableLoop());
    expect(Mix::difference(heardThrough($off, patched()), $wanted))->toBe(0.0)
        ->and(loopEngine($off, patched())->plan()->latency())->toBe(300);
});

it('switches a loop without a click or a shift, and sends nothing while it is off', function (): void {
    $session = throughLoops(Mix::session([Mix::track('cello', [new HardwareInsert('h1', 'l1')], length: 24000)], length: 24000), cableLoop());
    $interface = patched();
    $engine = loopEngine($session, $interface);
    $engine->start(0);
    $heard = [Mix::take($engine, 4096)];
    $engine->change(edited($session, ['type' => 'set-insert-on', 'inserts' => ['h1'], 'on' => false]));
    $heard[] = Mix::take($engine, 4096);
    $interface->readings();
    $heard[] = Mix::take($engine, 2048);
    expect($interface->readings()[4]->peak)->toBe(0.0);
    $engine->change($session);
    $heard[] = Mix::take($engine, 4096);
    $all = array_merge(...array_map(static fn (Block $block): array => $block->left, $heard));
    $wanted = Mix::render(Mix::session([Mix::track('cello', length: 24000)], length: 24000), loopLibrary(), frames: count($all));
    expect(Mix::difference(new Block($all, $all), new Block($wanted->left, $wanted->left)))->toBeLessThan(2 / 8_388_608);
});

it('freezes, prints and renders what is heard, and surveys its levels, in blocks of the interface', function (int $buffer): void {
    $session = throughLoops(Mix::session([Mix::track('cello', [new HardwareInsert('h1', 'l1'), Mix::insert('i1', 'drive')], length: 24000), Mix::track('bass', length: 24000)], length: 24000), cableLoop($buffer, ['returnTrim' => -6.0]));
    $dry = Mix::session([Mix::track('cello', [Mix::insert('i0', 'gain', ['gain' => -6.0]), Mix::insert('i1', 'drive')], length: 24000), Mix::track('bass', length: 24000)], length: 24000);
    $path = sys_get_temp_dir().'/hafen-loop-'.bin2hex(random_bytes(4)).'.wav';
    $compiler = static fn (): Compiler => new Compiler(Mix::processors(), loopLibrary(), patched($buffer));
    (new Freezer($compiler(), Mix::processors()))->freeze($session, 'cello', $path);
    $frozen = WavReader::open($path)->read(0, 20000)[0];
    unlink($path);
    $wanted = Mix::render($dry, loopLibrary(), tap: 'cello:pre-fader', frames: 20000)->left;
    expect(max(array_map(static fn (float $a, float $b): float => abs($a - $b), $frozen, $wanted)))->toBeLessThan(1e-6);
    (new Renderer($compiler()))->render($session, $path, new RenderOptions(Hafen\Audio\SampleFormat::Float32));
    $rendered = WavReader::open($path)->read(0, 24000);
    unlink($path);
    expect(Mix::difference(new Block($rendered[0], $rendered[1]), Mix::render($dry, loopLibrary())))->toBeLessThan(1e-6);
    $store = FolderStore::temporary();
    $survey = (new SessionSurvey(Mix::processors(), loopLibrary(), $store, patched($buffer)))->measure($session);
    $plain = Mix::survey($dry, loopLibrary());
    foreach (['cello:insert:h1' => 'cello:insert:i0', 'cello:post-fader' => 'cello:post-fader', 'main:post-fader' => 'main:post-fader'] as $tap => $other) {
        expect($survey?->taps[$tap]->peak)->toEqualWithDelta($plain->taps[$other]->peak, 1e-5);
    }
    expect(fn () => (new Renderer(new Compiler(Mix::processors(), loopLibrary())))->render($session, $path, new RenderOptions))->toThrow(NoInterface::class, 'Cable');
    expect(file_exists($path))->toBeFalse();
})->with([64, 256, 1024]);

it('plays the same to the bit where other processes work a part, and leaves the loop where the interface is', function (): void {
    $session = throughLoops(Mix::session([Mix::track('cello', [new HardwareInsert('h1', 'l1')], length: 24000), Mix::track('bass', [Mix::insert('i1', 'limiter')], length: 24000)], length: 24000), cableLoop());
    $heard = [];
    foreach ([null, new Processes(Mix::processors(), loopLibrary(), PHP_BINARY, 2, false)] as $processes) {
        $engine = loopEngine($session, patched(), $processes);
        $engine->start(3000, 4800);
        $heard[] = Mix::take($engine, 6000);
    }
    expect(Mix::difference($heard[0], $heard[1]))->toBe(0.0);
});

it('goes on with another delay after a ping while it plays, lined up again', function (): void {
    $wrong = throughLoops(Mix::session([Mix::track('cello', [new HardwareInsert('h1', 'l1')], length: 24000), Mix::track('bass', length: 24000)], length: 24000), cableLoop(32));
    $engine = loopEngine($wrong, patched());
    $engine->start(0);
    Mix::take($engine, 2048);
    $right = edited($wrong, ['type' => 'set-loop', 'loop' => 'l1', 'delay' => ['samples' => 300.2, 'buffer' => 128]]);
    $engine->change($right);
    Mix::take($engine, 4096);
    $at = $engine->position();
    $dry = Mix::session([Mix::track('cello', length: 24000), Mix::track('bass', length: 24000)], length: 24000);
    expect(Mix::difference(Mix::take($engine, 2000), Mix::render($dry, loopLibrary(), from: $at, frames: 2000)))->toBeLessThan(2 / 8_388_608);
});
