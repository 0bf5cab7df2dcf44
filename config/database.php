<?php

declare(strict_types=1);

return [
    'default' => 'sqlite',
    'connections' => [
        'sqlite' => [
            'driver' => 'sqlite',
            'database' => env('HAFEN_DATABASE', env('HAFEN_DATA', storage_path('app')).'/hafen.sqlite'),
            'prefix' => '',
            'foreign_key_constraints' => true,
            'busy_timeout' => 8000,
            'journal_mode' => 'WAL',
            // FULL: on the disk before it is answered. bin/demo chooses it where that costs less than 5 ms.
            'synchronous' => env('HAFEN_SYNCHRONOUS', 'NORMAL'),
            'transaction_mode' => 'IMMEDIATE',
        ],
    ],
    'redis' => [
        'client' => 'predis',
        'options' => ['prefix' => env('REDIS_PREFIX', '')],
        'default' => [
            'url' => env('REDIS_URL'),
            'host' => env('REDIS_HOST', '127.0.0.1'),
            'username' => env('REDIS_USERNAME'),
            'password' => env('REDIS_PASSWORD'),
            'port' => env('REDIS_PORT', '6379'),
            'database' => env('REDIS_DB', '0'),
            // An edit must not wait for a Redis that is away.
            'timeout' => 2.0,
            'read_write_timeout' => 20,
        ],
    ],
    'migrations' => ['table' => 'migrations', 'update_date_on_publish' => false],
];
