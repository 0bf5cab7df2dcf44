<?php

declare(strict_types=1);

// See bin/attack. Exits with 1 where anything was lost, stuck, wrong or a fault.

use Illuminate\Contracts\Console\Kernel;
use Tests\Attack\Attack;
use Tests\Attack\Outcome;

require __DIR__.'/../vendor/autoload.php';

$own = sys_get_temp_dir().'/hafen-attack-own-'.bin2hex(random_bytes(4));
mkdir($own);
register_shutdown_function(static fn () => exec('rm -rf '.escapeshellarg($own)));
touch("{$own}/hafen.sqlite");
foreach (['APP_ENV' => 'testing', 'HAFEN_DATA' => $own, 'HAFEN_DATABASE' => "{$own}/hafen.sqlite", 'QUEUE_CONNECTION' => 'sync', 'CACHE_STORE' => 'array', 'HAFEN_SYNCHRONOUS' => 'OFF'] as $name => $value) {
    putenv("{$name}={$value}");
    $_ENV[$name] = $_SERVER[$name] = $value;
}
$app = require __DIR__.'/../bootstrap/app.php';
$app->make(Kernel::class)->bootstrap();
Illuminate\Support\Facades\Artisan::call('migrate', ['--force' => true]);
pcntl_async_signals(false);

$short = in_array('--short', $argv, true);
$counts = $short
    ? ['edits' => 2000, 'files' => 300, 'requests' => 600, 'clients' => 100, 'kills' => 12, 'disk' => true]
    : ['edits' => 100_000, 'files' => 5000, 'requests' => 10_000, 'clients' => 1000, 'kills' => 200, 'disk' => true];
// --kills=N and so on: another number for one kind; 0 leaves it out.
foreach ($argv as $word) {
    if (preg_match('/^--(edits|files|requests|clients|kills|disk)=(\d+)$/D', $word, $found) === 1) {
        $counts[$found[1]] = $found[1] === 'disk' ? $found[2] !== '0' : (int) $found[2];
    }
}
$started = microtime(true);
$head = "| attack | tried | lost | stuck | wrong | faults | of these |\n|---|---|---|---|---|---|---|";
echo $head, "\n";
$outcomes = Attack::run($counts, static function (Outcome $outcome): void {
    echo $outcome->row(), "\n";
    foreach ($outcome->examples as $example) {
        echo "    {$example}\n";
    }
});
printf("%d s\n", microtime(true) - $started);
if (in_array('--write', $argv, true)) {
    $path = __DIR__.'/../docs/reliability.md';
    $table = $head."\n".implode("\n", array_map(static fn (Outcome $outcome): string => $outcome->row(), $outcomes));
    $text = (string) file_get_contents($path);
    file_put_contents($path, preg_replace('/(<!-- table -->\n).*(\n<!-- end of table -->)/s', '$1'.addcslashes($table, '\\\\$').'$2', $text));
}
exit(array_filter($outcomes, static fn (Outcome $outcome): bool => ! $outcome->isClean()) === [] ? 0 : 1);
