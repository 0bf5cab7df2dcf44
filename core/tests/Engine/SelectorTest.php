<?php

declare(strict_types=1);

use Hafen\Session\Automation\AutomationLane;
use Hafen\Session\Automation\AutomationPoint;
use Hafen\Session\Automation\AutomationTarget;
use Hafen\Session\Channel\Width;
use Hafen\Session\Insert\Branch;
use Hafen\Session\Insert\Selector;
use Hafen\Session\Insert\SelectorFade;
use Hafen\Session\Insert\SelectorRange;
use Hafen\Session\Session;
use Hafen\Tests\Support\MemoryLibrary;
use Hafen\Tests\Support\Mix;
use Hafen\Tests\Support\Signal;

const SELECTED = 48000;

/**
 * A track through a split of branches with a selector.
 *
 * @param  list<Branch>  $branches
 * @param  list<array{int, float}>  $points  of the selector's lane
 */
function selected(array $branches, Selector $selector, array $points = []): Session
{
    $track = Mix::track('one', [Mix::split('s1', $branches)->withSelector($selector)], Width::Stereo, SELECTED);
    $target = AutomationTarget::fromString('selector:s1');
    assert($target !== null);

    return Mix::session([$points === [] ? $track : $track->withAutomation([
        new AutomationLane($target, array_map(static fn (array $point): AutomationPoint => new AutomationPoint($point[0], $point[1]), $points)),
    ])], length: SELECTED);
}

function selectedSound(): MemoryLibrary
{
    return new MemoryLibrary(['one' => [array_fill(0, SELECTED, 0.25)]]);
}

/** @return list<Branch> a low half that is heard on the left and a high half heard on the right, fading over a tenth */
function halves(): array
{
    return [
        new Branch('b1', 'Low', pan: -1.0, range: new SelectorRange(0.0, 0.5, 0.1, 0.1)),
        new Branch('b2', 'High', pan: 1.0, range: new SelectorRange(0.5, 1.0, 0.1, 0.1)),
    ];
}

it('opens each branch in its range, with fades whose powers or amplitudes add up', function (SelectorFade $fade): void {
    $range = [new SelectorRange(0.0, 0.4, 0.2, 0.2), new SelectorRange(0.4, 1.0, 0.2, 0.2)];
    expect($range[0]->gain(0.0, $fade))->toBe(1.0)->and($range[0]->gain(0.29, $fade))->toBe(1.0)->and($range[0]->gain(0.51, $fade))->toBe(0.0)
        ->and($range[1]->gain(0.29, $fade))->toBe(0.0)->and($range[1]->gain(0.51, $fade))->toBe(1.0)->and($range[1]->gain(1.0, $fade))->toBe(1.0);
    foreach (range(0, 100) as $step) {
        [$one, $two] = [$range[0]->gain($step / 100, $fade), $range[1]->gain($step / 100, $fade)];
        expect($fade === SelectorFade::EqualPower ? $one ** 2 + $two ** 2 : $one + $two)->toEqualWithDelta(1.0, 1e-12);
    }
    // Source: half of the way, sin(pi/4) of an equal power.
    expect($range[0]->gain(0.4, $fade))->toEqualWithDelta($fade === SelectorFade::EqualPower ? M_SQRT1_2 : 0.5, 1e-12);
})->with(SelectorFade::cases());

it('switches at once without fades, leaves gaps silent and lets ranges overlap', function (): void {
    $fade = SelectorFade::Linear;
    [$one, $two, $three] = [new SelectorRange(0.0, 0.3), new SelectorRange(0.4, 0.8), new SelectorRange(0.6, 1.0)];
    $at = static fn (float $place): array => [$one->gain($place, $fade), $two->gain($place, $fade), $three->gain($place, $fade)];
    expect($at(0.29))->toBe([1.0, 0.0, 0.0])->and($at(0.3))->toBe([0.0, 0.0, 0.0])->and($at(0.4))->toBe([0.0, 1.0, 0.0])->and($at(0.7))->toBe([0.0, 1.0, 1.0])->and($at(1.0))->toBe([0.0, 0.0, 1.0]);
});

it('sounds as its ranges say, moved by its lane, the same for all block sizes', function (SelectorFade $fade): void {
    $session = selected(halves(), new Selector(0.0, $fade), [[0, 0.0], [SELECTED, 1.0]]);
    $sound = Mix::render($session, selectedSound());
    [$low, $high] = [new SelectorRange(0.0, 0.5, 0.1, 0.1), new SelectorRange(0.5, 1.0, 0.1, 0.1)];
    foreach ([100, 12000, 21000, 22000, 23000, 24000, 25000, 26000, 27000, 40000] as $at) {
        // Branch pan is a balance: a branch on one side has its whole amplitude there.
        expect($sound->left[$at])->toEqualWithDelta(0.25 * $low->gain($at / SELECTED, $fade), 2e-4)->and($sound->right[$at])->toEqualWithDelta(0.25 * $high->gain($at / SELECTED, $fade), 2e-4);
    }
    foreach ([64, 480, 4096] as $blockSize) {
        expect(Mix::difference(Mix::render($session, selectedSound(), $blockSize), $sound))->toBe(0.0);
    }
})->with(SelectorFade::cases());

it('goes from one branch to the next without a click when it is turned by hand', function (): void {
    $engine = Mix::engine(selected(halves(), new Selector(0.2)), selectedSound());
    $engine->start(0, 0);
    Mix::take($engine, 4800);
    $engine->change(selected(halves(), new Selector(0.9)));
    $moved = Mix::take($engine, 9600);
    $steps = array_map(static fn (float $one, float $two): float => abs($two - $one), $moved->left, [...array_slice($moved->left, 1), $moved->left[9599]]);
    expect($moved->left[0])->toEqualWithDelta(0.25, 1e-2)->and($moved->left[9599])->toBe(0.0)->and($moved->right[9599])->toBe(0.25)->and(max($steps))->toBeLessThan(0.001);
});

it('lets what a branch holds ring out, or cuts it', function (bool $rings): void {
    $echo = Mix::insert('i1', 'echo', ['unit' => 'ms', 'time' => 100.0, 'feedback' => 80.0]);
    $branches = [new Branch('b1', 'Echo', inserts: [$echo], range: new SelectorRange(0.0, 0.5)), new Branch('b2', 'None', null, range: new SelectorRange(0.5, 1.0))];
    $sound = Mix::render(selected($branches, new Selector(rings: $rings), [[0, 0.0], [12000, 0.0], [12001, 1.0]]), new MemoryLibrary(['one' => [Signal::sine(1000.0, SELECTED, 0.25)]]));
    $later = max(array_map(abs(...), array_slice($sound->left, 15000)));
    expect(max(array_map(abs(...), array_slice($sound->left, 0, 12000))))->toBeGreaterThan(0.1)
        ->and($rings ? $later > 0.05 : $later === 0.0)->toBeTrue();
})->with([true, false]);

it('costs nothing for branches that are out of range, once their tails are over or cut', function (bool $rings): void {
    $dear = static fn (int $from): array => array_map(static fn (int $i): Hafen\Session\Insert\ProcessorInsert => Mix::insert("i{$i}", 'drive'), range($from, $from + 3));
    $branches = [new Branch('b1', 'Here', range: new SelectorRange(0.0, 0.5)), new Branch('b2', 'There', inserts: $dear(1), range: new SelectorRange(0.5, 1.0))];
    $spent = static function (float $place) use ($branches, $rings): array {
        $engine = Mix::engine(selected($branches, new Selector($place, rings: $rings)), selectedSound());
        $engine->start(0, 0);
        Mix::take($engine, 24000);
        $runners = $engine->plan()->strip('one')->runners();
        foreach ($runners as $runner) {
            $runner->takeNanoseconds();
        }
        Mix::take($engine, 12000);

        return array_map(static fn (int $i): int => $runners["insert:i{$i}"]->takeNanoseconds(), range(1, 4));
    };
    expect($spent(0.2))->toBe([0, 0, 0, 0])->and(min($spent(0.8)))->toBeGreaterThan(0);
})->with([true, false]);

it('lines up a branch it opens with the others, whatever they delay', function (): void {
    $branches = [
        new Branch('b1', 'Late', inserts: [Mix::insert('i1', 'limiter', ['look-ahead' => '5ms', 'ceiling' => 0.0])], range: new SelectorRange(0.0, 0.5, 0.1, 0.1)),
        new Branch('b2', 'Soon', range: new SelectorRange(0.5, 1.0, 0.1, 0.1)),
    ];
    $library = new MemoryLibrary(['one' => [Signal::sine(440.0, SELECTED, 0.25)]]);
    $low = Mix::render(selected($branches, new Selector(0.0)), $library);
    $high = Mix::render(selected($branches, new Selector(1.0)), $library);
    expect(Mix::difference($low, $high))->toBeLessThan(1e-6);
});

it('costs nothing after its tail was cut while it plays, and sounds again as it did when it is opened', function (): void {
    $echo = Mix::insert('i1', 'echo', ['unit' => 'ms', 'time' => 50.0, 'feedback' => 90.0]);
    $branches = [new Branch('b1', 'Echo', inserts: [$echo], range: new SelectorRange(0.0, 0.5)), new Branch('b2', 'None', null, range: new SelectorRange(0.5, 1.0))];
    $library = new MemoryLibrary(['one' => [Signal::sine(1000.0, SELECTED, 0.25)]]);
    $engine = Mix::engine(selected($branches, new Selector(0.2, rings: false)), $library);
    $engine->start(0, 0);
    Mix::take($engine, 9600);
    $engine->change(selected($branches, new Selector(0.8, rings: false)));
    Mix::take($engine, 9600);
    $runner = $engine->plan()->strip('one')->runners()['insert:i1'];
    $runner->takeNanoseconds();
    expect(Signal::peak(Mix::take($engine, 9600)->left))->toBe(0.0)->and($runner->takeNanoseconds())->toBe(0);
    $engine->change(selected($branches, new Selector(0.2, rings: false)));
    // The echo of what was cut does not come back: for its first 50 ms there is nothing but what comes in, faded in.
    $again = Mix::take($engine, 4800)->left;
    expect(Signal::peak(array_slice($again, 0, 2300)))->toBeLessThan(1e-6)->and(Signal::peak(array_slice($again, 3600)))->toBeGreaterThan(0.05);
});
