<?php

declare(strict_types=1);

beforeEach(function (): void {
    foreach (['plain', 'disturbed'] as $name) {
        mkdir("{$this->data}/{$name}");
        touch("{$this->data}/{$name}/hafen.sqlite");
    }
});

it('renders, measures and predicts the same to the bit under 2,000 signals', function (): void {
    tasks("{$this->data}/plain", 'make');
    work("{$this->data}/plain", static fn (): bool => false);
    $plain = tasks("{$this->data}/plain", 'state');
    expect($plain['render'])->toBe('done')->and(array_column($plain['surveys'], 0))->toBe(['done', 'done'])->and(array_column($plain['plans'], 0))->toBe(['done']);
    $sent = 0;
    for ($round = 0; $sent < 2000 && $round < 8; ++$round) {
        $folder = "{$this->data}/signals-{$round}";
        mkdir($folder);
        touch("{$folder}/hafen.sqlite");
        tasks($folder, 'make');
        $begun = microtime(true);
        // The worker needs a moment until it handles signals; one that it does not handle yet does no harm either.
        work($folder, static function (int $pid) use (&$sent, $begun): bool {
            if (microtime(true) - $begun > 0.5) {
                posix_kill($pid, SIGCONT);
                ++$sent;
            }
            usleep(400);

            return true;
        });
        expect(tasks($folder, 'state'))->toEqual($plain);
    }
    expect($sent)->toBeGreaterThanOrEqual(2000);
});

it('gives back what it has when it is told to leave, and another ends it right', function (): void {
    tasks("{$this->data}/plain", 'make');
    work("{$this->data}/plain", static fn (): bool => false);
    $plain = tasks("{$this->data}/plain", 'state');
    $folder = "{$this->data}/disturbed";
    tasks($folder, 'make');
    $interrupted = 0;
    for ($turn = 0; $turn < 25; ++$turn) {
        // Told ever later, so that it is told at work of every kind, and in the end not at all.
        $until = microtime(true) + 0.25 * 1.4 ** $turn;
        $told = false;
        work($folder, static function (int $pid) use ($until, &$told): bool {
            if (! $told && microtime(true) > $until) {
                posix_kill($pid, SIGTERM);
                $told = true;
            }
            usleep(3000);

            return true;
        });
        $state = tasks($folder, 'state');
        expect($state['parts'])->toBe([])->and($state['render'])->toBeIn(['waiting', 'done']);
        $interrupted += $told ? 1 : 0;
        if (! $told) {
            break;
        }
    }
    expect($interrupted)->toBeGreaterThan(2)->and(tasks($folder, 'state'))->toEqual($plain);
});
