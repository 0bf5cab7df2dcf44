<?php

declare(strict_types=1);

use App\Models\StoredSession;

/** @param  array<string, mixed>  $edit */
function edit(StoredSession $session, int $base, array $edit, ?string $gesture = null): Illuminate\Testing\TestResponse
{
    return test()->postJson("/api/sessions/{$session->id}/edits", ['base' => $base, 'edit' => $edit, ...($gesture === null ? [] : ['gesture' => $gesture])]);
}
