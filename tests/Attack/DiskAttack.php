<?php

declare(strict_types=1);

namespace Tests\Attack;

use RuntimeException;
use Tests\Support\Application;

/** A small disk that fills up while Hafen works on it, until nothing at all is free; and is emptied again. */
final class DiskAttack
{
    private const MEGABYTES = 420;

    private const RESERVE = 48 << 20;

    public static function run(): Outcome
    {
        $outcome = new Outcome('a full disk');
        $folder = sys_get_temp_dir().'/hafen-disk-'.bin2hex(random_bytes(4));
        mkdir($folder);
        exec('mount -t tmpfs -o size='.self::MEGABYTES.'m tmpfs '.escapeshellarg($folder).' 2>&1', $said, $status);
        if ($status !== 0) {
            rmdir($folder);
            throw new RuntimeException('A small disk could not be mounted for the attack: '.implode(' ', $said));
        }
        try {
            $application = Application::on($folder, ['HAFEN_RESERVE_BYTES' => (string) self::RESERVE]);
            try {
                self::fill(new Http($application->url('')), $folder, $outcome);
            } finally {
                $application->stop();
            }
        } finally {
            exec('umount -l '.escapeshellarg($folder));
            @rmdir($folder);
        }

        return $outcome;
    }

    private static function fill(Http $http, string $folder, Outcome $outcome): void
    {
        $change = $http->json('GET', 'sessions/1')[1]['change'];
        $acknowledged = null;
        $edit = static function () use ($http, &$change, &$acknowledged, $outcome): int {
            $gain = -mt_rand(1, 500) / 10;
            [$status, $answer] = $http->json('POST', 'sessions/1/edits', ['base' => $change, 'edit' => ['type' => 'set-fader', 'channels' => ['cello'], 'gain' => $gain]]);
            $outcome->tried();
            if ($status === 200) {
                [$change, $acknowledged] = [$answer['change'], $gain];
            } elseif ($status !== 507) {
                $outcome->broke('faults', "an edit answered {$status}: ".json_encode($answer));
            }

            return $status;
        };
        // Down to the reserve: what is large is refused and says so, edits go on.
        self::leave($folder, self::RESERVE);
        foreach ([['uploads', ['name' => 'Long.wav', 'bytes' => 90_000_000]], ['sessions/1/renders', ['format' => '32f', 'tail' => 600]]] as [$path, $body]) {
            [$status, $answer] = $http->json('POST', $path, $body);
            $outcome->tried();
            $outcome->note("refused with {$status}");
            if ($status !== 507 || ! str_contains((string) ($answer['message'] ?? ''), 'disk')) {
                $outcome->broke('wrong', "{$path} answered {$status} with the disk at its reserve");
            }
        }
        $http->json('POST', 'sessions/1/survey', (object) []);
        for ($i = 0; $i < 100; ++$i) {
            if ($edit() !== 200) {
                $outcome->broke('lost', 'an edit was refused with the reserve still free');
            }
        }
        // Nothing at all free.
        self::leave($folder, 0);
        for ($i = 0; $i < 40; ++$i) {
            $outcome->note($edit() === 200 ? 'edits stored on a full disk' : 'edits refused on a full disk');
        }
        [$status] = $http->json('GET', 'sessions/1');
        if ($status !== 200) {
            $outcome->broke('lost', "the session answered {$status} on a full disk");
        }
        // Room again: everything goes on, with all that was acknowledged.
        @unlink("{$folder}/filler");
        sleep(2);
        $change = $http->json('GET', 'sessions/1')[1]['change'];
        $fader = array_column($http->json('GET', 'sessions/1')[1]['document']['channels'], 'fader', 'id')['cello'];
        if ($acknowledged !== null && abs($fader - $acknowledged) > 1e-9) {
            $outcome->broke('lost', "the fader is at {$fader}, {$acknowledged} was acknowledged");
        }
        if ($edit() !== 200) {
            $outcome->broke('stuck', 'no edit is stored although there is room again');
        }
        $http->json('DELETE', 'storage/captured');
        [$status, $render] = $http->json('POST', 'sessions/1/renders', ['format' => '24', 'clip' => true, 'to' => 480_000]);
        for ($end = microtime(true) + 120; microtime(true) < $end && ! in_array($render['status'] ?? '', ['done', 'failed'], true); usleep(300_000)) {
            $render = $http->json('GET', 'renders/'.($render['id'] ?? ''))[1];
        }
        if (($render['status'] ?? '') !== 'done') {
            $outcome->broke('stuck', 'a render is not made although there is room again: '.json_encode($render));
        }
    }

    /** Fills the disk until so many bytes are free. */
    private static function leave(string $folder, int $bytes): void
    {
        $filler = fopen("{$folder}/filler", 'ab');
        assert($filler !== false);
        for ($i = 0; $i < 100_000; ++$i) {
            $more = (int) disk_free_space($folder) - $bytes;
            if ($more <= 0 || @fwrite($filler, str_repeat("\0", max(1, min($more, 1 << 20)))) === false) {
                break;
            }
            fflush($filler);
        }
        fclose($filler);
    }
}
