<?php

declare(strict_types=1);

arch('the core knows nothing of the application')
    ->expect('Hafen')
    ->not->toUse(['Illuminate', 'App', 'Laravel', 'Symfony', 'Carbon'])
    ->ignoring('Hafen\Tests');

// What each part may use. Together they leave no circle: a part uses only what stands above it here, and itself.
$layers = [
    'Note' => [],
    'Audio' => ['Note'],
    'Dsp' => ['Audio'],
    'Processor' => ['Audio', 'Dsp', 'Note'],
    'Metering' => ['Audio', 'Dsp'],
    'Session' => ['Processor', 'Note'],
    'Routing' => ['Session', 'Processor'],
    'Document' => ['Session', 'Routing', 'Processor', 'Note'],
    'Edit' => ['Session', 'Document', 'Routing', 'Processor', 'Audio', 'Note'],
    'Preset' => ['Session', 'Document', 'Processor'],
    'Hardware' => ['Session', 'Document', 'Processor', 'Dsp', 'Audio'],
    'Engine' => ['Note', 'Hardware', 'Session', 'Routing', 'Metering', 'Processor', 'Dsp', 'Audio'],
    'Survey' => ['Session', 'Document', 'Routing', 'Hardware', 'Engine', 'Metering', 'Processor', 'Audio'],
    'Headroom' => ['Session', 'Document', 'Edit', 'Routing', 'Hardware', 'Engine', 'Survey', 'Metering', 'Processor', 'Dsp', 'Audio'],
    'Pilot' => ['Session', 'Document', 'Edit', 'Routing', 'Survey', 'Headroom', 'Metering', 'Processor', 'Audio'],
    'Printing' => ['Note', 'Session', 'Document', 'Routing', 'Engine', 'Survey', 'Metering', 'Processor', 'Audio'],
    'Load' => ['Session', 'Routing', 'Engine', 'Audio'],
    'Demo' => ['Note', 'Hardware', 'Session', 'Processor', 'Dsp', 'Audio'],
    'Command' => ['Note', 'Session', 'Document', 'Edit', 'Routing', 'Hardware', 'Engine', 'Survey', 'Headroom', 'Pilot', 'Preset', 'Printing', 'Load', 'Demo', 'Metering', 'Processor', 'Dsp', 'Audio'],
];
foreach ($layers as $part => $uses) {
    arch("{$part} uses only what stands above it")
        ->expect("Hafen\\{$part}")
        ->toOnlyUse(['Hafen\Refusal', ...array_map(static fn (string $name): string => "Hafen\\{$name}", $uses)]);
}

it('gives every part of the core its layer', function () use ($layers): void {
    $parts = array_map('basename', glob(__DIR__.'/../src/*', GLOB_ONLYDIR));
    sort($parts);
    $known = array_keys($layers);
    sort($known);
    expect($known)->toBe($parts);
    foreach ($layers as $part => $uses) {
        $above = array_slice(array_keys($layers), 0, (int) array_search($part, array_keys($layers), true));
        expect(array_diff($uses, $above))->toBe([], "{$part} uses what does not stand above it");
    }
});

arch('the job has no interface code')->expect('Hafen')->not->toUse(['echo', 'header', 'setcookie', 'dd', 'dump', 'var_dump'])->ignoring('Hafen\Tests');

arch('every file is strict')->expect(['Hafen', 'App'])->toUseStrictTypes();
arch('edits are values')->expect(['Hafen\Edit\Channel', 'Hafen\Edit\Level', 'Hafen\Edit\Insert', 'Hafen\Edit\Split', 'Hafen\Edit\Send', 'Hafen\Edit\Automation', 'Hafen\Edit\Freeze', 'Hafen\Edit\Version', 'Hafen\Edit\Print', 'Hafen\Edit\Take', 'Hafen\Edit\Hardware', 'Hafen\Edit\Sound', 'Hafen\Edit\Note'])
    ->classes()->toBeReadonly()->ignoring([
        'Hafen\Edit\Version\Versions', 'Hafen\Edit\Hardware\Loops',
        'Hafen\Edit\Channel\NewChannels', 'Hafen\Edit\Insert\Rows', 'Hafen\Edit\Insert\ProcessorInserts', 'Hafen\Edit\Insert\UsualMix', 'Hafen\Edit\Level\RelativeMove',
        'Hafen\Edit\Send\SendEdits', 'Hafen\Edit\Split\Branches', 'Hafen\Edit\Split\Selectors', 'Hafen\Edit\Sound\Sounds', 'Hafen\Edit\Note\NoteClips',
    ]);
arch('every refused edit is an EditRefused')->expect('Hafen\Edit\Refusals')->toExtend('Hafen\Edit\EditRefused')->toBeFinal();
arch('classes are final')->expect(['Hafen', 'App'])->classes()->toBeFinal()->ignoring(['Hafen\Refusal', 'Hafen\Edit\EditRefused', 'Hafen\Tests']);
arch('controllers hold no rules')->expect('App\Http\Controllers')->not->toUse(['Hafen\Dsp', 'Hafen\Engine\Engine', 'Hafen\Routing']);
arch('tasks do not know who has them done')->expect('App\Jobs')->not->toUse(['App\Http', 'App\Console']);
arch('the desks do not know their tasks')->expect(['App\Surveys', 'App\Plans'])->not->toUse('App\Jobs');
arch('what is stored does not know what is done with it')->expect(['App\Models', 'App\Work'])->not->toUse('App\Jobs');
arch('what is stored does not know who asks')->expect(['App\Models', 'App\Media', 'App\Sessions', 'App\Storage', 'App\Presets', 'App\Work'])->not->toUse(['App\Http', 'App\Console']);
