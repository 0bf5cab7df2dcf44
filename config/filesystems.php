<?php

declare(strict_types=1);

return [
    'default' => 'local',
    'disks' => [
        'local' => ['driver' => 'local', 'root' => storage_path('app'), 'throw' => false],

        // Files that machines share which do not share the data folder, see docs/scaling.md. An S3-like one needs league/flysystem-aws-s3-v3.
        'shared' => [
            'driver' => env('HAFEN_SHARED_DRIVER', 'local'),
            'root' => env('HAFEN_SHARED_ROOT', storage_path('shared')),
            'key' => env('HAFEN_SHARED_KEY'),
            'secret' => env('HAFEN_SHARED_SECRET'),
            'region' => env('HAFEN_SHARED_REGION'),
            'bucket' => env('HAFEN_SHARED_BUCKET'),
            'endpoint' => env('HAFEN_SHARED_ENDPOINT'),
            'use_path_style_endpoint' => true,
            'throw' => false,
        ],
    ],
];
