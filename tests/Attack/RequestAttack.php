<?php

declare(strict_types=1);

namespace Tests\Attack;

use Illuminate\Routing\Route as OneRoute;
use Illuminate\Support\Facades\Route;

/** Requests no client of ours sends, to every way in, by several processes at once. */
final class RequestAttack
{
    private const PROCESSES = 4;

    public static function run(int $requests, Http $http, int $session): Outcome
    {
        $outcome = new Outcome('HTTP requests');
        [$status, $before] = $http->json('GET', "sessions/{$session}");
        $share = intdiv($requests, self::PROCESSES);
        $found = Parallel::run(self::PROCESSES, static function (int $process) use ($share, $http, $session): array {
            mt_srand(1000 + $process);
            $faults = [];
            $answers = [];
            for ($i = 0; $i < $share; ++$i) {
                [$method, $path, $body, $headers] = self::next($session);
                [$status, $answer] = $http->send($method, $path, $body, $headers, 60);
                $answers[$status] = ($answers[$status] ?? 0) + 1;
                if ($status === 0 || ($status >= 500 && ! in_array($status, [503, 507], true))) {
                    $faults[] = "{$method} {$path} ".mb_strimwidth($body, 0, 120, '…')." -> {$status} ".mb_strimwidth($answer, 0, 200, '…');
                }
            }

            return [$faults, $answers];
        });
        foreach ($found as [$faults, $answers]) {
            foreach ($faults as $fault) {
                $outcome->broke(str_contains($fault, '-> 0') ? 'stuck' : 'faults', $fault);
            }
            foreach ($answers as $status => $count) {
                $outcome->tried($count);
                $outcome->note("answered {$status}", $count);
            }
        }
        ksort($outcome->notes);
        [$status] = $http->json('GET', "sessions/{$session}");
        if ($status !== 200) {
            $outcome->broke('lost', "session {$session} no longer opens");
        }

        return $outcome;
    }

    /** @return array{string, string, string, list<string>} method, path, body, headers */
    private static function next(int $session): array
    {
        /** @var list<OneRoute> $routes */
        $routes = array_values(array_filter(Route::getRoutes()->getRoutes(), static fn (OneRoute $route): bool => str_starts_with($route->uri(), 'api/') && ! str_contains($route->uri(), 'stream')));
        $route = $routes[array_rand($routes)];
        $method = $route->methods()[0];
        // What removes is aimed past what the attack works on.
        $isRemoval = $method === 'DELETE' || str_ends_with($route->uri(), '/discard');
        $ids = [$isRemoval ? '4711' : (string) $session, '0', '-1', '99999999999999999999', '1e9', 'x', '%00', '..%2F..', str_repeat('9', 300), '%F0%9F%8E%BB', '00000000-0000-0000-0000-000000000000', 'null', "1' or '1'='1"];
        $path = '/'.preg_replace_callback('/\{[a-z]+\}/', static fn (): string => mt_rand(0, 1) === 0 ? $ids[0] : rawurlencode($ids[array_rand($ids)]), $route->uri());
        $values = ['1', '-1', '99999999999999999999', '1e99', 'NaN', '', '%FF', '[]', '48000'];
        if (mt_rand(0, 2) === 0) {
            $path .= '?'.['from', 'to', 'at', 'sampleRate', 'offset', 'processor', 'from[]'][mt_rand(0, 6)].'='.$values[array_rand($values)];
        }
        $fields = ['base', 'edit', 'name', 'bytes', 'sampleRate', 'from', 'to', 'format', 'tail', 'tap', 'loop', 'compare', 'sweep', 'watch', 'side', 'aim', 'plans', 'folder', 'processor', 'in', 'parameters', 'inserts', 'split', 'advice', 'dismissed', 'tempo', 'presets', 'rows', 'again', 'clip'];
        $any = static function (int $depth) use (&$any): mixed {
            return match (mt_rand(0, $depth > 2 ? 8 : 10)) {
                0 => null,
                1 => mt_rand(-5, 50000),
                2 => 1 << 62,
                3 => mt_rand() / 1e5,
                4 => ['24', '32f', 'peak', 'drive', 'main:post-fader', 'cello', '808'][mt_rand(0, 6)],
                5 => str_repeat('🎻', mt_rand(1, 400)),
                6 => true,
                7 => "a\u{0}b\u{202e}",
                8 => -0.0,
                9 => array_map(static fn () => $any($depth + 1), range(1, mt_rand(1, 4))),
                default => (object) ['type' => ['set-fader', 'several', 'add-insert', 'split'][mt_rand(0, 3)], 'channels' => $any($depth + 1), 'gain' => $any($depth + 1)],
            };
        };
        $body = new \stdClass;
        foreach ((array) array_rand($fields, mt_rand(1, 5)) as $field) {
            $body->{$fields[$field]} = $any(0);
        }
        $text = match (mt_rand(0, 9)) {
            0 => '',
            1 => random_bytes(mt_rand(1, 300)),
            2 => str_repeat('[', 3000),
            3 => '{"base":'.str_repeat('9', 400).'}',
            default => (string) json_encode($body, JSON_PARTIAL_OUTPUT_ON_ERROR),
        };

        return [$method, $path, $method === 'GET' ? '' : $text, mt_rand(0, 9) === 0 ? ['Content-Type: text/plain', 'Accept: */*'] : []];
    }
}
