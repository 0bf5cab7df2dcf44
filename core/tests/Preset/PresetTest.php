<?php

declare(strict_types=1);

use Hafen\Document\InvalidDocument;
use Hafen\Document\SessionCodec;
use Hafen\Note\NoteEvent;
use Hafen\Note\NoteEventKind;
use Hafen\Preset\Preset;
use Hafen\Preset\PresetCodec;
use Hafen\Preset\ShippedPresets;
use Hafen\Processor\ChangesNotes;
use Hafen\Processor\FollowsNotes;
use Hafen\Processor\ProcessorCatalogue;
use Hafen\Processor\TakesNotes;
use Hafen\Tests\Support\Signal;

function presetCodec(): PresetCodec
{
    return new PresetCodec(new SessionCodec(ProcessorCatalogue::standard()));
}

it('ships presets for every use, and for most effects', function (): void {
    $all = (new ShippedPresets(presetCodec()))->all();
    expect(array_unique(array_column($all->presets, 'use')))->toContain('Voice', 'Bass', 'Drums', 'Strings', 'Keys', 'Room', 'Master')
        ->and(count(array_unique(array_column($all->presets, 'processor'))))->toBeGreaterThan(35)
        ->and($all->rows)->not->toBe([]);
    $names = array_map(static fn ($preset): string => "{$preset->processor}/{$preset->name}", $all->presets);
    expect($names)->toBe(array_unique($names));
    // None is silent or far too loud.
    foreach ($all->presets as $preset) {
        $processor = Signal::processor($preset->processor, $preset->parameters);
        // What is played, or follows notes, gets one; note effects make no sound.
        $played = [new NoteEvent(0, NoteEventKind::On, 57, 0.8)];
        $processor instanceof TakesNotes && $processor->notes($played);
        $processor instanceof FollowsNotes && $processor->follow($played);
        if ($processor instanceof ChangesNotes) {
            continue;
        }
        $out = Signal::through($processor, Signal::noise(28800, 3, 0.5), Signal::noise(28800, 4, 0.5), 4096);
        $level = 20 * log10(max(Signal::rms(array_slice($out->left, $processor instanceof TakesNotes ? 2400 : 14400)), 1e-9) / Signal::rms(Signal::noise(4800, 3, 0.5)));
        expect($level)->toBeGreaterThan(-40.0, "{$preset->processor}/{$preset->name}")->toBeLessThan(18.0, "{$preset->processor}/{$preset->name}");
    }
});

it('writes and reads files of presets alike', function (): void {
    $all = (new ShippedPresets(presetCodec()))->all();
    expect(presetCodec()->decode(presetCodec()->encode($all)))->toEqual($all);
});

it('names what is wrong in a file of presets', function (string $json, string $pointer): void {
    try {
        presetCodec()->decode($json);
    } catch (InvalidDocument $refusal) {
        expect($refusal->location)->toBe($pointer);

        return;
    }
    throw new LogicException('The file was taken.');
})->with([
    ['{"format":"hafen-session","version":1}', '/format'],
    ['{"format":"hafen-presets","version":2}', '/version'],
    ['{"format":"hafen-presets","version":1,"presets":[{"processor":"drive","name":"A","parameters":{"drive":99}}]}', '/presets/0/parameters/drive'],
    ['{"format":"hafen-presets","version":1,"presets":[{"processor":"unknown","name":"A","parameters":{}}]}', '/presets/0/processor'],
    ['{"format":"hafen-presets","version":1,"rows":[{"name":"A","inserts":[]}]}', '/rows/0/inserts'],
    ['{"format":"hafen-presets","version":1,"rows":[{"name":"A","use":"Kazoo","inserts":[{"type":"processor","id":"i1","processor":"trim"}]}]}', '/rows/0/use'],
]);

it('knows a setting again, whatever is locked, left out or written without a decimal point', function (array $parameters, array $locked, bool $matches): void {
    $spec = ProcessorCatalogue::standard()->spec('drive');
    $preset = new Preset('drive', 'Hot', 'Bass', ['drive' => 18, 'output' => -6.0]);
    expect($preset->matches($spec, $parameters, $locked))->toBe($matches);
})->with([
    'alike' => [['drive' => 18.0, 'output' => -6.0], [], true],
    'with a default spelled out' => [['drive' => 18.0, 'output' => -6.0, 'shape' => 0.0], [], true],
    'another drive' => [['drive' => 18.1, 'output' => -6.0], [], false],
    'a default that moved' => [['drive' => 18.0, 'output' => -6.0, 'shape' => 1.0], [], false],
    'what is locked does not count' => [['drive' => 18.0, 'output' => -12.0], ['output'], true],
    'nothing set' => [[], [], false],
]);

it('does not take a choice or a switch for another', function (): void {
    $spec = ProcessorCatalogue::standard()->spec('echo');
    $preset = new Preset('echo', 'Wide', 'Room', ['unit' => 'ms', 'ping-pong' => true]);
    expect($preset->matches($spec, ['unit' => 'ms', 'ping-pong' => true], []))->toBeTrue()
        ->and($preset->matches($spec, ['unit' => 'ms'], []))->toBeFalse()
        ->and($preset->matches($spec, ['ping-pong' => true], []))->toBeFalse();
});
