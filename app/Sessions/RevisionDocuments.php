<?php

declare(strict_types=1);

namespace App\Sessions;

use App\Models\Revision;
use App\Models\StoredSession;
use Illuminate\Support\Facades\DB;

/** The documents of revisions, kept as differences to the revision before, with one in full now and then. */
final class RevisionDocuments
{
    /** Differences that may lie between a revision and one in full. */
    private const DEEPEST = 24;

    /**
     * How a document is kept.
     *
     * @param  ?Revision  $parent  the revision it was made from
     * @param  string  $before  document of the parent
     * @return array{difference: string, depth: int}
     */
    public static function kept(?Revision $parent, string $before, string $document): array
    {
        if ($parent !== null && $parent->depth < self::DEEPEST) {
            $difference = DocumentDifference::between($before, $document);
            // Read back before it is relied upon.
            if (strlen($difference) < strlen($document) / 12 && DocumentDifference::apply($before, $difference) === $document) {
                return ['difference' => $difference, 'depth' => $parent->depth + 1];
            }
        }

        return ['difference' => DocumentDifference::full($document), 'depth' => 0];
    }

    /** @throws UnreadableRevision when its bytes are damaged */
    public static function of(Revision $revision): string
    {
        $differences = [];
        while ($revision->depth > 0) {
            $differences[] = $revision->difference;
            $revision = Revision::query()->find($revision->parent_id) ?? throw UnreadableRevision::orphaned();
        }
        $document = DocumentDifference::inflated($revision->difference);
        foreach (array_reverse($differences) as $difference) {
            $document = DocumentDifference::apply($document, $difference);
        }

        return $document;
    }

    /**
     * Notes which recordings a session names.
     *
     * @param  list<string>  $media
     */
    public static function nameMedia(int $session, array $media): void
    {
        foreach (array_chunk(array_unique($media), 200) as $some) {
            DB::table('session_media')->insertOrIgnore(array_map(static fn (string $id): array => ['session_id' => $session, 'media_id' => $id], $some));
        }
    }

    /** Turns whole documents, as revisions had them before, into differences. Once, by a migration. */
    public static function convert(): void
    {
        $document = static fn (?int $id): string => is_string($text = DB::table('revisions')->where('id', $id)->value('document')) ? $text : '';
        foreach (Revision::query()->orderBy('id')->lazyById(100) as $revision) {
            $parent = $revision->parent_id === null ? null : Revision::query()->whereKey($revision->parent_id)->first();
            DB::table('revisions')->where('id', $revision->id)->update(self::kept($parent, $document($parent?->id), $document($revision->id)));
            self::nameMedia($revision->session_id, preg_match_all('/"(?:file|recording)":"([0-9a-f]{64})"/', $document($revision->id), $found) > 0 ? $found[1] : []);
        }
        foreach (StoredSession::query()->withTrashed()->whereNotNull('head_id')->get() as $session) {
            $session->update(['document' => $document($session->head_id)]);
        }
    }
}
