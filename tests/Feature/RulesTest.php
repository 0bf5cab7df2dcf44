<?php

declare(strict_types=1);

use Hafen\Processor\ProcessorCatalogue;
use Hafen\Session\Insert\SplitChoice;
use Tests\Support\Demo;

/** What the rules say must be what the server takes: the front end offers nothing else. */
beforeEach(function (): void {
    $this->session = Demo::session();
    $this->rules = $this->getJson('/api/rules')->assertOk()->json();
    $this->edit = fn (array $edit) => $this->postJson("/api/sessions/{$this->session->id}/edits", ['base' => $this->session->refresh()->change, 'edit' => $edit]);
});

it('takes every way to split that it offers, and makes as many branches', function (): void {
    expect($this->rules['splitChoices'])->not->toBe([]);
    foreach ($this->rules['splitChoices'] as ['id' => $id, 'edit' => $edit]) {
        $row = ($this->edit)(['type' => 'add-split', 'channel' => 'bass', 'at' => 0, ...$edit])->assertOk()->json('document.channels.1.inserts');
        expect($row[0]['type'])->toBe('split')->and($row[0]['by'])->toBe($edit['by'])->and($row[0]['branches'])->toHaveCount($edit['branches'], $id);
        $limits = $this->rules['splits'][$edit['by']];
        expect($edit['branches'])->toBeGreaterThanOrEqual($limits['fewest'])->toBeLessThanOrEqual($limits['most']);
        ($this->edit)(['type' => 'add-split', 'channel' => 'bass', ...$edit, 'branches' => $limits['most'] + 1])->assertStatus(422);
        $this->postJson("/api/sessions/{$this->session->id}/undo")->assertOk();
    }
    expect(array_column($this->rules['splitChoices'], 'id'))->toBe(array_unique(array_map(static fn (SplitChoice $choice): string => $choice->id, SplitChoice::all())));
});

it('has a shelf for every processor', function (): void {
    $used = array_unique(array_map(static fn (array $spec): string => $spec['category'], $this->getJson('/api/processors')->json()));
    expect(array_diff($used, $this->rules['categories']))->toBe([])
        ->and(array_diff($this->rules['categories'], $used))->toBe([])
        ->and(count(ProcessorCatalogue::standard()->ids()))->toBeGreaterThan(40);
});

it('takes what it says an aim can be, and names the range of what is not', function (): void {
    ['lowest' => $lowest, 'highest' => $highest] = $this->rules['aimRange'];
    $ask = fn (string $figure, float $level) => $this->postJson("/api/sessions/{$this->session->id}/plans", ['aim' => ['figure' => $figure, 'level' => $level], 'plans' => [['remedies' => ['trim-main']]]]);
    foreach ($this->rules['aims'] as ['figure' => $figure, 'usual' => $usual, 'unit' => $unit]) {
        foreach ([$lowest, $usual, $highest] as $level) {
            $ask($figure, $level)->assertOk();
        }
        foreach ([$lowest - 0.1, $highest + 0.1] as $level) {
            expect($ask($figure, $level)->assertStatus(422)->json('message'))->toContain((string) $level, $unit, (string) $lowest);
        }
    }
    $ask('brightness', -6.0)->assertStatus(422);
});

it('takes every remedy it lists, and no amount above the most', function (): void {
    $ask = fn (array $plan) => $this->postJson("/api/sessions/{$this->session->id}/plans", ['aim' => ['figure' => 'peak', 'level' => -6.0], 'plans' => [$plan]]);
    $ask(['remedies' => array_column($this->rules['remedies'], 'id')])->assertOk();
    $ask(['remedies' => ['trim-main'], 'amounts' => ['trim-main' => $this->rules['mostAmount']]])->assertOk();
    expect($ask(['remedies' => ['trim-main'], 'amounts' => ['trim-main' => $this->rules['mostAmount'] + 0.5]])->assertStatus(422)->json('message'))->toContain('40.5');
    expect($ask(['remedies' => ['lower-everything']])->assertStatus(422)->json('message'))->toContain('lower-everything', 'trim-main');
});

it('sweeps from the lowest to the highest frequency it says, and no further', function (): void {
    ['lowest' => $lowest, 'highest' => $highest, 'depths' => $depths] = $this->rules['sweep'];
    $sweep = fn (float $frequency) => $this->postJson("/api/sessions/{$this->session->id}/listenings", ['side' => 1, 'sweep' => ['channel' => 'bass', 'frequency' => $frequency]]);
    $sweep($lowest)->assertCreated();
    $sweep($highest)->assertCreated();
    expect($sweep($lowest - 1)->assertStatus(422)->json('message'))->toContain((string) ($lowest - 1), 'Hz');
    $sweep($highest + 1)->assertStatus(422);
    foreach ($depths as $depth) {
        ($this->edit)(['type' => 'cut-frequency', 'channel' => 'bass', 'frequency' => $lowest, 'depth' => $depth])->assertOk();
    }
});

it('renders in every format it lists', function (): void {
    foreach ($this->rules['formats'] as ['id' => $format]) {
        $this->postJson("/api/sessions/{$this->session->id}/renders", ['format' => $format, 'clip' => true])->assertAccepted();
    }
    expect($this->postJson("/api/sessions/{$this->session->id}/renders", ['format' => '8'])->assertStatus(422)->json('message'))->toContain('"8"', '16');
});

it('lets faders go where its table ends, and automation where that ends', function (): void {
    ['lowest' => $lowest, 'highest' => $highest, 'highestAutomated' => $most, 'step' => $step, 'travels' => $travels] = $this->rules['fader'];
    expect($travels)->toHaveCount((int) round(($most - $lowest) / $step) + 1)
        ->and($travels[0])->toEqual(0)
        ->and($travels[(int) round(($highest - $lowest) / $step)])->toEqualWithDelta(1.0, 1e-6);
    for ($i = 1, $n = count($travels); $i < $n; ++$i) {
        expect($travels[$i])->toBeGreaterThan($travels[$i - 1]);
    }
    ($this->edit)(['type' => 'set-fader', 'channels' => ['bass'], 'gain' => $highest])->assertOk();
    $lane = fn (float $value) => ($this->edit)(['type' => 'set-automation', 'channel' => 'bass', 'target' => 'fader', 'points' => [['at' => 0, 'value' => $value]]]);
    $lane($most)->assertOk();
    $lane($most + 0.1)->assertStatus(422);
});

it('says of each kind of channel what the edits allow', function (): void {
    ($this->edit)(['type' => 'add-channel', 'name' => 'Plate', 'kind' => 'return'])->assertOk();
    ($this->edit)(['type' => 'add-channel', 'name' => 'Cue', 'kind' => 'cue'])->assertOk();
    ($this->edit)(['type' => 'add-channel', 'name' => 'Strings', 'kind' => 'group'])->assertOk();
    foreach (['cello' => 'track', 'plate' => 'return', 'cue' => 'cue', 'strings' => 'group', 'main' => 'main'] as $id => $kind) {
        $rule = $this->rules['kinds'][$kind];
        $status = static fn (bool $allowed): int => $allowed ? 200 : 422;
        $asked = [
            'an output' => [['type' => 'set-output', 'channels' => ['bass'], 'output' => $id], $rule['takesOutputs']],
            'a send' => [['type' => 'add-send', 'channels' => ['bass'], 'to' => $id], $rule['takesSends']],
            'to send' => [['type' => 'add-send', 'channels' => [$id], 'to' => $kind === 'return' ? 'cue' : 'plate'], $rule['canSend'] && $kind !== 'main'],
            'to be grouped' => [['type' => 'group-channels', 'channels' => [$id]], $rule['canBeGrouped']],
        ];
        foreach ($asked as $what => [$edit, $allowed]) {
            $answer = ($this->edit)($edit);
            expect($answer->status())->toBe($status($allowed), "{$what} of {$kind}: {$answer->json('message')}");
            if ($answer->status() === 200) {
                $this->postJson("/api/sessions/{$this->session->id}/undo")->assertOk();
            }
        }
    }
});
