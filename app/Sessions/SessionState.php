<?php

declare(strict_types=1);

namespace App\Sessions;

use App\Models\Revision;
use App\Models\StoredSession;
use Hafen\Processor\ProcessorCatalogue;
use Hafen\Processor\Setting;
use Hafen\Routing\Audibility;
use Hafen\Routing\Latencies;
use Hafen\Session\ProcessorInsert;
use Hafen\Session\Session;
use Hafen\Session\SessionCodec;

/** A session as the browser gets it: the document, and what follows from it by rules that are PHP's. */
final readonly class SessionState
{
    public function __construct(private SessionBook $book, private SessionCodec $codec, private ProcessorCatalogue $processors)
    {
    }

    /** @return array<string, mixed> */
    public function of(StoredSession $stored): array
    {
        $session = $this->book->open($stored);
        $parent = $stored->head->parent_id !== null;
        $latencies = Latencies::of($session, $this->processors);

        return [
            'id' => $stored->id,
            'change' => $stored->change,
            'revision' => $stored->head->id,
            'document' => $this->codec->toArray($session),
            'undo' => $parent ? $stored->head->label : null,
            'redo' => $this->book->next($stored)?->label,
            'inserts' => (object) $this->inserts($session),
            'audible' => (object) $this->audible($session),
            'latency' => ['channels' => (object) $latencies->channels, 'session' => $latencies->session],
        ];
    }

    /** @return list<array<string, mixed>> the newest first */
    public function revisions(StoredSession $stored): array
    {
        return array_values($stored->revisions()->orderByDesc('id')->limit(200)->get(['id', 'parent_id', 'label', 'created_at'])->map(
            static fn (Revision $revision): array => [
                'id' => $revision->id,
                'parent' => $revision->parent_id,
                'label' => $revision->label,
                'at' => $revision->created_at->toIso8601String(),
                'current' => $revision->id === $stored->head_id,
            ],
        )->all());
    }

    /** @return array<string, array<string, mixed>> by insert id */
    private function inserts(Session $session): array
    {
        $setting = new Setting($session->sampleRate, $session->tempo);
        $inserts = [];
        foreach ($session->channels as $channel) {
            foreach ($channel->allInserts() as $insert) {
                assert($insert instanceof ProcessorInsert);
                $inserts[$insert->id] = [
                    'label' => $this->processors->label($insert->processor, $insert->parameters),
                    'latency' => $this->processors->latency($insert->processor, $insert->parameters, $setting),
                ];
            }
        }

        return $inserts;
    }

    /** @return array<string, bool> by channel id */
    private function audible(Session $session): array
    {
        $audibility = Audibility::of($session);
        $audible = [];
        foreach ($session->channels as $channel) {
            $audible[$channel->id] = $audibility->has($channel->id);
        }

        return $audible;
    }
}
