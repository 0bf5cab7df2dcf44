<?php

declare(strict_types=1);

use Hafen\Document\SessionCodec;
use Hafen\Edit\Refusals\UnitIsTaken;
use Hafen\Routing\UnitPlaces;
use Hafen\Session\Channel\ChannelKind;
use Hafen\Session\Hardware\HardwareLoop;
use Hafen\Session\Hardware\MeasuredDelay;
use Hafen\Session\Insert\HardwareInsert;
use Hafen\Session\Session;
use Hafen\Session\Source\Clip;
use Hafen\Session\Source\ClipSource;
use Hafen\Session\Source\LiveInput;
use Hafen\Session\Source\Monitor;
use Hafen\Tests\Support\Mix;

require_once __DIR__.'/../Support/edited.php';

/** A session in which one loop is on two channels. */
function twoPlaces(Session $session, float $tail = 100.0): Session
{
    return $session->withLoops([new HardwareLoop('l1', 'Springs', 'hw:7', 'in:4', tail: $tail, delay: new MeasuredDelay(300.0, 128))]);
}

// Against every sample, one by one: a second of session in steps of 100 samples, with a tail of 4800.
it('lets two channels share a unit exactly where no sample of one meets the other, tails included', function (int $seed): void {
    mt_srand($seed);
    $clips = static function (): array {
        $clips = [];
        for ($i = 0, $n = mt_rand(1, 3); $i < $n; ++$i) {
            $clips[] = new Clip("k{$i}", 'cello', 100 * mt_rand(0, 400), 0, 100 * mt_rand(1, 60));
        }

        return $clips;
    };
    $sounds = static function (array $clips): array {
        $at = [];
        foreach ($clips as $clip) {
            for ($i = $clip->start; $i < $clip->end() + 4800; $i += 100) {
                $at[$i] = true;
            }
        }

        return $at;
    };
    $met = 0;
    for ($round = 0; $round < 60; ++$round) {
        [$one, $two, $three] = [$clips(), $clips(), $clips()];
        // The second place is a bus that two tracks feed.
        $session = twoPlaces(Mix::session([
            Mix::track('one', [new HardwareInsert('h1', 'l1')])->withSource(new ClipSource($one)),
            Mix::track('two')->withSource(new ClipSource($two))->withOutput('bus'),
            Mix::track('three')->withSource(new ClipSource($three))->withOutput('bus'),
            Mix::bus('bus', ChannelKind::Group, [new HardwareInsert('h2', 'l1')]),
        ]));
        $meets = array_intersect_key($sounds($one), $sounds($two) + $sounds($three)) !== [];
        $met += (int) $meets;
        expect(UnitPlaces::conflict($session, Mix::processors()) !== null)->toBe($meets);
        // A document says so as well, and an edit that would make it so is refused.
        $read = static fn (): Session => (new SessionCodec(Mix::processors()))->decode((new SessionCodec(Mix::processors()))->encode($session));
        $meets ? expect($read)->toThrow(Hafen\Document\InvalidDocument::class, 'Springs') : expect($read()->channel('one')?->inserts)->toEqual([new HardwareInsert('h1', 'l1')]);
        $bypassed = $session->withChannel($session->channel('bus')->withRow(Hafen\Session\Insert\Row::Inserts, [new HardwareInsert('h2', 'l1', false)]));
        $switch = static fn (): Session => edited($bypassed, ['type' => 'set-insert-on', 'inserts' => ['h2'], 'on' => true]);
        $meets ? expect($switch)->toThrow(UnitIsTaken::class, 'One and on Bus') : expect($switch()->channel('bus')?->inserts[0]->isOn())->toBeTrue();
    }
    expect($met)->toBeGreaterThan(5)->toBeLessThan(60);
})->with([1, 2, 3]);

it('takes a live input as sound at any time, and what is off, frozen, bypassed or dry as none', function (): void {
    $tracks = [
        Mix::track('one', [new HardwareInsert('h1', 'l1')])->withSource(new ClipSource([new Clip('k1', 'cello', 0, 0, 100)])),
        Mix::track('two', [new HardwareInsert('h2', 'l1')])->withSource(new ClipSource([new Clip('k1', 'cello', 40000, 0, 100)])),
    ];
    $session = twoPlaces(Mix::session($tracks));
    expect(UnitPlaces::conflict($session, Mix::processors()))->toBeNull();
    $live = $session->withChannel($tracks[1]->withSource(new ClipSource([], new LiveInput('in:1', Monitor::Off))));
    expect(UnitPlaces::conflict($live, Mix::processors())?->loop->id)->toBe('l1');
    foreach ([
        ['type' => 'set-off', 'channels' => ['two'], 'off' => true],
        ['type' => 'set-row', 'channels' => ['two'], 'on' => false],
        ['type' => 'set-mix', 'insert' => 'h2', 'mix' => 0.0],
        ['type' => 'set-insert-on', 'inserts' => ['h2'], 'on' => false],
    ] as $edit) {
        expect(UnitPlaces::conflict(edited($live->withChannel($live->channel('one')->withOff(true)), $edit)->withChannel($tracks[0]), Mix::processors()))->toBeNull();
    }
    // Who has it already is named first.
    $wanted = $session->withChannel($tracks[0]->withRow(Hafen\Session\Insert\Row::Inserts, []))->withChannel($live->channel('two'));
    expect(fn () => edited($wanted, ['type' => 'add-hardware', 'loop' => 'l1', 'channel' => 'one']))->toThrow(UnitIsTaken::class, 'Two and on One');
    // Moved near each other they meet: the move is refused.
    expect(fn () => edited($session, ['type' => 'put-takes', 'channel' => 'two', 'takes' => [['file' => 'cello', 'length' => 100, 'width' => 'mono', 'start' => 200]]]))->toThrow(UnitIsTaken::class);
});

it('refuses what was kept in another session and goes through a loop this one has not', function (): void {
    $paste = ['type' => 'paste-inserts', 'channel' => 'cello', 'name' => 'Row', 'inserts' => [['type' => 'hardware', 'id' => 'h1', 'loop' => 'l7']]];
    expect(fn () => edited(Mix::session([Mix::track('cello')]), $paste))->toThrow(Hafen\Edit\Refusals\NoSuchLoop::class, 'l7');
    $paste['inserts'][0]['loop'] = 'l1';
    expect(edited(twoPlaces(Mix::session([Mix::track('cello')])), $paste)->channel('cello')?->inserts[0])->toBeInstanceOf(HardwareInsert::class);
});
