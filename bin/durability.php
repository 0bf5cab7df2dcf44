<?php

declare(strict_types=1);

// How long it takes to write a little through to the disk: durability.php FOLDER prints "FULL 0.8" where an edit can wait for it (below
// 5 ms), "NORMAL 12.3" where not; in milliseconds, the middle of 15 tries.

$path = ($argv[1] ?? sys_get_temp_dir()).'/durability-'.getmypid();
$file = @fopen($path, 'wb');
if ($file === false) {
    exit(1);
}
$times = [];
for ($i = 0; $i < 15; ++$i) {
    $start = hrtime(true);
    fwrite($file, str_repeat('x', 8192));
    fsync($file);
    $times[] = (hrtime(true) - $start) / 1e6;
}
fclose($file);
unlink($path);
sort($times);
printf("%s %.1f\n", $times[7] < 5.0 ? 'FULL' : 'NORMAL', $times[7]);
