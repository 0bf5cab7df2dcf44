<?php

declare(strict_types=1);

namespace Tests\Attack;

/** Requests to a Hafen on this machine, as a program sends them. */
final readonly class Http
{
    public function __construct(private string $base)
    {
    }

    /**
     * @param  list<string>  $headers
     * @return array{int, string} status and body; status 0 where there was no answer
     */
    public function send(string $method, string $path, string $body = '', array $headers = [], int $seconds = 30): array
    {
        $curl = curl_init($this->base.$path);
        curl_setopt_array($curl, [
            CURLOPT_CUSTOMREQUEST => $method,
            CURLOPT_RETURNTRANSFER => true,
            CURLOPT_TIMEOUT => $seconds,
            CURLOPT_HTTPHEADER => ['X-Hafen: 1', 'Content-Type: application/json', 'Accept: application/json', 'Expect:', ...$headers],
            CURLOPT_PATH_AS_IS => true,
        ]);
        if ($body !== '' || $method !== 'GET') {
            curl_setopt($curl, CURLOPT_POSTFIELDS, $body);
        }
        $answer = curl_exec($curl);
        $status = curl_getinfo($curl, CURLINFO_RESPONSE_CODE);
        curl_close($curl);

        return [is_string($answer) ? $status : 0, is_string($answer) ? $answer : ''];
    }

    /**
     * @param  array<string, mixed>|object|null  $body
     * @return array{int, array<array-key, mixed>}
     */
    public function json(string $method, string $path, array|object|null $body = null): array
    {
        [$status, $answer] = $this->send($method, "/api/{$path}", $body === null ? '' : (string) json_encode($body, JSON_PRESERVE_ZERO_FRACTION));

        return [$status, (array) json_decode($answer, true)];
    }
}
