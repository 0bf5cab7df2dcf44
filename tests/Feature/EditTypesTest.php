<?php

declare(strict_types=1);

/** @return list<string> what a pattern finds in files, sorted, each once */
function editNamesIn(string $pattern, string ...$files): array
{
    $names = [];
    foreach ($files as $file) {
        preg_match_all($pattern, (string) file_get_contents(base_path($file)), $found);
        array_push($names, ...$found[1]);
    }
    $names = array_values(array_unique($names));
    sort($names);

    return $names;
}

it('knows the same edits in the codecs, in the front end and in the documentation', function (): void {
    $codecs = editNamesIn("/^            '([a-z-]+)' =>/m", 'core/src/Edit/Json/EditCodec.php', 'core/src/Edit/Json/PrintEditCodec.php', 'core/src/Edit/Json/LoopEditCodec.php', 'core/src/Edit/Json/MacroEditCodec.php', 'core/src/Edit/Json/SoundEditCodec.php', 'core/src/Edit/Json/NoteEditCodec.php', 'core/src/Edit/Json/RoutingEditCodec.php', 'core/src/Edit/Json/SplitEditCodec.php');
    expect(count($codecs))->toBeGreaterThan(60)
        ->and(array_diff($codecs, editNamesIn('/(?:^\| |, )`([a-z-]+)`(?=[^|\n]*\|)/m', 'docs/formats/edits.md')))->toBe([]);
    $typed = (string) preg_replace("/source: [^\n]+|tap[?]?: [^\n]+/", '', (string) file_get_contents(base_path('resources/js/api/edits.ts')));
    preg_match_all("/type: ((?:'[a-z-]+'(?: \| )?)+)/", $typed, $found);
    $front = array_values(array_unique(array_merge(...array_map(static fn (string $names): array => explode("' | '", trim($names, "' ")), $found[1]))));
    sort($front);
    expect($front)->toBe($codecs);
});
