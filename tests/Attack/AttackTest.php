<?php

declare(strict_types=1);

use Illuminate\Foundation\Testing\RefreshDatabase;
use Tests\Attack\Attack;
use Tests\Attack\Outcome;
use Tests\TestCase;

pest()->extend(TestCase::class)->use(RefreshDatabase::class);

// The short form of bin/attack.
it('loses nothing, leaves nothing stuck, gets nothing wrong and never breaks under a short attack', function (): void {
    $broken = [];
    Attack::run(['edits' => 1500, 'files' => 250, 'requests' => 400, 'clients' => 80, 'kills' => 9, 'disk' => true], function (Outcome $outcome) use (&$broken): void {
        fwrite(STDERR, "  {$outcome->row()}\n");
        expect($outcome->tried)->toBeGreaterThan(5);
        array_push($broken, ...array_map(fn (string $example): string => "{$outcome->name}: {$example}", $outcome->examples));
    });
    expect($broken)->toBe([]);
});
