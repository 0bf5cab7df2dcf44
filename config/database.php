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
    'migrations' => ['table' => 'migrations', 'update_date_on_publish' => false],
];
