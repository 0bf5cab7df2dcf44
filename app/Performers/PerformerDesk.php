<?php

declare(strict_types=1);

namespace App\Performers;

use App\Models\PerformerPage;
use App\Models\StoredSession;
use App\Sessions\SessionBook;
use Hafen\Edit\Channel\PerformerFader;
use Hafen\Edit\Channels;
use Hafen\Edit\Refusals\NotACue;
use Hafen\Session\Channel\Channel;
use Hafen\Session\Channel\FaderScale;
use Hafen\Session\Session;

/** The pages of performers: opened for a cue, found by their key, and what is set on them. */
final readonly class PerformerDesk
{
    /** @param  string  $url  other devices reach this machine at; empty where they do not */
    public function __construct(private SessionBook $book, private string $url)
    {
    }

    /**
     * The page of a cue, the same until it is closed.
     *
     * @throws NotACue
     */
    public function open(StoredSession $stored, string $cue): PerformerPage
    {
        Channels::cue($this->book->open($stored), $cue);

        return PerformerPage::query()->firstOrCreate(['session_id' => $stored->id, 'cue' => $cue], ['key' => bin2hex(random_bytes(16))]);
    }

    /** Nobody who knows its key can set anything any more. */
    public function close(StoredSession $stored, string $cue): void
    {
        PerformerPage::query()->where('session_id', $stored->id)->where('cue', $cue)->delete();
    }

    /** @return array{path: string, url: ?string} where the page is; the url is that for other devices, null where none reach this machine */
    public function address(PerformerPage $page): array
    {
        $path = "/cue/{$page->key}";

        return ['path' => $path, 'url' => $this->url === '' ? null : rtrim($this->url, '/').$path];
    }

    /** @throws NoSuchPage when the key is not known, or the cue is gone */
    public function find(string $key): PerformerPage
    {
        return PerformerPage::query()->find($key) ?? throw NoSuchPage::any();
    }

    /** @return array<string, mixed> what the page shows */
    public function state(PerformerPage $page): array
    {
        [$session, $cue] = $this->heard($page);

        return [
            'session' => $session->name,
            'cue' => $cue->name,
            'tracks' => array_values(array_filter(array_map(static fn (string $id): ?string => $session->channel($id)?->name, $cue->performer->tracks ?? []))),
            'isMuted' => $cue->mute,
            'faders' => array_map(static fn (PerformerFader $fader): array => [
                'id' => $fader->value,
                'label' => $fader->label($cue),
                'gain' => $fader->gain($cue),
                'lowest' => $fader->lowest(),
                'highest' => $fader->highest(),
            ], PerformerFader::of($cue)),
            'scale' => FaderScale::table(),
        ];
    }

    /** @param  ?string  $gesture  moves of one movement carry the same word */
    public function set(PerformerPage $page, PerformerFader $fader, ?float $gain, ?string $gesture): void
    {
        $this->book->apply($page->session_id, static fn (Session $session) => $fader->edit($session->channel($page->cue) ?? throw NoSuchPage::any(), $gain), $gesture === null ? null : substr("{$page->cue}:{$gesture}", 0, 64));
    }

    /**
     * @return array{Session, Channel}
     *
     * @throws NoSuchPage
     */
    private function heard(PerformerPage $page): array
    {
        $stored = StoredSession::query()->find($page->session_id) ?? throw NoSuchPage::any();
        $session = $this->book->open($stored);

        return [$session, $session->channel($page->cue) ?? throw NoSuchPage::any()];
    }
}
