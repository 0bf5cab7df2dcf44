<?php

declare(strict_types=1);

use Hafen\Engine\Compiler;
use Hafen\Headroom\Levels;
use Hafen\Headroom\PassageLevels;
use Hafen\Session\Session;
use Hafen\Survey\FolderStore;
use Hafen\Survey\TimeRange;
use Hafen\Tests\Support\MemoryLibrary;
use Hafen\Tests\Support\Mix;
use Hafen\Tests\Support\RandomMix;

require_once __DIR__.'/../Support/edited.php';

function passageLevels(MemoryLibrary $library, FolderStore $store): PassageLevels
{
    return new PassageLevels(new Compiler(Mix::processors(), $library), Mix::processors(), $store);
}

function surveyLevels(Session $session, MemoryLibrary $library, TimeRange $range): Levels
{
    return Levels::of(Mix::survey($session, $library, null, $range));
}

// The survey measures the same passage in another way: channel by channel, with every tap. It is held against files and ebur128 elsewhere.
it('finds what the survey finds of a passage, and the same where it replays what was recorded', function (int $seed): void {
    [$session, $library] = RandomMix::make($seed);
    $store = FolderStore::temporary();
    $passage = passageLevels($library, $store);
    $range = new TimeRange(9000, 21000, 0.1);
    expect($passage->of($session, $range, true))->toEqual(surveyLevels($session, $library, $range));
    foreach ([
        ['type' => 'set-fader', 'channels' => ['t0', 't1'], 'gain' => -9.0],
        ['type' => 'set-trim', 'channels' => ['t1', 't2'], 'gain' => -6.0],
        ['type' => 'set-trim', 'channels' => ['main'], 'gain' => -3.0],
        ['type' => 'add-insert', 'channels' => ['main'], 'processor' => 'limiter'],
        ['type' => 'set-mute', 'channels' => ['return'], 'mute' => true],
    ] as $edit) {
        $after = edited($session, $edit);
        $levels = $passage->of($after, $range, false);
        expect($levels)->toEqual(surveyLevels($after, $library, $range), $edit['type'])
            ->and($levels)->toEqual(passageLevels($library, FolderStore::temporary())->of($after, $range, false), $edit['type']);
    }
})->with(range(1, 6));

it('works again only what changes, and leaves nothing behind when it is stopped', function (): void {
    [$session, $library] = RandomMix::make(3);
    $range = new TimeRange(9000, 21000, 0.1);
    $store = FolderStore::temporary();
    expect(passageLevels($library, $store)->of($session, $range, true, static fn (int $done): bool => $done < 4096))->toBeNull();
    // Stopped, it has recorded nothing: without the files nothing can be worked.
    $gone = new MemoryLibrary([]);
    expect(fn () => passageLevels($gone, $store)->of($session, $range, false))->toThrow(Hafen\Audio\UnreadableAudioFile::class);
    $levels = passageLevels($library, $store)->of($session, $range, true);
    // Recorded, no file is opened for what comes after the faders.
    $trimmed = edited($session, ['type' => 'set-fader', 'channels' => ['main'], 'gain' => $session->main()->fader - 2.0]);
    expect(passageLevels($gone, $store)->of($trimmed, $range, false)->peak)->toEqualWithDelta($levels->peak - 2.0, 1e-9)
        ->and(fn () => passageLevels($gone, $store)->of(edited($session, ['type' => 'set-trim', 'channels' => ['t0'], 'gain' => -6.0]), $range, false))->toThrow(Hafen\Audio\UnreadableAudioFile::class);
});
