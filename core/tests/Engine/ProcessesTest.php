<?php

declare(strict_types=1);

use Hafen\Audio\Block;
use Hafen\Audio\SampleFormat;
use Hafen\Engine\Compiler;
use Hafen\Engine\Engine;
use Hafen\Engine\Loop;
use Hafen\Engine\Parallel\Cut;
use Hafen\Engine\Parallel\Processes;
use Hafen\Engine\Parallel\ProcessGone;
use Hafen\Engine\Parallel\ProcessStarter;
use Hafen\Engine\Parallel\SectionRefused;
use Hafen\Engine\Tap;
use Hafen\Printing\Renderer;
use Hafen\Printing\RenderOptions;
use Hafen\Session\Channel\ChannelKind;
use Hafen\Session\Channel\Send;
use Hafen\Session\Channel\TapPoint;
use Hafen\Session\Channel\Width;
use Hafen\Session\Insert\ProcessorInsert;
use Hafen\Session\Session;
use Hafen\Session\Source\TapSource;
use Hafen\Tests\Support\EngineProcesses;
use Hafen\Tests\Support\MemoryLibrary;
use Hafen\Tests\Support\Mix;
use Hafen\Tests\Support\RandomMix;
use Hafen\Tests\Support\RandomRouting;
use Hafen\Tests\Support\Signal;

require_once __DIR__.'/../Support/edited.php';

function processes(MemoryLibrary $library, int $number, bool $replaces = false): Processes
{
    return new Processes(Mix::processors(), $library, PHP_BINARY, $number, $replaces);
}

function severalEngine(Session $session, MemoryLibrary $library, ?Processes $processes, int $blockSize = 512): Engine
{
    return new Engine(new Compiler(Mix::processors(), $library), $session, $blockSize, true, $processes);
}

/** Every bit of some blocks. */
function bitsOf(Block ...$blocks): string
{
    return implode('', array_map(static fn (Block $block): string => pack('e*', ...$block->left).pack('e*', ...$block->right), $blocks));
}

/** @return list<Block> */
function nextBlocks(Engine $engine, int $count): array
{
    return array_map(static fn (): Block => $engine->next(), range(1, $count));
}

/** Four tracks with effects, two in a group, sends to a return, a track that listens to another. */
function mixOfFour(): Session
{
    $send = static fn (string $id): Send => new Send($id, 'hall', -6.0);

    return Mix::session([
        Mix::track('cello', [Mix::insert('i1', 'filter'), Mix::insert('i2', 'compressor', ['threshold' => -30.0])], Width::Stereo, 96000)->withSends([$send('n1')]),
        Mix::track('bass', [Mix::insert('i3', 'compressor', ['threshold' => -24.0]), Mix::insert('i4', 'echo')], Width::Mono, 96000)->withOutput('low'),
        Mix::track('drum', [Mix::insert('i5', 'limiter', ['look-ahead' => '5ms'])], Width::Mono, 96000)->withOutput('low')->withSends([$send('n2')]),
        Mix::track('choir', [new ProcessorInsert('i6', 'compressor', parameters: ['threshold' => -30.0], sidechain: new TapSource('cello', TapPoint::PreFader))], Width::Stereo, 96000),
        Mix::bus('low', ChannelKind::Group, [Mix::insert('i7', 'drive')]),
        Mix::bus('hall', ChannelKind::Return, [Mix::insert('i8', 'reverb')]),
    ], [Mix::insert('i9', 'limiter')], 96000);
}

function soundOfFour(): MemoryLibrary
{
    $noise = static fn (int $seed): array => Signal::noise(96000, $seed, 0.3);

    return new MemoryLibrary(['cello' => [$noise(1), $noise(2)], 'bass' => [$noise(3)], 'drum' => [$noise(4)], 'choir' => [$noise(5), $noise(6)]]);
}

// The reference is the engine in one process, which the naive mix and scipy are held against elsewhere.
it('puts out the same bits in several processes as in one', function (int $seed, int $number, int $blockSize): void {
    [$session, $library] = RandomMix::make($seed);
    $one = severalEngine($session, $library, null, $blockSize);
    $processes = processes($library, $number);
    $several = severalEngine($session, $library, $processes, $blockSize);
    $one->start(6000, 3000);
    $several->start(6000, 3000);
    expect($processes->ids())->not->toBe([])
        ->and($several->position())->toBe($one->position())
        ->and(bitsOf(...nextBlocks($several, 30)) === bitsOf(...nextBlocks($one, 30)))->toBeTrue();
})->with([[1, 2, 512], [2, 3, 480], [3, 2, 64], [4, 4, 512], [5, 3, 2048], [6, 2, 333]]);

it('does so in any routing', function (int $seed): void {
    [$session, $library] = RandomRouting::make($seed, 20, 4000);
    $one = severalEngine($session, $library, null, 200);
    $several = severalEngine($session, $library, processes($library, 3), 200);
    $one->start(0);
    $several->start(0);
    expect(bitsOf(...nextBlocks($several, 18)) === bitsOf(...nextBlocks($one, 18)))->toBeTrue();
})->with(range(401, 408));

it('cuts a session so that sound crosses once, towards the main', function (): void {
    $session = mixOfFour();
    foreach ([2, 3, 4] as $number) {
        $cut = Cut::into($number, $session);
        expect($cut->parts)->not->toBe([])->and(count($cut->parts))->toBeLessThan($number);
        foreach (array_column($cut->parts, 'channels') as $part) {
            expect($part)->not->toContain('main')
                ->and(in_array('hall', $part, true) && array_diff(['cello', 'drum'], $part) !== [])->toBeFalse();
            // Who listens to the cello is worked where the cello is.
            expect(in_array('choir', $part, true) && ! in_array('cello', $part, true))->toBeFalse();
            expect(in_array('low', $part, true) && array_diff(['bass', 'drum'], $part) !== [])->toBeFalse();
        }
        expect($cut->channels())->toBe(array_unique($cut->channels()));
    }
    expect(Cut::into(1, $session)->parts)->toBe([])
        ->and(Cut::processesFor(Mix::session([Mix::track('cello')]), 8))->toBe(1)
        ->and(Cut::processesFor($session, 1))->toBe(1);
    $heavy = Mix::session(array_map(static fn (int $i): Hafen\Session\Channel\Channel => Mix::track("t{$i}", [Mix::insert("i{$i}", 'pitch-shift')]), range(1, 8)));
    expect(Cut::processesFor($heavy, 8))->toBeGreaterThan(1)->and(Cut::processesFor($heavy, 2))->toBe(2);
});

it('takes edits in all processes at one block', function (array $edit): void {
    $session = mixOfFour();
    $library = soundOfFour();
    $one = severalEngine($session, $library, null);
    $several = severalEngine($session, $library, processes($library, 3));
    $after = edited($session, $edit);
    $one->start(0);
    $several->start(0);
    $expected = nextBlocks($one, 21);
    $one->change($after);
    $expected = [...$expected, ...nextBlocks($one, 30)];
    // The others have begun the next block already: the edit comes after it.
    $found = nextBlocks($several, 20);
    $several->change($after);
    $found = [...$found, ...nextBlocks($several, 31)];
    expect(bitsOf(...$found) === bitsOf(...$expected))->toBeTrue()
        ->and($several->plan()->session)->toBe($after);
})->with([
    'a fader' => [['type' => 'set-fader', 'channels' => ['cello', 'drum'], 'gain' => -9.0]],
    'a parameter' => [['type' => 'set-parameter', 'insert' => 'i3', 'parameter' => 'threshold', 'value' => -40.0]],
    'a send' => [['type' => 'set-send-gain', 'sends' => ['n1', 'n2'], 'gain' => -20.0]],
    'mutes' => [['type' => 'set-mute', 'channels' => ['bass', 'choir'], 'mute' => true]],
    'a new insert' => [['type' => 'add-insert', 'channels' => ['bass', 'cello'], 'processor' => 'drive']],
    'latency' => [['type' => 'set-parameter', 'insert' => 'i5', 'parameter' => 'look-ahead', 'value' => '1ms']],
    'an insert goes' => [['type' => 'remove-inserts', 'inserts' => ['i2']]],
    'a send goes' => [['type' => 'remove-sends', 'sends' => ['n2']]],
    'an output goes elsewhere' => [['type' => 'set-output', 'channels' => ['drum'], 'output' => 'hall']],
    'a channel goes' => [['type' => 'remove-channels', 'channels' => ['cello']]],
    'a channel comes' => [['type' => 'add-channel', 'name' => 'New']],
    'solo' => [['type' => 'set-solo', 'channels' => ['drum'], 'solo' => true]],
]);

it('brings a channel back that others feed now, without a jump', function (): void {
    $tone = Signal::sine(110.0, 96000, 0.5);
    $session = Mix::session([
        Mix::track('bass', [new ProcessorInsert('i2', 'compressor', parameters: ['threshold' => 0.0])], length: 96000),
        Mix::track('drum', length: 96000)->withFader(null),
        Mix::track('cello', length: 96000)->withFader(null),
    ], length: 96000);
    $library = new MemoryLibrary(['bass' => [$tone], 'drum' => [array_fill(0, 96000, 0.0)], 'cello' => [array_fill(0, 96000, 0.0)]]);
    $cut = Cut::into(3, $session);
    // Whoever is worked elsewhere listens to somebody who is not worked there.
    $elsewhere = array_values(array_filter(['drum', 'cello'], static fn (string $id): bool => ! in_array($id, $cut->parts[0]->channels, true) || ! in_array('bass', $cut->parts[0]->channels, true)))[0];
    $engine = severalEngine($session, $library, processes($library, 3));
    $engine->start(0);
    $sound = nextBlocks($engine, 40);
    $engine->change(edited($session, ['type' => 'set-sidechain', 'insert' => 'i2', 'sidechain' => ['channel' => $elsewhere, 'tap' => 'pre-fader']]));
    $sound = array_merge(...array_map(static fn (Block $block): array => $block->left, [...$sound, ...nextBlocks($engine, 40)]));
    $steepest = 0.0;
    for ($i = 1; $i < count($sound); ++$i) {
        $steepest = max($steepest, abs($sound[$i] - $sound[$i - 1]));
    }
    // As steep as the tone itself, or a ramp of 5 ms over it, and no more.
    expect($steepest)->toBeLessThan(0.5 * M_SQRT1_2 * 2 * M_PI * 110.0 / 48000 + 0.5 / 200)
        ->and(Signal::rms(array_slice($sound, 32000, 4000)))->toEqualWithDelta(0.25, 0.01);
});

it('is heard, watched, recorded and read at any tap of any process', function (string $tap): void {
    $session = mixOfFour();
    $library = soundOfFour();
    $one = severalEngine($session, $library, null);
    $several = severalEngine($session, $library, processes($library, 4));
    $passed = [];
    foreach ([$one, $several] as $engine) {
        $engine->start(0);
        $engine->listenAt(Tap::fromString($tap));
        $engine->record(Tap::fromString('bass:source'), Tap::fromString('choir:pre-fader'));
        $engine->watch(new Tap('cello', Tap::beforeStage('i2')), new Tap('choir'));
        nextBlocks($engine, 3);
        $block = $engine->next();
        $passed[] = [
            $engine->position(), $engine->sourcePosition(), bitsOf($block), array_map(bitsOf(...), $engine->recorded()),
            array_map(bitsOf(...), $engine->watched()),
        ];
        $taps = $engine->tapIds();
        sort($taps);
        $loads = $engine->loadIds();
        sort($loads);
        $passed[array_key_last($passed)][] = [$taps, $loads];
    }
    expect($passed[1] === $passed[0])->toBeTrue();
    // What the meters read of a block that is the same, and what it took.
    $peaks = static fn (Engine $engine): array => array_map(static fn ($reading): float => $reading->peak, $engine->readings());
    $highest = [[], []];
    foreach ([$one, $several] as $which => $engine) {
        for ($i = 0; $i < 60; ++$i) {
            $engine->next();
            foreach ($peaks($engine) as $id => $peak) {
                $highest[$which][$id] = max($highest[$which][$id] ?? 0.0, $peak);
            }
        }
        ksort($highest[$which]);
    }
    expect(array_keys($highest[1]))->toBe(array_keys($highest[0]));
    foreach ($highest[0] as $id => $peak) {
        expect($highest[1][$id])->toEqualWithDelta($peak, 0.25 * $peak, $id);
    }
    expect(array_keys($several->loads()))->toBe($several->loadIds())
        ->and($several->loads()['cello:insert:i1'])->toBeGreaterThan(0.0);
})->with(['cello:pre-fader', 'bass:insert:i3', 'low:source', 'hall:post-fader', 'drum:source', 'choir:insert:i6']);

it('loops in all processes', function (): void {
    $session = mixOfFour();
    $library = soundOfFour();
    $heard = [];
    foreach ([severalEngine($session, $library, null), severalEngine($session, $library, processes($library, 3))] as $engine) {
        $engine->loopOver(new Loop(2000, 9001));
        $engine->start(2500, 1000);
        $positions = [];
        $blocks = [];
        for ($i = 0; $i < 40; ++$i) {
            $positions[] = $engine->position();
            $blocks[] = $engine->next();
        }
        $heard[] = [$positions, bitsOf(...$blocks)];
    }
    expect($heard[1][0])->toBe($heard[0][0])->and($heard[1][1] === $heard[0][1])->toBeTrue();
});

it('replaces a process that is killed, and goes on', function (int $signal): void {
    $session = mixOfFour();
    $library = soundOfFour();
    $processes = processes($library, 3, true);
    $engine = severalEngine($session, $library, $processes);
    $engine->start(0);
    nextBlocks($engine, 10);
    $before = $processes->ids();
    posix_kill($before[0], $signal);
    $blocks = nextBlocks($engine, 40);
    expect($processes->takeReplaced())->toBe(1)
        ->and($processes->takeReplaced())->toBe(0)
        ->and($processes->ids()[0])->not->toBe($before[0])
        ->and(count($processes->ids()))->toBe(count($before));
    foreach ($blocks as $block) {
        expect(Signal::peak($block->left))->toBeLessThan(1.1)->and($block->frames())->toBe(512);
    }
    // Once its channels have faded in and settled they sound as in one process.
    $one = severalEngine($session, $library, null);
    $one->start($engine->position(), 24000);
    [$expected, $found] = [$one->next()->left, $engine->next()->left];
    expect(Signal::rms(array_map(static fn (float $a, float $b): float => $a - $b, $found, $expected)))->toBeLessThan(0.05 * Signal::rms($expected));
    // Edits reach the new one.
    $engine->change(edited($session, ['type' => 'set-mute', 'channels' => ['cello', 'bass', 'drum', 'choir', 'hall'], 'mute' => true]));
    nextBlocks($engine, 100);
    expect(Signal::peak($engine->next()->left))->toBeLessThan(1e-3);
})->with(['killed' => [SIGKILL], 'terminated' => [SIGTERM]]);

it('refuses to make a file with a part missing', function (): void {
    $library = soundOfFour();
    $processes = processes($library, 3);
    $engine = severalEngine(mixOfFour(), $library, $processes);
    $engine->start(0);
    posix_kill($processes->ids()[0], SIGKILL);
    nextBlocks($engine, 10);
})->throws(ProcessGone::class, 'A process of the engine has ended');

it('says what a process cannot open, and does not start without PHP', function (): void {
    $library = soundOfFour();
    try {
        severalEngine(mixOfFour(), $library, processes(new MemoryLibrary([]), 3));
        $said = '';
    } catch (SectionRefused $refused) {
        $said = $refused->line();
    }
    expect($said)->toMatch('/^(cello|bass|drum|choir): There is no readable file here/')
        ->and(fn () => severalEngine(mixOfFour(), $library, new Processes(Mix::processors(), $library, '/nowhere/php', 3, false)))->toThrow(ProcessGone::class);
});

it('leaves no process and no shared memory behind', function (): void {
    $library = soundOfFour();
    // The fifth column is who made it.
    $segments = static fn (): int => count(array_filter(file('/proc/sysvipc/shm') ?: [], static fn (string $line): bool => (preg_split('/\s+/', trim($line))[4] ?? '') === (string) getmypid()));
    $processes = processes($library, 3);
    $engine = severalEngine(mixOfFour(), $library, $processes);
    $engine->start(0);
    nextBlocks($engine, 3);
    $ids = $processes->ids();
    expect(file_exists("/proc/{$ids[0]}"))->toBeTrue()->and($segments())->toBeGreaterThan(0);
    unset($engine, $processes);
    foreach ($ids as $id) {
        expect(file_exists("/proc/{$id}"))->toBeFalse();
    }
    expect($segments())->toBe(0);
});

it('renders the same file in several processes, and none where one of them dies', function (): void {
    $library = soundOfFour();
    $folder = sys_get_temp_dir().'/hafen-processes-'.bin2hex(random_bytes(4));
    mkdir($folder);
    $render = static fn (?ProcessStarter $starter, string $name, ?callable $progress = null) => (new Renderer(new Compiler(Mix::processors(), $library), $starter))
        ->render(mixOfFour(), "{$folder}/{$name}.wav", new RenderOptions(SampleFormat::Int24, from: 1000), $progress);
    $starter = new ProcessStarter(Mix::processors(), $library, PHP_BINARY, 2, 3);
    $render(null, 'one');
    $render($starter, 'three');
    expect(hash_file('sha256', "{$folder}/three.wav"))->toBe(hash_file('sha256', "{$folder}/one.wav"));
    // Where no other process can be started it takes longer, and is the same.
    $render(new ProcessStarter(Mix::processors(), $library, '/nowhere/php', 2, 3), 'alone');
    expect(hash_file('sha256', "{$folder}/alone.wav"))->toBe(hash_file('sha256', "{$folder}/one.wav"));
    $kill = static function (int $done): bool {
        if ($done > 8000) {
            EngineProcesses::kill();
        }

        return true;
    };
    expect(fn () => $render($starter, 'killed', $kill))->toThrow(ProcessGone::class)
        ->and(glob("{$folder}/killed*"))->toBe([]);
    exec('rm -rf '.escapeshellarg($folder));
});

it('sums elsewhere what comes from there, to the same bits, and lets go of a sum that others join', function (): void {
    $files = $tracks = [];
    foreach (range(0, 15) as $i) {
        $files["t{$i}"] = $i % 3 === 0 ? [Signal::noise(96000, $i + 1, 0.1)] : [Signal::noise(96000, $i + 1, 0.1), Signal::noise(96000, $i + 50, 0.1)];
        $tracks[] = Mix::track("t{$i}", [Mix::insert("i{$i}", 'gain', ['gain' => -1.0 - $i / 10])], $i % 3 === 0 ? Width::Mono : Width::Stereo, 96000)
            ->withSends($i % 2 === 0 ? [new Send("n{$i}", 'hall', -6.0)] : []);
    }
    $session = Mix::session([...$tracks, Mix::bus('hall', ChannelKind::Return, [Mix::insert('ih', 'gain', ['gain' => -3.0])])], [], 96000);
    $library = new MemoryLibrary($files);
    foreach ([2, 3, 5] as $number) {
        $cut = Cut::into($number, $session);
        $sums = array_merge(...array_map(static fn (Hafen\Engine\Parallel\Part $part): array => $part->sums, $cut->parts));
        expect($sums)->not->toBe([])->and(count($sums))->toBeLessThan(count($cut->channels()));
        // Whoever is worked is worked once, and nobody who feeds a sum is worked anywhere else.
        $banks = Hafen\Routing\SessionGraph::sumBanks($session);
        foreach ($cut->parts as $part) {
            foreach ($part->sums as $key) {
                foreach (Hafen\Routing\SessionGraph::routes($session)->into($key->bus) as $route) {
                    expect(! $key->has($banks->bank($route->from)) || in_array($route->from, $part->channels, true))->toBeTrue();
                }
            }
        }
    }
    $one = severalEngine($session, $library, null);
    $several = severalEngine($session, $library, processes($library, 3));
    $one->start(0);
    $several->start(0);
    expect(bitsOf(...nextBlocks($several, 20)) === bitsOf(...nextBlocks($one, 20)))->toBeTrue();
    foreach ([
        ['type' => 'set-output', 'channels' => ['t3', 't4', 't5'], 'output' => 'hall'],
        ['type' => 'remove-channels', 'channels' => ['t8', 't1']],
        ['type' => 'add-channel', 'name' => 'New', 'kind' => 'group'],
        ['type' => 'set-output', 'channels' => ['t10', 't11', 't12', 't13'], 'output' => 'new'],
    ] as $edit) {
        $session = edited($session, $edit);
        $one->change($session);
        $several->change($session);
        $fading = Mix::take($several, 40 * 512);
        Mix::take($one, 40 * 512);
        expect(max(array_map(abs(...), $fading->left)))->toBeLessThan(2.0);
        // The stream of several is one block behind after an edit, so the same place is compared.
        while ($one->position() < $several->position()) {
            $one->next();
        }
        while ($several->position() < $one->position()) {
            $several->next();
        }
        expect(Mix::difference(Mix::take($several, 2048), Mix::take($one, 2048)))->toBeLessThan(1e-9, json_encode($edit));
    }
});

it('reads the taps of the channels somebody looks at in all processes, one that replaces another too', function (): void {
    $session = mixOfFour();
    $library = soundOfFour();
    $one = severalEngine($session, $library, null);
    $several = severalEngine($session, $library, $processes = processes($library, 4, replaces: true));
    $sets = static function (?array $channels) use ($one, $several): void {
        foreach ([$one, $several] as $engine) {
            $engine->meterOnly($channels);
        }
        expect(bitsOf(...nextBlocks($several, 6)))->toBe(bitsOf(...nextBlocks($one, 6)));
        $read = array_keys($several->readings());
        $expected = array_keys($one->readings());
        sort($read);
        sort($expected);
        expect($read)->toBe($expected);
    };
    foreach ([$one, $several] as $engine) {
        $engine->start(0);
    }
    $sets(null);
    $sets(['cello', 'hall']);
    $sets([]);
    $sets(['808', 'choir']);
    foreach ($processes->ids() as $id) {
        posix_kill($id, SIGKILL);
    }
    nextBlocks($one, 6);
    nextBlocks($several, 6);
    expect($several->takeReplaced())->toBeGreaterThan(0)
        ->and(array_keys($several->readings()))->toEqualCanonicalizing(array_keys($one->readings()));
});

it('counts every over once, however many blocks lie between two readings', function (int $between): void {
    $session = mixOfFour();
    $library = soundOfFour();
    $hot = edited($session, ['type' => 'set-trim', 'channels' => ['cello', 'bass', 'drum', 'choir'], 'gain' => 18.0]);
    $counted = [];
    foreach ([severalEngine($hot, $library, null), severalEngine($hot, $library, processes($library, 3))] as $which => $engine) {
        $engine->start(0);
        $counted[$which] = [];
        for ($i = 0; $i < 120; $i += $between) {
            nextBlocks($engine, $between);
            foreach ($engine->readings() as $tap => $reading) {
                $counted[$which][$tap] = ($counted[$which][$tap] ?? 0) + $reading->overs;
            }
        }
    }
    foreach (['cello:source', 'bass:source', 'drum:source', 'choir:source'] as $tap) {
        // What the last blocks held may still be on its way, or the next block counted already.
        expect($counted[0][$tap])->toBeGreaterThan(1000)
            ->and($counted[1][$tap])->toEqualWithDelta($counted[0][$tap], 4 / 120 * $counted[0][$tap], $tap);
    }
})->with([1, 2, 3, 5, 8]);

it('plays notes, keys that are held, and effects that follow notes the same in several processes', function (int $number): void {
    $notes = static fn (int $key): Hafen\Session\Source\NoteSource => new Hafen\Session\Source\NoteSource([new Hafen\Note\NoteClip('c1', 0, 9600, [new Hafen\Note\Note(0, 700, $key, 110), new Hafen\Note\Note(500, 2500, $key + 7, 90)])]);
    $keys = static fn (string $id, int $key, string $instrument): Hafen\Session\Channel\Channel => new Hafen\Session\Channel\Channel($id, ChannelKind::Note, $id, Width::Mono, $notes($key), inserts: [Mix::insert("a-{$id}", 'arpeggio'), Mix::insert("i-{$id}", $instrument)]);
    $session = Mix::session([
        $keys('low', 45, 'synthesiser'), $keys('high', 69, 'struck-bar'),
        Mix::track('cello', [Mix::insert('v1', 'vocoder')->withNotes('high'), Mix::insert('e1', 'reverb')], Width::Mono, 96000),
        Mix::track('drum', [Mix::insert('g1', 'note-gate')->withNotes('low'), Mix::insert('e2', 'compressor')], Width::Mono, 96000),
    ], [Mix::insert('l1', 'limiter')], 96000);
    $library = new MemoryLibrary(['cello' => [Signal::noise(96000, 3, 0.4)], 'drum' => [Signal::noise(96000, 4, 0.4)]]);
    $play = static function (?Processes $processes) use ($session, $library): string {
        $engine = severalEngine($session, $library, $processes);
        $engine->start(0);
        // The others have begun the next block already: a change comes after it.
        $later = $processes === null ? 1 : 0;
        $blocks = nextBlocks($engine, 40 + $later);
        // Of a channel that is played, and that the gate of another one follows.
        $engine->hold(new Hafen\Note\HeldKeys('low', [52 => [100, 1]]));
        $more = nextBlocks($engine, 15);
        // A revision in between leaves them as they are.
        $engine->change($session->withTempo(97.0));
        array_push($more, ...nextBlocks($engine, 15));
        $engine->hold(null);

        return bitsOf(...$blocks, ...$more, ...nextBlocks($engine, 30 - $later));
    };
    expect($play(processes($library, $number)))->toBe($play(null));
})->with([2, 3]);
