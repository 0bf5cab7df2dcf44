<?php

declare(strict_types=1);

use Hafen\Audio\Block;
use Hafen\Audio\SampleFormat;
use Hafen\Document\ContentHashes;
use Hafen\Engine\Compiler;
use Hafen\Engine\Engine;
use Hafen\Engine\Monitoring;
use Hafen\Engine\Parallel\Processes;
use Hafen\Engine\Tap;
use Hafen\Hardware\InputPort;
use Hafen\Hardware\InterfaceProfile;
use Hafen\Hardware\PlugKind;
use Hafen\Hardware\SimulatedInterface;
use Hafen\Printing\TakeWriter;
use Hafen\Routing\LivePath;
use Hafen\Routing\QuickMonitoring;
use Hafen\Session\Automation\AutomationCurve;
use Hafen\Session\Channel\Width;
use Hafen\Session\Session;
use Hafen\Session\Source\ClipSource;
use Hafen\Session\Source\LiveInput;
use Hafen\Session\Source\LiveSource;
use Hafen\Session\Source\Monitor;
use Hafen\Tests\Support\MemoryLibrary;
use Hafen\Tests\Support\Mix;
use Hafen\Tests\Support\Signal;

require_once __DIR__.'/../Support/edited.php';

/** A cello from a file with a limiter, a voice at the first input with a limiter, both to the main with a limiter. */
function sungTo(Monitor $monitor = Monitor::Always, Width $width = Width::Mono, int $length = 24000): Session
{
    $session = Mix::session([
        Mix::track('cello', [Mix::insert('i1', 'limiter', ['look-ahead' => '10ms'])], length: $length),
        Mix::track('voice', [Mix::insert('i2', 'gain', ['gain' => 6.0])], $width, $length),
    ], [Mix::insert('i3', 'limiter')], $length);
    $voice = $session->channel('voice');

    return $session->withChannel($voice->withSource((new ClipSource($voice->source->clips()))->withInput(new LiveInput('in:1', $monitor))))
        ->withChannel($session->main()->withOutput('hw:1-2'));
}

function sungLibrary(int $length = 24000): MemoryLibrary
{
    return new MemoryLibrary(['cello' => [Signal::noise($length, 3, 0.3)], 'voice' => [Signal::noise($length, 4, 0.3)]]);
}

function pluggedIn(InputPort $port, int $buffer = 128): SimulatedInterface
{
    return new SimulatedInterface(InterfaceProfile::standard()->withBuffer($buffer)->withInput(1, $port), 48000, 96.0, static fn (): null => null);
}

function liveEngine(Session $session, MemoryLibrary $library, SimulatedInterface $interface, ?Processes $processes = null): Engine
{
    return new Engine(new Compiler(Mix::processors(), $library, $interface), $session, 512, true, $processes);
}

it('hears an input in place of the clips while it is monitored, and only then', function (): void {
    $heard = static fn (Monitor $monitor, array $armed): bool => Monitoring::isLive(Monitoring::heardIn(sungTo($monitor), $armed));
    expect($heard(Monitor::Off, ['voice']))->toBeFalse()
        ->and($heard(Monitor::Armed, []))->toBeFalse()->and($heard(Monitor::Armed, ['cello']))->toBeFalse()
        ->and($heard(Monitor::Armed, ['voice']))->toBeTrue()->and($heard(Monitor::Always, []))->toBeTrue();
    $off = edited(sungTo(), ['type' => 'set-off', 'channels' => ['voice'], 'off' => true]);
    expect(Monitoring::heardIn($off, ['voice']))->toBe($off);
});

it('plays what comes in through inserts, fader and main, beside the rest', function (): void {
    $session = Monitoring::heardIn(sungTo(), []);
    $interface = pluggedIn(new InputPort('Tone', PlugKind::Tone));
    $engine = liveEngine($session, sungLibrary(), $interface);
    $engine->start(0);
    $engine->listenAt(new Tap('voice', Tap::PRE_FADER));
    $engine->next();
    for ($i = 0; $i < 20; ++$i) {
        $block = $engine->next();
        $dry = $interface->input(1);
        foreach ($block->left as $at => $sample) {
            // 6 dB louder, at once: no wait for the limiters of others.
            expect($sample)->toEqualWithDelta($dry[$at] * 10 ** (6 / 20), 1e-9);
        }
    }
    expect($engine->plan()->arrival('voice'))->toBe(0)->and($engine->readings()['voice:source']->peak)->toBeGreaterThan(0.1);
    // Files are made of the clips.
    expect(Mix::difference(Mix::render(sungTo(), sungLibrary()), Mix::render(edited(sungTo(), ['type' => 'set-input', 'channel' => 'voice', 'input' => null]), sungLibrary())))->toBe(0.0)
        ->and(ContentHashes::of(sungTo(), Mix::processors())->upToFader('main'))->toBe(ContentHashes::of(sungTo(Monitor::Off), Mix::processors())->upToFader('main'));
});

it('does not line a live input up with the mix, and all else as before', function (): void {
    $library = sungLibrary();
    $silent = pluggedIn(new InputPort('Nothing'));
    $engine = liveEngine(Monitoring::heardIn(sungTo(), []), $library, $silent);
    $engine->start(0);
    $alone = Mix::render(edited(sungTo(), ['type' => 'set-mute', 'channels' => ['voice'], 'mute' => true]), $library);
    $heard = Mix::take($engine, 12000);
    expect(Mix::difference($heard, new Block(array_slice($alone->left, 0, 12000), array_slice($alone->right(), 0, 12000))))->toBeLessThan(1e-12);
});

it('records the main through a cable to the very sample it had, for every buffer', function (int $buffer, int $from): void {
    $library = sungLibrary();
    $session = Monitoring::heardIn(sungTo(Monitor::Off), []);
    $interface = new SimulatedInterface(InterfaceProfile::standard()->withBuffer($buffer)->withInput(1, new InputPort('Back', PlugKind::Cable, -6.0, output: 2)), 48000, 96.0, static fn (): null => null);
    $engine = liveEngine($session, $library, $interface);
    $path = sys_get_temp_dir().'/hafen-loopback-'.bin2hex(random_bytes(4));
    $writer = new TakeWriter(static fn (int $number): string => "{$path}-{$number}", new Hafen\Audio\AudioFormat(48000, 1, SampleFormat::Float32), $engine->plan()->latency() + $interface->latency()->roundTrip());
    $engine->start($from, 4800);
    $main = [];
    while (count($main) < 16000) {
        $source = $engine->sourcePosition();
        $block = $engine->next();
        $main = [...$main, ...$block->right()];
        $writer->take(Block::mono($interface->input(1)), $source);
    }
    [$take] = $writer->close();
    $recorded = Hafen\Audio\WavReader::open($take->path)->read(0, $take->frames)[0];
    unlink($take->path);
    $compared = 0;
    foreach ($recorded as $i => $sample) {
        $at = $take->start + $i - $from;
        // What is before the start was never sent.
        if ($at >= 0 && $at < count($main)) {
            expect(abs($sample - $main[$at] * 10 ** (-6 / 20)))->toBeLessThan(3.0 / 8_388_608);
            ++$compared;
        }
    }
    expect($compared)->toBeGreaterThan(16000 - 2 * $buffer - 2000)->and(Signal::peak($recorded))->toBeGreaterThan(0.05);
})->with([[32, 0], [64, 4000], [128, 0], [256, 1000], [512, 0], [1024, 4000], [2048, 0]]);

it('plays the same to the bit where other processes work a part, a live input among them', function (): void {
    $library = sungLibrary();
    $sound = [];
    foreach ([null, new Processes(Mix::processors(), $library, PHP_BINARY, 2, false)] as $processes) {
        $engine = liveEngine(Monitoring::heardIn(sungTo(), []), $library, pluggedIn(new InputPort('Voice', PlugKind::Voice, 31.0)), $processes);
        $engine->start(0);
        $sound[] = Mix::take($engine, 9000);
        // An edit that takes it away and brings it back.
        $engine->change(Monitoring::heardIn(sungTo(Monitor::Off), []));
        Mix::take($engine, 4096);
        $engine->change(Monitoring::heardIn(sungTo(), []));
        $again = Mix::take($engine, 4096);
        expect(Signal::peak($again->left))->toBeGreaterThan(0.01);
    }
    expect(Mix::difference(...$sound))->toBe(0.0);
});

it('lets only what comes in sound while nothing plays, with what moves held where it stands', function (): void {
    $lane = ['type' => 'set-automation', 'channel' => 'voice', 'target' => 'fader', 'points' => [['at' => 0, 'value' => 0.0], ['at' => 20000, 'value' => -20.0]]];
    $session = edited(sungTo(), $lane);
    $standing = Monitoring::standing(Monitoring::heardIn($session, []), 10000);
    $interface = pluggedIn(new InputPort('Tone', PlugKind::Tone));
    $engine = liveEngine($standing, sungLibrary(), $interface);
    $engine->standStill();
    $engine->start(10000);
    $engine->listenAt(new Tap('voice'));
    Mix::take($engine, 20000);
    $level = Signal::peak(Mix::take($engine, 4800)->left);
    // -18 dBFS, 6 dB up, the fader where its lane is half way, 3.01 dB down at the centre (pan law).
    $fader = (new AutomationCurve($session->channel('voice')->lane('fader')))->at(10000);
    expect($fader)->toBeLessThan(-5.0)->and(20 * log10($level))->toEqualWithDelta(-18.0 + 6.0 + $fader - 3.01, 0.05);
    $engine->listenAt(new Tap('cello'));
    Mix::take($engine, 1024);
    expect(Signal::peak(Mix::take($engine, 4800)->left))->toBe(0.0);
});

it('leaves out in quick monitoring what makes a live input late, and keeps it when the clips play', function (): void {
    $session = edited(sungTo(Monitor::Armed), ['type' => 'add-insert', 'channels' => ['voice'], 'processor' => 'pitch-shift', 'parameters' => ['semitones' => 5.0]]);
    $late = $session->channel('voice')->inserts[1]->id();
    $quick = new QuickMonitoring(Mix::processors(), 3.0);
    expect($quick->sleeping($session, $session->channel('voice')))->toBe([$late])
        ->and((new QuickMonitoring(Mix::processors(), 100.0))->sleeping($session, $session->channel('voice')))->toBe([])
        // 1,800 samples of the shift (docs/processors.md) less; the limiter on the main stays.
        ->and(array_sum(array_column(LivePath::of($session, Mix::processors(), 'voice'), 'samples')) - array_sum(array_column(LivePath::of($session, Mix::processors(), 'voice', $quick), 'samples')))->toBe(1800);
    $interface = pluggedIn(new InputPort('Tone', PlugKind::Tone));
    $engine = liveEngine(Monitoring::heardIn($session, ['voice'], $quick), sungLibrary(), $interface);
    $engine->start(0);
    $engine->listenAt(new Tap('voice', Tap::PRE_FADER));
    Mix::take($engine, 512);
    $block = $engine->next();
    expect($block->left[100])->toEqualWithDelta($interface->input(1)[100] * 10 ** (6 / 20), 1e-9);
    // Woken while it plays, and the clips play through it.
    $engine->change(Monitoring::heardIn($session, [], $quick));
    Mix::take($engine, 8192);
    expect($engine->tapIds())->toContain("voice:insert:{$late}")->and(Signal::peak(Mix::take($engine, 4096)->left))->toBeGreaterThan(0.01);
});

it('lets nothing in while filters and tails are run in, wherever it starts again', function (): void {
    $session = edited(sungTo(), ['type' => 'add-insert', 'channels' => ['voice'], 'processor' => 'reverb', 'parameters' => ['decay' => 4.0]]);
    $interface = pluggedIn(new InputPort('Tone', PlugKind::Tone, 12.0));
    $engine = liveEngine(Monitoring::heardIn($session, []), sungLibrary(), $interface);
    $engine->start(0);
    Mix::take($engine, 4096);
    $engine->listenAt(new Tap('voice', Tap::PRE_FADER));
    $interface->configure(InterfaceProfile::standard()->withInput(1, new InputPort('Gone')));
    $engine->start(9000, 9000);
    // Neither the tone that came in last nor its reverb.
    expect(Signal::peak(Mix::take($engine, 4096)->left))->toBe(0.0);
});

it('takes an edit of a channel that sleeps, and is heard: a track in a group that is off, all of it switched on at once', function (): void {
    $session = edited(sungTo(), ['type' => 'group-channels', 'channels' => ['cello'], 'name' => 'Low']);
    $off = edited($session, ['type' => 'set-off', 'channels' => ['low'], 'off' => true]);
    $engine = Mix::engine($off, sungLibrary());
    $engine->start(0);
    Mix::take($engine, 2048);
    $engine->change(edited($off, ['type' => 'add-insert', 'channels' => ['cello'], 'processor' => 'gain', 'parameters' => ['gain' => -6.0]]));
    Mix::take($engine, 4096);
    expect($engine->tapIds())->toHaveCount(count((Mix::engine($off, sungLibrary()))->tapIds()) + 1);
    $engine->change($session);
    $engine->listenAt(new Tap('low'));
    Mix::take($engine, 4096);
    expect(Signal::peak(Mix::take($engine, 2048)->left))->toBeGreaterThan(0.05);

    // The same in a session that stands, where all that nothing live feeds is off.
    $interface = pluggedIn(new InputPort('Tone', PlugKind::Tone));
    $live = edited(edited(sungTo(Monitor::Armed), ['type' => 'add-channel', 'name' => 'Plate', 'kind' => 'return']), ['type' => 'add-channel', 'name' => 'Wash', 'kind' => 'return']);
    $live = edited(edited($live, ['type' => 'set-output', 'channels' => ['plate'], 'output' => 'wash']), ['type' => 'add-send', 'channels' => ['voice'], 'to' => 'plate']);
    $engine = liveEngine(Monitoring::standing(Monitoring::heardIn($live, []), 0), sungLibrary(), $interface);
    $engine->start(0);
    Mix::take($engine, 2048);
    $engine->change(Monitoring::standing(Monitoring::heardIn($live, ['voice']), 0));
    Mix::take($engine, 4096);
    expect(Signal::peak(Mix::take($engine, 2048)->left))->toBeGreaterThan(0.05);
});

it('takes a pair on a stereo track, and its middle on a mono one', function (): void {
    foreach ([Width::Stereo, Width::Mono] as $width) {
        $session = sungTo(width: $width);
        $pair = $session->withChannel($session->channel('voice')->withSource(new LiveSource('in:1-2')));
        $profile = InterfaceProfile::standard()->withInput(1, new InputPort('Tone', PlugKind::Tone))->withInput(2, new InputPort('Nothing'));
        $interface = new SimulatedInterface($profile, 48000, 96.0, static fn (): null => null);
        $engine = liveEngine($pair, sungLibrary(), $interface);
        $engine->start(0);
        $engine->listenAt(new Tap('voice', Tap::SOURCE));
        $engine->next();
        $block = $engine->next();
        $dry = $interface->input(1);
        expect($block->left[77])->toEqualWithDelta($width === Width::Stereo ? $dry[77] : $dry[77] / 2, 1e-12)
            ->and($block->right()[77])->toEqualWithDelta($width === Width::Stereo ? 0.0 : $dry[77] / 2, 1e-12);
    }
});

it('keeps input and clips of a track apart', function (): void {
    $session = sungTo(Monitor::Armed);
    $again = edited($session, ['type' => 'put-file', 'channel' => 'voice', 'file' => ['file' => 'other', 'length' => 480, 'width' => 'mono']]);
    expect($again->channel('voice')->source->input)->toEqual(new LiveInput('in:1'))->and($again->channel('voice')->source->clips()[0]->file)->toBe('other');
    $other = edited($again, ['type' => 'set-input', 'channel' => 'voice', 'input' => 'in:3-4', 'monitor' => 'off']);
    expect($other->channel('voice')->source->input)->toEqual(new LiveInput('in:3-4', Monitor::Off))->and($other->channel('voice')->source->clips())->toHaveCount(1);
    // Takes are counted on, what the track played before is kept as one.
    $taken = $session;
    foreach ([['a'], ['b', 'c']] as $files) {
        $taken = edited($taken, ['type' => 'put-takes', 'channel' => 'voice', 'takes' => array_map(static fn (string $file): array => ['file' => $file, 'length' => 480, 'width' => 'mono', 'start' => 0], $files)]);
    }
    expect(array_map(static fn ($version): array => [$version->name, $version->clips[0]->file], $taken->channel('voice')->versions))->toBe([['Take 1', 'voice'], ['Take 2', 'a'], ['Take 3', 'b']])
        ->and($taken->channel('voice')->source->clips()[0]->file)->toBe('c')->and($taken->channel('voice')->source->input)->toEqual(new LiveInput('in:1'));
    expect(fn () => edited($session, ['type' => 'set-input', 'channel' => 'main', 'input' => 'in:1']))->toThrow(Hafen\Edit\Refusals\OnlyTracksCarryClips::class)
        ->and(fn () => edited($session, ['type' => 'set-input', 'channel' => 'voice', 'input' => 'hw:1']))->toThrow(Hafen\Document\InvalidDocument::class, 'an input such as "in:1"');
});
