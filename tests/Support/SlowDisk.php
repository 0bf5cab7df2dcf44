<?php

declare(strict_types=1);

namespace Tests\Support;

use League\Flysystem\Config;
use League\Flysystem\Local\LocalFilesystemAdapter;

/** A shared disk that is far: whatever is asked of it takes its time. */
final class SlowDisk extends LocalFilesystemAdapter
{
    private const MICROSECONDS = 150_000;

    public function fileExists(string $location): bool
    {
        usleep(self::MICROSECONDS);

        return parent::fileExists($location);
    }

    public function readStream(string $path)
    {
        usleep(4 * self::MICROSECONDS);

        return parent::readStream($path);
    }

    public function writeStream(string $path, $contents, Config $config): void
    {
        usleep(4 * self::MICROSECONDS);
        parent::writeStream($path, $contents, $config);
    }

    public function move(string $source, string $destination, Config $config): void
    {
        usleep(self::MICROSECONDS);
        parent::move($source, $destination, $config);
    }
}
