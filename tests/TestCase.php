<?php

declare(strict_types=1);

namespace Tests;

use App\Media\MediaFolder;
use Illuminate\Foundation\Testing\TestCase as BaseTestCase;

abstract class TestCase extends BaseTestCase
{
    protected string $data;

    protected function setUp(): void
    {
        parent::setUp();
        $this->data = sys_get_temp_dir().'/hafen-test-'.bin2hex(random_bytes(6));
        mkdir($this->data);
        $this->app->instance(MediaFolder::class, new MediaFolder($this->data));
    }

    protected function tearDown(): void
    {
        exec('rm -rf '.escapeshellarg($this->data));
        parent::tearDown();
    }
}
