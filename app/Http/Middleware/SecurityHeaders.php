<?php

declare(strict_types=1);

namespace App\Http\Middleware;

use Symfony\Component\HttpFoundation\BinaryFileResponse;
use Symfony\Component\HttpFoundation\Response;
use Symfony\Component\HttpFoundation\StreamedResponse;

/** What browsers are told of every answer: scripts of our own files only, in no frame, read as what it says it is, whole or not at all. */
final class SecurityHeaders
{
    public static function on(Response $response): Response
    {
        $listen = config('hafen.listen_url');
        $response->headers->add([
            'Content-Security-Policy' => implode('; ', [
                "default-src 'none'",
                "script-src 'self'",
                // Places and sizes are set as styles of elements.
                "style-src 'self' 'unsafe-inline'",
                "img-src 'self' data: blob:",
                "font-src 'self'",
                "media-src 'self' blob:",
                "connect-src 'self'".(is_string($listen) && $listen !== '' ? " {$listen}" : ''),
                "base-uri 'none'",
                "form-action 'self'",
                "frame-ancestors 'none'",
            ]),
            'X-Content-Type-Options' => 'nosniff',
            'X-Frame-Options' => 'DENY',
            'Referrer-Policy' => 'no-referrer',
            'Cross-Origin-Resource-Policy' => 'same-site',
        ]);

        $content = $response instanceof StreamedResponse || $response instanceof BinaryFileResponse ? false : $response->getContent();
        if ($content !== false) {
            // An answer whose process is killed halfway is known to be cut.
            $response->headers->set('Content-Length', (string) strlen($content));
        }

        return $response;
    }
}
