<?php

declare(strict_types=1);

use Illuminate\Routing\Route as OneRoute;
use Illuminate\Support\Facades\Route;
use Tests\Support\Demo;

/** Bodies no client of ours sends. @return array<string, string> */
function nastyBodies(): array
{
    return [
        'nothing' => '',
        'null' => 'null',
        'a number' => '17',
        'text' => '"hello"',
        'a list' => '[1, [2, {"a": 3}]]',
        'an empty object' => '{}',
        'half an object' => '{"base": 1, "edit": {"type"',
        'no UTF-8' => "{\"name\": \"\xC3\x28\"}",
        'very deep' => str_repeat('[', 600).str_repeat(']', 600),
        'a huge number' => '{"base": 1e400, "from": 99999999999999999999, "id": -1}',
        'wrong types' => '{"base": "one", "edit": 7, "name": {}, "plans": "all", "tap": 3, "loop": [], "note": [], "folder": 1, "processor": {}, "in": 2, "presets": 1, "parameters": [1], "split": 5, "inserts": {}, "left": "yes"}',
        'what is not there' => '{"base": 1, "edit": {"type": "set-fader", "channels": ["nobody"], "gain": -3}}',
        'an edit that is none' => '{"base": 1, "edit": {"type": "launch"}}',
        'control characters' => '{"name": "a\u0000b", "use": "\u202e"}',
    ];
}

/** Every way in that takes a body. @return array<string, array{string, string}> */
function waysIn(): array
{
    $ways = [];
    foreach (Route::getRoutes()->getRoutes() as $route) {
        assert($route instanceof OneRoute);
        foreach (array_intersect(['POST', 'PUT', 'PATCH'], $route->methods()) as $method) {
            if (str_starts_with($route->uri(), 'api/')) {
                $ways["{$method} {$route->uri()}"] = [$method, $route->uri()];
            }
        }
    }

    return $ways;
}

it('answers whatever it is sent with what is wrong with it, and never breaks', function (): void {
    $session = Demo::session();
    $document = $session->document;
    $ways = waysIn();
    expect(count($ways))->toBeGreaterThan(15);
    $listening = $this->postJson("/api/sessions/{$session->id}/listenings", [])->json('id');
    foreach ($ways as $way => [$method, $uri]) {
        $path = str_replace(
            ['{session}', '{revision}', '{listening}', '{processor}', '{media}', '{render}', '{upload}', '{preset}'],
            [(string) $session->id, '999', (string) $listening, 'drive', 'nothing', '999', 'nothing', '999'],
            $uri,
        );
        foreach (nastyBodies() as $what => $body) {
            $answer = $this->call($method, "/{$path}", server: ['CONTENT_TYPE' => 'application/json', 'HTTP_ACCEPT' => 'application/json'], content: $body);
            expect($answer->getStatusCode())->toBeLessThan(500, "{$way} with {$what}: ".substr((string) $answer->getContent(), 0, 300));
            if ($answer->getStatusCode() === 422) {
                expect($answer->json('message'))->toBeString("{$way} with {$what}")->not->toBe('');
            }
        }
    }
    // And nothing was lost on the way.
    expect($session->refresh()->document)->toBe($document);
});

it('answers for what is not there with a 404, by every way', function (): void {
    foreach (Route::getRoutes()->getRoutes() as $route) {
        assert($route instanceof OneRoute);
        if (! str_starts_with($route->uri(), 'api/') || ! str_contains($route->uri(), '{')) {
            continue;
        }
        $path = preg_replace('/\{[a-z]+\}/', '4711', $route->uri());
        foreach (array_diff($route->methods(), ['HEAD']) as $method) {
            $answer = $this->call($method, "/{$path}", server: ['CONTENT_TYPE' => 'application/json', 'HTTP_ACCEPT' => 'application/json'], content: '{}');
            expect($answer->getStatusCode())->toBe(404, "{$method} {$route->uri()}");
        }
    }
});
