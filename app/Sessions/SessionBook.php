<?php

declare(strict_types=1);

namespace App\Sessions;

use App\Models\Revision;
use App\Models\StoredSession;
use Hafen\Edit\Edit;
use Hafen\Edit\EditCodec;
use Hafen\Session\JsonNode;
use Hafen\Session\Session;
use Hafen\Session\SessionCodec;
use Illuminate\Support\Facades\DB;

/**
 * Keeps sessions as revisions: edits add one, undo and redo walk them, any can be gone back to. Each call is one
 * transaction.
 */
final readonly class SessionBook
{
    public function __construct(private SessionCodec $codec, private EditCodec $edits)
    {
    }

    /** Starts a session with its first revision. */
    public function create(Session $session): StoredSession
    {
        return DB::transaction(function () use ($session): StoredSession {
            $stored = StoredSession::query()->create(['name' => $session->name, 'change' => 1]);
            $revision = $stored->revisions()->create([
                'document' => $this->codec->encode($session),
                'touches' => [],
                'label' => 'Start',
            ]);
            $stored->update(['head_id' => $revision->id]);

            return $stored->setRelation('head', $revision);
        });
    }

    public function open(StoredSession $stored): Session
    {
        return $this->codec->decode($stored->head->document);
    }

    /**
     * Applies an edit made on the state `base`.
     *
     * @param  ?string  $gesture  edits of one movement carry the same word and make one revision
     *
     * @throws StaleEdit when something it touches changed since
     */
    public function edit(int $id, int $base, JsonNode $node, ?string $gesture = null): StoredSession
    {
        return DB::transaction(function () use ($id, $base, $node, $gesture): StoredSession {
            $stored = StoredSession::query()->findOrFail($id);
            $session = $this->open($stored);
            $edit = $this->edits->decode($node, $session);
            $touches = $edit->touches($session);
            if ($base !== $stored->change) {
                $this->refuseWhereStale($stored, $base, $touches);
            }
            $after = $edit->apply($session);
            $label = mb_strimwidth($edit->label($session), 0, 200, '…');
            $document = $this->codec->encode($after);
            if ($document === $stored->head->document) {
                return $stored;
            }
            $revision = $this->record($stored, $node, $edit, $session, $document, $label, $gesture);

            return $this->moveTo($stored, $revision, $touches, $label, $after->name);
        });
    }

    /** @throws NothingToUndo */
    public function undo(int $id): StoredSession
    {
        return DB::transaction(function () use ($id): StoredSession {
            $stored = StoredSession::query()->findOrFail($id);
            $parent = $stored->head->parent_id === null ? null : Revision::query()->find($stored->head->parent_id);
            if ($parent === null) {
                throw NothingToUndo::back();
            }

            return $this->moveTo($stored, $parent, $stored->head->touches, 'Undo: '.$stored->head->label);
        });
    }

    /** @throws NothingToUndo */
    public function redo(int $id): StoredSession
    {
        return DB::transaction(function () use ($id): StoredSession {
            $stored = StoredSession::query()->findOrFail($id);
            $next = $this->next($stored) ?? throw NothingToUndo::forward();

            return $this->moveTo($stored, $next, $next->touches, 'Redo: '.$next->label);
        });
    }

    /** Goes to any revision of the session; nothing after it is lost. */
    public function goTo(int $id, int $revisionId): StoredSession
    {
        return DB::transaction(function () use ($id, $revisionId): StoredSession {
            $stored = StoredSession::query()->findOrFail($id);
            $revision = $stored->revisions()->findOrFail($revisionId);

            return $this->moveTo($stored, $revision, [''], "Back to: {$revision->label}");
        });
    }

    /** The revision redo leads to: the newest that was made from this one. */
    public function next(StoredSession $stored): ?Revision
    {
        return $stored->revisions()->where('parent_id', $stored->head_id)->orderByDesc('updated_at')->orderByDesc('id')->first();
    }

    private function record(StoredSession $stored, JsonNode $node, Edit $edit, Session $before, string $document, string $label, ?string $gesture): Revision
    {
        $head = $stored->head;
        if ($gesture !== null && $head->gesture === $gesture && $head->parent_id !== null) {
            $head->update([
                'document' => $document,
                'label' => $label,
                'edit' => $node->value,
                'touches' => array_values(array_unique([...$head->touches, ...$edit->touches($before)])),
            ]);

            return $head;
        }

        return $stored->revisions()->create([
            'parent_id' => $head->id,
            'document' => $document,
            'edit' => $node->value,
            'touches' => $edit->touches($before),
            'label' => $label,
            'gesture' => $gesture,
        ]);
    }

    /** @param  list<string>  $touches */
    private function moveTo(StoredSession $stored, Revision $revision, array $touches, string $label, ?string $name = null): StoredSession
    {
        $stored->update([
            'head_id' => $revision->id,
            'change' => $stored->change + 1,
            'name' => $name ?? $this->codec->decode($revision->document)->name,
        ]);
        $stored->changes()->create(['number' => $stored->change, 'touches' => $touches, 'label' => $label]);

        return $stored->setRelation('head', $revision);
    }

    /** @param  list<string>  $touches */
    private function refuseWhereStale(StoredSession $stored, int $base, array $touches): void
    {
        $since = $stored->changes()->where('number', '>', $base)->orderBy('number')->get();
        $labels = [];
        // A state nobody knows, or one from before the log: nothing can be said about what changed.
        if ($base > $stored->change || $since->count() < $stored->change - $base) {
            throw StaleEdit::meanwhile(['the session'], $stored->change);
        }
        foreach ($since as $change) {
            if (self::overlap($touches, $change->touches)) {
                $labels[] = $change->label;
            }
        }
        if ($labels !== []) {
            throw StaleEdit::meanwhile(array_values(array_unique($labels)), $stored->change);
        }
    }

    /**
     * @param  list<string>  $some
     * @param  list<string>  $others
     */
    private static function overlap(array $some, array $others): bool
    {
        foreach ($some as $a) {
            foreach ($others as $b) {
                if ($a === $b || $a === '' || $b === '' || str_starts_with($a, "{$b}/") || str_starts_with($b, "{$a}/")) {
                    return true;
                }
            }
        }

        return false;
    }
}
