<?php

declare(strict_types=1);

namespace Tests;

use App\Http\Middleware\OnlyThisMachine;
use App\Media\DiskRoom;
use App\Media\MediaFolder;
use Hafen\Survey\FolderStore;
use Hafen\Survey\SurveyStore;
use Illuminate\Foundation\Testing\TestCase as BaseTestCase;

abstract class TestCase extends BaseTestCase
{
    protected string $data;

    protected function setUp(): void
    {
        parent::setUp();
        // What the setting up ran on the console switched asynchronous signals on.
        pcntl_async_signals(false);
        $this->withServerVariables(['HTTP_'.str_replace('-', '_', strtoupper(OnlyThisMachine::HEADER)) => '1']);
        $this->data = sys_get_temp_dir().'/hafen-test-'.bin2hex(random_bytes(6));
        mkdir($this->data);
        // All of its own, so that tests may run beside each other.
        config(['hafen.data' => $this->data]);
        $this->app->instance(MediaFolder::class, new MediaFolder($this->data));
        $this->app->instance(DiskRoom::class, new DiskRoom($this->data, 0));
        $this->app->instance(SurveyStore::class, new FolderStore($this->data.'/surveys'));
    }

    protected function tearDown(): void
    {
        exec('rm -rf '.escapeshellarg($this->data));
        parent::tearDown();
    }
}
