<?php

declare(strict_types=1);

// For PHP's own web server: files that are there are served as they are, everything else is the application's.
$path = urldecode((string) parse_url((string) $_SERVER['REQUEST_URI'], PHP_URL_PATH));
if ($path !== '/' && is_file(__DIR__.'/../public'.$path) && ! str_ends_with($path, '.php')) {
    return false;
}
$_SERVER['SCRIPT_FILENAME'] = realpath(__DIR__.'/../public/index.php');
$_SERVER['SCRIPT_NAME'] = '/index.php';

require __DIR__.'/../public/index.php';
