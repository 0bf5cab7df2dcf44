<?php

declare(strict_types=1);

return [
    'default' => env('QUEUE_CONNECTION', 'database'),
    'connections' => [
        'sync' => ['driver' => 'sync'],
        'database' => [
            'driver' => 'database',
            'table' => 'jobs',
            'queue' => 'default',
            // A render may take hours; a lost worker is noticed by its heartbeat, not by this.
            'retry_after' => 86400,
            'after_commit' => true,
        ],
        // For workers on several machines, see docs/scaling.md.
        'redis' => ['driver' => 'redis', 'connection' => 'default', 'queue' => 'default', 'retry_after' => 86400, 'block_for' => null, 'after_commit' => true],
    ],
    'failed' => ['driver' => env('QUEUE_FAILED_DRIVER', 'database-uuids'), 'database' => 'sqlite', 'table' => 'failed_jobs'],
];
