<?php

declare(strict_types=1);

namespace App\Http\Middleware;

use App\Work\QueueTrouble;
use Closure;
use Illuminate\Http\Request;
use Symfony\Component\HttpFoundation\Response;

/** Tells every page why what it asked for in the background does not begin. */
final readonly class SaysWhatWorkWaitsFor
{
    public const HEADER = 'X-Hafen-Work-Waits';

    public function __construct(private QueueTrouble $trouble)
    {
    }

    /** @param  Closure(Request): Response  $next */
    public function handle(Request $request, Closure $next): Response
    {
        $response = $next($request);
        $words = config('queue.default') === 'redis' ? $this->trouble->words() : null;
        if ($words !== null) {
            $response->headers->set(self::HEADER, $words);
        }

        return $response;
    }
}
