<?php

declare(strict_types=1);

// Artisan with a shared disk that is far.

use Illuminate\Contracts\Foundation\Application;
use Illuminate\Filesystem\FilesystemAdapter;
use Illuminate\Filesystem\FilesystemManager;
use League\Flysystem\Filesystem;
use Symfony\Component\Console\Input\ArgvInput;
use Tests\Support\SlowDisk;

require __DIR__.'/../../vendor/autoload.php';

$app = require __DIR__.'/../../bootstrap/app.php';
$app->booted(static function (Application $app): void {
    $app->make(FilesystemManager::class)->extend('slow', static function (Application $app, array $config): FilesystemAdapter {
        $disk = new SlowDisk($config['root']);

        return new FilesystemAdapter(new Filesystem($disk), $disk, $config);
    });
    config(['filesystems.disks.shared.driver' => 'slow']);
});

exit($app->handleCommand(new ArgvInput));
