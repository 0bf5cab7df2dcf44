<?php

declare(strict_types=1);

use App\Http\RefusalResponse;
use Hafen\Refusal;
use Illuminate\Foundation\Application;
use Illuminate\Foundation\Configuration\Exceptions;
use Illuminate\Foundation\Configuration\Middleware;

return Application::configure(basePath: dirname(__DIR__))
    ->withRouting(
        web: __DIR__.'/../routes/web.php',
        api: __DIR__.'/../routes/api.php',
    )
    ->withMiddleware(static function (Middleware $middleware): void {
        $middleware->web(remove: [
            Illuminate\Session\Middleware\StartSession::class,
            Illuminate\View\Middleware\ShareErrorsFromSession::class,
            Illuminate\Foundation\Http\Middleware\ValidateCsrfToken::class,
            Illuminate\Cookie\Middleware\EncryptCookies::class,
            Illuminate\Cookie\Middleware\AddQueuedCookiesToResponse::class,
        ]);
        // A file's name or a channel's may start or end with a blank, and "" is not null.
        $middleware->remove([
            Illuminate\Foundation\Http\Middleware\TrimStrings::class,
            Illuminate\Foundation\Http\Middleware\ConvertEmptyStringsToNull::class,
        ]);
        $middleware->prepend(App\Http\Middleware\OnlyThisMachine::class);
        $middleware->api(append: [App\Http\Middleware\SaysWhatWorkWaitsFor::class]);
    })
    ->withExceptions(static function (Exceptions $exceptions): void {
        $exceptions->dontReport(Refusal::class);
        $exceptions->render(static fn (Refusal $refusal) => RefusalResponse::of($refusal));
        $exceptions->render(static fn (PDOException $exception) => RefusalResponse::ofDatabase($exception));
        $exceptions->shouldRenderJsonWhen(static fn ($request): bool => $request->is('api/*'));
    })
    ->create();
