<?php

declare(strict_types=1);

namespace App\Listening;

use App\Takes\RecordWish;
use Hafen\Headroom\BandListen;
use Hafen\Headroom\Sweep;
use Hafen\Note\HeldKeys;
use Illuminate\Support\Facades\DB;
use PDO;
use PDOStatement;

/** Reads a listener's options; called for every block, so it uses one prepared statement. */
final readonly class ListeningOptionsReader
{
    private PDOStatement $statement;

    public function __construct(private string $listeningId)
    {
        $this->statement = DB::connection()->getPdo()->prepare(
            'select s.change, l.tap, l.loop_start, l.loop_end, l.compare, l.side, l.stopped, l.sweep, l.watch, l.record, l.metered, l.armed, l.standing, l.interface, l.quick, l.punch, l.beside, l.played, l.click,
             (select change from interface_profiles limit 1) as setting
             from listenings l join sessions s on s.id = l.session_id where l.id = ?',
        );
    }

    /** Null when the listening is gone. */
    public function read(): ?ListeningOptions
    {
        $this->statement->execute([$this->listeningId]);
        /** @var array{change: int, tap: ?string, loop_start: ?int, loop_end: ?int, compare: ?string, side: int, stopped: int, sweep: ?string, watch: ?string, record: ?string, metered: ?string, armed: ?string, standing: int, interface: int, quick: ?float, punch: ?string, beside: int, played: ?string, click: int, setting: ?int}|false $row */
        $row = $this->statement->fetch(PDO::FETCH_ASSOC);
        $this->statement->closeCursor();
        if ($row === false) {
            return null;
        }
        /** @var ?array{insert?: string, parameters?: array<string, mixed>, row?: string, plan?: int} $compare */
        $compare = $row['compare'] === null ? null : json_decode($row['compare'], true);
        /** @var list<array{channel: string, tap: string}> $record */
        $record = $row['record'] === null ? [] : json_decode($row['record'], true);
        /** @var list<string> $armed */
        $armed = $row['armed'] === null ? [] : json_decode($row['armed'], true);
        /** @var null|array{channel: string, frequency: float|int}|array{insert: string, band: string} $sweep */
        $sweep = $row['sweep'] === null ? null : json_decode($row['sweep'], true);

        /** @var ?list<string> $metered */
        $metered = $row['metered'] === null ? null : json_decode($row['metered'], true);

        /** @var ?array{from: int, to: ?int} $punch */
        $punch = $row['punch'] === null ? null : json_decode($row['punch'], true);

        /** @var ?array{channel: string, keys: list<array{int, int, int}>, controls: list<array{int, int}>} $played */
        $played = $row['played'] === null ? null : json_decode($row['played'], true);

        return new ListeningOptions(
            (int) $row['change'],
            $row['tap'],
            $row['loop_start'],
            $row['loop_end'],
            $compare,
            (int) $row['side'],
            (bool) $row['stopped'],
            match (true) {
                $sweep === null => null,
                isset($sweep['insert']) => new BandListen($sweep['insert'], $sweep['band']),
                default => new Sweep($sweep['channel'], (float) $sweep['frequency']),
            },
            $row['watch'],
            array_map(static fn (array $wish): RecordWish => new RecordWish($wish['channel'], $wish['tap']), $record),
            $metered,
            $armed,
            (bool) $row['standing'],
            (bool) $row['interface'],
            $row['quick'] === null ? null : (float) $row['quick'],
            $row['setting'] ?? 0,
            $punch,
            (bool) $row['beside'],
            $played === null ? null : new HeldKeys($played['channel'], array_map(static fn (array $key): array => [$key[1], $key[2]], array_column($played['keys'], null, 0)), array_column($played['controls'], 1, 0)),
            (bool) $row['click'],
        );
    }
}
