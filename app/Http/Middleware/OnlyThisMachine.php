<?php

declare(strict_types=1);

namespace App\Http\Middleware;

use Closure;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use Symfony\Component\HttpFoundation\Response;

/**
 * Hafen has no accounts: it answers the machine it runs on, under that machine's own names, and of all pages there only its own. Other devices
 * get the page of a performer only, where it is served for them.
 *
 * A page from elsewhere that points a browser here by another name, a page on another port of this machine, and a form or an image
 * that would have something changed or computed are turned away: what changes or computes needs the header X-Hafen, which no other
 * page can send unasked, or a browser that says the request comes from this very origin. `Origin` and `Sec-Fetch-Site` are set by
 * browsers and out of a page's reach (Fetch Metadata Request Headers, W3C).
 */
final class OnlyThisMachine
{
    public const HEADER = 'X-Hafen';

    private const NAMES = ['127.0.0.1', 'localhost', '[::1]', '::1'];

    private const ADDRESSES = ['127.0.0.1', '::1'];

    /** @param  Closure(Request): Response  $next */
    public function handle(Request $request, Closure $next): Response
    {
        if (! $this->isHere($request) && ! $this->isPerformer($request)) {
            return self::refused('Hafen answers only on the machine it runs on.');
        }
        $origin = $request->headers->get('Origin');
        $isNeighbour = $origin !== null && $origin !== $request->getSchemeAndHttpHost() && $this->mayListen($request, $origin);
        if (! $isNeighbour && ! self::isOwn($request, $origin)) {
            return self::refused('Hafen answers its own page. Programs send the header '.self::HEADER.'.');
        }
        $response = $next($request);
        if ($isNeighbour) {
            $response->headers->set('Access-Control-Allow-Origin', $origin);
            $response->headers->set('Vary', 'Origin');
        }

        return SecurityHeaders::on($response);
    }

    private function isHere(Request $request): bool
    {
        return in_array($request->getHost(), self::NAMES, true) && in_array($request->ip(), self::ADDRESSES, true);
    }

    /** Other devices get the page of a performer, where it is served for them: its key is all they need to know. */
    private function isPerformer(Request $request): bool
    {
        $url = config('hafen.performers_url');

        return is_string($url) && $url !== '' && $request->getSchemeAndHttpHost() === rtrim($url, '/') && $request->is('cue/*', 'api/cues/*');
    }

    /** Where PHP's own server is used, listening comes from a neighbouring port: the page on the application's may read that. */
    private function mayListen(Request $request, string $origin): bool
    {
        return $request->isMethod('GET') && $request->is('api/listenings/*/stream') && $origin === config('app.url');
    }

    private static function isOwn(Request $request, ?string $origin): bool
    {
        if ($origin !== null && $origin !== $request->getSchemeAndHttpHost()) {
            return false;
        }
        $site = $request->headers->get('Sec-Fetch-Site');
        if ($request->isMethodSafe()) {
            // A program says nothing of a site; the address bar says "none"; a link may lead to the page, but not into what computes.
            return in_array($site, [null, 'none', 'same-origin'], true) || ! $request->is('api/*');
        }

        return $site === 'same-origin' || ($request->headers->has(self::HEADER) && in_array($site, [null, 'none'], true));
    }

    private static function refused(string $message): Response
    {
        return SecurityHeaders::on(new JsonResponse(['location' => 'origin', 'message' => $message], 403));
    }
}
