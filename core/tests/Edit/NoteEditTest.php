<?php

declare(strict_types=1);

use Hafen\Document\NoteCodec;
use Hafen\Document\SessionCodec;
use Hafen\Edit\EditRefused;
use Hafen\Note\NoteClip;
use Hafen\Processor\ProcessorCatalogue;
use Hafen\Session\Channel\Channel;
use Hafen\Session\Channel\ChannelKind;
use Hafen\Session\Channel\Width;
use Hafen\Session\Session;
use Hafen\Session\Source\NoteSource;
use Hafen\Tests\Support\Mix;

require_once __DIR__.'/../Support/edited.php';

/** @param  list<NoteClip>  $clips */
function keysSession(array $clips = []): Session
{
    return Mix::session([new Channel('keys', ChannelKind::Note, 'Keys', Width::Mono, new NoteSource($clips))], length: 48_000);
}

/** @return list<array<string, mixed>> as the document has them */
function clipsOf(Session $session): array
{
    return array_map(NoteCodec::clipToArray(...), $session->channel('keys')->source->notes);
}

it('adds notes to the clips they lie in, and makes clips of whole bars where there are none', function (): void {
    // A clip from beat 2 of bar 1 to the end of bar 2, and one that begins in bar 6.
    $codec = new SessionCodec(ProcessorCatalogue::standard());
    $session = keysSession([new NoteClip('c1', 960, 6720), new NoteClip('c3', 20_000, 3840)]);
    $added = edited($session, ['type' => 'add-notes', 'channel' => 'keys', 'notes' => [
        [1000, 100, 60, 90], // in c1
        [7000, 5000, 62, 90], // in c1, and ends in bar 4
        [12_000, 10, 64, 90], // behind it: a new one, up to where c3 begins
        [20_000, 10, 65, 90], // where c3 begins
        [0, 100, 66, 90], // before c1: a new one from bar 1
    ]]);
    expect(clipsOf($added))->toBe([
        ['id' => 'c5', 'start' => 0, 'length' => 960, 'notes' => [[0, 100, 66, 90]]],
        ['id' => 'c1', 'start' => 960, 'length' => 11_520, 'notes' => [[40, 100, 60, 90], [6040, 5000, 62, 90]]],
        ['id' => 'c4', 'start' => 11_520, 'length' => 8480, 'notes' => [[480, 10, 64, 90]]],
        ['id' => 'c3', 'start' => 20_000, 'length' => 3840, 'notes' => [[0, 10, 65, 90]]],
    ])->and($added->length)->toBe(23_840 * 25)
        ->and(clipsOf($codec->decode($codec->encode($added))))->toBe(clipsOf($added));
});

it('puts a note in place of one that begins with it, and movements in place of those in their time', function (): void {
    $session = edited(keysSession(), ['type' => 'add-notes', 'channel' => 'keys', 'notes' => [[10, 100, 60, 90], [10, 100, 61, 90]], 'controls' => [[0, 1, 5], [100, 1, 6], [150, 64, 127], [300, 1, 7]]]);
    $again = edited($session, ['type' => 'add-notes', 'channel' => 'keys', 'notes' => [[10, 50, 60, 1]], 'controls' => [[90, 1, 50], [200, 1, 60]]]);
    expect(clipsOf($again)[0]['notes'])->toBe([[10, 50, 60, 1], [10, 100, 61, 90]])
        ->and(clipsOf($again)[0]['controls'])->toBe([[0, 1, 5], [90, 1, 50], [150, 64, 127], [200, 1, 60], [300, 1, 7]])
        ->and(clipsOf($again))->toHaveCount(1);
});

it('refuses what no document could hold', function (): void {
    $full = static fn (string $id, int $start, int $notes): array => ['type' => 'put-note-clip', 'channel' => 'keys', 'clip' => ['id' => $id, 'start' => $start, 'length' => 400, 'notes' => array_map(static fn (int $i): array => [$i % 400, 1, intdiv($i, 400), 1], array_keys(array_fill(0, $notes, 0)))]];
    $session = edited(keysSession(), $full('c1', 0, NoteClip::MOST_NOTES));
    expect(fn () => edited($session, ['type' => 'add-notes', 'channel' => 'keys', 'notes' => [[0, 1, 127, 1]]]))->toThrow(EditRefused::class, 'A clip of Keys has 20000 notes, which is the most. Put the others into another clip.')
        // A note in place of another is one no more.
        ->and(clipsOf(edited($session, ['type' => 'add-notes', 'channel' => 'keys', 'notes' => [[0, 1, 0, 99]]]))[0]['notes'][0])->toBe([0, 1, 0, 99]);
    $movements = static fn (int $controller): array => ['type' => 'set-note-controls', 'channel' => 'keys', 'clip' => 'c1', 'controller' => $controller, 'controls' => array_map(static fn (int $i): array => [$i, 1], range(1, 12_000))];
    $moved = edited($session, $movements(1));
    expect(fn () => edited($moved, $movements(2)))->toThrow(EditRefused::class, 'A clip of Keys has 20000 movements of controllers, which is the most.');
    $clips = array_map(static fn (int $i): NoteClip => new NoteClip("c{$i}", 10 * $i, 10), range(0, NoteSource::MOST_CLIPS - 1));
    expect(fn () => edited(keysSession($clips), ['type' => 'add-notes', 'channel' => 'keys', 'notes' => [[50_000, 1, 60, 1]]]))->toThrow(EditRefused::class, 'Keys has 1000 clips of notes, which is the most. Remove one first.')
        ->and(fn () => edited(keysSession(), ['type' => 'add-notes', 'channel' => 'main', 'notes' => []]))->toThrow(EditRefused::class)
        ->and(fn () => edited(keysSession(), ['type' => 'add-notes', 'channel' => 'keys', 'notes' => [[0, 1, 60, 128]]]))->toThrow('Found 128; allowed is a whole number from 1 to 127')
        ->and(fn () => edited(keysSession(), ['type' => 'add-notes', 'channel' => 'keys', 'controls' => [[0, 128, 9000]]]))->toThrow('Found 9000; allowed is a whole number from -8192 to 8191');
});
