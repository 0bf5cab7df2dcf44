<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Hardware\InterfaceDesk;
use App\Hardware\ThroughHardware;
use App\Models\StoredSession;
use App\Sessions\SessionBook;
use Hafen\Edit\Hardware\Loops;
use Hafen\Hardware\AudioInterface;
use Hafen\Hardware\NoInterface;
use Hafen\Hardware\Ping;
use Hafen\Hardware\PingResult;
use Hafen\Hardware\RecallSheet;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Response;

/** Hardware loops of a session: measured with a ping, and the sheet that says how their units were set. */
final readonly class LoopController
{
    public function __construct(private SessionBook $book, private InterfaceDesk $desk, private ThroughHardware $hardware)
    {
    }

    /** Measures a loop; what is measured is set with an edit. */
    public function ping(StoredSession $session, string $loop): JsonResponse
    {
        $opened = $this->book->open($session);
        $found = Loops::find($opened, $loop);
        $result = $this->hardware->atOnce($opened, [$found], static fn (?AudioInterface $interface): PingResult => $interface === null ? throw NoInterface::for($found) : (new Ping($interface, $opened->sampleRate))->measure($found));

        return new JsonResponse([
            'delay' => ['samples' => $result->delay->samples, 'buffer' => $result->delay->buffer],
            'milliseconds' => round(1000 * $result->delay->samples / $opened->sampleRate, 2),
            'level' => $result->level,
            'isInverted' => $result->isInverted,
            'noise' => $result->noise,
        ]);
    }

    public function recall(StoredSession $session): Response
    {
        return new Response((new RecallSheet($this->book->open($session), $this->desk->profile()))->asHtml(), 200, ['Content-Type' => 'text/html; charset=utf-8', 'Content-Security-Policy' => "default-src 'none'; style-src 'unsafe-inline'"]);
    }
}
