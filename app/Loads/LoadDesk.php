<?php

declare(strict_types=1);

namespace App\Loads;

use App\Hardware\ThroughHardware;
use App\Hardware\UnitUse;
use App\Models\LoadRun;
use App\Models\StoredSession;
use App\Sessions\EngineFactory;
use App\Sessions\SessionBook;
use App\Work\Claim;
use Hafen\Hardware\AudioInterface;
use Hafen\Load\FewestBy;
use Hafen\Load\FreezePlan;
use Hafen\Load\FreezePlanner;
use Hafen\Load\LoadMeasure;
use Hafen\Load\SessionLoad;

/** Has the queue measure what a session takes of the machine, and tells what freezing would give back. */
final readonly class LoadDesk
{
    /** Seconds of sound that are played for it, in each round. */
    private const SECONDS = 2.0;

    public function __construct(private SessionBook $book, private EngineFactory $engines, private ThroughHardware $hardware)
    {
    }

    /**
     * What is known of the session as it is now.
     *
     * @return array{change: int, status: string, progress: float, message: ?string, load: ?array<string, mixed>}
     */
    public function state(StoredSession $stored): array
    {
        $run = $this->run($stored);
        $load = $this->measured($run);

        return [
            'change' => $stored->change,
            'status' => $run === null ? 'none' : $run->status,
            'progress' => $run === null ? 0.0 : $run->progress,
            'message' => $run?->message,
            'load' => $load === null ? null : LoadFigures::of($this->book->open($stored), $load),
        ];
    }

    /** Measures the session as it is now; again where that was done before. */
    public function request(StoredSession $stored, bool $again = false): void
    {
        $run = LoadRun::query()->firstOrCreate(['session_id' => $stored->id, 'content' => self::content($stored)], ['status' => 'waiting']);
        if (! $run->wasRecentlyCreated && ($again ? ! in_array($run->status, ['waiting', 'running'], true) : in_array($run->status, ['failed', 'stopped'], true))) {
            $run->update(['status' => 'waiting', 'progress' => 0.0, 'message' => null, 'attempts' => 0]);
            $run->wasRecentlyCreated = true;
        }
        if ($run->wasRecentlyCreated) {
            LoadRun::query()->where('session_id', $stored->id)->whereKeyNot($run->id)->delete();
            Claim::queue($run);
        }
    }

    /** Null where the session is not measured as it is now. */
    public function plan(StoredSession $stored, float $target, FewestBy $by): ?FreezePlan
    {
        $load = $this->measured($this->run($stored));

        return $load === null ? null : (new FreezePlanner($this->book->open($stored), $load))->plan($target, $by);
    }

    public function measure(Claim $claim): void
    {
        $run = $claim->task;
        assert($run instanceof LoadRun);
        $stored = StoredSession::query()->findOrFail($run->session_id);
        if (self::content($stored) !== $run->content) {
            $claim->finish(['status' => 'stopped', 'message' => 'The session was changed meanwhile.']);

            return;
        }
        $session = $this->book->open($stored);
        $load = $this->hardware->work($session, null, $claim, UnitUse::Background, fn (?AudioInterface $interface): ?SessionLoad => (new LoadMeasure($this->engines->compiler($session->sampleRate, $interface)))->measure($session, self::SECONDS, $claim->beat(...)));
        if ($load !== null) {
            $claim->finish(['status' => 'done', 'progress' => 1.0, 'result' => LoadFigures::stored($load)]);
        } elseif (! $claim->isLeaving()) {
            $claim->finish(['status' => 'stopped']);
        }
    }

    private function run(StoredSession $stored): ?LoadRun
    {
        return LoadRun::query()->where('session_id', $stored->id)->where('content', self::content($stored))->first();
    }

    private function measured(?LoadRun $run): ?SessionLoad
    {
        return $run?->result === null || $run->status !== 'done' ? null : LoadFigures::read($run->result);
    }

    private static function content(StoredSession $stored): string
    {
        return hash('sha256', $stored->document);
    }
}
