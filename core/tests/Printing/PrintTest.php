<?php

declare(strict_types=1);

use Hafen\Audio\SampleFormat;
use Hafen\Audio\WavReader;
use Hafen\Engine\Compiler;
use Hafen\Engine\Tap;
use Hafen\Printing\Isolation;
use Hafen\Printing\Printer;
use Hafen\Printing\PrintOptions;
use Hafen\Printing\PrintResult;
use Hafen\Printing\RenderRefused;
use Hafen\Printing\RenderStopped;
use Hafen\Printing\StemNames;
use Hafen\Session\Channel\ChannelKind;
use Hafen\Session\Channel\ChannelTrim;
use Hafen\Session\Channel\Width;
use Hafen\Session\Session;
use Hafen\Tests\Support\Freezes;
use Hafen\Tests\Support\MemoryLibrary;
use Hafen\Tests\Support\Mix;
use Hafen\Tests\Support\NaiveMix;
use Hafen\Tests\Support\RandomRouting;
use Hafen\Tests\Support\Signal;

require_once __DIR__.'/../Support/edited.php';

function printer(MemoryLibrary $library): Printer
{
    return new Printer(new Compiler(Mix::processors(), $library), Mix::processors());
}

/** @return array{PrintResult, list<list<float>>} with the samples of the file */
function printed(Session $session, MemoryLibrary $library, string $tap, PrintOptions $options = new PrintOptions): array
{
    $path = (string) tempnam(sys_get_temp_dir(), 'print');
    $result = printer($library)->print($session, Tap::fromString($tap) ?? new Tap('main'), $path, $options);
    $file = WavReader::open($path);
    $sides = $file->read(0, $file->frames());
    unlink($path);

    return [$result, $sides];
}

// Source: every tap worked out sample by sample in NaiveMix.
it('prints every tap as the paths say, in any routing', function (int $seed): void {
    [$session, $library, $files] = RandomRouting::make(5000 + $seed, 12);
    $naive = new NaiveMix($session, $files);
    foreach (array_rand($session->channels, min(3, count($session->channels))) as $index) {
        $id = $session->channels[$index]->id;
        $stage = ['source', 'pre-fader', 'post-fader'][mt_rand(0, 2)];
        [$result, $sides] = printed($session, $library, "{$id}:{$stage}", new PrintOptions(tail: 0.0));
        $worst = 0.0;
        foreach ($naive->at($id, $stage) as $i => [$left, $right]) {
            $worst = max($worst, abs($sides[0][$i] - $left), abs(($sides[1] ?? $sides[0])[$i] - $right));
        }
        expect($result->frames)->toBe($session->length)
            // The rounding of 32-bit float at the levels these mixes reach.
            ->and($worst)->toBeLessThan(max(1.0, $result->peak) * 2.0 ** -23, "{$id}:{$stage}");
    }
})->with(range(1, 12));

it('prints a range as it is within the whole, with its tail, dithered where it is cut to whole numbers', function (): void {
    $library = new MemoryLibrary(['tone' => [Signal::noise(48000, 1, 0.4)]]);
    $session = Mix::session([Mix::track('tone', [Mix::insert('i1', 'compressor'), Mix::insert('i2', 'limiter')])]);
    [, $whole] = printed($session, $library, 'tone:pre-fader', new PrintOptions(tail: 0.0));
    [$result, $part] = printed($session, $library, 'tone:pre-fader', new PrintOptions(24000, 36000, 0.1));
    expect($result->frames)->toBe(12000 + 4800);
    for ($i = 0, $worst = 0.0; $i < 12000; ++$i) {
        $worst = max($worst, abs($part[0][$i] - $whole[0][24000 + $i]));
    }
    expect($worst)->toBeLessThan(1e-6);
    [$fixed, $samples] = printed($session, $library, 'tone:pre-fader', new PrintOptions(tail: 0.0, format: SampleFormat::Int16));
    $error = max(array_map(static fn (float $one, float $other): float => abs($one - $other), $samples[0], $whole[0]));
    expect($fixed->clipped)->toBe(0)->and($error)->toBeLessThanOrEqual(2.0 / 32768)->toBeGreaterThan(0.5 / 32768);
    [$hot] = printed(edited($session, ['type' => 'set-fader', 'channels' => ['tone'], 'gain' => 20.0]), $library, 'tone:post-fader', new PrintOptions(tail: 0.0, format: SampleFormat::Int24));
    expect($hot->clipped)->toBeGreaterThan(0)->and($hot->firstClip)->toBeLessThan(48000);
});

it('keeps mono mono, and a tail as long as it is heard', function (): void {
    $library = new MemoryLibrary(['tone' => [Signal::noise(4800, 1, 0.4)]]);
    $session = Mix::session([Mix::track('tone', [Mix::insert('i1', 'reverb', ['decay' => 0.5], 1.0)], Width::Mono, 4800)], [], 4800);
    [$dry] = printed($session, $library, 'tone:source');
    [$wet] = printed($session, $library, 'tone:pre-fader');
    expect([$dry->channels, $dry->frames, $wet->channels])->toBe([1, 4800, 2])->and($wet->frames)->toBeGreaterThan(4800 + 24000)->toBeLessThan(4800 + 57600);
});

// Source: a main that does nothing carries the sum of its stems.
it('makes stems of one length that add up to the main', function (): void {
    $library = new MemoryLibrary(['one' => [Signal::noise(24000, 1, 0.2)], 'two' => [Signal::noise(24000, 2, 0.2), Signal::noise(24000, 3, 0.2)]]);
    $session = Mix::session([
        Mix::track('one', [Mix::insert('i1', 'limiter'), Mix::insert('i2', 'reverb', [], 0.5)], Width::Mono, 24000)->withPan(-0.3),
        Mix::track('two', [Mix::insert('i3', 'drive')], Width::Stereo, 24000)->withFader(-6.0),
    ], [], 24000);
    $folder = sys_get_temp_dir().'/stems-'.bin2hex(random_bytes(4));
    mkdir($folder);
    $stems = Printer::stemsOf($session);
    $paths = ['main:post-fader' => "{$folder}/main.wav"];
    foreach ($stems as $id) {
        $paths["{$id}:post-fader"] = "{$folder}/{$id}.wav";
    }
    $results = printer($library)->stems($session, $paths, new PrintOptions);
    $read = static fn (string $id): array => WavReader::open("{$folder}/{$id}.wav")->read(0, $results['main:post-fader']->frames);
    [$main, $one, $two] = [$read('main'), $read('one'), $read('two')];
    exec('rm -rf '.escapeshellarg($folder));
    expect($stems)->toBe(['one', 'two'])->and(array_unique(array_map(static fn (PrintResult $result): int => $result->frames, array_values($results))))->toHaveCount(1);
    $worst = 0.0;
    foreach ([0, 1] as $side) {
        foreach ($main[$side] as $i => $sample) {
            $worst = max($worst, abs($sample - $one[$side][$i] - $two[$side][$i]));
        }
    }
    expect($worst)->toBeLessThan(2.0 ** -22)->and($results['main:post-fader']->frames)->toBeGreaterThan(24000);
});

// Source: NaiveMix, added up here sample by sample.
it('prints several channels to one file, in any routing', function (int $seed): void {
    [$session, $library, $files] = RandomRouting::make(7000 + $seed, 12);
    $naive = new NaiveMix($session, $files);
    $taps = array_map(
        static fn (int $index): Tap => new Tap($session->channels[$index]->id, ['source', 'pre-fader', 'post-fader'][mt_rand(0, 2)]),
        (array) array_rand($session->channels, min(4, count($session->channels))),
    );
    $path = (string) tempnam(sys_get_temp_dir(), 'print');
    $result = printer($library)->together($session, $taps, $path, new PrintOptions(50, 290, 0.0));
    $file = WavReader::open($path);
    $sides = $file->read(0, $file->frames());
    unlink($path);
    $expected = array_fill(0, 240, [0.0, 0.0]);
    foreach ($taps as $tap) {
        foreach (array_slice($naive->at($tap->channel, $tap->stage), 50, 240) as $i => [$left, $right]) {
            $expected[$i][0] += $left;
            $expected[$i][1] += $right;
        }
    }
    $worst = 0.0;
    foreach ($expected as $i => [$left, $right]) {
        $worst = max($worst, abs($sides[0][$i] - $left), abs(($sides[1] ?? $sides[0])[$i] - $right));
    }
    expect($result->frames)->toBe(240)->and($worst)->toBeLessThan(max(1.0, $result->peak) * 2.0 ** -23);
})->with(range(1, 8));

// Source: in a linear mix the main is the sum of what its tracks bring to it, whichever way they take.
it('makes stems with their returns that add up to the main, in any routing', function (int $seed): void {
    [$session, $library, $files] = RandomRouting::make(9000 + $seed, 12);
    $folder = sys_get_temp_dir().'/stems-'.bin2hex(random_bytes(4));
    mkdir($folder);
    $paths = [];
    foreach ($session->channels as $channel) {
        if ($channel->kind === ChannelKind::Track) {
            $paths["{$channel->id}:post-fader"] = "{$folder}/{$channel->id}.wav";
        }
    }
    $session = $session->withChannel($session->main()->withTrim(new ChannelTrim));
    // Nobody sings: there is nothing to make stems of.
    $results = $paths === [] ? [] : printer($library)->stemsWithReturns($session, $paths, new PrintOptions(tail: 0.0));
    $sum = array_fill(0, $session->length, [0.0, 0.0]);
    foreach ($paths as $tap => $path) {
        $sides = WavReader::open($path)->read(0, $results[$tap]->frames);
        foreach ($sum as $i => $_) {
            $sum[$i][0] += $sides[0][$i];
            $sum[$i][1] += $sides[1][$i];
        }
    }
    exec('rm -rf '.escapeshellarg($folder));
    $worst = $peak = 0.0;
    foreach ((new NaiveMix($session, $files))->at($session->main()->id, 'source') as $i => [$left, $right]) {
        $worst = max($worst, abs($sum[$i][0] - $left), abs($sum[$i][1] - $right));
        $peak = max($peak, abs($left), abs($right));
    }
    expect($worst)->toBeLessThanOrEqual(max(1.0, $peak) * count($paths) * 2.0 ** -23);
})->with(range(1, 12));

it('ends all stems with returns where the longest tail does', function (): void {
    $library = new MemoryLibrary(['short' => [Signal::noise(4800, 1, 0.3)], 'long' => [Signal::noise(4800, 2, 0.3)]]);
    $session = Mix::session([
        Mix::track('short', [], Width::Mono, 4800),
        Mix::track('long', [Mix::insert('i1', 'reverb', ['decay' => 0.5], 1.0)], Width::Mono, 4800),
    ], [], 4800);
    $folder = sys_get_temp_dir().'/stems-'.bin2hex(random_bytes(4));
    mkdir($folder);
    $results = printer($library)->stemsWithReturns($session, ['short:post-fader' => "{$folder}/short.wav", 'long:post-fader' => "{$folder}/long.wav"]);
    $short = WavReader::open("{$folder}/short.wav")->read(4800, $results['short:post-fader']->frames - 4800);
    exec('rm -rf '.escapeshellarg($folder));
    expect($results['short:post-fader']->frames)->toBe($results['long:post-fader']->frames)->toBeGreaterThan(24000)->and(max($short[0]))->toBe(0.0);
});

it('takes what is heard through another of the selected once', function (): void {
    $session = edited(Mix::session([Mix::track('kick', [], Width::Mono, 4800), Mix::track('bass', [], Width::Mono, 4800)], [], 4800), ['type' => 'group-channels', 'channels' => ['kick'], 'name' => 'Drums']);
    $group = $session->channels[array_search('Drums', array_map(static fn ($channel): string => $channel->name, $session->channels), true)]->id;
    expect(Isolation::heardOnce($session, ['kick', $group, 'bass']))->toBe([$group, 'bass'])
        ->and(Isolation::heardOnce($session, ['kick', 'bass']))->toBe(['kick', 'bass']);
});

it('prints one channel alone through what is behind it', function (): void {
    $library = new MemoryLibrary(['one' => [Signal::noise(4800, 1, 0.2)], 'two' => [Signal::noise(4800, 2, 0.2)]]);
    $session = Mix::session([Mix::track('one', [], Width::Mono, 4800), Mix::track('two', [], Width::Mono, 4800)->withMute(true)], [Mix::insert('i1', 'drive')], 4800);
    $only = Mix::session([Mix::track('two', [], Width::Mono, 4800)], [Mix::insert('i1', 'drive')], 4800);
    expect(printed(Isolation::alone($session, ['two']), $library, 'main:post-fader', new PrintOptions(tail: 0.0))[1])->toBe(printed($only, $library, 'main:post-fader', new PrintOptions(tail: 0.0))[1]);
});

it('works a frozen group live for what is printed alone of it', function (): void {
    $library = new MemoryLibrary(['one' => [Signal::noise(4800, 1, 0.2)], 'two' => [Signal::noise(4800, 2, 0.2)]]);
    $session = Mix::session([
        Mix::track('one', [], Width::Mono, 4800)->withOutput('low'),
        Mix::track('two', [], Width::Mono, 4800)->withOutput('low'),
        Mix::bus('low', ChannelKind::Group, [Mix::insert('i1', 'drive')]),
    ], [], 4800);
    $alone = static fn (Session $of): array => printed(Isolation::alone($of, ['two']), $library, 'main:post-fader', new PrintOptions(tail: 0.0))[1];
    $share = static fn (Session $of): array => printed(Isolation::share($of, 'two'), $library, 'main:source', new PrintOptions(tail: 0.0))[1];
    $frozen = Freezes::freeze($session, $library, 'low');
    expect($alone($frozen))->toBe($alone($session))->and($share($frozen))->toBe($share($session))
        ->and(printed(Isolation::share($frozen, 'low'), $library, 'main:source', new PrintOptions(tail: 0.0))[1])->toBe(printed($session, $library, 'main:source', new PrintOptions(tail: 0.0))[1]);
});

it('refuses ranges and taps that are not there, and leaves nothing of what was stopped', function (): void {
    $library = new MemoryLibrary(['tone' => [Signal::noise(4800, 1)]]);
    $session = Mix::session([Mix::track('tone', [], Width::Mono, 4800)], [], 4800);
    $path = sys_get_temp_dir().'/print-'.bin2hex(random_bytes(4)).'.wav';
    expect(fn () => printer($library)->print($session, new Tap('tone'), $path, new PrintOptions(4800)))->toThrow(RenderRefused::class)
        ->and(fn () => printer($library)->print($session, new Tap('nobody'), $path))->toThrow(RenderRefused::class, 'nobody')
        ->and(fn () => printer($library)->print($session, new Tap('tone', 'insert:i1'), $path))->toThrow(RenderRefused::class)
        ->and(fn () => printer($library)->stems($session, ['tone:middle' => $path]))->toThrow(RenderRefused::class)
        ->and(fn () => printer($library)->print($session, new Tap('tone'), $path, progress: static fn (int $done): bool => $done < 1000))->toThrow(RenderStopped::class);
    expect(glob("{$path}*"))->toBe([]);
});

it('names files by a pattern that every file system takes, none twice', function (): void {
    $session = Mix::session([Mix::track('a')->withName('Drum: "close"/far'), Mix::track('b')->withName('Drum'), Mix::track('c')->withName('drum')]);
    expect(StemNames::of($session, ['a', 'b', 'c'], 'pre-fader', '{channel}'))->toBe(['a' => 'Drum- -close-far', 'b' => 'Drum', 'c' => 'drum 2'])
        ->and(StemNames::of($session, ['b', 'a'], 'source', '{n} {channel} {tap} {date}', '2026-01-31')['b'])->toBe('01 Drum source 2026-01-31')
        ->and(StemNames::of($session, ['b'], 'source', '...')['b'])->toBe('Print');
});
