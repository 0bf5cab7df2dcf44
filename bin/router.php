<?php

declare(strict_types=1);

// For PHP's own web server: files of public/ are served as they are, everything else is the application's.
$public = (string) realpath(__DIR__.'/../public');
$file = realpath($public.urldecode((string) parse_url((string) $_SERVER['REQUEST_URI'], PHP_URL_PATH)));
// Never anything outside of it, whatever the path says.
if ($file !== false && str_starts_with($file, $public.DIRECTORY_SEPARATOR) && is_file($file) && ! str_ends_with($file, '.php')) {
    return false;
}
$_SERVER['SCRIPT_FILENAME'] = $public.'/index.php';
$_SERVER['SCRIPT_NAME'] = '/index.php';

require $public.'/index.php';
