<?php

declare(strict_types=1);

use App\Models\Revision;
use App\Sessions\RevisionDocuments;
use App\Sessions\SessionBook;
use Hafen\Audio\AudioFormat;
use Hafen\Audio\Block;
use Hafen\Audio\SampleFormat;
use Hafen\Audio\WavReader;
use Hafen\Audio\WavWriter;
use Hafen\Document\JsonNode;
use Hafen\Document\SessionCodec;
use Hafen\Dsp\Delay\DelayLine;
use Hafen\Dsp\Noise;
use Hafen\Engine\Compiler;
use Hafen\Engine\Engine;
use Hafen\Engine\FolderLibrary;
use Hafen\Engine\Monitoring;
use Hafen\Engine\Parallel\Processes;
use Hafen\Hardware\InterfaceProfile;
use Hafen\Hardware\SimulatedInterface;
use Hafen\Headroom\Rework\Remeasurement;
use Hafen\Load\FewestBy;
use Hafen\Load\FreezePlanner;
use Hafen\Load\LoadMeasure;
use Hafen\Note\NoteEvent;
use Hafen\Note\NoteEventKind;
use Hafen\Pilot\Pilot;
use Hafen\Printing\Freezer;
use Hafen\Printing\Renderer;
use Hafen\Printing\RenderOptions;
use Hafen\Processor\FollowsNotes;
use Hafen\Processor\ProcessorCatalogue;
use Hafen\Processor\Setting;
use Hafen\Processor\TakesNotes;
use Hafen\Routing\LivePath;
use Hafen\Routing\UnitPlaces;
use Hafen\Session\Channel\Channel;
use Hafen\Session\Channel\ChannelKind;
use Hafen\Session\Channel\Frozen;
use Hafen\Session\Channel\Send;
use Hafen\Session\Channel\TapPoint;
use Hafen\Session\Channel\Width;
use Hafen\Session\Insert\ProcessorInsert;
use Hafen\Session\Session;
use Hafen\Session\Source\BusSource;
use Hafen\Session\Source\Clip;
use Hafen\Session\Source\ClipSource;
use Hafen\Survey\FolderStore;
use Hafen\Survey\PartRunner;
use Hafen\Survey\SessionSurvey;
use Hafen\Survey\SurveyMap;
use Hafen\Survey\SurveyResult;
use Hafen\Survey\TimeRange;
use Hafen\Tests\Support\MemoryLibrary;
use Hafen\Tests\Support\Mix;
use Hafen\Tests\Support\RandomRouting;
use Hafen\Tests\Support\Signal;
use Illuminate\Contracts\Console\Kernel;
use Illuminate\Support\Facades\Artisan;
use Illuminate\Support\Facades\DB;
use Tests\Support\Application;

/*
 * What bin/bench measures, each in processes of its own so that memory and the JIT start fresh. "Quiet" figures need a quiet
 * machine; the ratios hold on a busy one, because both sides of a ratio run right after each other, three times, and the
 * best of each counts.
 */

require __DIR__.'/../vendor/autoload.php';

$folder = sys_get_temp_dir().'/hafen-bench';
@mkdir($folder);

/** The same with all its processes on one core. */
function onOneCore(string $part, string ...$arguments): mixed
{
    return json_decode((string) shell_exec('taskset -c 0 '.implode(' ', array_map(escapeshellarg(...), [PHP_BINARY, __FILE__, $part, ...$arguments]))), true, 512, JSON_THROW_ON_ERROR);
}

/** Runs a part in a process of its own and gives the JSON it prints. */
function apart(string $part, string ...$arguments): mixed
{
    $out = shell_exec(implode(' ', array_map(escapeshellarg(...), [PHP_BINARY, __FILE__, $part, ...$arguments])));

    return json_decode((string) $out, true);
}

/** CPU seconds of a command, the best of some runs. @param  list<string>  $command */
function cpu(array $command, int $runs = 3): float
{
    $best = INF;
    for ($i = 0; $i < $runs; ++$i) {
        $before = getrusage(1);
        exec(implode(' ', array_map(escapeshellarg(...), $command)).' 2>&1', $said, $status);
        $status === 0 || throw new RuntimeException("{$command[0]} failed: ".implode("\n", $said));
        $after = getrusage(1);
        $seconds = 0.0;
        foreach (['ru_utime', 'ru_stime'] as $kind) {
            $seconds += $after["{$kind}.tv_sec"] - $before["{$kind}.tv_sec"] + ($after["{$kind}.tv_usec"] - $before["{$kind}.tv_usec"]) / 1e6;
        }
        $best = min($best, $seconds);
    }

    return $best;
}

function compiler(string $folder): Compiler
{
    return new Compiler(ProcessorCatalogue::standard(), new FolderLibrary($folder));
}

/** The demo without its hardware: it runs faster than the clock. */
function demo(string $folder): Session
{
    return UnitPlaces::bypassed((new SessionCodec(ProcessorCatalogue::standard()))->decode((string) file_get_contents("{$folder}/session.json")));
}

/**
 * A mix of 24 stereo channels for a minute: high-pass, shelf, two bells and a compressor on each, a send to one of two reverbs, a limiter
 * on the main. Each channel has a stereo file made of two of the demo's tracks.
 *
 * Beside it the same with every channel silent half of the time, ten seconds at a turn.
 *
 * @return list<string> paths of the files, by channel
 */
function mix(string $folder): array
{
    $tracks = ['accordion-left', 'accordion-right', 'accordion-body', 'bass', 'cello', 'drum', 'shaker', 'announcement'];
    $files = $channels = [];
    foreach ($tracks as $i => $track) {
        $files[] = $path = "{$folder}/mix-{$i}.wav";
        if (is_file($path)) {
            continue;
        }
        $other = $tracks[($i + 1) % count($tracks)];
        exec('sox -M '.escapeshellarg("{$folder}/{$track}.wav").' '.escapeshellarg("{$folder}/{$other}.wav").' -e floating-point -b 32 '.escapeshellarg($path).' repeat 1 trim 0 60');
    }
    for ($c = 0; $c < 24; ++$c) {
        $channels[] = new Channel("c{$c}", ChannelKind::Track, "Channel {$c}", Width::Stereo, new ClipSource([new Clip("k{$c}", basename($files[$c % 8]), 0, 0, 60 * 48000)]), fader: -12.0, inserts: [
            new ProcessorInsert("f{$c}", 'filter', true, 1.0, ['type' => 'high-pass', 'frequency' => 80.0, 'slope' => '12dB']),
            new ProcessorInsert("e{$c}", 'parametric-eq', true, 1.0, ['low-shelf-gain' => 2.0, 'bell-1-gain' => -3.0, 'bell-2-gain' => 2.0]),
            new ProcessorInsert("d{$c}", 'compressor', true, 1.0, ['threshold' => -24.0, 'ratio' => 3.0]),
        ], sends: [new Send("n{$c}", 'r'.($c % 2), -15.0)]);
    }
    foreach (['r0' => 1.2, 'r1' => 2.5] as $id => $decay) {
        $channels[] = new Channel($id, ChannelKind::Return, "Reverb {$id}", Width::Stereo, new BusSource, soloSafe: true, inserts: [new ProcessorInsert("i{$id}", 'reverb', true, 1.0, ['decay' => $decay])]);
    }
    $channels[] = new Channel('main', ChannelKind::Main, 'Main', Width::Stereo, new BusSource, output: 'none', inserts: [new ProcessorInsert('limit', 'limiter', true, 1.0, [])]);
    $codec = new SessionCodec(ProcessorCatalogue::standard());
    $session = new Session('Mix', 48000, 120.0, -3.0, 60 * 48000, $channels);
    file_put_contents("{$folder}/mix.json", $codec->encode($session));
    $turns = static fn (Clip $clip, int $from): array => array_map(static fn (int $i): Clip => new Clip("{$clip->id}-{$i}", $clip->file, $from + 20 * 48000 * $i, $from + 20 * 48000 * $i, 10 * 48000), [0, 1, 2]);
    file_put_contents("{$folder}/half.json", $codec->encode($session->withChannels(array_map(
        static fn (Channel $channel, int $c): Channel => $channel->source instanceof ClipSource ? $channel->withSource(new ClipSource($turns($channel->source->clips[0], 10 * 48000 * ($c % 2)))) : $channel,
        $channels,
        array_keys($channels),
    ))));

    return array_map(static fn (int $c): string => $files[$c % 8], range(0, 23));
}

/**
 * The same filters, compressors, sum and limiter in ffmpeg on one thread, without meters and reverbs.
 *
 * @param  list<string>  $files
 * @return list<string>
 */
function mixInFfmpeg(array $files, string $out): array
{
    $inputs = [];
    $graph = '';
    foreach ($files as $c => $file) {
        array_push($inputs, '-i', $file);
        $graph .= "[{$c}:a]highpass=f=80:p=2,lowshelf=f=100:g=2,equalizer=f=300:t=q:w=1:g=-3,equalizer=f=1000:t=q:w=1:g=2,acompressor=threshold=-24dB:ratio=3,volume=-12dB[c{$c}];";
    }
    $graph .= implode('', array_map(static fn (int $c): string => "[c{$c}]", array_keys($files))).'amix=inputs='.count($files).':normalize=0,alimiter=level=0';

    return ['ffmpeg', '-v', 'error', '-y', '-threads', '1', '-filter_threads', '1', '-filter_complex_threads', '1', ...$inputs, '-filter_complex', $graph, '-c:a', 'pcm_f32le', $out];
}

switch ($argv[1] ?? '') {
    case 'mix':
        $files = mix($folder);
        $render = static fn (string $name): array => [PHP_BINARY, __DIR__.'/../core/bin/hafen', 'render', "{$folder}/{$name}.json", '--out', "{$folder}/ours.wav", '--bits', '32f', '--processes', '1'];
        echo json_encode(['ours' => cpu($render('mix')), 'ffmpeg' => cpu(mixInFfmpeg($files, "{$folder}/ffmpeg.wav")), 'half' => cpu($render('half')),
            'survey' => cpu([PHP_BINARY, __DIR__.'/../core/bin/hafen', 'survey', "{$folder}/mix.json"], 1)]);
        exit;
    case 'playing':
        // 60 stereo channels with an equaliser and a compressor each, a send to one of two reverbs, a limiter on the main, in so many processes.
        $files = mix($folder);
        $channels = [];
        for ($c = 0; $c < 60; ++$c) {
            $channels[] = new Channel("c{$c}", ChannelKind::Track, "Channel {$c}", Width::Stereo, new ClipSource([new Clip("k{$c}", basename($files[$c % 24]), 0, 0, 60 * 48000)]), fader: -20.0, inserts: [
                new ProcessorInsert("e{$c}", 'parametric-eq', true, 1.0, ['low-shelf-gain' => 2.0, 'bell-1-gain' => -3.0, 'bell-2-gain' => 2.0, 'high-shelf-gain' => 1.5]),
                new ProcessorInsert("d{$c}", 'compressor', true, 1.0, ['threshold' => -24.0, 'ratio' => 3.0]),
            ], sends: [new Send("n{$c}", 'r'.($c % 2), -15.0)]);
        }
        foreach (['r0', 'r1'] as $id) {
            $channels[] = new Channel($id, ChannelKind::Return, "Reverb {$id}", Width::Stereo, new BusSource, soloSafe: true, inserts: [new ProcessorInsert("i{$id}", 'reverb')]);
        }
        $channels[] = new Channel('main', ChannelKind::Main, 'Main', Width::Stereo, new BusSource, output: 'none', inserts: [new ProcessorInsert('limit', 'limiter')]);
        $session = new Session('Sixty', 48000, 120.0, -3.0, 60 * 48000, $channels);
        $library = new FolderLibrary($folder);
        $number = (int) $argv[2];
        $processes = $number > 1 ? new Processes(ProcessorCatalogue::standard(), $library, PHP_BINARY, $number, false) : null;
        $engine = new Engine(compiler($folder), $session, 512, true, $processes);
        $engine->meterOnly(isset($argv[3]) ? array_map(static fn (int $c): string => "c{$c}", array_keys(array_fill(0, (int) $argv[3], true))) : null);
        $engine->start(96000, 72000);
        $worked = static fn (): array => array_map(static function (int $id): float {
            $fields = explode(' ', (string) preg_replace('/^.*\) /s', '', (string) file_get_contents("/proc/{$id}/stat")));

            return ((int) $fields[11] + (int) $fields[12]) / 100;
        }, [(int) getmypid(), ...$processes?->ids() ?? []]);
        for ($i = 0; $i < 100; ++$i) {
            $engine->next();
        }
        [$before, $start, $blocks] = [$worked(), hrtime(true), 470];
        for ($i = 1; $i <= $blocks; ++$i) {
            $engine->next();
            if ($i % 3 === 0) {
                $engine->readings();
                $engine->loads();
            }
        }
        $audio = $blocks * 512 / 48000;
        echo json_encode(['wall' => (hrtime(true) - $start) / 1e9 / $audio, 'shares' => array_map(static fn (float $now, float $then): float => ($now - $then) / $audio, $worked(), $before)]);
        exit;
    case 'delays':
        // A delay of 4,000 samples, as a pitch shifter makes every path beside it have, beside one of 24.
        $noise = new Noise(3);
        [$left, $right] = [$noise->samples(512), $noise->samples(512)];
        $costs = [];
        foreach ([24, 4000] as $length) {
            $delay = new DelayLine($length);
            $costs[$length] = INF;
            for ($round = 0; $round < 9; ++$round) {
                $start = hrtime(true);
                for ($i = 0; $i < 200; ++$i) {
                    $delay->process(new Block($left, $right));
                }
                $costs[$length] = min($costs[$length], (hrtime(true) - $start) / 200 / 512);
            }
        }
        echo json_encode(['short' => $costs[24], 'long' => $costs[4000]]);
        exit;
    case 'live':
        // How late the demo's singer is heard, by part, for each buffer; and what ten seconds of the demo take with the singer live, through its
        // hardware loop, and with neither; all in blocks of the buffer, or what does not wait for the interface in stretches.
        $session = (new SessionCodec(ProcessorCatalogue::standard()))->decode((string) file_get_contents("{$folder}/session.json"));
        $plain = UnitPlaces::bypassed($session);
        $delays = $shares = [];
        foreach (InterfaceProfile::BUFFERS as $buffer) {
            $latency = InterfaceProfile::standard()->withBuffer($buffer)->latency();
            $path = array_sum(array_column(LivePath::of($session, ProcessorCatalogue::standard(), 'voice'), 'samples'));
            $delays[$buffer] = ['in' => $latency->in(), 'inserts' => $path, 'out' => $latency->out()];
        }
        $usual = InterfaceProfile::standard();
        $live = Monitoring::heardIn($session, ['voice']);
        foreach ([
            'plain' => [$plain, null, 512], 'short' => [$plain, $usual, $usual->buffer],
            'live in short blocks' => [$live, $usual, $usual->buffer], 'live' => [$live, $usual, 512],
            'gathered loop' => [$session, $usual->gathering(), 512],
        ] as $name => [$played, $profile, $stretch]) {
            $best = INF;
            for ($round = 0; $round < 3; ++$round) {
                $interface = $profile !== null ? new SimulatedInterface($profile, $session->sampleRate, $session->tempo, static fn (): null => null) : null;
                $interface?->readAll(false);
                $engine = new Engine(new Compiler(ProcessorCatalogue::standard(), new FolderLibrary($folder), $interface), $played, $stretch);
                $engine->start(0);
                $start = hrtime(true);
                for ($frames = 0; $frames < 10 * $session->sampleRate;) {
                    $frames += $engine->next()->frames();
                }
                $best = min($best, (hrtime(true) - $start) / 1e10);
            }
            $shares[$name] = $best;
        }
        echo json_encode(['delays' => $delays, 'shares' => $shares, 'rate' => $session->sampleRate]);
        exit;
    case 'render':
        // The demo repeated so many times: real-time factor and peak memory.
        $times = (int) $argv[2];
        $session = demo($folder);
        $channels = array_map(static function (Channel $channel) use ($times): Channel {
            if (! $channel->source instanceof ClipSource) {
                return $channel;
            }
            $clip = $channel->source->clips[0];
            $clips = array_map(static fn (int $i): Clip => new Clip("k{$i}", $clip->file, $i * $clip->length, 0, $clip->length), range(0, $times - 1));

            return $channel->withSource(new ClipSource($clips));
        }, $session->channels);
        $session = $session->withChannels($channels)->withLength($times * $session->length);
        $start = hrtime(true);
        (new Renderer(compiler($folder)))->render($session, "{$folder}/out.wav", new RenderOptions);
        $seconds = (hrtime(true) - $start) / 1e9;
        echo json_encode(['factor' => $session->length / 48000 / $seconds, 'memory' => memory_get_peak_usage(true) / 1e6]);
        exit;
    case 'survey-worker':
        // Works off what is missing of the demo's survey, beside others of its kind.
        $session = demo($folder);
        $store = new FolderStore($argv[2]);
        $map = SurveyMap::of($session, ProcessorCatalogue::standard());
        $runner = new PartRunner(compiler($folder), ProcessorCatalogue::standard(), new FolderLibrary($folder));
        while (($passes = SurveyMap::passes($map->missing($store))) !== []) {
            foreach ($passes as $parts) {
                if (SurveyMap::isReady($parts, $store) && @mkdir("{$argv[2]}/taken-{$parts[0]->channel}")) {
                    $runner->run($session, $map, $parts, $store);

                    continue 2;
                }
            }
            usleep(20_000);
        }
        exit;
    case 'survey-edits':
        // CPU seconds of the whole survey, and of what is left to do after one edit.
        $session = demo($folder);
        $store = FolderStore::temporary();
        $survey = new SessionSurvey(ProcessorCatalogue::standard(), new FolderLibrary($folder), $store);
        $timed = static function (Session $session) use ($survey): float {
            $start = hrtime(true);
            $survey->measure($session);

            return (hrtime(true) - $start) / 1e9;
        };
        $fader = static fn (string $id): Session => $session->withChannel(($session->channel($id) ?? $session->main())->withFader(-4.4));
        echo json_encode(['whole' => $timed($session), 'again' => $timed($session), 'main fader' => $timed($fader('main')), 'hall ambience fader' => $timed($fader('hall-ambience')), 'reeds fader' => $timed($fader('reeds')), 'cello fader' => $timed($fader('cello'))]);
        exit;
    case 'proofs':
        // CPU of proving remedies of the mix of 24 channels, and of measuring what they make of it, over that of playing it unmetered.
        mix($folder);
        $processors = ProcessorCatalogue::standard();
        $session = (new SessionCodec($processors))->decode((string) file_get_contents("{$folder}/mix.json"));
        $store = FolderStore::temporary();
        $survey = new SessionSurvey($processors, new FolderLibrary($folder), $store);
        $survey->measure($session);
        require_once __DIR__.'/../core/tests/Support/edited.php';
        $remeasurement = new Remeasurement(compiler($folder), $processors, $store);
        $timed = static function (callable $work): float {
            $before = getrusage();
            $work();
            $after = getrusage();

            return $after['ru_utime.tv_sec'] - $before['ru_utime.tv_sec'] + ($after['ru_utime.tv_usec'] - $before['ru_utime.tv_usec']) / 1e6;
        };
        $engine = new Engine(compiler($folder), $session, 512);
        $engine->start(0, 0);
        $played = $timed(static function () use ($engine, $session): void {
            for ($frames = 0; $frames < $session->length; $frames += 512) {
                $engine->next();
            }
        });
        $tracks = array_map(static fn (int $c): string => "c{$c}", range(0, 23));
        $figures = [];
        foreach ([
            'all faders' => ['type' => 'move-faders', 'channels' => $tracks, 'by' => -3.0],
            'one fader' => ['type' => 'move-faders', 'channels' => ['c5'], 'by' => -3.0],
            'all clips' => ['type' => 'move-clip-gains', 'channels' => $tracks, 'by' => -3.0],
        ] as $what => $edit) {
            $after = edited($session, $edit);
            $figures[$what] = [
                $timed(static fn () => $remeasurement->of($session, $after, TimeRange::all($session), true)) / $played,
                $timed(static fn () => $survey->measure($after, null, null, ['main'])) / $played,
            ];
        }
        echo json_encode($figures);
        exit;
    case 'pilot':
        $processors = Mix::processors();
        [$session, $library] = RandomRouting::make(22, 41, 4800);
        $store = FolderStore::temporary();
        (new SessionSurvey($processors, $library, $store))->measure($session);
        $best = INF;
        for ($round = 0; $round < 20; ++$round) {
            $start = hrtime(true);
            Pilot::standard()->advice($session, $processors, SurveyResult::of($session, SurveyMap::of($session, $processors), $store));
            $best = min($best, (hrtime(true) - $start) / 1e6);
        }
        echo json_encode(['ms' => $best, 'channels' => count($session->channels)]);
        exit;
    case 'freeze':
        // The demo's heaviest track frozen: how fast, and what the whole takes before and after, in time and memory.
        $session = demo($folder);
        $processors = ProcessorCatalogue::standard();
        $measure = new LoadMeasure(compiler($folder));
        $before = $measure->measure($session, 2.0) ?? throw new LogicException('Not measured.');
        $plan = (new FreezePlanner($session, $before))->plan(0.5 * $before->total, FewestBy::Channels);
        $start = hrtime(true);
        $frozen = $session;
        foreach ($plan->channels as $n => $id) {
            $result = (new Freezer(compiler($folder), $processors))->freeze($session, $id, "{$folder}/freeze-{$n}.wav");
            $channel = $frozen->channel($id) ?? throw new LogicException("No {$id}.");
            $frozen = $frozen->withChannel($channel->withFrozen(new Frozen("freeze-{$n}.wav", $result->hash)));
        }
        $seconds = (hrtime(true) - $start) / 1e9;
        $after = $measure->measure($frozen, 2.0) ?? throw new LogicException('Not measured.');
        echo json_encode([
            'channels' => count($plan->channels), 'factor' => count($plan->channels) * $session->length / $session->sampleRate / max(1e-6, $seconds),
            'before' => $before->total, 'predicted' => $plan->after, 'after' => $after->total, 'memory' => [$before->memory / 1e6, $after->memory / 1e6],
        ]);
        exit;
    case 'processors':
        $noise = new Noise(1);
        $costs = [];
        foreach (ProcessorCatalogue::standard()->specs() as $spec) {
            // At work, not at rest: all eight sections of the parametric EQ, every slider, else what the tests use.
            $parameters = match (true) {
                $spec->id === 'parametric-eq' => ['low-shelf-gain' => 2.0, 'bell-1-gain' => 2.0, 'bell-2-gain' => 2.0, 'bell-3-gain' => 2.0, 'bell-4-gain' => 2.0, 'high-shelf-gain' => 2.0, 'high-pass' => true, 'low-pass' => true],
                str_starts_with($spec->id, 'graphic-eq') => array_combine(array_column($spec->parameters, 'id'), array_map(static fn (int $i): float => $i % 2 === 0 ? 3.0 : -3.0, array_keys($spec->parameters))),
                $spec->id === 'convolution' => [],
                $spec->id === 'pitch-shift' => ['semitones' => 5.0, 'material' => 'chords'],
                default => Signal::busy($spec->id),
            };
            $processor = ProcessorCatalogue::standard()->make($spec->id, $parameters, new Setting(48000, 120.0));
            $left = array_map(static fn (float $x): float => 0.3 * $x, $noise->samples(512));
            $right = array_map(static fn (float $x): float => 0.3 * $x, $noise->samples(512));
            // A voice for what looks for a pitch.
            if ($spec->category === 'Pitch') {
                $left = $right = array_map(static fn (int $i): float => 0.3 * sin(M_PI * 8 * $i / 512) + 0.1 * sin(M_PI * 24 * $i / 512), range(0, 511));
            }
            $best = INF;
            for ($round = 0; $round < 12; ++$round) {
                $start = hrtime(true);
                for ($i = 0; $i < 47; ++$i) {
                    // What is played, or follows notes, holds four of them.
                    $notes = $i > 0 ? [] : array_map(static fn (int $key): NoteEvent => new NoteEvent(0, NoteEventKind::On, $key, 0.8), [48, 57, 64, 69]);
                    $processor instanceof TakesNotes && $processor->notes($round === 0 ? $notes : []);
                    $processor instanceof FollowsNotes && $processor->follow($notes);
                    $processor->process(new Block($left, $right));
                }
                $best = min($best, (hrtime(true) - $start) / 1e9);
            }
            $costs[$spec->id] = $best / (47 * 512 / 48000);
        }
        if (in_array('--write', $argv, true)) {
            $lines = '';
            foreach ($costs as $id => $cost) {
                $lines .= sprintf("        '%s' => %.2f,\n", $id, 100 * $cost);
            }
            $file = __DIR__.'/../core/src/Processor/Costs.php';
            file_put_contents($file, preg_replace("/(PER_CENT = \\[\n).*?(    \\];)/s", "\\1{$lines}\\2", (string) file_get_contents($file)));
        }
        echo json_encode($costs);
        exit;
    case 'routing':
        // 96 tracks in 12 groups, two sends each to 8 returns, into the main; nothing but faders, sends, sums and alignment.
        $channels = [];
        $n = 0;
        for ($t = 0; $t < 96; ++$t) {
            $sends = array_map(static function (int $k) use ($t, &$n): Send {
                return new Send('n'.++$n, 'r'.(($t + 3 * $k) % 8), -12.0, $k === 0 ? TapPoint::PostFader : TapPoint::PreFader);
            }, [0, 1]);
            $channels[] = new Channel("t{$t}", ChannelKind::Track, "Track {$t}", $t % 2 === 0 ? Width::Mono : Width::Stereo, new ClipSource([new Clip("k{$t}", 'noise', 0, 0, 480000)]), fader: -3.0, pan: ($t % 5 - 2) / 4, output: 'g'.($t % 12), sends: $sends);
        }
        for ($g = 0; $g < 12; ++$g) {
            $channels[] = new Channel("g{$g}", ChannelKind::Group, "Group {$g}", Width::Stereo, new BusSource, fader: -1.0);
        }
        for ($r = 0; $r < 8; ++$r) {
            $channels[] = new Channel("r{$r}", ChannelKind::Return, "Return {$r}", Width::Stereo, new BusSource, fader: -1.0, soloSafe: true);
        }
        $channels[] = new Channel('main', ChannelKind::Main, 'Main', Width::Stereo, new BusSource, output: 'hw:1-2');
        $session = new Session('Routing', 48000, 120.0, -3.0, 480000, $channels);
        // From memory: files are not read here.
        $compiler = new Compiler(ProcessorCatalogue::standard(), new MemoryLibrary(['noise' => [Signal::noise(480000, 1), Signal::noise(480000, 2)]]));
        $costs = [];
        foreach ([true, false] as $metered) {
            $engine = new Engine($compiler, $session, 512, $metered);
            $engine->start(0);
            $best = INF;
            for ($round = 0; $round < 6; ++$round) {
                $start = hrtime(true);
                for ($i = 0; $i < 94; ++$i) {
                    $engine->next();
                }
                $best = min($best, (hrtime(true) - $start) / 1e9 / (94 * 512 / 48000));
            }
            $costs[$metered ? 'metered' : 'plain'] = $best;
        }
        $fresh = $again = INF;
        for ($round = 0; $round < 10; ++$round) {
            $start = hrtime(true);
            $plan = $compiler->compile($session);
            $fresh = min($fresh, (hrtime(true) - $start) / 1e6);
            $start = hrtime(true);
            $compiler->compile($session->withName("Round {$round}"), $plan);
            $again = min($again, (hrtime(true) - $start) / 1e6);
        }
        echo json_encode([...$costs, 'compile' => $fresh, 'again' => $again]);
        exit;
    case 'answers':
        // A fader moved in a session of 100 channels with two inserts each, measured around the request.
        $hafen = Application::running();
        $state = $hafen->post('sessions', ['name' => 'Hundred', 'sampleRate' => 48000]);
        $id = $state['id'];
        $edit = static function (array $edit) use ($hafen, &$state, $id): array {
            return $state = $hafen->post("sessions/{$id}/edits", ['base' => $state['change'], 'edit' => $edit]);
        };
        for ($i = 0; $i < 99; ++$i) {
            $edit(['type' => 'add-channel', 'name' => "Channel {$i}"]);
        }
        $ids = array_values(array_diff(array_column($state['document']['channels'], 'id'), ['main']));
        foreach (['parametric-eq', 'compressor'] as $processor) {
            $edit(['type' => 'add-insert', 'channels' => $ids, 'processor' => $processor]);
        }
        $times = [];
        for ($i = 0; $i < 25; ++$i) {
            $start = hrtime(true);
            $edit(['type' => 'set-fader', 'channels' => [$ids[$i]], 'gain' => -6.0]);
            $times[] = (hrtime(true) - $start) / 1e6;
        }
        sort($times);
        echo json_encode(['median' => $times[12], 'worst' => $times[24]]);
        exit;
    case 'revisions':
        // So many edits of a session of 100 channels with two inserts each: what they take of the disk, and how long it takes to go to any of them.
        putenv("HAFEN_DATA={$folder}");
        putenv("HAFEN_DATABASE={$folder}/revisions.sqlite");
        array_map(static fn (string $path): bool => @unlink($path), glob("{$folder}/revisions.sqlite*") ?: []);
        touch("{$folder}/revisions.sqlite");
        $app = require __DIR__.'/../bootstrap/app.php';
        $app->make(Kernel::class)->bootstrap();
        Artisan::call('migrate', ['--force' => true]);
        $book = $app->make(SessionBook::class);
        $stored = $book->create(Mix::session(array_map(static fn (int $i): Channel => Mix::track("t{$i}", [Mix::insert("e{$i}", 'parametric-eq'), Mix::insert("c{$i}", 'compressor')]), range(0, 98))));
        mt_srand(1);
        for ($i = 0; $i < (int) $argv[2]; ++$i) {
            $n = mt_rand(0, 98);
            $edit = match ($i % 3) {
                0 => ['type' => 'set-fader', 'channels' => ["t{$n}"], 'gain' => -mt_rand(0, 300) / 10],
                1 => ['type' => 'set-parameter', 'insert' => "c{$n}", 'parameter' => 'threshold', 'value' => -mt_rand(10, 400) / 10],
                default => ['type' => 'rename-channel', 'channel' => "t{$n}", 'name' => 'Name '.mt_rand(0, 999_999)],
            };
            $stored = $book->edit($stored->id, $stored->change, JsonNode::parse((string) json_encode($edit), 1 << 20));
        }
        DB::statement('pragma wal_checkpoint(truncate)');
        $ids = Revision::query()->pluck('id')->all();
        $worst = 0.0;
        for ($i = 0; $i < 200; ++$i) {
            $start = hrtime(true);
            RevisionDocuments::of(Revision::query()->findOrFail($ids[mt_rand(0, count($ids) - 1)]));
            $worst = max($worst, (hrtime(true) - $start) / 1e6);
        }
        clearstatcache();
        echo json_encode(['bytes' => filesize("{$folder}/revisions.sqlite"), 'worst' => $worst, 'revisions' => count($ids)]);
        exit;
    case 'heard':
        // From an edit to the moment it is heard, at the default lead: the browser starts 0.03 s after it got 0.06 s of sound.
        $hafen = Application::running();
        $times = [];
        for ($round = 0; $round < 5; ++$round) {
            $listening = $hafen->post('sessions/1/listenings', ['loop' => ['start' => 480000, 'end' => 960000]]);
            $at = $listening['stream'];
            $stream = fopen(($at[0] === '/' ? $hafen->url($at) : $at).'?from=480000', 'rb');
            $read = static function (int $length) use ($stream): string {
                for ($bytes = ''; strlen($bytes) < $length && ! feof($stream);) {
                    $bytes .= fread($stream, $length - strlen($bytes));
                }

                return strlen($bytes) === $length ? $bytes : throw new RuntimeException('The listening stream ended early.');
            };
            $read(8);
            $first = $heard = $edited = null;
            $samples = 0;
            while ($heard === null) {
                $kind = $read(1);
                $payload = $read(unpack('V', $read(4))[1]);
                if ($kind !== 'A') {
                    continue;
                }
                $count = unpack('V', substr($payload, 8, 4))[1];
                if ($first === null && $samples + $count >= 0.06 * 48000) {
                    $first = microtime(true) + 0.03;
                }
                if ($edited === null && $samples > 15 * 48000) {
                    $change = $hafen->get('sessions/1')['change'];
                    $edited = microtime(true);
                    $hafen->post('sessions/1/edits', ['base' => $change, 'edit' => ['type' => 'set-mute', 'channels' => ['main'], 'mute' => true]]);
                } elseif ($edited !== null) {
                    // Mute goes down over 20 ms; half way counts as heard.
                    $left = array_values(unpack('g*', substr($payload, 12, 4 * $count)));
                    for ($i = $count - 1; $i >= 0 && abs($left[$i]) < 1e-7; --$i);
                    if ($i < $count - 200) {
                        $heard = $first + ($samples + $i - 480) / 48000;
                    }
                }
                $samples += $count;
            }
            fclose($stream);
            $hafen->post('sessions/1/undo');
            $times[] = $heard - $edited;
        }
        sort($times);
        echo json_encode(['median' => $times[2], 'worst' => $times[4]]);
        exit;
}

$short = in_array('--short', $argv, true);
if (! is_file("{$folder}/session.json")) {
    echo "Making the demo's tracks ...\n";
    exec(PHP_BINARY.' '.escapeshellarg(__DIR__.'/../core/bin/hafen').' demo '.escapeshellarg($folder));
}

$half = apart('render', '1');
printf("Demo, 30 s offline            %5.1f times real time (engine load %.0f %% of a core), peak memory %.0f MB\n", $half['factor'], 100 / $half['factor'], $half['memory']);
if (! $short) {
    $ten = apart('render', '20');
    printf("Demo twenty times, 10 min     %5.1f times real time, peak memory %.0f MB (%+.0f MB)\n", $ten['factor'], $ten['memory'], $ten['memory'] - $half['memory']);
}

$timeOf = static function (int $workers): float {
    $store = sys_get_temp_dir().'/hafen-bench-survey-'.bin2hex(random_bytes(4));
    mkdir($store);
    $start = hrtime(true);
    $running = array_map(static fn () => proc_open([PHP_BINARY, __FILE__, 'survey-worker', $store], [], $pipes), range(1, $workers));
    foreach ($running as $worker) {
        $worker === false || proc_close($worker);
    }
    $seconds = (hrtime(true) - $start) / 1e9;
    exec('rm -rf '.escapeshellarg($store));

    return $seconds;
};
[$one, $two] = [$timeOf(1), $timeOf(2)];
printf("\nSurvey of the demo, every tap: %.1f times real time with one worker, %.1f with two (%.2f times as fast)\n", 30 / $one, 30 / $two, $one / $two);
$edits = apart('survey-edits');
foreach (array_slice($edits, 1, null, true) as $edit => $seconds) {
    printf("  after %-22s %5.1f %% of the whole\n", $edit === 'again' ? 'undo, or nothing' : $edit, 100 * $seconds / $edits['whole']);
}
$pilot = apart('pilot');
printf("Pilot, %d channels with their survey: %.0f ms\n", $pilot['channels'], $pilot['ms']);

foreach ($proofs = apart('proofs') as $what => [$proof, $measured]) {
    printf("Proof of lowering %s of a mix of 24: %.2f of playing it; measuring all that changes %.2f\n", $what, $proof, $measured);
}

$freeze = apart('freeze');
printf(
    "\nFreezing %d channels of the demo: %.1f times real time each; load %.0f %% before, %.0f %% predicted, %.0f %% after; memory of the engine %.1f MB before, %.1f MB after\n",
    $freeze['channels'], $freeze['factor'], 100 * $freeze['before'], 100 * $freeze['predicted'], 100 * $freeze['after'], ...$freeze['memory'],
);

echo "\nCost of a processor, per cent of one core for a stereo instance\n";
foreach (apart('processors') as $id => $cost) {
    printf("  %-14s %5.2f %%\n", $id, 100 * $cost);
}

$routing = apart('routing');
printf(
    "\nRouting alone, 96 tracks, 12 groups, 8 returns, 192 sends: %.0f %% of real time with every tap metered, %.0f %% without (renders)\n  compile %.1f ms, to the next revision %.1f ms\n",
    100 * $routing['metered'], 100 * $routing['plain'], $routing['compile'], $routing['again'],
);

// The same eight bells on 60 s of stereo noise, from a 32-bit float file to a 32-bit float file.
$bands = [60, 120, 250, 500, 1000, 2000, 4000, 8000];
if (! is_file("{$folder}/noise.wav")) {
    $writer = WavWriter::create("{$folder}/noise.wav", new AudioFormat(48000, 2, SampleFormat::Float32));
    $noise = new Noise(5);
    for ($i = 0; $i < 60; ++$i) {
        $writer->write([array_map(static fn (float $x): float => 0.1 * $x, $noise->samples(48000)), array_map(static fn (float $x): float => 0.1 * $x, $noise->samples(48000))]);
    }
    $writer->close();
}
$inserts = [];
foreach (array_chunk($bands, 4) as $n => $four) {
    $parameters = [];
    foreach ($four as $k => $frequency) {
        $parameters += ['bell-'.($k + 1).'-frequency' => (float) $frequency, 'bell-'.($k + 1).'-gain' => 3.0];
    }
    $inserts[] = new ProcessorInsert("i{$n}", 'parametric-eq', true, 1.0, $parameters);
}
$session = new Session('Bells', 48000, 120.0, -3.0, 60 * 48000, [
    new Channel('noise', ChannelKind::Track, 'Noise', Width::Stereo, new ClipSource([new Clip('k1', 'noise.wav', 0, 0, 60 * 48000)]), inserts: $inserts),
    new Channel('main', ChannelKind::Main, 'Main', Width::Stereo, new BusSource, output: 'none'),
]);
file_put_contents("{$folder}/bells.json", (new SessionCodec(ProcessorCatalogue::standard()))->encode($session));
$sox = ['sox', "{$folder}/noise.wav", '-e', 'floating-point', '-b', '32', "{$folder}/sox.wav"];
$filters = [];
foreach ($bands as $frequency) {
    array_push($sox, 'equalizer', (string) $frequency, '1.0q', '3');
    $filters[] = "equalizer=f={$frequency}:t=q:w=1:g=3";
}
$ours = cpu([PHP_BINARY, __DIR__.'/../core/bin/hafen', 'render', "{$folder}/bells.json", '--out', "{$folder}/ours.wav", '--bits', '32f', '--processes', '1']);
$theirs = cpu($sox);
$others = cpu(['ffmpeg', '-v', 'error', '-y', '-i', "{$folder}/noise.wav", '-af', implode(',', $filters), '-c:a', 'pcm_f32le', "{$folder}/ffmpeg.wav"]);
$difference = 0.0;
$a = WavReader::open("{$folder}/ours.wav")->read(96000, 48000)[0];
$b = WavReader::open("{$folder}/sox.wav")->read(96000, 48000)[0];
foreach ($a as $i => $sample) {
    $difference = max($difference, abs($sample - $b[$i]));
}
printf("\nEight bells on 60 s of stereo, CPU seconds: ours %.2f, sox %.2f, ffmpeg %.2f\n", $ours, $theirs, $others);
printf("  ours is %.1f times sox and %.1f times ffmpeg; largest difference from sox %.1f dBFS\n", $ours / $theirs, $ours / $others, 20 * log10(max($difference, 1e-12)));

$mix = apart('mix');
printf("\nA mix of 24 stereo channels, 60 s, CPU seconds: ours %.1f, ffmpeg %.1f: %.2f times (aim 1.0)\n", $mix['ours'], $mix['ffmpeg'], $mix['ours'] / $mix['ffmpeg']);
printf("  every channel silent half of the time: %.0f %% of that (aim 60 %%); survey %.1f times the render (aim 1.5)\n", 100 * $mix['half'] / $mix['ours'], $mix['survey'] / $mix['ours']);
$delays = apart('delays');
printf("A delay of 4,000 samples: %.1f times one of 24\n", $delays['long'] / $delays['short']);

// Each round beside itself, as the machine is now fast and now slow; the middle of five. Once as they are played, and once all processes on one
// core: then they do not slow each other, and the time of the busiest tells how much faster as many cores of their own would be.
$rounds = ['one' => [], 'in sight' => [], 'two' => [], 'counted two' => [], 'counted four' => [], 'by the clock' => []];
for ($round = 0; $round < 5; ++$round) {
    $counted = $playing = [];
    foreach ([1, 2, 4] as $number) {
        $counted[$number] = max(onOneCore('playing', (string) $number)['shares']);
    }
    foreach ([1, 2] as $number) {
        $playing[$number] = apart('playing', (string) $number)['wall'];
    }
    $inSight = max(onOneCore('playing', '1', '12')['shares']);
    foreach ([$counted[1], $inSight, $counted[2], $counted[1] / $counted[2], $counted[1] / $counted[4], $playing[1] / $playing[2]] as $i => $figure) {
        $rounds[array_keys($rounds)[$i]][] = $figure;
    }
}
$middle = array_map(static function (array $figures): float {
    sort($figures);

    return $figures[intdiv(count($figures), 2)];
}, $rounds);
printf(
    "\n60 channels, metered: %.0f %% of a core in one process (%.0f %% with twelve rows in sight), %.0f %% of the busier in two; two cores play %.2f times as fast, four %.2f (aims 1.6 and 2.8); this machine's two %.2f\n",
    100 * $middle['one'], 100 * $middle['in sight'], 100 * $middle['two'], $middle['counted two'], $middle['counted four'], $middle['by the clock'],
);

$live = apart('live');
printf("\nInput to ear of the demo's singer, ms in, inserts, out:");
foreach ($live['delays'] as $buffer => $parts) {
    printf(' %d: %s', $buffer, implode(' + ', array_map(static fn (int $samples): string => sprintf('%.1f', 1000 * $samples / $live['rate']), $parts)));
}
printf(
    "\n  the demo without its hardware loop takes %.2f times as much in blocks of 128 as in those of 512; through the loop in blocks of 512 %.2f; with the singer live as well, all in blocks of 128, %.2f, with stretches of 512 for what does not wait for her %.2f\n",
    ...array_map(static fn (string $name): float => $live['shares'][$name] / $live['shares']['plain'], ['short', 'gathered loop', 'live in short blocks', 'live']),
);

$heard = apart('heard');
printf("\nEdit to heard at the default lead: %.0f ms in the middle, %.0f ms at worst of five\n", 1000 * $heard['median'], 1000 * $heard['worst']);

$answers = apart('answers');
printf("An edit's answer with 100 channels: %.0f ms in the middle of 25, %.0f ms at worst\n", $answers['median'], $answers['worst']);

$revisions = apart('revisions', $short ? '500' : '10000');
printf("%d revisions of 100 channels: %.1f MB, going to any of them %.0f ms at worst\n", $revisions['revisions'], $revisions['bytes'] / 1e6, $revisions['worst']);

if (in_array('--write', $argv, true)) {
    $ffmpeg = explode(' ', (string) shell_exec('ffmpeg -version'))[2] ?? '';
    $version = trim((string) shell_exec('sox --version'));
    $sox = preg_match('/[0-9.]+$/', $version, $found) === 1 ? $found[0] : '';
    $times = static fn (float $ratio): string => sprintf('%.2f', $ratio);
    $share = static fn (float $part): string => sprintf('%.0f %%', 100 * $part);
    $rows = [
        ['24 stereo channels (high-pass, shelf, two bells, compressor, a send to one of two reverbs), limiter on the main, 60 s: CPU over that of ffmpeg doing the same without reverbs, one thread', '2.48', $times($mix['ours'] / $mix['ffmpeg']), '1.00', "ffmpeg {$ffmpeg}"],
        ['The same with every channel silent half of the time: CPU over the full one', '0.78', $times($mix['half'] / $mix['ours']), '0.60', ''],
        ['Survey of that session: CPU over its render', '3.99', $times($mix['survey'] / $mix['ours']), '1.50', ''],
        ['Survey with two workers: times as fast as with one', '', $times($one / $two), '1.60', ''],
        ...array_map(static fn (string $what, array $proof): array => ["Proof of lowering {$what} of that session: CPU over playing it", $times($proof[1]), $times($proof[0]), '', ''], array_keys($proofs), array_values($proofs)),
        ['Eight bells on 60 s of stereo: CPU over that of sox', '2.3', $times($ours / $theirs), '', "sox {$sox}"],
        ['A delay of 4,000 samples over one of 24', '7.9', $times($delays['long'] / $delays['short']), '1.0', ''],
        ['The demo, ten channels, every tap metered: share of a core', '', $share(1 / $half['factor']), '', ''],
        ['96 tracks in 12 groups, 8 returns, 192 sends, nothing but routing: share of a core, metered', '80 %', $share($routing['metered']), '', ''],
        ['60 stereo channels (equaliser, compressor, a send to one of two reverbs), limiter on the main, metered: share of a core in one process', '', $share($middle['one']), '', ''],
        ['The same with twelve rows in sight, the others metered at their ends only', '', $share($middle['in sight']), '', ''],
        ['The same in two processes: share of the busier core', '', $share($middle['two']), '60 %', ''],
        ['The same: times as fast in two processes as in one, counted from the time the busier takes', '', $times($middle['counted two']), '1.60', ''],
        ['The same in four', '', $times($middle['counted four']), '2.80', ''],
        ['The same in two, by the clock, on cores that share a cache and slow each other', '', $times($middle['by the clock']), '', ''],
        ['An edit\'s answer with 100 channels, in the middle of 25', '55 to 77 ms', sprintf('%.0f ms', $answers['median']), '40 ms', ''],
        ['One revision\'s compile, 117 channels', '4.0 ms', sprintf('%.1f ms', $routing['again']), '3 ms', ''],
        ...($short ? [] : [
            ['Peak memory of the demo rendered for ten minutes, over that for half a minute', '', $times($ten['memory'] / $half['memory']), '1.10', ''],
            ['10,000 edits of a session of 100 channels: the database', '', sprintf('%.1f MB', $revisions['bytes'] / 1e6), '50 MB', ''],
            ['Going to any of these revisions, the worst of 200', '', sprintf('%.0f ms', $revisions['worst']), '100 ms', ''],
        ]),
        ['Edit to heard at the default lead, in the middle of five', '283 ms', sprintf('%.0f ms', 1000 * $heard['median']), '180 ms', ''],
    ];
    $table = "# Performance\n\nWritten by `bin/bench --write`. Ratios are measured in one run, both sides right after each other, the best of three of each; they hold on a busy machine. Shares and times\n"
        ."are those of the machine it ran on, two shared cores. \"Before\" is the engine of 26 November 2026, measured the same way; \"aim\" is where it is to come.\n\n| Figure | Before | Now | Aim | Beside |\n|---|---|---|---|---|\n";
    foreach ($rows as $row) {
        $table .= '| '.implode(' | ', $row)." |\n";
    }
    file_put_contents(__DIR__.'/../docs/performance.md', $table.(string) strstr((string) @file_get_contents(__DIR__.'/../docs/performance.md'), "\n## "));
}
