<?php

declare(strict_types=1);

use Hafen\Hardware\InputPort;
use Hafen\Hardware\InterfaceProfile;
use Hafen\Hardware\MicrophoneRefused;
use Hafen\Hardware\Plug\MicrophonePipe;
use Hafen\Hardware\PlugKind;
use Hafen\Hardware\SimulatedInterface;
use Hafen\Tests\Support\Signal;

const CAPTURE = '0123456789abcdef';

beforeEach(function (): void {
    $this->path = (string) tempnam(sys_get_temp_dir(), 'pipe');
    $this->pipe = new MicrophonePipe($this->path);
});

afterEach(fn () => unlink($this->path));

/** @param  list<float>  $samples */
function floats(array $samples): string
{
    return pack('g*', ...$samples);
}

/** Whole steps, which 32-bit floats hold exactly. @return list<float> */
function steps(int $from, int $frames): array
{
    return array_map(static fn (int $i): float => $i / 1_048_576, range($from, $from + $frames - 1));
}

it('hands on what comes in pieces, to another process as well, over the end of its ring', function (): void {
    $reader = new MicrophonePipe($this->path);
    expect($reader->head())->toBeNull();
    $piece = 40_000;
    for ($first = 0; $first < MicrophonePipe::FRAMES + 3 * $piece; $first += $piece) {
        $this->pipe->write(CAPTURE, 48000, $first, floats(steps($first, $piece)), 1000.0 + $first / 48000, $first + 0.5);
        $head = $reader->head();
        expect($head?->written)->toBe($first + $piece)->and($reader->read($head, $first - 100, 200))->toBe($first === 0 ? [...array_fill(0, 100, 0.0), ...steps(0, 100)] : steps($first - 100, 200));
    }
    // What is not there yet, and what is gone, is silent.
    $end = $head->written;
    expect($reader->read($head, $end - 3, 6))->toBe([...steps($end - 3, 3), 0.0, 0.0, 0.0])->and($reader->read($head, $end - MicrophonePipe::FRAMES, 5))->toBe(array_fill(0, 5, 0.0))
        ->and($head->heardAt($end))->toBe($end + 0.5)->and($head->age($end, 1000.0 + $end / 48000 + 0.25))->toEqualWithDelta(0.25, 1e-6);
});

it('fills what was lost with silence, passes over what comes again, and lets a new capture take over', function (): void {
    $this->pipe->write(CAPTURE, 48000, 0, floats(steps(0, 100)), 1000.0, null);
    $this->pipe->write(CAPTURE, 48000, 150, floats(steps(150, 100)), 1000.0, null);
    $this->pipe->write(CAPTURE, 48000, 100, floats(steps(100, 20)), 1000.0, null);
    $head = $this->pipe->head();
    expect($head?->written)->toBe(250)->and($head->heardAt(0))->toBeNull()
        ->and($this->pipe->read($head, 90, 70))->toBe([...steps(90, 30), ...array_fill(0, 30, 0.0), ...steps(150, 10)]);
    $other = 'fedcba9876543210';
    expect(fn () => $this->pipe->write($other, 48000, 2048, floats([0.5]), 1000.0, null))->toThrow(MicrophoneRefused::class, 'Another window');
    $this->pipe->write($other, 44100, 0, floats([0.5]), 1000.0, null);
    expect($this->pipe->head()?->written)->toBe(1)->and($this->pipe->head()->rate)->toBe(44100)
        ->and(fn () => $this->pipe->write(CAPTURE, 48000, 250, floats([0.5]), 1000.0, null))->toThrow(MicrophoneRefused::class);
});

it('is silent for what is no number, a head that is torn, and a file that is cut', function (): void {
    $this->pipe->write(CAPTURE, 48000, 0, floats([NAN, INF, -INF, 0.25]), 1000.0, null);
    $head = $this->pipe->head();
    expect($this->pipe->read($head, 0, 4))->toBe([0.0, 0.0, 0.0, 0.25]);
    $file = fopen($this->path, 'r+b');
    fseek($file, 20);
    fwrite($file, 'x');
    expect((new MicrophonePipe($this->path))->head())->toBeNull();
    ftruncate($file, 70);
    expect($this->pipe->read($head, 0, 4))->toBe([0.0, 0.0, 0.0, 0.0]);
    ftruncate($file, 10);
    expect((new MicrophonePipe($this->path))->head())->toBeNull();
});

it('reads behind what came last, says how late that is, keeps in step while it is recorded to the end, and is silent when the page is gone', function (): void {
    $profile = InterfaceProfile::standard()->withInput(7, new InputPort('Mic', PlugKind::Microphone));
    $interface = new SimulatedInterface($profile, 48000, 96.0, static fn (): null => null, fn (): MicrophonePipe => new MicrophonePipe($this->path));
    $block = function (int $position) use ($interface): array {
        $interface->capture(128);
        $sound = $interface->input(7);
        $interface->play([], 128, $position);

        return $sound;
    };
    // The page hears sample n of the session while it captures frame n - 4000.
    $write = fn (int $first, int $frames) => $this->pipe->write(CAPTURE, 48000, $first, floats(steps($first, $frames)), microtime(true) - $frames / 48000, $first + 4000.0);
    expect($block(0))->toBe(array_fill(0, 128, 0.0))->and($interface->lateness(7))->toBeNull()->and($interface->lateness(1))->toBe(0)->and($interface->microphones())->toBe([]);
    $write(0, 20_000);
    $first = (int) round($block(30_000)[127] * 1_048_576) - 127;
    // 0.18 s behind; what goes out now is heard when the round trip is over.
    expect($first)->toBe(20_000 - 8640)->and($interface->lateness(7))->toBe(30_000 - 300 - ($first + 4000))
        ->and($interface->microphones()[7])->toEqualWithDelta(0.18, 0.05)
        ->and($block(30_128))->toBe(steps($first + 128, 128));
    // While it is recorded it is read 0.8 s behind, so that what is held up leaves no gap.
    $write(20_000, 40_000);
    $interface->keepLateness(7, true);
    expect($interface->lateness(7))->toBeNull();
    $first = (int) round($block(40_000)[127] * 1_048_576) - 127;
    expect($first)->toBe(60_000 - 38_400)->and($late = $interface->lateness(7))->toBe(40_000 - 300 - ($first + 4000));
    // It runs dry: silence, and then what comes is where it belongs.
    for ($i = 1; $i < 310; ++$i) {
        $block(40_000 + 128 * $i);
    }
    expect($block(40_000 + 128 * 310))->toBe(array_fill(0, 128, 0.0));
    $write(60_000, 20_000);
    expect($block(40_000 + 128 * 311))->toBe(steps($first + 128 * 311, 128))->and($interface->lateness(7))->toBe($late);
    // What is heard was held up by 960 samples: the next is read as much further on, and the take stays where it was played.
    $this->pipe->write(CAPTURE, 48000, 80_000, floats(steps(80_000, 2000)), microtime(true) - 2000 / 48000, 83_040.0);
    $block(40_000 + 128 * 312);
    expect($block(40_000 + 128 * 313))->toBe(steps($first + 128 * 313 + 960, 128))->and($interface->lateness(7))->toBe($late);
    // What is still on its way when a take ends is there at once, or waited for a moment.
    $next = $first + 128 * 314 + 960;
    expect($interface->rest(7, 500))->toBe(steps($next, 500))->and($interface->rest(7, 82_000 - $next))->toBe([...steps($next + 500, 82_000 - $next - 500), ...array_fill(0, 500, 0.0)])
        ->and($interface->rest(1, 3))->toBe([0.0, 0.0, 0.0]);
    $interface->keepLateness(7, false);
    // At another rate it would sound at another pitch.
    $this->pipe->write('fedcba9876543210', 44100, 0, floats(steps(0, 20_000)), microtime(true) - 0.4, 0.0);
    expect($block(50_000))->toBe(array_fill(0, 128, 0.0));
    // Something else is plugged in: nothing is known of it any more, and nothing late.
    $interface->configure($profile->withInput(7, new InputPort('Tone', PlugKind::Tone)));
    expect($interface->lateness(7))->toBe(0)->and(Signal::peak($block(50_128)))->toBeGreaterThan(0.1);
    $interface->configure($profile);
    expect($interface->lateness(7))->toBeNull();
    $this->pipe->write(CAPTURE, 48000, 0, floats(steps(0, 42_000)), microtime(true) - 42_000 / 48000, null);
    $this->pipe->write(CAPTURE, 48000, 42_000, floats([0.5]), microtime(true) - 5.0, null);
    expect($block(50_000))->toBe(array_fill(0, 128, 0.0))->and($interface->microphones())->toBe([]);
});
