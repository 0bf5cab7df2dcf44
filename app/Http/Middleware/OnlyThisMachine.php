<?php

declare(strict_types=1);

namespace App\Http\Middleware;

use Closure;
use Illuminate\Http\Request;
use Symfony\Component\HttpFoundation\Response;

/**
 * Hafen has no accounts: it answers the machine it runs on, under that machine's own names. A page from elsewhere that
 * points a browser here by another name, or posts from another origin, is turned away.
 */
final class OnlyThisMachine
{
    private const NAMES = ['127.0.0.1', 'localhost', '[::1]', '::1'];

    /** @param  Closure(Request): Response  $next */
    public function handle(Request $request, Closure $next): Response
    {
        $origin = $request->headers->get('Origin');
        $originHost = is_string($origin) ? parse_url($origin, PHP_URL_HOST) : null;
        if (! in_array($request->getHost(), self::NAMES, true) || ($origin !== null && ! in_array($originHost, self::NAMES, true))) {
            return new Response('Hafen answers only on the machine it runs on.', 403);
        }
        $response = $next($request);
        if ($origin !== null) {
            // Listening comes from a neighbouring port of the same machine.
            $response->headers->set('Access-Control-Allow-Origin', $origin);
            $response->headers->set('Vary', 'Origin');
        }

        return $response;
    }
}
