<?php

declare(strict_types=1);

use Hafen\Audio\WavReader;
use Hafen\Document\ContentHashes;
use Hafen\Document\SessionCodec;
use Hafen\Edit\EditRefused;
use Hafen\Engine\Compiler;
use Hafen\Engine\Tap;
use Hafen\Printing\Printer;
use Hafen\Printing\PrintOptions;
use Hafen\Session\Channel\Channel;
use Hafen\Session\Channel\ChannelKind;
use Hafen\Session\Channel\Send;
use Hafen\Session\Channel\TapPoint;
use Hafen\Session\Channel\Width;
use Hafen\Session\Session;
use Hafen\Tests\Support\MemoryLibrary;
use Hafen\Tests\Support\Mix;
use Hafen\Tests\Support\Signal;

require_once __DIR__.'/../Support/edited.php';

/** A track with an effect, a fader, a pan and sends, beside another. @return array{Session, MemoryLibrary} */
function printable(): array
{
    return [Mix::session([
        Mix::track('one', [Mix::insert('i1', 'drive'), Mix::insert('i2', 'limiter')], Width::Mono, 4800)->withFader(-6.0)->withPan(0.4)
            ->withSends([new Send('n1', 'hall', -9.0, TapPoint::PreFader), new Send('n2', 'hall', -12.0, TapPoint::PostFader)]),
        Mix::track('two', [], Width::Mono, 4800),
        Mix::bus('hall', ChannelKind::Return, [Mix::insert('i3', 'echo', [], 1.0)]),
    ], [], 4800), new MemoryLibrary(['one' => [Signal::noise(4800, 1, 0.3)], 'two' => [Signal::noise(4800, 2, 0.3)]])];
}

/** The session with a channel printed, its file in the library. */
function withPrint(Session $session, MemoryLibrary $library, string $channel, string $tap, bool $inPlace, string $after = 'mute'): Session
{
    $path = (string) tempnam(sys_get_temp_dir(), 'print');
    (new Printer(new Compiler(Mix::processors(), $library), Mix::processors()))->print($session, new Tap($channel, $tap), $path, new PrintOptions(tail: 0.0));
    $file = WavReader::open($path);
    $library->files['print'] = $file->read(0, $file->frames());
    unlink($path);

    return edited($session, ['type' => 'put-prints', 'prints' => [[
        'file' => ['file' => 'print', 'length' => $file->frames(), 'width' => count($library->files['print']) === 1 ? 'mono' : 'stereo'],
        'from' => ['revision' => 7, 'channel' => $channel, 'tap' => $tap],
        'name' => 'One printed',
    ]], 'inPlace' => $inPlace, 'after' => $after]);
}

// Source: the mix before the print. What is in a print is not applied again, and what is not in it still is.
it('sounds the same with the print in place of what was printed', function (string $tap, bool $inPlace): void {
    [$session, $library] = printable();
    $before = Mix::render($session, $library);
    $after = withPrint($session, $library, 'one', $tap, $inPlace);
    // What was sent before the fader is not in a print made after it.
    if ($tap === 'post-fader') {
        $without = ['type' => 'set-send-on', 'sends' => ['n1'], 'on' => false];
        $before = Mix::render(edited($session, $without), $library);
        $after = edited($after, $without);
    } elseif (! $inPlace) {
        $after = edited($after, ['type' => 'set-off', 'channels' => ['one'], 'off' => true]);
    }
    expect(Mix::difference(Mix::render($after, $library), $before))->toBeLessThan(2.0 ** -20);
})->with([['source', true], ['pre-fader', true], ['pre-fader', false], ['post-fader', true], ['post-fader', false]]);

it('puts a new track below, with what the print has not, and treats its source as asked', function (string $after, array $facts): void {
    [$session, $library] = printable();
    $made = withPrint($session, $library, 'one', 'pre-fader', false, $after);
    $ids = array_map(static fn (Channel $channel): string => $channel->id, $made->channels);
    $new = $made->channel('one-printed');
    $one = $made->channel('one');
    expect(array_slice($ids, 0, 3))->toBe(['one', 'one-printed', 'two'])
        ->and([$new?->fader, $new?->pan, count($new->sends ?? []), $new?->inserts])->toBe([-6.0, 0.4, 2, []])
        ->and($new?->source->clips()[0]->printedFrom?->channel)->toBe('one')
        ->and([$one?->mute, $one?->off, $one?->hidden])->toBe($facts);
})->with(['keep' => ['keep', [false, false, false]], 'mute' => ['mute', [true, false, false]], 'off' => ['off', [false, true, false]], 'hide' => ['hide', [true, false, true]]]);

it('keeps what it takes the place of as a version, and goes back and forth', function (): void {
    [$session, $library] = printable();
    $made = withPrint($session, $library, 'one', 'post-fader', true);
    $one = $made->channel('one');
    expect([$one?->fader, $one?->pan, $one?->versions[0]->name, $one?->versions[0]->clips[0]->file, $one?->inserts[0]->isOn()])->toBe([0.0, 0.0, 'Before the print', 'one', false]);
    $back = edited($made, ['type' => 'use-version', 'channel' => 'one', 'version' => 'v1']);
    expect($back->channel('one')?->source->clips()[0]->file)->toBe('one')->and($back->channel('one')?->versions[0]->clips[0]->file)->toBe('print')
        ->and(edited($back, ['type' => 'use-version', 'channel' => 'one', 'version' => 'v1']))->toEqual($made);
    $kept = edited($made, ['type' => 'keep-version', 'channel' => 'one', 'name' => 'Loud']);
    expect(array_column($kept->channel('one')->versions, 'id'))->toBe(['v1', 'v2'])
        ->and(edited($kept, ['type' => 'remove-version', 'channel' => 'one', 'version' => 'v1'])->channel('one')?->versions[0]->name)->toBe('Loud')
        ->and(fn () => edited($kept, ['type' => 'use-version', 'channel' => 'one', 'version' => 'v9']))->toThrow(EditRefused::class, 'One has no version "v9"')
        ->and(fn () => edited($kept, ['type' => 'keep-version', 'channel' => 'hall', 'name' => 'x']))->toThrow(EditRefused::class);
    $codec = new SessionCodec(Mix::processors());
    expect($codec->decode($codec->encode($kept)))->toEqual($kept);
});

it('switches a channel off: silent at every tap, not worked, and back as it was', function (): void {
    [$session, $library] = printable();
    $off = edited($session, ['type' => 'set-off', 'channels' => ['one'], 'off' => true]);
    foreach (['source', 'pre-fader', 'post-fader'] as $stage) {
        expect(max(array_map(abs(...), Mix::render($off, $library, 512, "one:{$stage}")->left)))->toBe(0.0);
    }
    $engine = Mix::engine($off, $library);
    $engine->start(0);
    Mix::take($engine, 4096);
    expect($engine->plan()->strips['one']->runners())->toBe([])
        // In time as before: what meets it is as late as it was.
        ->and($engine->plan()->latency())->toBe(Mix::engine($session, $library)->plan()->latency())
        ->and(Mix::render(edited($off, ['type' => 'set-off', 'channels' => ['one'], 'off' => false]), $library))->toEqual(Mix::render($session, $library))
        ->and(ContentHashes::of($off, Mix::processors())->fromFader('main'))->not->toBe(ContentHashes::of($session, Mix::processors())->fromFader('main'))
        ->and(fn () => edited($session, ['type' => 'set-off', 'channels' => ['main'], 'off' => true]))->toThrow(EditRefused::class, 'Main cannot be switched off');
});
