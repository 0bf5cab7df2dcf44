<?php

declare(strict_types=1);

namespace Tests\Attack;

use Tests\Support\Application;

/** All kinds of attack on one running Hafen, on this machine only, bounded in number. */
final class Attack
{
    /**
     * @param  array{edits: int, files: int, requests: int, clients: int, kills: int, disk: bool}  $counts
     * @param  callable(Outcome): void  $tell
     * @return list<Outcome>
     */
    public static function run(array $counts, callable $tell): array
    {
        mt_srand(20261126);
        $outcomes = [];
        $done = static function (Outcome $outcome) use (&$outcomes, $tell): void {
            $outcomes[] = $outcome;
            $tell($outcome);
        };
        if ($counts['edits'] > 0) {
            $done(EditAttack::run($counts['edits']));
        }
        $folder = sys_get_temp_dir().'/hafen-attack-'.bin2hex(random_bytes(4));
        mkdir($folder);
        try {
            if ($counts['files'] > 0) {
                $done(FileAttack::run($counts['files'], $folder));
            }
        } finally {
            exec('rm -rf '.escapeshellarg($folder));
        }
        $data = sys_get_temp_dir().'/hafen-attack-'.bin2hex(random_bytes(4));
        mkdir($data);
        $application = Application::on($data);
        try {
            $http = new Http($application->url(''));
            [$edited, $rendered] = [self::small($http, 'Edited'), self::small($http, 'Rendered')];
            if ($counts['clients'] > 0) {
                $done(ClientAttack::run($counts['clients'], $http, $edited, ['a', 'b', 'c', 'd', 'e']));
            }
            if ($counts['requests'] > 0) {
                $done(RequestAttack::run($counts['requests'], $http, self::small($http, 'Fuzzed')));
            }
            $done(KillAttack::run($counts['kills'], $http, new Processes($data, $application->port), $data, $edited, 'a', $rendered));
        } finally {
            $application->stop();
        }
        if ($counts['disk']) {
            $done(DiskAttack::run());
        }

        return $outcomes;
    }

    /** Five tracks of the demo, a few seconds long, so that there is something to hear and little to wait for. */
    private static function small(Http $http, string $name): int
    {
        $demo = array_column($http->json('GET', 'sessions/1')[1]['document']['channels'], null, 'id');
        $state = $http->json('POST', 'sessions', ['name' => $name])[1];
        foreach (['a' => 'bass', 'b' => 'cello', 'c' => 'drum', 'd' => 'choir', 'e' => 'shaker'] as $id => $track) {
            $clip = $demo[$track]['source']['clips'][0];
            $state = $http->json('POST', "sessions/{$state['id']}/edits", ['base' => $state['change'], 'edit' => [
                'type' => 'add-channel', 'name' => $id, 'file' => ['file' => $clip['file'], 'length' => 192_000, 'width' => $demo[$track]['width']],
            ]])[1];
            $state = $http->json('POST', "sessions/{$state['id']}/edits", ['base' => $state['change'], 'edit' => ['type' => 'add-insert', 'channels' => [$id], 'processor' => $id === 'a' ? 'plate' : 'compressor']])[1];
        }

        return $state['id'];
    }
}
