<?php

declare(strict_types=1);

use Hafen\Processor\ProcessorCatalogue;
use Hafen\Routing\SessionGraph;
use Hafen\Session\Channel\ChannelKind;
use Hafen\Session\Channel\Send;
use Hafen\Tests\Support\Mix;

require_once __DIR__.'/../Support/edited.php';

it('works out the routes, who is heard and the delays once for a session', function (): void {
    $processors = ProcessorCatalogue::standard();
    $session = Mix::session([Mix::track('cello'), Mix::track('bass')]);
    expect(SessionGraph::routes($session))->toBe(SessionGraph::routes($session))
        ->and(SessionGraph::audibility($session))->toBe(SessionGraph::audibility($session))
        ->and(SessionGraph::alignment($session, $processors))->toBe(SessionGraph::alignment($session, $processors))
        // Another catalogue may have other latencies.
        ->and(SessionGraph::alignment($session, ProcessorCatalogue::standard()))->not->toBe(SessionGraph::alignment($session, $processors));
});

it('never answers for another session what was worked out before an edit', function (): void {
    $session = Mix::session([Mix::track('cello'), Mix::track('bass'), Mix::bus('plate', ChannelKind::Return)]);
    expect(SessionGraph::routes($session)->into('plate'))->toBe([])
        ->and(SessionGraph::audibility($session)->has('bass'))->toBeTrue();
    $sent = $session->withChannel(Mix::track('cello')->withSends([new Send('n1', 'plate', 0.0)]));
    $soloed = edited($sent, ['type' => 'set-solo', 'channels' => ['cello'], 'solo' => true]);
    expect(SessionGraph::routes($sent)->into('plate'))->toHaveCount(1)
        ->and(SessionGraph::audibility($soloed)->has('bass'))->toBeFalse()
        ->and(SessionGraph::audibility($sent)->has('bass'))->toBeTrue()
        ->and(SessionGraph::routes($session)->into('plate'))->toBe([]);
});

it('lets a session go, and what was worked out with it', function (): void {
    $session = Mix::session([Mix::track('cello')]);
    $routes = WeakReference::create(SessionGraph::routes($session));
    expect($routes->get())->not->toBeNull();
    unset($session);
    expect($routes->get())->toBeNull();
});
