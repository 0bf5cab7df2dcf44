<?php

declare(strict_types=1);

namespace Tests\Attack;

use App\Models\Revision;
use App\Models\StoredSession;
use App\Sessions\RevisionDocuments;
use App\Sessions\SessionBook;
use Hafen\Document\JsonNode;
use Hafen\Document\SessionCodec;
use Hafen\Processor\ProcessorCatalogue;
use Hafen\Refusal;
use Hafen\Tests\Support\Mix;
use Hafen\Tests\Support\WildEdits;
use Throwable;

/** Random edits, sensible and not, through the book that stores them; undo, redo and going back in between. */
final class EditAttack
{
    public static function run(int $edits): Outcome
    {
        $outcome = new Outcome('random edits');
        $book = app(SessionBook::class);
        $codec = app(SessionCodec::class);
        $wild = new WildEdits(ProcessorCatalogue::standard());
        $stored = null;
        for ($i = 0; $i < $edits; ++$i) {
            if ($stored === null || $i % 500 === 0 || count($book->open($stored)->channels) > 24) {
                $stored = $book->create(Mix::session([Mix::track('808', [Mix::insert('i1', 'parametric-eq')]), Mix::track('12'), Mix::track('cello')]));
            }
            $outcome->tried();
            try {
                $turn = mt_rand(0, 19);
                $stored = match (true) {
                    $turn === 0 => $book->undo($stored->id),
                    $turn === 1 => $book->redo($stored->id),
                    $turn === 2 => $book->goTo($stored->id, (int) $stored->revisions()->inRandomOrder()->value('id')),
                    default => $book->edit($stored->id, $stored->change - ($turn === 3 ? 2 : 0), JsonNode::parse((string) json_encode($wild->next($book->open($stored)), JSON_PRESERVE_ZERO_FRACTION), 1 << 22), $turn < 8 ? 'gesture'.intdiv($i, 7) : null),
                };
                $outcome->note('stored');
            } catch (Refusal) {
                $outcome->note('refused');
            } catch (Throwable $fault) {
                $outcome->broke('faults', $fault::class.": {$fault->getMessage()}");
            }
            if ($i % 25 === 0) {
                self::check($stored, $codec, $outcome);
            }
        }

        return $outcome;
    }

    /** The session opens, as it was acknowledged; and so does a revision from anywhere in its past. */
    private static function check(StoredSession $acknowledged, SessionCodec $codec, Outcome $outcome): void
    {
        $stored = StoredSession::query()->findOrFail($acknowledged->id);
        if ($stored->document !== $acknowledged->document) {
            $outcome->broke('lost', "session {$stored->id} is not what was acknowledged");
        }
        try {
            $codec->decode($stored->document);
            $head = RevisionDocuments::of(Revision::query()->findOrFail($stored->head_id));
            if ($head !== $stored->document) {
                $outcome->broke('wrong', "the head of session {$stored->id} is another document than the session");
            }
            $codec->decode(RevisionDocuments::of($stored->revisions()->inRandomOrder()->firstOrFail()));
        } catch (Throwable $broken) {
            $outcome->broke('lost', "session {$stored->id} cannot be opened: {$broken->getMessage()}");
        }
    }
}
