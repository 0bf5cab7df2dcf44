<?php

declare(strict_types=1);

use App\Models\Preset;
use Tests\Support\Demo;

it('shows what ships and what is one’s own, and keeps rows with their splits', function (): void {
    $shipped = count((array) $this->getJson('/api/presets?processor=drive')->json());
    $this->postJson('/api/presets', ['processor' => 'drive', 'name' => 'Mine', 'use' => 'Bass', 'parameters' => ['drive' => 9.5]])->assertCreated()->assertJsonPath('use', 'Bass');
    $this->getJson('/api/presets?processor=drive')->assertJsonCount($shipped + 1)->assertJsonPath('0.id', null)->assertJsonPath("{$shipped}.name", 'Mine');
    $rows = count((array) $this->getJson('/api/row-presets')->json());
    $row = ['name' => 'Two ways', 'inserts' => [
        ['type' => 'processor', 'id' => 'i1', 'processor' => 'gain', 'parameters' => ['gain' => -3]],
        ['type' => 'split', 'id' => 's1', 'branches' => [['id' => 'b1', 'name' => 'Dry'], ['id' => 'b2', 'name' => 'Wet', 'inserts' => [['type' => 'processor', 'id' => 'i2', 'processor' => 'hall']]]]],
    ]];
    $id = $this->postJson('/api/row-presets', $row)->assertCreated()->json('id');
    $this->getJson('/api/row-presets')->assertJsonCount($rows + 1)->assertJsonPath("{$rows}.inserts.1.branches.1.inserts.0.processor", 'hall');
    $this->deleteJson("/api/row-presets/{$id}")->assertNoContent();
    $this->postJson('/api/row-presets', [...$row, 'inserts' => [['type' => 'processor', 'id' => 'i1', 'processor' => 'kazoo']]])->assertUnprocessable()->assertJsonPath('location', '/inserts/0/processor');
});

it('takes its own file back in whole, and nothing of a broken one', function (): void {
    $this->postJson('/api/presets', ['processor' => 'drive', 'name' => 'Mine', 'parameters' => ['drive' => 9.5]])->assertCreated();
    $this->postJson('/api/row-presets', ['name' => 'Row', 'inserts' => [['type' => 'processor', 'id' => 'i1', 'processor' => 'room']]])->assertCreated();
    $file = (string) $this->get('/api/presets/file')->assertOk()->getContent();
    Preset::query()->delete();
    $this->call('POST', '/api/presets/file', content: $file)->assertCreated()->assertJson(['presets' => 1, 'rows' => 1, 'replaced' => ['Row']]);
    expect(Preset::query()->sole()->parameters)->toEqual(['drive' => 9.5])->and((string) $this->get('/api/presets/file')->getContent())->toBe($file);
    Preset::query()->delete();
    $broken = str_replace('"trim"', '"kazoo"', str_replace('"room"', '"trim"', $file));
    $this->call('POST', '/api/presets/file', content: $broken)->assertUnprocessable();
    expect(Preset::query()->count())->toBe(0);
});

it('leaves locked parameters alone when a preset is taken, and keeps two settings', function (): void {
    $session = Demo::session();
    edit($session, 1, ['type' => 'add-insert', 'channels' => ['cello'], 'processor' => 'drive'])->assertOk();
    $row = fn (): array => $this->getJson("/api/sessions/{$session->id}")->json('document.channels.0.inserts');
    $drive = fn (): array => array_values(array_filter($row(), static fn (array $one): bool => $one['processor'] === 'drive'))[0];
    $name = $drive()['id'];
    $edit = fn (array $edit) => edit($session, $this->getJson("/api/sessions/{$session->id}")->json('change'), ['insert' => $name, ...$edit])->assertOk();
    $edit(['type' => 'set-parameter', 'parameter' => 'output', 'value' => -8.0]);
    $edit(['type' => 'set-locked', 'parameter' => 'output', 'locked' => true]);
    $edit(['type' => 'set-parameters', 'parameters' => ['drive' => 20.0, 'output' => -1.0], 'preset' => 'Hot']);
    expect($drive()['parameters'])->toEqual(['drive' => 20.0, 'output' => -8.0])->and($drive()['locked'])->toBe(['output']);
    $edit(['type' => 'swap-settings']);
    $edit(['type' => 'set-parameter', 'parameter' => 'drive', 'value' => 3.0]);
    $edit(['type' => 'swap-settings']);
    expect($drive()['parameters']['drive'])->toEqual(20.0)->and($drive()['other'])->toEqual(['side' => 2, 'parameters' => ['drive' => 3.0, 'output' => -8.0]]);
    $edit(['type' => 'drop-other-setting']);
    expect($drive())->not->toHaveKey('other');
});

it('finds the key of a track, and none where nothing is recorded', function (): void {
    $session = Demo::session();
    expect($this->getJson("/api/sessions/{$session->id}/channels/cello/musical-key")->assertOk()->json('key'))->toBeString();
    $this->getJson("/api/sessions/{$session->id}/channels/main/musical-key")->assertOk()->assertJsonPath('key', null);
    $this->getJson("/api/sessions/{$session->id}/channels/nowhere/musical-key")->assertUnprocessable();
});

it('keeps favourites and folders on the server', function (): void {
    $put = fn (?string $folder, string $processor, bool $in) => $this->putJson('/api/folders', ['folder' => $folder, 'processor' => $processor, 'in' => $in]);
    $put(null, 'echo', true)->assertOk();
    $put('Voices', 'de-esser', true);
    $put(' Voices ', 'compressor', true);
    // Said twice it is there once: another window may have said it.
    $put('Voices', 'compressor', true);
    $put('Bass', 'drive', true)->assertExactJson(['favourites' => ['echo'], 'folders' => [['name' => 'Bass', 'processors' => ['drive']], ['name' => 'Voices', 'processors' => ['de-esser', 'compressor']]]]);
    $put('Bass', 'drive', false);
    $put('Voices', 'de-esser', false);
    $put('Nowhere', 'de-esser', false);
    $put(null, 'echo', false);
    $this->getJson('/api/folders')->assertExactJson(['favourites' => [], 'folders' => [['name' => 'Voices', 'processors' => ['compressor']]]]);
});

it('refuses folders without a name, effects that are not there, and too long names', function (array $body, string $place): void {
    $this->putJson('/api/folders', $body)->assertStatus(422)->assertJsonPath('location', $place);
    $this->getJson('/api/folders')->assertExactJson(['favourites' => [], 'folders' => []]);
})->with([
    [['folder' => '  ', 'processor' => 'echo', 'in' => true], '/folder'],
    [['folder' => str_repeat('a', 61), 'processor' => 'echo', 'in' => true], '/folder'],
    [['folder' => 'Mine', 'processor' => 'flux', 'in' => true], '/processor'],
    [['folder' => 'Mine', 'processor' => 'echo', 'in' => 'yes'], '/in'],
    [['folder' => 'Mine', 'processor' => 'echo'], '/'],
]);

it('writes presets anew that were made when gain was called trim', function (): void {
    DB::table('presets')->insert(['processor' => 'trim', 'name' => 'Less', 'use' => 'Own', 'parameters' => '{"gain":-6.0}', 'created_at' => now(), 'updated_at' => now()]);
    DB::table('row_presets')->insert(['name' => 'Old row', 'use' => 'Own', 'inserts' => '[{"type":"processor","id":"i1","processor":"trim","parameters":{"gain":-3.0}}]', 'created_at' => now(), 'updated_at' => now()]);
    $migration = require database_path('migrations/2026_11_26_000002_shelf_and_watch.php');
    $migration->down();
    $migration->up();
    expect(array_column($this->getJson('/api/presets?processor=gain')->json(), 'name'))->toContain('Less')
        ->and($this->getJson('/api/row-presets')->json()[6]['inserts'][0]['processor'])->toBe('gain');
});
