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
        ['type' => 'processor', 'id' => 'i1', 'processor' => 'trim', 'parameters' => ['gain' => -3]],
        ['type' => 'split', 'id' => 's1', 'branches' => [['id' => 'b1', 'name' => 'Dry'], ['id' => 'b2', 'name' => 'Wet', 'inserts' => [['type' => 'processor', 'id' => 'i2', 'processor' => 'hall']]]]],
    ]];
    $id = $this->postJson('/api/row-presets', $row)->assertCreated()->json('id');
    $this->getJson('/api/row-presets')->assertJsonCount($rows + 1)->assertJsonPath("{$rows}.inserts.1.branches.1.inserts.0.processor", 'hall');
    $this->deleteJson("/api/row-presets/{$id}")->assertNoContent();
    $this->postJson('/api/row-presets', [...$row, 'inserts' => [['type' => 'processor', 'id' => 'i1', 'processor' => 'kazoo']]])->assertUnprocessable()->assertJsonPath('place', '/inserts/0/processor');
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
    expect($this->getJson("/api/sessions/{$session->id}/channels/cello/key")->assertOk()->json('key'))->toBeString();
    $this->getJson("/api/sessions/{$session->id}/channels/main/key")->assertOk()->assertJsonPath('key', null);
    $this->getJson("/api/sessions/{$session->id}/channels/nowhere/key")->assertUnprocessable();
});
