<?php

declare(strict_types=1);

namespace Hafen\Hardware;

use Hafen\Hardware\Outboard\PluggedUnit;
use Hafen\Hardware\Outboard\Rack;
use Hafen\Session\Channel\InterfacePorts;

/** How the simulated interface is set: its buffer, and what its ports are called and carry. */
final readonly class InterfaceProfile
{
    public const BUFFERS = [32, 64, 128, 256, 512, 1024, 2048];

    /** Frames that are gathered where nobody hears a live input. */
    private const GATHERED = 512;

    /** Samples by which its converters come late, in and out. */
    private const ADC = 24;

    private const DAC = 20;

    /**
     * @param  int  $buffer  frames, one of {@see BUFFERS}
     * @param  array<int, InputPort>  $inputs  by port, all of them
     * @param  array<int, string>  $outputs  names by port, all of them
     * @param  array<string, PluggedUnit>  $units  in the rack, by their id, all of them
     */
    public function __construct(public int $buffer, public array $inputs, public array $outputs, public array $units)
    {
    }

    /** As it comes: three invented performers, two units of outboard, and jacks that are free. */
    public static function standard(): self
    {
        $inputs = [
            1 => new InputPort('Voice', PlugKind::Voice, 31.0),
            2 => new InputPort('Guitar', PlugKind::Guitar, 26.0),
            3 => new InputPort('Vibraphone', PlugKind::Vibraphone, 28.0),
        ];
        for ($port = 4; $port <= InterfacePorts::INPUTS; ++$port) {
            $inputs[$port] = new InputPort("Input {$port}");
        }
        $outputs = [];
        for ($port = 1; $port <= InterfacePorts::OUTPUTS; ++$port) {
            $outputs[$port] = $port <= 2 ? ['Speakers left', 'Speakers right'][$port - 1] : "Output {$port}";
        }

        $units = [];
        foreach (Rack::ids() as $id) {
            $units[$id] = new PluggedUnit($id);
        }

        return (new self(128, $inputs, $outputs, $units))
            ->withInput(4, new InputPort('Spring tank', PlugKind::Unit))->withOutput(7, 'Spring tank')
            ->withUnit($units['spring-tank']->withPorts('hw:7', 'in:4'))
            ->withInput(5, new InputPort('Leveller L', PlugKind::Unit))->withOutput(5, 'Leveller L')
            ->withInput(6, new InputPort('Leveller R', PlugKind::Unit))->withOutput(6, 'Leveller R')
            ->withUnit($units['tube-leveller']->withPorts('hw:5-6', 'in:5-6'));
    }

    public function latency(): InterfaceLatency
    {
        return new InterfaceLatency($this->buffer, self::ADC, self::DAC);
    }

    public function withBuffer(int $buffer): self
    {
        return new self($buffer, $this->inputs, $this->outputs, $this->units);
    }

    /** The same where nobody hears a live input: longer blocks are gathered then, as they take less of the machine. */
    public function gathering(): self
    {
        return $this->withBuffer(max($this->buffer, self::GATHERED));
    }

    /** With something else at an input: a unit that came back there is unplugged. */
    public function withInput(int $port, InputPort $input): self
    {
        $units = array_map(
            static fn (PluggedUnit $unit): PluggedUnit => $input->plug !== PlugKind::Unit && in_array($port, $unit->inputs(), true) ? $unit->withPorts($unit->send, null) : $unit,
            $this->units,
        );

        return new self($this->buffer, array_replace($this->inputs, [$port => $input]), $this->outputs, $units);
    }

    public function withOutput(int $port, string $name): self
    {
        return new self($this->buffer, $this->inputs, array_replace($this->outputs, [$port => $name]), $this->units);
    }

    /** With a unit plugged in otherwise: it comes back on its inputs in place of what is there, another unit too. */
    public function withUnit(PluggedUnit $unit): self
    {
        $before = $this->units[$unit->unit]->inputs();
        $units = array_map(
            static fn (PluggedUnit $other): PluggedUnit => $other->unit !== $unit->unit && array_intersect($other->inputs(), $unit->inputs()) !== [] ? $other->withPorts($other->send, null) : $other,
            $this->units,
        );
        $inputs = $this->inputs;
        foreach ($inputs as $port => $input) {
            if (in_array($port, $unit->inputs(), true)) {
                $inputs[$port] = new InputPort($input->name, PlugKind::Unit, $input->plug === PlugKind::Unit ? $input->gain : 0.0);
            } elseif (in_array($port, $before, true)) {
                $inputs[$port] = new InputPort($input->name);
            }
        }

        return new self($this->buffer, $inputs, $this->outputs, array_replace($units, [$unit->unit => $unit]));
    }

    /** The unit that comes back at an input; null where none does. */
    public function unitAt(int $input): ?PluggedUnit
    {
        foreach ($this->units as $unit) {
            if (in_array($input, $unit->inputs(), true)) {
                return $unit;
            }
        }

        return null;
    }
}
