<?php

declare(strict_types=1);

arch('the core knows nothing of the application')
    ->expect('Hafen')
    ->not->toUse(['Illuminate', 'App', 'Laravel', 'Symfony', 'Carbon'])
    ->ignoring('Hafen\Tests');

arch('audio rests on nothing')->expect('Hafen\Audio')->toOnlyUse(['Hafen\Refusal']);
arch('building blocks rest on audio')->expect('Hafen\Dsp')->toOnlyUse(['Hafen\Audio']);
arch('processors rest on building blocks')->expect('Hafen\Processor')->toOnlyUse(['Hafen\Audio', 'Hafen\Dsp']);
arch('documents rest on what a processor says of itself')->expect('Hafen\Session')->toOnlyUse(['Hafen\Processor', 'Hafen\Refusal', 'Hafen\Routing\LoopClosed', 'Hafen\Routing\RouteKind', 'Hafen\Routing\Routes']);
arch('routing reads documents')->expect('Hafen\Routing')->toOnlyUse(['Hafen\Session', 'Hafen\Processor']);
arch('edits change documents')->expect('Hafen\Edit')->toOnlyUse(['Hafen\Session', 'Hafen\Routing', 'Hafen\Processor', 'Hafen\Audio\Decibel', 'Hafen\Refusal']);
arch('the Pilot reads documents, their routing and what was measured')->expect('Hafen\Pilot')->toOnlyUse(['Hafen\Session', 'Hafen\Routing', 'Hafen\Processor', 'Hafen\Survey', 'Hafen\Metering', 'Hafen\Headroom', 'Hafen\Audio\Decibel']);
arch('presets are documents')->expect('Hafen\Preset')->toOnlyUse(['Hafen\Session', 'Hafen\Processor']);
arch('the engine does not know who asks it')->expect('Hafen\Engine')->not->toUse(['Hafen\Edit', 'Hafen\Printing', 'Hafen\Survey', 'Hafen\Headroom', 'Hafen\Pilot', 'Hafen\Command', 'Hafen\Demo']);
arch('the job has no interface code')->expect('Hafen')->not->toUse(['echo', 'header', 'setcookie', 'dd', 'dump', 'var_dump'])->ignoring('Hafen\Tests');

arch('every file is strict')->expect(['Hafen', 'App'])->toUseStrictTypes();
arch('values do not change')->expect('Hafen\Edit')->classes()->toBeReadonly()->ignoring([
    'Hafen\Edit\EditRefused', 'Hafen\Edit\Channels', 'Hafen\Edit\Rows', 'Hafen\Edit\ProcessorInserts', 'Hafen\Edit\RelativeMove',
    'Hafen\Edit\SendEdits', 'Hafen\Edit\Branches', 'Hafen\Edit\Ways', 'Hafen\Edit\NewChannels',
    'Hafen\Edit\RoutingEditCodec', 'Hafen\Edit\SplitEditCodec',
]);
arch('classes are final')->expect(['Hafen', 'App'])->classes()->toBeFinal()->ignoring(['Hafen\Refusal', 'Hafen\Tests']);
arch('controllers hold no rules')->expect('App\Http\Controllers')->not->toUse(['Hafen\Dsp', 'Hafen\Engine\Engine', 'Hafen\Routing']);
