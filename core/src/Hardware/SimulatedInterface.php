<?php

declare(strict_types=1);

namespace Hafen\Hardware;

use Closure;
use Hafen\Audio\AudioSource;
use Hafen\Audio\Block;
use Hafen\Audio\Decibel;
use Hafen\Audio\Samples;
use Hafen\Dsp\Delay\Past;
use Hafen\Hardware\Outboard\PluggedUnit;
use Hafen\Hardware\Outboard\Unit;
use Hafen\Hardware\Plug\Microphone;
use Hafen\Hardware\Plug\MicrophonePipe;
use Hafen\Hardware\Plug\Microphones;
use Hafen\Hardware\Plug\Nothing;
use Hafen\Hardware\Plug\Part;
use Hafen\Hardware\Plug\Performer;
use Hafen\Hardware\Plug\PlayedFile;
use Hafen\Hardware\Plug\Plug;
use Hafen\Hardware\Plug\TestTone;
use Hafen\Processor\Setting;

/**
 * An audio interface that is made by code: eight inputs with amplifiers, eight outputs, converters of 24 bits, a buffer.
 *
 * It runs by the sample clock of who asks for blocks. What goes out is heard, or comes in again through a cable, as late as its buffer and its
 * converters make it, and later still through a unit of outboard. Performers play along with what they hear.
 */
final class SimulatedInterface implements AudioInterface
{
    private InterfaceLatency $latency;

    /** Samples that have gone by. */
    private int $clock = 0;

    private readonly Timecode $timecode;

    /** @var array<int, Plug> by port, made when something is captured first */
    private array $plugs = [];

    /** @var array<string, Unit> of outboard, made when something is captured first */
    private array $units = [];

    /** @var array<int, Converter> by port */
    private array $inputs = [];

    /** @var array<int, Converter> by port */
    private array $outputs = [];

    /** @var array<int, Past> what went out at the outputs cables and units are fed by, by port */
    private array $out = [];

    /** @var array<int, list<float>> of the block that was captured last, by port */
    private array $captured = [];

    private int $frames = 0;

    /** Clock at the jack of the first sample of that block. */
    private int $at = 0;

    /** @var array<string, array<int, list<float>>> what came back from units in it, by unit and input */
    private array $returned = [];

    /** @var ?list<array{int, int, ?int}> what who plays heard then, see {@see Timecode::between()} */
    private ?array $heard = null;

    private bool $readsAll = true;

    private readonly Microphones $browsers;

    /**
     * @param  Closure(string): ?AudioSource  $files  opens a file at the session's rate; null where it cannot be read
     * @param  float  $tempo  of the session, in beats a minute
     * @param  ?Closure(int): MicrophonePipe  $microphones  what comes from the microphone at a port; none where it is left out
     */
    public function __construct(private InterfaceProfile $profile, private readonly int $sampleRate, private readonly float $tempo, private readonly Closure $files, private readonly ?Closure $microphones = null)
    {
        $this->latency = $profile->latency();
        $this->timecode = new Timecode;
        $this->browsers = new Microphones($sampleRate, $this->latency->roundTrip());
        $this->configure($profile);
    }

    /** Goes on with other names, plugs and gains; the buffer stays as it was begun with. */
    public function configure(InterfaceProfile $profile): void
    {
        foreach ($profile->inputs as $port => $input) {
            $this->inputs[$port] ??= new Converter;
            $known = $this->profile->inputs[$port];
            if ($known->plug !== $input->plug || $known->file !== $input->file) {
                unset($this->plugs[$port]);
                $this->browsers->remove($port);
            }
        }
        foreach ($profile->units as $id => $unit) {
            if ($unit->return === null) {
                unset($this->units[$id]);
            }
            ($this->units[$id] ?? null)?->turn($unit->knobs);
        }
        $this->profile = $profile;
        foreach (array_keys($profile->outputs) as $port) {
            $this->outputs[$port] ??= new Converter;
        }
    }

    public function latency(): InterfaceLatency
    {
        return $this->latency;
    }

    public function longestBlock(): int
    {
        return $this->latency->buffer;
    }

    /** Reads all inputs; otherwise only those that are asked for, which costs less. */
    public function readAll(bool $readsAll): void
    {
        $this->readsAll = $readsAll;
    }

    public function capture(int $frames): void
    {
        $this->frames = $frames;
        // What comes in now passed the jack so long ago.
        $this->at = $this->clock - $this->latency->in();
        $this->captured = $this->returned = [];
        $this->heard = null;
        foreach ($this->readsAll ? array_keys($this->profile->inputs) : [] as $port) {
            $this->input($port);
        }
    }

    public function input(int $port): array
    {
        $input = $this->profile->inputs[$port] ?? null;

        return $this->captured[$port] ??= $input === null
            ? array_fill(0, $this->frames, 0.0)
            : $this->inputs[$port]->convert($this->atJack($port, $input), Decibel::toGain($input->gain));
    }

    public function play(array $outputs, int $frames, ?int $position): void
    {
        $this->timecode->add($this->clock, $frames, $position);
        foreach ($this->feeding() as $port) {
            $this->out[$port] ??= new Past($this->latency->roundTrip());
            $this->out[$port]->push($this->outputs[$port]->convert($outputs[$port] ?? array_fill(0, $frames, 0.0)));
        }
        $this->clock += $frames;
        $this->browsers->played($this->at, $position);
    }

    public function lateness(int $port): ?int
    {
        return ($this->profile->inputs[$port] ?? null)?->plug === PlugKind::Microphone ? $this->browsers->lateness($port) : 0;
    }

    public function keepLateness(int $port, bool $isKept): void
    {
        $this->browsers->keep($port, $isKept);
    }

    public function rest(int $port, int $frames): array
    {
        return $this->inputs[$port]->convert($this->browsers->rest($port, $frames), Decibel::toGain($this->profile->inputs[$port]->gain));
    }

    /** @return array<int, float> seconds from a browser's microphone to here, by port */
    public function microphones(): array
    {
        return $this->browsers->ages();
    }

    /** @return list<int> outputs something comes back from */
    private function feeding(): array
    {
        $feeding = [];
        foreach ($this->profile->inputs as $input) {
            if ($input->plug === PlugKind::Cable && $input->output !== null) {
                $feeding[$input->output] = true;
            }
        }
        foreach ($this->profile->units as $unit) {
            $feeding += array_fill_keys($unit->outputs(), true);
        }
        $this->out = array_intersect_key($this->out, $feeding);

        return array_keys($feeding);
    }

    /** @return list<float> what passed the jack of an input */
    private function atJack(int $port, InputPort $input): array
    {
        if ($input->plug === PlugKind::Cable) {
            return $this->returning($input->output ?? 0);
        }
        if ($input->plug === PlugKind::Unit) {
            $unit = $this->profile->unitAt($port);

            return $unit === null ? array_fill(0, $this->frames, 0.0) : ($this->returned[$unit->unit] ??= $this->fromUnit($unit))[$port];
        }
        $plug = $this->plugs[$port] ??= $this->plug($port, $input);
        $spoken = $this->browsers->read($port, $this->at, $this->frames);
        if ($spoken !== null) {
            return $spoken;
        }
        $this->heard ??= $this->timecode->between($this->at - $this->latency->out(), $this->frames);

        return $this->played($plug, $this->heard);
    }

    public function readings(): array
    {
        return array_map(static fn (Converter $converter): InputReading => $converter->read(), $this->inputs);
    }

    /** @return list<float> what comes back through a cable in the block that is captured */
    private function returning(int $output): array
    {
        $out = $this->out[$output] ?? null;

        return $out === null ? array_fill(0, $this->frames, 0.0) : $out->from($this->clock - $this->at + $this->latency->out(), $this->frames);
    }

    /** @return array<int, list<float>> what comes back from a unit of outboard in the block that is captured, by input */
    private function fromUnit(PluggedUnit $plugged): array
    {
        $fed = array_map($this->returning(...), $plugged->outputs());
        $block = new Block($fed[0] ?? array_fill(0, $this->frames, 0.0), $fed[1] ?? [], ! isset($fed[1]));
        $unit = $this->units[$plugged->unit] ??= Unit::named($plugged->unit, $plugged->knobs, new Setting($this->sampleRate, $this->tempo));
        $unit->process($block);
        $sides = [];
        foreach ($plugged->inputs() as $side => $port) {
            $sound = $side === 0 ? $block->left : $block->right();
            $sides[$port] = $plugged->isInverted ? Samples::scale($sound, -1.0) : $sound;
        }

        return $sides;
    }

    /**
     * @param  list<array{int, int, ?int}>  $heard  see {@see Timecode::between()}
     * @return list<float>
     */
    private function played(Plug $plug, array $heard): array
    {
        $sound = [];
        foreach ($heard as [$clock, $frames, $position]) {
            $sound = [...$sound, ...$plug->sound(max(0, $position ?? $clock), $frames)];
        }

        return $sound;
    }

    private function plug(int $port, InputPort $input): Plug
    {
        $part = Part::tryFrom($input->plug->value);
        $file = $input->plug === PlugKind::File && $input->file !== null ? ($this->files)($input->file) : null;

        return match (true) {
            $part !== null => new Performer($part, $this->sampleRate, $this->tempo),
            $file !== null => new PlayedFile($file),
            $input->plug === PlugKind::Microphone && $this->microphones !== null => $this->browser($port, ($this->microphones)($port)),
            $input->plug === PlugKind::Tone => new TestTone($this->sampleRate),
            default => new Nothing,
        };
    }

    private function browser(int $port, MicrophonePipe $pipe): Microphone
    {
        $microphone = new Microphone($pipe, $this->sampleRate);
        $this->browsers->add($port, $microphone);

        return $microphone;
    }
}
