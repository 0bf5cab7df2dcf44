<?php

declare(strict_types=1);

namespace App\Sessions;

use App\Models\Media;
use App\Models\Revision;
use App\Models\StoredSession;
use Hafen\Document\InvalidDocument;
use Hafen\Document\JsonNode;
use Hafen\Document\SessionCodec;
use Hafen\Edit\Edit;
use Hafen\Edit\Json\EditCodec;
use Hafen\Processor\ProcessorCatalogue;
use Hafen\Refusal;
use Hafen\Session\Channel\Channel;
use Hafen\Session\Session;
use Hafen\Session\SessionSize;
use Hafen\Session\SessionTooLarge;
use Hafen\Session\Source\Clip;
use Hafen\Session\Source\SessionFiles;
use Illuminate\Support\Facades\DB;

/**
 * Keeps sessions as revisions: edits add one, undo and redo walk them, any can be gone back to.
 *
 * What is to be stored is worked out on what was read, outside any transaction, so that no session waits for another; it is stored if
 * nothing changed meanwhile, and worked out anew where something did. Nothing is stored that was not opened once.
 */
final readonly class SessionBook
{
    /** Times a change is worked out anew because another came in between. */
    private const MOST_TRIES = 8;

    /** Bytes a document may grow to; far more can still be opened. */
    private const MOST_BYTES = 16 << 20;

    /** Changes for which it is remembered what they touched. */
    private const REMEMBERED = 500;

    /** Paths an edit may name before it counts as touching everything. */
    private const MOST_TOUCHES = 200;

    public function __construct(private SessionCodec $codec, private EditCodec $edits, private OpenedSessions $opened, private ProcessorCatalogue $processors)
    {
    }

    /** Starts a session with its first revision. */
    public function create(Session $session): StoredSession
    {
        $document = $this->sound($session);

        return DB::transaction(function () use ($session, $document): StoredSession {
            $stored = StoredSession::query()->create(['name' => $session->name, 'change' => 1, 'document' => $document]);
            $revision = $stored->revisions()->create([...RevisionDocuments::kept(null, '', $document), 'touches' => [], 'label' => 'Start']);
            $stored->update(['head_id' => $revision->id]);
            $this->nameMedia($stored->id, $document);

            return $stored->setRelation('head', $revision)->refresh();
        });
    }

    /**
     * The session as it is. Where its document cannot be read it goes back to the newest revision that can, and says so.
     *
     * @throws InvalidDocument when no revision can be read
     */
    public function open(StoredSession $stored): Session
    {
        try {
            return $this->opened->of($stored->document);
        } catch (InvalidDocument $broken) {
            return $this->opened->of($this->recover($stored, $broken)->document);
        }
    }

    /**
     * Applies an edit made on the state `base`.
     *
     * @param  ?string  $gesture  edits of one movement carry the same word and make one revision
     *
     * @throws StaleEdit when something it touches changed since
     * @throws Refusal when the edit, or what it would make, is not allowed
     */
    public function edit(int $id, int $base, JsonNode $node, ?string $gesture = null): StoredSession
    {
        return $this->edited($id, $base, fn (Session $session): Edit => $this->edits->decode($node, $session), $gesture);
    }

    /**
     * Applies an edit to the session as it is by then.
     *
     * @param  callable(Session): Edit  $edit
     * @param  ?string  $gesture  see {@see edit()}
     *
     * @throws Refusal when the edit, or what it would make, is not allowed
     */
    public function apply(int $id, callable $edit, ?string $gesture = null): StoredSession
    {
        return $this->edited($id, null, $edit, $gesture);
    }

    /**
     * @param  ?int  $base  the state it was made on; null is the newest
     * @param  callable(Session): Edit  $decode
     */
    private function edited(int $id, ?int $base, callable $decode, ?string $gesture): StoredSession
    {
        return $this->untilStored($id, function (StoredSession $stored) use ($base, $decode, $gesture): ?StoredSession {
            $session = $this->open($stored);
            $edit = $decode($session);
            $touches = $edit->touches($session);
            $touches = count($touches) > self::MOST_TOUCHES ? [''] : $touches;
            if ($base !== null && $base !== $stored->change) {
                $this->refuseWhereStale($stored, $base, $touches);
            }
            $after = $edit->apply($session);
            $label = mb_strimwidth($edit->label($session), 0, 200, '…');
            $document = $this->sound($after);
            if ($document === $stored->document) {
                return $stored;
            }
            $head = $stored->head;
            $isSameGesture = $gesture !== null && $head->gesture === $gesture && $head->parent_id !== null;
            $values = [
                'label' => $label,
                'touches' => $isSameGesture ? array_values(array_unique([...$head->touches, ...$touches])) : $touches,
            ];
            if ($isSameGesture) {
                $parent = Revision::query()->findOrFail($head->parent_id);
                $values += $this->keptFrom($parent, $document);
            } else {
                $values += [...RevisionDocuments::kept($head, $stored->document, $document), 'parent_id' => $head->id, 'gesture' => $gesture];
            }

            return $this->store($stored, function () use ($stored, $head, $isSameGesture, $values): Revision {
                // What was made from a revision rests on it: then the movement goes on in one of its own.
                if ($isSameGesture && ! $stored->revisions()->where('parent_id', $head->id)->exists()) {
                    $head->update($values);

                    return $head;
                }

                return $stored->revisions()->create([...$values, ...($isSameGesture ? ['parent_id' => $head->parent_id, 'gesture' => $head->gesture] : [])]);
            }, $document, $after->name, $touches, $label);
        });
    }

    /** @throws NothingToUndo */
    public function undo(int $id): StoredSession
    {
        return $this->untilStored($id, function (StoredSession $stored): ?StoredSession {
            $parent = $stored->head->parent_id === null ? null : Revision::query()->find($stored->head->parent_id);

            return $this->moveTo($stored, $parent ?? throw NothingToUndo::back(), $stored->head->touches, 'Undo: '.$stored->head->label);
        });
    }

    /** @throws NothingToUndo */
    public function redo(int $id): StoredSession
    {
        return $this->untilStored($id, function (StoredSession $stored): ?StoredSession {
            $next = $this->next($stored) ?? throw NothingToUndo::forward();

            return $this->moveTo($stored, $next, $next->touches, 'Redo: '.$next->label);
        });
    }

    /** Goes to any revision of the session; nothing after it is lost. */
    public function goTo(int $id, int $revisionId): StoredSession
    {
        return $this->untilStored($id, function (StoredSession $stored) use ($revisionId): ?StoredSession {
            $revision = $stored->revisions()->findOrFail($revisionId);

            return $this->moveTo($stored, $revision, [''], "Back to: {$revision->label}");
        });
    }

    /**
     * Removes old revisions: of a session only the newest stay, and the one it is at.
     *
     * @return int how many were removed
     */
    public function thin(int $id, int $keep): int
    {
        return DB::transaction(function () use ($id, $keep): int {
            $stored = StoredSession::query()->findOrFail($id);
            $kept = $stored->revisions()->orderByDesc('id')->limit($keep)->pluck('id')->push($stored->head_id)->unique();
            // Those whose parent goes become documents in full, while the parent is still there to read them by.
            $depths = [];
            foreach ($stored->revisions()->whereIn('id', $kept)->orderBy('id')->get() as $revision) {
                $parent = $revision->parent_id;
                if ($parent !== null && isset($depths[$parent])) {
                    $depths[$revision->id] = $revision->depth === 0 ? 0 : $depths[$parent] + 1;
                    $revision->update(['depth' => $depths[$revision->id]]);

                    continue;
                }
                $depths[$revision->id] = 0;
                $revision->update(['parent_id' => null, ...RevisionDocuments::kept(null, '', RevisionDocuments::of($revision))]);
            }

            return DB::table('revisions')->where('session_id', $id)->whereNotIn('id', $kept)->delete();
        });
    }

    /** The revision redo leads to: the newest that was made from this one. */
    public function next(StoredSession $stored): ?Revision
    {
        return $stored->revisions()->where('parent_id', $stored->head_id)->orderByDesc('updated_at')->orderByDesc('id')->first();
    }

    /** @return array{difference: string, depth: int} in full where the parent cannot be read */
    private function keptFrom(Revision $parent, string $document): array
    {
        try {
            return RevisionDocuments::kept($parent, RevisionDocuments::of($parent), $document);
        } catch (UnreadableRevision) {
            return RevisionDocuments::kept(null, '', $document);
        }
    }

    /**
     * A document that can be opened again.
     *
     * @throws Refusal when it cannot, or is too large
     */
    private function sound(Session $session): string
    {
        SessionSize::check($session);
        $document = $this->codec->encode($session);
        if (strlen($document) > self::MOST_BYTES) {
            throw SessionTooLarge::bytes(strlen($document), self::MOST_BYTES);
        }
        $this->opened->of($document);

        return $document;
    }

    /**
     * @param  callable(StoredSession): ?StoredSession  $change  null when the session changed meanwhile
     *
     * @throws StaleEdit when others change the session faster than this change can be worked out
     * @throws Refusal what the change refuses
     */
    private function untilStored(int $id, callable $change): StoredSession
    {
        for ($try = 0; $try < self::MOST_TRIES; ++$try) {
            $stored = StoredSession::query()->with('head')->findOrFail($id);
            $changed = $change($stored);
            if ($changed !== null) {
                return $changed;
            }
        }
        throw StaleEdit::meanwhile(['the session'], StoredSession::query()->findOrFail($id)->change);
    }

    /** @param  list<string>  $touches */
    private function moveTo(StoredSession $stored, Revision $revision, array $touches, string $label): ?StoredSession
    {
        $document = RevisionDocuments::of($revision);

        return $this->store($stored, static fn (): Revision => $revision, $document, $this->opened->of($document)->name, $touches, $label);
    }

    /**
     * Makes a document the head, if nothing changed since the session was read.
     *
     * @param  callable(): Revision  $revision
     * @param  list<string>  $touches
     */
    private function store(StoredSession $stored, callable $revision, string $document, string $name, array $touches, string $label, ?string $notice = null): ?StoredSession
    {
        return DB::transaction(function () use ($stored, $revision, $document, $name, $touches, $label, $notice): ?StoredSession {
            if (StoredSession::query()->whereKey($stored->id)->value('change') !== $stored->change) {
                return null;
            }
            $head = $revision();
            $stored->update(['head_id' => $head->id, 'change' => $stored->change + 1, 'name' => $name, 'document' => $document, 'notice' => $notice]);
            $stored->changes()->create(['number' => $stored->change, 'touches' => $touches, 'label' => $label]);
            $this->nameMedia($stored->id, $document);
            $stored->changes()->where('number', '<', $stored->change - self::REMEMBERED)->delete();

            return $stored->setRelation('head', $head);
        });
    }

    private function nameMedia(int $id, string $document): void
    {
        // A freeze that is put on a track is a recording like any other: nothing makes it again.
        $clips = array_merge(...array_map(static fn (Channel $channel): array => $channel->source->clips(), $this->opened->of($document)->channels));
        Media::query()->whereNotNull('frozen_from')->whereIn('id', array_map(static fn (Clip $clip): string => $clip->file, $clips))->update(['frozen_from' => null]);
        RevisionDocuments::nameMedia($id, array_values(array_filter(
            SessionFiles::of($this->opened->of($document), $this->processors),
            static fn (string $file): bool => strlen($file) <= 64,
        )));
    }

    /** @throws InvalidDocument when no revision can be read */
    private function recover(StoredSession $stored, Refusal $broken): StoredSession
    {
        foreach ($stored->revisions()->lazyByIdDesc(50) as $revision) {
            try {
                $document = RevisionDocuments::of($revision);
                $name = $this->opened->of($document)->name;
            } catch (Refusal) {
                continue;
            }
            $notice = "The newest state could not be read ({$broken->line()}). This is the newest that can: {$revision->label}.";
            $recovered = $this->store($stored, static fn (): Revision => $revision, $document, $name, [''], "Opened at: {$revision->label}", $notice);

            return $recovered ?? StoredSession::query()->with('head')->findOrFail($stored->id);
        }
        throw $broken;
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
