<?php

declare(strict_types=1);

use Illuminate\Foundation\Testing\RefreshDatabase;
use Tests\TestCase;

pest()->extend(TestCase::class)->use(RefreshDatabase::class)->in('Feature');

require_once __DIR__.'/Support/browser.php';
require_once __DIR__.'/Support/edit.php';
require_once __DIR__.'/Support/worker.php';

// The console that runs the tests takes signals at any time; sample loops refuse to run so.
pest()->beforeEach(function (): void {
    pcntl_async_signals(false);
})->in(dirname(__DIR__).'/core/tests', __DIR__);
