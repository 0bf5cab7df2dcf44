<?php

declare(strict_types=1);

use Hafen\Engine\Tap;
use Hafen\Processor\ProcessorCatalogue;
use Hafen\Routing\Alignment;
use Hafen\Routing\Audibility;
use Hafen\Routing\Combs;
use Hafen\Routing\Routes;
use Hafen\Routing\SignalPath;
use Hafen\Session\Channel\Channel;
use Hafen\Session\Channel\ChannelKind;
use Hafen\Session\Channel\Send;
use Hafen\Session\Channel\TapPoint;
use Hafen\Session\Channel\Width;
use Hafen\Session\Session;
use Hafen\Session\Source\TapSource;
use Hafen\Tests\Support\MemoryLibrary;
use Hafen\Tests\Support\Mix;
use Hafen\Tests\Support\Signal;

/** A track at constant 0.5 with sends of each tap to three cues, a safe return and a group. */
function sendingSession(): Session
{
    return Mix::session([
        Mix::track('cello', [], Width::Stereo, 4000)->withFader(-6.0)->withSends([
            new Send('n1', 'early', -6.0, TapPoint::Source),
            new Send('n2', 'before', -6.0, TapPoint::PreFader),
            new Send('n3', 'after', -6.0),
            new Send('n4', 'plate', 0.0),
        ]),
        Mix::track('bass', [], Width::Stereo, 4000)->withSends([new Send('n5', 'plate', 0.0)]),
        Mix::bus('plate', ChannelKind::Return),
        Mix::bus('early', ChannelKind::Cue),
        Mix::bus('before', ChannelKind::Cue),
        Mix::bus('after', ChannelKind::Cue),
    ], length: 4000);
}

function constantLevel(Session $session, string $tap): float
{
    $library = new MemoryLibrary(['cello' => [array_fill(0, 4000, 0.5)], 'bass' => [array_fill(0, 4000, 0.25)]]);

    return Mix::render($session, $library, tap: $tap)->left[2000];
}

it('leaves sends before the fader alone when fader, mute and solo move', function (): void {
    $six = 10 ** (-6 / 20);
    $session = sendingSession();
    $states = [
        'as it is' => [$session, 0.5 * $six * $six],
        'fader down' => [$session->withChannel($session->channel('cello')->withFader(-20.0)), 0.5 * $six * 0.1],
        'fader at silence' => [$session->withChannel($session->channel('cello')->withFader(null)), 0.0],
        'muted' => [$session->withChannel($session->channel('cello')->withMute(true)), 0.0],
        'another soloed' => [$session->withChannel($session->channel('bass')->withSolo(true)), 0.0],
    ];
    foreach ($states as $name => [$state, $after]) {
        expect(constantLevel($state, 'early'))->toEqualWithDelta(0.5 * $six, 1e-12, $name)
            ->and(constantLevel($state, 'before'))->toEqualWithDelta(0.5 * $six, 1e-12, $name)
            ->and(constantLevel($state, 'after'))->toEqualWithDelta($after, 1e-12, $name);
    }
});

// Source: -6 dB after-fader tap printed to a channel at -6 is 12 dB down; before the fader 6 dB louder (checks, practice).
it('applies the fader once or twice as the tap says', function (): void {
    $session = sendingSession();
    $again = static fn (TapPoint $tap): Session => $session->withChannels([
        new Channel('again', ChannelKind::Track, 'Again', Width::Stereo, new TapSource('cello', $tap), fader: -6.0, output: 'none'),
        ...$session->channels,
    ]);
    $after = constantLevel($again(TapPoint::PostFader), 'again');
    $before = constantLevel($again(TapPoint::PreFader), 'again');
    expect(20 * log10($after / 0.5))->toEqualWithDelta(-12.0, 1e-9)->and(20 * log10($before / $after))->toEqualWithDelta(6.0, 1e-9);
});

it('keeps the level when a send is taken before the fader instead of after it, the fader at 0', function (): void {
    $library = new MemoryLibrary(['cello' => [Signal::noise(2000, 3)]]);
    $session = static fn (TapPoint $tap, float $pan, float $sendPan): Session => Mix::session([
        Mix::track('cello', length: 2000)->withPan($pan)->withSends([new Send('n1', 'cue', -3.0, $tap, true, $sendPan)]),
        Mix::bus('cue', ChannelKind::Cue),
    ], length: 2000);
    $after = Mix::render($session(TapPoint::PostFader, 0.4, 0.0), $library, tap: 'cue');
    $before = Mix::render($session(TapPoint::PreFader, 0.4, 0.4), $library, tap: 'cue');
    expect(Mix::difference($after, $before))->toBeLessThan(1e-15);
});

it('keeps a soloed channel\'s reverb, and nobody else\'s, in a return that is solo-safe', function (): void {
    $session = sendingSession();
    $solo = $session->withChannel($session->channel('bass')->withSolo(true));
    expect(constantLevel($solo, 'plate'))->toEqualWithDelta(0.25, 1e-12)
        ->and(constantLevel($solo, 'main'))->toEqualWithDelta(0.5, 1e-12);
});

it('resolves solo as the rule says', function (array $soloed, array $heard): void {
    $session = Mix::session([
        Mix::track('left')->withOutput('reeds')->withSends([new Send('n1', 'plate', 0.0)]),
        Mix::track('right')->withOutput('reeds'),
        Mix::track('drum'),
        Mix::bus('reeds', ChannelKind::Group),
        Mix::bus('plate', ChannelKind::Return)->withSoloSafe(false)->withOutput('wash'),
        Mix::bus('hall', ChannelKind::Return),
        Mix::bus('wash', ChannelKind::Return)->withSoloSafe(false),
        Mix::bus('cue', ChannelKind::Cue),
    ]);
    foreach ($soloed as $id) {
        $session = $session->withChannel($session->channel($id)->withSolo(true));
    }
    $audibility = Audibility::of($session);
    $audible = array_values(array_filter(array_column($session->channels, 'id'), $audibility->has(...)));
    expect($audible)->toBe($heard);
})->with([
    'nothing' => [[], ['left', 'right', 'drum', 'reeds', 'plate', 'hall', 'wash', 'cue', 'main']],
    'a track, and what is downstream of it' => [['left'], ['left', 'reeds', 'plate', 'hall', 'wash', 'cue', 'main']],
    'a group, and what is upstream of it' => [['reeds'], ['left', 'right', 'reeds', 'hall', 'cue', 'main']],
    'a bus of returns' => [['wash'], ['left', 'plate', 'hall', 'wash', 'cue', 'main']],
    'a cue solos nothing' => [['cue'], ['left', 'right', 'drum', 'reeds', 'plate', 'hall', 'wash', 'cue', 'main']],
]);

it('lines up every way into a channel', function (): void {
    // 96 and 27 samples of processors on some of the ways; an impulse must come out once, at sample 0, everywhere.
    $library = new MemoryLibrary(['one' => [Signal::impulse(3000, 0.1)]]);
    $late = static fn (int $n) => Mix::insert("i{$n}", 'limiter', ['look-ahead' => '5ms']);
    $track = static fn (string $id, array $inserts): Channel => new Channel($id, ChannelKind::Track, $id, Width::Stereo, Mix::track('one')->source, inserts: $inserts);
    $session = Mix::session([
        $track('a', [$late(1), $late(2)])->withSends([new Send('n1', 'plate', 0.0), new Send('n2', 'cue', 0.0, TapPoint::Source)]),
        $track('b', [])->withOutput('group')->withSends([new Send('n3', 'cue', 0.0, TapPoint::PreFader)]),
        $track('c', [$late(3)])->withOutput('group')->withSends([new Send('n4', 'plate', 0.0, TapPoint::Source)]),
        new Channel('d', ChannelKind::Track, 'd', Width::Stereo, new TapSource('group', TapPoint::PreFader), inserts: [$late(4)]),
        Mix::bus('group', ChannelKind::Group, [$late(5)], sends: [new Send('n5', 'plate', 0.0)]),
        Mix::bus('plate', ChannelKind::Return, [$late(6)]),
        Mix::bus('cue', ChannelKind::Cue),
    ], length: 3000);
    foreach (['main', 'plate', 'group', 'cue', 'd', 'main:source', 'plate:pre-fader'] as $tap) {
        $out = Mix::render($session, $library, tap: $tap)->left;
        expect($out[0])->toBeGreaterThan(0.09, $tap)->and(Signal::peak(array_slice($out, 1)))->toBeLessThan(1e-12, $tap);
    }
    $alignment = Alignment::of($session, ProcessorCatalogue::standard());
    $one = $alignment->own['c'];
    expect($alignment->own)->toBe(['a' => 2 * $one, 'b' => 0, 'c' => $one, 'd' => $one, 'group' => $one, 'plate' => $one, 'cue' => 0, 'main' => 0])
        ->and($alignment->arrival['plate'])->toBe(2 * $one)
        ->and($alignment->session)->toBe(3 * $one);
});

// Source: a copy that is t late cancels its original at 1/(2t) (theory).
it('puts the first notch where it says when a channel is not lined up', function (): void {
    $late = Mix::insert('i1', 'limiter', ['ceiling' => 0.0]);
    $build = static fn (bool $aligned): Session => Mix::session([
        Mix::track('one', [], Width::Stereo, 24000),
        (new Channel('two', ChannelKind::Track, 'Two', Width::Stereo, new TapSource('one', TapPoint::Source), inserts: [$late]))->withAligned($aligned),
    ], length: 24000);
    expect(Combs::of($build(true), ProcessorCatalogue::standard(), Alignment::of($build(true), ProcessorCatalogue::standard())))->toBe([]);
    [$comb] = Combs::of($build(false), ProcessorCatalogue::standard(), Alignment::of($build(false), ProcessorCatalogue::standard()));
    expect($comb->channel)->toBe('two')->and($comb->where)->toBe('Main')->and($comb->firstNotch())->toBe(48000 / (2 * $comb->samples));
    $level = static function (float $frequency, bool $aligned) use ($build): float {
        $library = new MemoryLibrary(['one' => [Signal::sine($frequency, 24000, 0.25)]]);

        return Signal::peak(array_slice(Mix::render($build($aligned), $library)->left, 4000, 16000));
    };
    expect($level($comb->firstNotch(), true))->toEqualWithDelta(0.5, 0.001)
        ->and($level($comb->firstNotch(), false))->toBeLessThan(0.002)
        ->and($level($comb->firstNotch() / 2, false))->toEqualWithDelta(0.5 * M_SQRT1_2, 0.002)
        ->and($level($comb->firstNotch() * 2, false))->toEqualWithDelta(0.5, 0.002);
});

it('finds loops through outputs, sends and taps, and orders what has none', function (): void {
    $session = sendingSession();
    expect(Routes::of($session)->loop())->toBeNull()->and(Routes::of($session)->order())->toHaveCount(7);
    $loop = $session->withChannel($session->channel('plate')->withSends([new Send('n9', 'plate', null, on: false)]));
    expect(array_map(static fn ($route): string => "{$route->from}>{$route->to}", Routes::of($loop)->loop()))->toBe(['plate>plate']);
});

it('names what is up- and downstream, and only the ways between', function (): void {
    $path = SignalPath::of(sendingSession(), sendingSession()->channel('plate'));
    expect(array_column($path->channels, 'id'))->toBe(['cello', 'bass', 'plate', 'main'])
        ->and(array_map(static fn ($route): string => "{$route->from}>{$route->to}", $path->routes))->toBe(['cello>plate', 'bass>plate', 'plate>main']);
});

it('adds and takes away ways while playing without a click, and ends where a fresh start would', function (): void {
    $library = new MemoryLibrary(['cello' => [Signal::sine(200.0, 48000, 0.4)], 'bass' => [Signal::sine(200.0, 48000, 0.1)]]);
    $from = Mix::session([
        Mix::track('cello', [], Width::Stereo)->withSends([new Send('n1', 'plate', -6.0)]),
        Mix::track('bass', [], Width::Stereo)->withOutput('group'),
        Mix::bus('group', ChannelKind::Group),
        Mix::bus('plate', ChannelKind::Return, [Mix::insert('i1', 'limiter', ['ceiling' => 0.0])]),
    ]);
    $to = $from->withChannel($from->channel('cello')->withOutput('group')->withSends([]))
        ->withChannel($from->channel('bass')->withOutput('main')->withSends([new Send('n2', 'plate', 0.0, TapPoint::PreFader)]))
        ->withChannel($from->channel('group')->withSends([new Send('n3', 'plate', -12.0)]));
    $engine = Mix::engine($from, $library);
    $engine->start(0);
    Mix::take($engine, 4096);
    $engine->change($to);
    $out = Mix::take($engine, 8192)->left;
    for ($i = 1; $i < 8192; ++$i) {
        expect(abs($out[$i] - $out[$i - 1]))->toBeLessThan(0.03);
    }
    $steady = Mix::engine($to, $library);
    $steady->start(0);
    expect($out[8000])->toEqualWithDelta(Mix::take($steady, 4096 + 8192)->left[4096 + 8000], 1e-9);
});

it('keeps what is not a number out of every other channel', function (): void {
    $bad = array_fill(0, 4000, 0.1);
    $bad[1000] = NAN;
    $library = new MemoryLibrary(['a' => [$bad], 'b' => [array_fill(0, 4000, 0.25)]]);
    $engine = Mix::engine(Mix::session([
        Mix::track('a', [], Width::Stereo)->withMute(true)->withSends([new Send('n1', 'plate', 0.0, TapPoint::Source)]),
        Mix::track('b', [], Width::Stereo)->withSends([new Send('n2', 'plate', 0.0)]),
        Mix::bus('plate', ChannelKind::Return, [Mix::insert('i1', 'reverb')]),
    ], length: 4000), $library);
    $engine->start(0);
    $out = Mix::take($engine, 4000)->left;
    expect(is_finite(array_sum($out)))->toBeTrue()
        ->and(array_column($engine->faults(), 'channel'))->toBe(['a']);
});

it('listens at a cue alone, and before and after a split', function (): void {
    $session = Mix::session([
        Mix::track('cello', [Mix::split('s1', [new Hafen\Session\Insert\Branch('b1', 'Dry'), new Hafen\Session\Insert\Branch('b2', 'Loud', 6.0, mute: true)])], Width::Stereo, 4000)
            ->withSends([new Send('n1', 'cue', -6.0, TapPoint::PreFader)])->withMute(true),
        Mix::bus('cue', ChannelKind::Cue),
    ], length: 4000);
    expect(constantLevel($session, 'cue'))->toEqualWithDelta(0.5 * 10 ** (-6 / 20), 1e-12)
        ->and(constantLevel($session, 'main'))->toBe(0.0)
        ->and(constantLevel($session, 'cello:into:s1'))->toBe(0.5)
        ->and(constantLevel($session, 'cello:branch:b1'))->toBe(0.5)
        ->and(constantLevel($session, 'cello:branch:b2'))->toBe(0.0)
        ->and(constantLevel($session, 'cello:insert:s1'))->toBe(0.5);
    expect(Tap::fromString('cello:into:s1')?->stage)->toBe('into:s1');
});

it('lets what is not lined up come exactly as late as its own processors make it', function (int $seed): void {
    mt_srand($seed);
    $length = 4000;
    $late = static fn (string $id): array => array_map(
        static fn (int $n) => Mix::insert("{$id}x{$n}", 'limiter', ['look-ahead' => ['1ms', '2ms', '5ms'][mt_rand(0, 2)]], on: false),
        array_slice([0, 1, 2], 0, mt_rand(0, 3)),
    );
    $noise = Signal::noise($length, $seed, 0.2);
    $tracks = $own = $aligned = [];
    foreach (['a', 'b', 'c', 'd', 'e'] as $i => $id) {
        $aligned[$id] = $i < 2 || mt_rand(0, 1) === 1;
        $tracks[] = (new Channel($id, ChannelKind::Track, $id, Width::Stereo, Mix::track('noise', length: $length)->source, inserts: $late($id)))->withAligned($aligned[$id]);
    }
    // And one whose two branches meet out of time.
    $branches = [new Hafen\Session\Insert\Branch('b1', 'One', inserts: $late('p')), new Hafen\Session\Insert\Branch('b2', 'Two', inserts: $late('q'))];
    $tracks[] = (new Channel('split', ChannelKind::Track, 'Split', Width::Stereo, Mix::track('noise', length: $length)->source, inserts: [Mix::split('s1', $branches)]))->withAligned(false);
    $session = Mix::session($tracks, length: $length);
    $rows = new Hafen\Routing\RowLatency(ProcessorCatalogue::standard(), $session);
    foreach ($tracks as $track) {
        $own[$track->id] = $rows->of($track->inserts);
    }
    $latest = max(array_intersect_key($own, array_filter($aligned)));
    $offsets = [];
    foreach ($aligned as $id => $is) {
        $offsets[] = $is ? 0 : $own[$id] - $latest;
    }
    foreach ($branches as $branch) {
        $offsets[] = $rows->of($branch->inserts) - $latest;
    }
    $sound = Mix::render($session, new MemoryLibrary(['noise' => [$noise]]))->left;
    $worst = 0.0;
    for ($i = 1000; $i < 3000; ++$i) {
        $wanted = array_sum(array_map(static fn (int $offset): float => $noise[$i - $offset], $offsets));
        $worst = max($worst, abs($sound[$i] - $wanted));
    }
    expect($worst)->toBeLessThan(1e-12);
})->with(range(1, 12));
