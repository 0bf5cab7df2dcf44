<?php

declare(strict_types=1);

return [
    // Everything a person made lives below this folder: database, media, renders.
    'data' => env('HAFEN_DATA', storage_path('app')),

    // "worker": works for an application that may be on another machine, see docs/scaling.md.
    'role' => env('HAFEN_ROLE', ''),

    // A disk of config/filesystems.php that machines share; empty where they share the data folder itself.
    'shared_disk' => env('HAFEN_SHARED_DISK', ''),

    // Where the streams of this machine tell its workers what playing needs; never shared with other machines.
    'playing' => env('HAFEN_PLAYING', env('HAFEN_DATA', storage_path('app')).'/listeners'),

    // How far the engine runs ahead of what is heard, in seconds; at most 0.4. More is safer on a busy machine, less lets
    // edits be heard sooner. Where all comes in time it comes down to 0.08 by itself.
    'lead' => (float) env('HAFEN_LEAD', 0.12),

    // Where listening streams are served: its own processes, so that a long stream never holds up an edit.
    'listen_url' => env('HAFEN_LISTEN_URL', ''),

    // Where other devices reach this machine, for the pages of performers and nothing else; empty where they do not.
    'performers_url' => env('HAFEN_PERFORMERS_URL', ''),

    // Streams that can be served at once; as many processes have to be there, and a few more to say no to others.
    'listeners' => (int) env('HAFEN_LISTENERS', 4),

    // Longest run-in before a place in mid-session, in seconds, so that filters and tails sound as if played from the start.
    'pre_roll' => (float) env('HAFEN_PRE_ROLL', 1.5),

    // Bytes that measurements and what they captured may take; what was not used for longest goes first. Left out: 30 % of the free disk, at most 32 GB.
    'survey_bytes' => env('HAFEN_SURVEY_BYTES'),

    // Where decoders for files other than WAV are found.
    'ffmpeg' => env('HAFEN_FFMPEG', 'ffmpeg'),
    'ffprobe' => env('HAFEN_FFPROBE', 'ffprobe'),

    // Cores of this machine: playing gets what it needs of them, background work what is left.
    'cores' => (int) env('HAFEN_CORES', 2),

    // Processes one engine runs in: 1 is never more than one; empty lets the load choose, up to the number of cores.
    'engine_processes' => env('HAFEN_ENGINE_PROCESSES'),

    // Whether the stand-ins of units of outboard may run faster than the clock, for tests.
    'offline_hardware' => (bool) env('HAFEN_OFFLINE_HARDWARE', false),

    // Bytes of the disk that stay free for edits, whatever is imported or rendered.
    'reserve_bytes' => (int) env('HAFEN_RESERVE_BYTES', 256 << 20),
];
