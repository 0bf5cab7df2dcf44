<?php

declare(strict_types=1);

namespace Hafen\Hardware;

use Closure;
use Hafen\Audio\AudioSource;
use Hafen\Audio\Block;
use Hafen\Audio\Decibel;
use Hafen\Audio\Samples;
use Hafen\Hardware\Outboard\PluggedUnit;
use Hafen\Hardware\Outboard\Unit;
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

    /** @var array<int, list<float>> what went out at the outputs cables and units are fed by, from the first sample that is kept, by port */
    private array $out = [];

    /** Clock at the first sample that is kept of it. */
    private int $outFrom = 0;

    /** @var array<int, list<float>> of the block that was captured last, by port */
    private array $captured = [];

    private int $frames = 0;

    /**
     * @param  Closure(string): ?AudioSource  $files  opens a file at the session's rate; null where it cannot be read
     * @param  float  $tempo  of the session, in beats a minute
     */
    public function __construct(private InterfaceProfile $profile, private readonly int $sampleRate, private readonly float $tempo, private readonly Closure $files)
    {
        $this->latency = $profile->latency();
        $this->timecode = new Timecode;
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

    public function capture(int $frames): void
    {
        $this->frames = $frames;
        $this->captured = [];
        // What comes in now passed the jack so long ago.
        $at = $this->clock - $this->latency->in();
        $heard = $this->timecode->between($at - $this->latency->out(), $frames);
        $fromUnits = [];
        foreach ($this->profile->units as $unit) {
            $fromUnits += $unit->inputs() === [] ? [] : $this->fromUnit($unit, $at, $frames);
        }
        foreach ($this->profile->inputs as $port => $input) {
            $sound = match ($input->plug) {
                PlugKind::Cable => $this->returning($input->output, $at, $frames),
                PlugKind::Unit => $fromUnits[$port] ?? array_fill(0, $frames, 0.0),
                default => $this->played($this->plugs[$port] ??= $this->plug($input), $heard),
            };
            $this->captured[$port] = $this->inputs[$port]->convert($sound, Decibel::toGain($input->gain));
        }
    }

    public function input(int $port): array
    {
        return $this->captured[$port] ?? array_fill(0, $this->frames, 0.0);
    }

    public function play(array $outputs, int $frames, ?int $position): void
    {
        $this->timecode->add($this->clock, $frames, $position);
        $cables = array_filter(array_map(static fn (InputPort $input): ?int => $input->plug === PlugKind::Cable ? $input->output : null, $this->profile->inputs));
        foreach ($this->profile->units as $unit) {
            array_push($cables, ...$unit->outputs());
        }
        $forget = max(0, $this->clock - 2 * $this->latency->roundTrip() - $this->outFrom);
        foreach (array_keys($this->out + array_flip($cables)) as $port) {
            $known = $this->out[$port] ?? array_fill(0, $this->clock - $this->outFrom, 0.0);
            $this->out[$port] = [...($forget > 4096 ? array_slice($known, $forget) : $known), ...$this->outputs[$port]->convert($outputs[$port] ?? array_fill(0, $frames, 0.0))];
        }
        $this->outFrom += $forget > 4096 ? $forget : 0;
        $this->clock += $frames;
    }

    public function readings(): array
    {
        return array_map(static fn (Converter $converter): InputReading => $converter->read(), $this->inputs);
    }

    /**
     * What comes back through a cable.
     *
     * @param  int  $at  clock of its first sample at the jack
     * @return list<float>
     */
    private function returning(?int $output, int $at, int $frames): array
    {
        $from = $at - $this->latency->out() - $this->outFrom;
        $sound = $this->out[$output ?? 0] ?? [];
        $before = max(0, min($frames, -$from));
        $known = array_slice($sound, max(0, $from), $frames - $before);

        return [...array_fill(0, $before, 0.0), ...$known, ...array_fill(0, $frames - $before - count($known), 0.0)];
    }

    /**
     * What comes back from a unit of outboard.
     *
     * @param  int  $at  clock of its first sample at the jack
     * @return array<int, list<float>> by input
     */
    private function fromUnit(PluggedUnit $plugged, int $at, int $frames): array
    {
        $fed = array_map(fn (int $output): array => $this->returning($output, $at, $frames), $plugged->outputs());
        $block = new Block($fed[0] ?? array_fill(0, $frames, 0.0), $fed[1] ?? [], ! isset($fed[1]));
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

    private function plug(InputPort $input): Plug
    {
        $part = Part::tryFrom($input->plug->value);
        $file = $input->plug === PlugKind::File && $input->file !== null ? ($this->files)($input->file) : null;

        return match (true) {
            $part !== null => new Performer($part, $this->sampleRate, $this->tempo),
            $file !== null => new PlayedFile($file),
            $input->plug === PlugKind::Tone => new TestTone($this->sampleRate),
            default => new Nothing,
        };
    }
}
