<?php

declare(strict_types=1);

use Hafen\Document\SessionCodec;
use Hafen\Engine\Tap;
use Hafen\Pilot\Pilot;
use Hafen\Routing\SignalPath;
use Hafen\Session\Channel\Channel;
use Hafen\Session\Channel\ChannelKind;
use Hafen\Session\Channel\Send;
use Hafen\Session\Channel\TapPoint;
use Hafen\Session\Insert\Branch;
use Hafen\Session\Session;
use Hafen\Tests\Support\MemoryLibrary;
use Hafen\Tests\Support\Mix;
use Hafen\Tests\Support\Signal;

/** A session with everything an id can be a key of, and each id replaced by another. */
function withIds(callable $id, string $name): Session
{
    $session = Mix::session([
        Mix::track($id('cello'), [
            Mix::insert($id('i1'), 'compressor'),
            Mix::split($id('s1'), [new Branch($id('b1'), 'One', inserts: [Mix::insert($id('i2'), 'drive')]), new Branch($id('b2'), 'Two')]),
        ])->withSends([new Send($id('n1'), $id('plate'), -6.0, TapPoint::PreFader)]),
        Mix::track($id('bass'), [Mix::insert($id('i3'), 'limiter')]),
    ], [Mix::insert($id('i9'), 'limiter', ['ceiling' => -1.0])]);
    $channels = $session->channels;
    array_splice($channels, 2, 0, [Mix::bus($id('plate'), ChannelKind::Return, [Mix::insert($id('i4'), 'plate')])]);

    return $session->withChannels(array_map(static fn (Channel $channel): Channel => $channel->withName($name), $channels))->withName($name);
}

/*
 * PHP makes whole numbers of keys that look like them. Whatever ids and names are, what is heard, measured, noted and drawn is the same.
 */
it('works the same with ids that look like numbers, long ones, and names of any script', function (array $ids, string $name): void {
    $plain = withIds(static fn (string $id): string => $id, 'Plain');
    $odd = withIds(static fn (string $id): string => $ids[$id] ?? $id, $name);
    $codec = new SessionCodec(Mix::processors());
    $odd = $codec->decode($codec->encode($odd));
    expect($codec->encode($codec->decode($codec->encode($odd))))->toBe($codec->encode($odd));
    $sound = static fn (string $id, int $seed): array => [$id => [Signal::noise(48000, $seed, 0.6)]];
    $plainLibrary = new MemoryLibrary($sound('cello', 3) + $sound('bass', 4));
    $oddLibrary = new MemoryLibrary($sound($ids['cello'] ?? 'cello', 3) + $sound($ids['bass'] ?? 'bass', 4));

    // Render: the mix and a tap of every kind.
    expect(Mix::difference(Mix::render($plain, $plainLibrary), Mix::render($odd, $oddLibrary)))->toBeLessThan(1e-12);
    foreach (['cello:source', 'cello:insert:i1', 'cello:branch:b1', 'plate:post-fader'] as $tap) {
        $oddTap = implode(':', array_map(static fn (string $part): string => $ids[$part] ?? $part, explode(':', $tap)));
        expect(Mix::difference(Mix::render($plain, $plainLibrary, tap: $tap), Mix::render($odd, $oddLibrary, tap: $oddTap)))->toBeLessThan(1e-12, $oddTap);
    }
    // Survey: the same figures under the other ids.
    $one = Mix::survey($plain, $plainLibrary);
    $two = Mix::survey($odd, $oddLibrary);
    expect(count($two->taps))->toBe(count($one->taps))->and($two->unknown)->toBe([]);
    foreach ($one->taps as $key => $reading) {
        $oddKey = implode(':', array_map(static fn (string $part): string => $ids[$part] ?? $part, explode(':', (string) $key)));
        expect($two->taps[$oddKey]->peak)->toEqualWithDelta($reading->peak, 1e-12, $oddKey)->and($two->taps[$oddKey]->meanSquare)->toEqualWithDelta($reading->meanSquare, 1e-12);
    }
    expect(array_values($two->loudest()->shares()))->toEqualWithDelta(array_values($one->loudest()->shares()), 1e-9);
    // The Pilot notes the same, and a path is drawn.
    $checks = static fn (Session $session, $survey): array => array_map(static fn ($note): string => $note->check, Pilot::standard()->advice($session, Mix::processors(), $survey, null));
    expect($checks($odd, $two))->toBe($checks($plain, $one));
    foreach ($odd->channels as $channel) {
        expect(SignalPath::of($odd, $channel))->toBeInstanceOf(SignalPath::class);
    }
    // Listening: levels and loads are named by text.
    $engine = Mix::engine($odd, $oddLibrary, metered: true);
    $engine->listenAt(new Tap($ids['cello'] ?? 'cello', Tap::PRE_FADER));
    $engine->next();
    foreach ([...$engine->tapIds(), ...$engine->loadIds()] as $key) {
        expect($key)->toBeString();
    }
})->with([
    'like numbers' => [['cello' => '808', 'bass' => '12', 'plate' => '2026', 'i1' => '1', 'i2' => '2', 'i3' => '3', 'i4' => '4', 'i9' => '9', 's1' => '100', 'b1' => '0', 'b2' => '7', 'n1' => '5'], '808'],
    'negative and leading zeros' => [['cello' => '-12', 'bass' => '007', 'plate' => '-0', 'i1' => '-1', 's1' => '00', 'b1' => '-2', 'b2' => '-3', 'n1' => '-4'], '-0'],
    'in a row from 0' => [['cello' => '0', 'bass' => '1', 'plate' => '2'], '0'],
    'very long' => [['cello' => str_repeat('c', 64), 'bass' => str_repeat('9', 64), 'plate' => '9223372036854775807', 'i1' => str_repeat('1', 64)], str_repeat('W', 120)],
    'right to left' => [[], 'مرحبا بالعالم'],
    'emoji' => [['cello' => '_'], '🎻🎛️👩‍🎤'],
]);
