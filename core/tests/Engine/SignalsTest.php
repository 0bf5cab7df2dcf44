<?php

declare(strict_types=1);

use Hafen\Audio\LoopFault;
use Hafen\Audio\LoopsNotSafe;
use Hafen\Audio\SampleLoops;
use Hafen\Document\SessionCodec;
use Hafen\Engine\AudioLibrary;
use Hafen\Engine\Compiler;
use Hafen\Printing\Renderer;
use Hafen\Printing\RenderOptions;
use Hafen\Processor\ProcessorCatalogue;
use Hafen\Survey\FolderStore;
use Hafen\Survey\SessionSurvey;
use Hafen\Tests\Support\MemoryLibrary;
use Hafen\Tests\Support\Mix;
use Hafen\Tests\Support\Signal;

/**
 * Runs the command line in a process of its own that handles signals.
 *
 * @param  int  $signals  to send while it runs
 * @return array{int, string, int} exit status, what it said, signals sent
 */
function underSignals(string $before, int $signals, string ...$words): array
{
    $code = 'require "vendor/autoload.php"; $taken = 0; pcntl_signal(SIGUSR1, static function () use (&$taken): void { ++$taken; }); Hafen\Audio\SampleLoops::holdSignals();'
        .' register_shutdown_function(static function () use (&$taken): void { file_put_contents(getenv("TAKEN"), $taken); usleep(30_000); pcntl_sigprocmask(SIG_UNBLOCK, [SIGUSR1]); pcntl_signal_dispatch(); }); '.$before
        .' fwrite(STDOUT, "ready\n"); exit((new Hafen\Command\Application(STDOUT, STDERR))->run(array_slice($argv, 1)));';
    $process = proc_open(
        [PHP_BINARY, '-d', 'opcache.jit=tracing', '-r', $code, '--', ...$words],
        [1 => ['pipe', 'w'], 2 => ['redirect', 1]],
        $pipes,
        dirname(__DIR__, 3),
        ['PHP_INI_SCAN_DIR' => ':config/php', 'TAKEN' => test()->folder.'/taken', 'PATH' => (string) getenv('PATH')],
    );
    assert(is_resource($process));
    $said = (string) fgets($pipes[1]);
    $pid = proc_get_status($process)['pid'];
    $sent = 0;
    is_file(test()->folder.'/taken') && unlink(test()->folder.'/taken');
    // Until it is about to end: as it does, PHP gives signals their usual meaning back, which is to kill it.
    while ($sent < $signals && ! is_file(test()->folder.'/taken') && ($status = proc_get_status($process))['running']) {
        clearstatcache();
        posix_kill($pid, SIGUSR1);
        ++$sent;
        // Signals that come before the last one was taken count as one.
        usleep(1000);
    }
    $said .= stream_get_contents($pipes[1]);
    $exit = isset($status) && ! $status['running'] ? $status['exitcode'] : null;
    $closed = proc_close($process);

    return [$exit ?? $closed, $said, $sent];
}

beforeEach(function (): void {
    $this->folder = sys_get_temp_dir().'/hafen-signals-'.bin2hex(random_bytes(6));
    mkdir($this->folder);
    $inserts = [];
    foreach (['plate', 'compressor', 'drive', 'parametric-eq', 'echo', 'chorus'] as $i => $processor) {
        $inserts[] = Mix::insert("i{$i}", $processor, Signal::busy($processor));
    }
    $this->session = Mix::session([Mix::track('cello', $inserts, length: 480_000)], [Mix::insert('i9', 'limiter')], 480_000);
    $this->document = "{$this->folder}/session.json";
    file_put_contents($this->document, (new SessionCodec(ProcessorCatalogue::standard()))->encode($this->session));
    $writer = Hafen\Audio\WavWriter::create("{$this->folder}/cello", new Hafen\Audio\AudioFormat(48000, 1, Hafen\Audio\SampleFormat::Float32));
    $writer->write([Signal::noise(480_000, 3, 0.6)]);
    $writer->close();
});

afterEach(fn () => exec('rm -rf '.escapeshellarg($this->folder)));

it('renders and measures the same to the bit under 2,000 signals', function (): void {
    underSignals('', 0, 'render', $this->document, '--out', "{$this->folder}/plain.wav", '--bits', '32f');
    [, $figures] = underSignals('', 0, 'survey', $this->document, '--json');
    $sent = $taken = 0;
    for ($round = 0; $sent < 1000 && $round < 20; ++$round) {
        [$exit, $said, $more] = underSignals('', 1000, 'render', $this->document, '--out', "{$this->folder}/signals.wav", '--bits', '32f');
        expect($exit)->toBe(0, $said)->and(sha1_file("{$this->folder}/signals.wav"))->toBe(sha1_file("{$this->folder}/plain.wav"));
        $taken += (int) file_get_contents("{$this->folder}/taken");
        $sent += $more;
    }
    expect($taken)->toBeGreaterThan(3);
    for (; $sent < 2000 && $round < 40; ++$round) {
        [$exit, $said, $more] = underSignals('', 1000, 'survey', $this->document, '--json');
        expect($exit)->toBe(0)->and($said)->toBe($figures);
        $sent += $more;
    }
    expect($sent)->toBeGreaterThanOrEqual(2000);
});

it('refuses to render where something could interrupt it, and leaves no file', function (string $before, string $says): void {
    [$exit, $said] = underSignals($before, 0, 'render', $this->document, '--out', "{$this->folder}/out.wav");
    expect($exit)->toBe(1)->and($said)->toContain($says)->and(glob("{$this->folder}/out.wav*"))->toBe([]);
})->with([
    'asynchronous signals' => ['pcntl_async_signals(true);', 'Asynchronous signals are on'],
    'a time limit' => ['set_time_limit(30);', 'A time limit of 30 s is set'],
    'an alarm' => ['pcntl_alarm(60);', 'An alarm is set'],
]);

it('works on behind the time limit for reading input, which PHP lets run on', function (): void {
    $run = function (string $code): string {
        file_put_contents("{$this->folder}/work.php", '<?php require "vendor/autoload.php"; '.$code.' for ($x = 0; getrusage()["ru_utime.tv_sec"] < 2; ++$x); echo "worked on";');

        return (string) shell_exec('cd '.escapeshellarg(dirname(__DIR__, 3)).' && '.PHP_BINARY.' -d display_errors=1 -d max_input_time=1 '.escapeshellarg("{$this->folder}/work.php").' 2>&1');
    };
    expect($run('set_time_limit(0);'))->toContain('Maximum execution time')
        ->and($run('Hafen\Audio\SampleLoops::liftTimeLimits(); Hafen\Audio\SampleLoops::check();'))->toBe('worked on')
        ->and($run('set_time_limit(0); Hafen\Audio\SampleLoops::check();'))->toContain('A time limit of 1 s for reading input is set');
});

it('refuses in every way into the engine', function (): void {
    $library = new MemoryLibrary(['cello' => [Signal::noise(4800, 3, 0.6)]]);
    $session = Mix::session([Mix::track('cello', length: 4800)], length: 4800);
    $engine = Mix::engine($session, $library);
    $survey = new SessionSurvey(ProcessorCatalogue::standard(), $library, FolderStore::temporary());
    pcntl_async_signals(true);
    try {
        expect(fn () => $engine->next())->toThrow(LoopsNotSafe::class)
            ->and(fn () => $engine->start(0, 100))->not->toThrow(LoopsNotSafe::class)
            ->and(fn () => $engine->start(1000, 100))->toThrow(LoopsNotSafe::class)
            ->and(fn () => $survey->measure($session))->toThrow(LoopsNotSafe::class)
            ->and(fn () => SampleLoops::pause())->toThrow(LoopsNotSafe::class);
    } finally {
        pcntl_async_signals(false);
    }
});

it('takes signals between blocks', function (): void {
    $taken = 0;
    pcntl_signal(SIGUSR1, static function () use (&$taken): void {
        ++$taken;
    });
    $engine = Mix::engine(Mix::session([Mix::track('cello', length: 4800)], length: 4800), new MemoryLibrary(['cello' => [Signal::noise(4800, 3, 0.6)]]));
    posix_kill(posix_getpid(), SIGUSR1);
    expect($taken)->toBe(0);
    $engine->next();
    expect($taken)->toBe(1);
    pcntl_signal(SIGUSR1, SIG_DFL);
});

it('takes a PHP warning in the engine for a fault, and leaves nothing behind', function (string $complaint): void {
    $library = new class($complaint) implements AudioLibrary
    {
        public function __construct(private readonly string $complaint)
        {
        }

        public function open(string $file): Hafen\Audio\AudioSource
        {
            return new class($this->complaint) implements Hafen\Audio\AudioSource
            {
                public function __construct(private readonly string $complaint)
                {
                }

                public function sampleRate(): int
                {
                    return 48000;
                }

                public function channels(): int
                {
                    return 1;
                }

                public function frames(): int
                {
                    return 48000;
                }

                public function read(int $from, int $count): array
                {
                    if ($from > 20000) {
                        $list = [1.0];
                        $this->complaint === 'key' ? $list[94455443198082] : trigger_error('made up', E_USER_NOTICE);
                    }

                    return [array_fill(0, $count, 0.5)];
                }
            };
        }
    };
    $session = Mix::session([Mix::track('cello')]);
    $render = fn () => (new Renderer(new Compiler(ProcessorCatalogue::standard(), $library)))->render($session, "{$this->folder}/out.wav", new RenderOptions);
    $store = new FolderStore("{$this->folder}/store");
    $measure = fn () => (new SessionSurvey(ProcessorCatalogue::standard(), $library, $store))->measure($session);
    expect($render)->toThrow(LoopFault::class, $complaint === 'key' ? 'Undefined array key 94455443198082' : 'made up')
        ->and($measure)->toThrow(LoopFault::class)
        ->and(glob("{$this->folder}/out.wav*"))->toBe([])
        ->and(glob("{$this->folder}/store/*"))->toBe([]);
})->with(['key', 'notice']);

it('checks itself: every processor and a session, with the JIT on and off', function (): void {
    [$exit, $said] = underSignals('', 0, 'self-check');
    expect($exit)->toBe(0)->and($said)->toContain('59 of 59 are the same to the bit');
    // Where PHP is told to read its own settings only there is no JIT.
    exec('PHP_INI_SCAN_DIR=:/nowhere core/bin/hafen self-check 2>&1', $lines, $exit);
    expect($exit)->toBe(1)->and(implode($lines))->toContain('JIT is not on');
    // Told nothing, it takes Hafen's own.
    exec('env -u PHP_INI_SCAN_DIR core/bin/hafen self-check 2>&1', $others, $exit);
    expect($exit)->toBe(0)->and(implode($others))->toContain('59 of 59');
});
