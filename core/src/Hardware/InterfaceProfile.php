<?php

declare(strict_types=1);

namespace Hafen\Hardware;

use Hafen\Session\Channel\InterfacePorts;

/** How the simulated interface is set: its buffer, and what its ports are called and carry. */
final readonly class InterfaceProfile
{
    public const BUFFERS = [32, 64, 128, 256, 512, 1024, 2048];

    /** Samples by which its converters come late, in and out. */
    private const ADC = 24;

    private const DAC = 20;

    /**
     * @param  int  $buffer  frames, one of {@see BUFFERS}
     * @param  array<int, InputPort>  $inputs  by port, all of them
     * @param  array<int, string>  $outputs  names by port, all of them
     */
    public function __construct(public int $buffer, public array $inputs, public array $outputs)
    {
    }

    /** As it comes: three invented performers, and five jacks that are free. */
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

        return new self(128, $inputs, $outputs);
    }

    public function latency(): InterfaceLatency
    {
        return new InterfaceLatency($this->buffer, self::ADC, self::DAC);
    }

    public function withBuffer(int $buffer): self
    {
        return new self($buffer, $this->inputs, $this->outputs);
    }

    public function withInput(int $port, InputPort $input): self
    {
        return new self($this->buffer, array_replace($this->inputs, [$port => $input]), $this->outputs);
    }

    public function withOutput(int $port, string $name): self
    {
        return new self($this->buffer, $this->inputs, array_replace($this->outputs, [$port => $name]));
    }
}
