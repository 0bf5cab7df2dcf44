<?php

declare(strict_types=1);

use App\Models\Revision;
use App\Models\StoredSession;
use App\Sessions\DocumentDifference;
use App\Sessions\RevisionDocuments;
use App\Sessions\SessionBook;
use Hafen\Demo\FerryTerminal;
use Hafen\Document\JsonNode;
use Hafen\Document\SessionCodec;
use Hafen\Edit\Json\EditCodec;
use Hafen\Processor\ProcessorCatalogue;
use Hafen\Refusal;
use Hafen\Tests\Support\WildEdits;
use Tests\Support\Demo;

it('finds every document again from its differences, whatever the edits', function (): void {
    mt_srand(11);
    $codec = app(SessionCodec::class);
    $edits = app(EditCodec::class);
    $wild = new WildEdits(ProcessorCatalogue::standard());
    $session = (new FerryTerminal)->session(static fn (string $id): string => $id);
    $before = $codec->encode($session);
    for ($i = 0; $i < 1500; ++$i) {
        try {
            $session = $edits->decode(JsonNode::parse((string) json_encode($wild->next($session), JSON_PRESERVE_ZERO_FRACTION), 1 << 22), $session)->apply($session);
        } catch (Refusal) {
            continue;
        }
        $document = $codec->encode($session);
        expect(DocumentDifference::apply($before, DocumentDifference::between($before, $document)))->toBe($document);
        $before = $document;
    }
});

it('keeps a thousand edits of the demo in less than a megabyte, and goes back to any of them', function (): void {
    $stored = app(SessionBook::class)->create((new FerryTerminal)->session(static fn (string $id): string => $id));
    $documents = [$stored->head_id => $stored->document];
    $size = fn (): int => (int) DB::selectOne('pragma page_count')->page_count * (int) DB::selectOne('pragma page_size')->page_size;
    $before = $size();
    $channels = ['accordion-left', 'bass', 'cello', 'drum'];
    for ($i = 0; $i < 1000; ++$i) {
        $row = array_column(json_decode($stored->document, true)['channels'][1]['inserts'], 'id');
        $stored = app(SessionBook::class)->edit($stored->id, $stored->change, new JsonNode((object) match (true) {
            $i % 4 === 0 => ['type' => 'set-fader', 'channels' => [$channels[$i % 3]], 'gain' => -($i % 37) - 0.125],
            $i % 4 === 1 => ['type' => 'set-mute', 'channels' => [$channels[$i % 4]], 'mute' => $i % 8 === 1],
            $i % 4 === 2 => ['type' => 'move-faders', 'channels' => $channels, 'by' => $i % 8 === 2 ? -1.5 : 1.5],
            count($row) > 5 => ['type' => 'remove-inserts', 'inserts' => [$row[0]]],
            default => ['type' => 'add-insert', 'channels' => ['accordion-right'], 'processor' => 'gain'],
        }));
        $documents[$stored->head_id] = $stored->document;
    }
    $codec = app(SessionCodec::class);
    expect($size() - $before)->toBeLessThan(1_048_576);
    foreach (array_rand($documents, 60) as $id) {
        expect(RevisionDocuments::of(Revision::query()->findOrFail($id)))->toBe($documents[$id]);
        $codec->decode($documents[$id]);
    }
});

it('opens a session whose newest state cannot be read at the newest that can, and says so', function (): void {
    $session = Demo::session();
    edit($session, 1, ['type' => 'set-fader', 'channels' => ['cello'], 'gain' => -3.0])->assertOk();
    $good = StoredSession::query()->findOrFail($session->id)->document;
    edit($session, 2, ['type' => 'set-fader', 'channels' => ['cello'], 'gain' => -9.0])->assertOk();
    $broken = Revision::query()->orderByDesc('id')->firstOrFail();
    $broken->update(['difference' => 'damaged']);
    StoredSession::query()->whereKey($session->id)->update(['document' => '{"format":"hafen-session"']);
    $state = $this->getJson("/api/sessions/{$session->id}")->assertOk();
    expect($state->json('notice'))->toContain('Fader of Cello')->toContain('could not be read')
        ->and(StoredSession::query()->findOrFail($session->id)->document)->toBe($good);
    edit($session, (int) $state->json('change'), ['type' => 'set-fader', 'channels' => ['cello'], 'gain' => -4.0])->assertOk()->assertJsonPath('notice', null);
});

it('says so where a revision is damaged, and goes on with the rest', function (): void {
    $session = Demo::session();
    edit($session, 1, ['type' => 'set-fader', 'channels' => ['cello'], 'gain' => -3.0])->assertOk();
    edit($session, 2, ['type' => 'set-fader', 'channels' => ['cello'], 'gain' => -6.0], 'move')->assertOk();
    $damaged = Revision::query()->orderBy('id')->offset(1)->limit(1)->firstOrFail();
    $damaged->update(['difference' => 'damaged']);
    // A movement that goes on, undo into it, and a way around it.
    $change = edit($session, 3, ['type' => 'set-fader', 'channels' => ['cello'], 'gain' => -7.0], 'move')->assertOk()->json('change');
    expect($this->postJson("/api/sessions/{$session->id}/undo")->assertUnprocessable()->json('message'))->toContain('damaged');
    $this->postJson("/api/sessions/{$session->id}/revisions/{$damaged->id}")->assertUnprocessable();
    edit($session, $change, ['type' => 'set-fader', 'channels' => ['cello'], 'gain' => -8.0])->assertOk();
    $this->postJson("/api/sessions/{$session->id}/undo")->assertOk();
    $this->postJson("/api/sessions/{$session->id}/revisions/".Revision::query()->min('id'))->assertOk();
});

it('stores nothing that could not be opened again', function (): void {
    $session = Demo::session();
    // An edit that forgets a limit: what it makes is refused by the format, whatever the edit says.
    $codec = app(SessionCodec::class);
    $broken = $codec->decode($session->document);
    $broken = $broken->withChannel($broken->channel('cello')->withFader(25.0));
    expect(fn () => app(SessionBook::class)->create($broken))->toThrow(Hafen\Document\InvalidDocument::class)
        ->and(StoredSession::query()->count())->toBe(1);
});

it('refuses a session that would grow beyond what can be worked with, and steps that name too much', function (): void {
    $session = Demo::session();
    $change = 1;
    for ($i = 0; $i < 12; ++$i) {
        $answer = edit($session, $change, ['type' => 'paste-inserts', 'channel' => 'cello', 'inserts' => [['type' => 'split', 'id' => 's1', 'branches' => array_map(
            static fn (int $b): array => ['id' => "b{$b}", 'name' => 'B', 'inserts' => array_map(static fn (int $i): array => ['type' => 'processor', 'id' => "x{$b}-{$i}", 'processor' => 'gain'], range(1, 120))],
            range(1, 4),
        )]]]);
        $answer->assertOk();
        $change = $answer->json('change');
    }
    $splits = array_values(array_filter(array_column($this->getJson("/api/sessions/{$session->id}")->json('document.channels.0.inserts'), 'id'), static fn (string $id): bool => $id[0] === 's'));
    $last = null;
    for ($i = 0; $i < 12 && ($last === null || $last->status() === 200); ++$i) {
        $last = edit($session, $change, ['type' => 'copy-inserts', 'inserts' => $splits, 'channels' => ['bass', 'cello', 'main']]);
        $change = $last->json('change') ?? $change;
    }
    $last->assertUnprocessable();
    expect($last->json('message'))->toMatch('/at most|the most there can be/');
    edit($session, $change, ['type' => 'several', 'label' => 'Much', 'edits' => array_fill(0, 600, ['type' => 'set-fader', 'channels' => array_map(static fn (int $i): string => "c{$i}", range(1, 40)), 'gain' => 0])])
        ->assertUnprocessable()->assertJsonPath('location', 'edits');
    edit($session, $change, ['type' => 'several', 'label' => 'Deep', 'edits' => [['type' => 'several', 'label' => 'Deeper', 'edits' => []]]])->assertUnprocessable();
});

it('works an edit out anew when another came in between, and loses neither', function (): void {
    $session = Demo::session();
    $book = app(SessionBook::class);
    $between = true;
    // Another request stores its edit after this one has read the session and before it writes.
    DB::listen(static function ($query) use ($session, $book, &$between): void {
        if ($between && str_starts_with($query->sql, 'select "change" from "sessions"') === false && str_contains($query->sql, 'from "revisions" where "revisions"."id"')) {
            $between = false;
            $book->edit($session->id, 1, new JsonNode((object) ['type' => 'set-fader', 'channels' => ['bass'], 'gain' => -20.0]));
        }
    });
    edit($session, 1, ['type' => 'set-fader', 'channels' => ['cello'], 'gain' => -10.0])->assertOk();
    $channels = array_column(json_decode(StoredSession::query()->findOrFail($session->id)->document, true)['channels'], null, 'id');
    expect($between)->toBeFalse()->and($channels['cello']['fader'])->toBe(-10.0)->and($channels['bass']['fader'])->toBe(-20.0);
});
