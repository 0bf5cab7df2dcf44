<?php

declare(strict_types=1);

use Hafen\Engine\Tap;
use Hafen\Routing\StereoStages;
use Hafen\Session\Automation\AutomationLane;
use Hafen\Session\Automation\AutomationPoint;
use Hafen\Session\Automation\AutomationTarget;
use Hafen\Session\Channel\Channel;
use Hafen\Session\Insert\Branch;
use Hafen\Session\Insert\Insert;
use Hafen\Session\Insert\Split;
use Hafen\Session\Insert\SplitBy;
use Hafen\Tests\Support\MemoryLibrary;
use Hafen\Tests\Support\Mix;
use Hafen\Tests\Support\Signal;

// What the engine lets through decides; the rule is what the screen draws.

/** @return array<string, bool> whether the sides differ after half a second, by stage */
function differingSides(Channel $channel): array
{
    $library = new MemoryLibrary(['bass' => [Signal::noise(48000, 7, 0.3)]]);
    $engine = Mix::engine(Mix::session([$channel]), $library);
    $stages = array_diff(array_keys(StereoStages::of($channel, Mix::processors())->all()), ['post-fader']);
    $engine->watch(...array_map(static fn (string $stage): Tap => new Tap($channel->id, $stage), array_values($stages)));
    $engine->start(0);
    $differ = [];
    for ($block = 0; $block < 60; ++$block) {
        $engine->next();
        foreach ($engine->watched() as $tap => $sound) {
            $stage = substr((string) $tap, strlen($channel->id) + 1);
            $differ[$stage] = ($differ[$stage] ?? false) || (! $sound->mono && $sound->left !== $sound->right);
        }
    }

    return $differ;
}

/** @return list<Insert> */
function randomMonoRow(int $depth, int &$id): array
{
    $row = [];
    for ($i = 0, $n = mt_rand(1, 3); $i < $n; ++$i) {
        $kind = ['gain', 'filter', 'reverb', 'drive', 'chorus', 'split', 'split'][mt_rand(0, 6)];
        if ($kind !== 'split' || $depth > 1) {
            $row[] = Mix::insert('i'.++$id, $kind === 'split' ? 'filter' : $kind, [], [0.0, 0.5, 1.0, 1.0][mt_rand(0, 3)], mt_rand(0, 3) > 0);

            continue;
        }
        $by = SplitBy::cases()[mt_rand(0, 3)];
        $branches = [];
        for ($b = 0; $b < 2; ++$b) {
            $branches[] = new Branch('b'.++$id, 'Branch', pan: mt_rand(0, 3) === 0 ? 0.4 : 0.0, inserts: randomMonoRow($depth + 1, $id));
        }
        $row[] = new Split('s'.++$id, $branches, mt_rand(0, 3) > 0, $by, $by === SplitBy::Frequency ? [800.0] : []);
    }

    return $row;
}

it('says of random rows where the engine has one sound on both sides', function (int $seed): void {
    mt_srand($seed);
    $id = 0;
    $channel = Mix::track('bass', randomMonoRow(0, $id));
    $says = StereoStages::of($channel, Mix::processors())->all();
    $wrong = array_filter(
        array_keys(array_filter(differingSides($channel))),
        static fn (string $stage): bool => ! $says[$stage],
    );
    expect($wrong)->toBe([]);
})->with(range(1, 60));

it('draws two sides where there are two, and not where there are none', function (array $row, array $stereo, array $mono): void {
    $channel = Mix::track('bass', $row);
    $says = StereoStages::of($channel, Mix::processors())->all();
    $differing = differingSides($channel);
    foreach ($stereo as $stage) {
        expect($says[$stage])->toBeTrue($stage)->and($differing[$stage])->toBeTrue($stage);
    }
    foreach ($mono as $stage) {
        expect($says[$stage])->toBeFalse($stage)->and($differing[$stage])->toBeFalse($stage);
    }
})->with([
    'a reverb' => [[Mix::insert('i1', 'filter'), Mix::insert('i2', 'reverb')], ['insert:i2', 'pre-fader'], ['source', 'insert:i1']],
    'a reverb that is off' => [[Mix::insert('i1', 'reverb', on: false)], [], ['insert:i1', 'pre-fader']],
    'left and right' => [[Mix::split('s1', [new Branch('b1', 'L'), new Branch('b2', 'R', -6.0)], SplitBy::LeftRight)], ['branch:b1', 'insert:s1'], ['into:s1']],
    'mid and side are one sound each' => [[Mix::insert('i1', 'reverb'), Mix::split('s1', [new Branch('b1', 'M'), new Branch('b2', 'S', inserts: [Mix::insert('i2', 'drive')])], SplitBy::MidSide)], ['into:s1', 'insert:s1'], ['insert:i2', 'branch:b1', 'branch:b2']],
    'a panned branch' => [[Mix::split('s1', [new Branch('b1', 'A', pan: 0.5), new Branch('b2', 'B')])], ['branch:b1', 'insert:s1'], ['branch:b2']],
]);

it('counts an insert whose mix is automated', function (): void {
    $lane = new AutomationLane(AutomationTarget::mix('i1'), [new AutomationPoint(0, 0.0), new AutomationPoint(20000, 1.0)]);
    $channel = Mix::track('bass', [Mix::insert('i1', 'reverb', [], 0.0)])->withLane($lane);
    expect(StereoStages::of($channel, Mix::processors())->all()['pre-fader'])->toBeTrue()
        ->and(differingSides($channel)['pre-fader'])->toBeTrue();
});
