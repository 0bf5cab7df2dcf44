<?php

declare(strict_types=1);

namespace Hafen\Hardware\Outboard;

use Hafen\Session\Channel\InterfacePorts;

/** A unit in the rack: the outputs that feed it, the inputs it comes back on, and where its knobs stand. */
final readonly class PluggedUnit
{
    /**
     * @param  ?string  $send  "hw:3" or "hw:3-4"; null where nothing feeds it
     * @param  ?string  $return  "in:3" or "in:3-4"; null where it comes back nowhere
     * @param  array<string, float|string|bool>  $knobs  those that are not as it comes
     * @param  bool  $isInverted  whether a cable is wired the wrong way round
     */
    public function __construct(public string $unit, public ?string $send = null, public ?string $return = null, public array $knobs = [], public bool $isInverted = false)
    {
    }

    /** @return list<int> */
    public function outputs(): array
    {
        return InterfacePorts::numbers($this->send ?? '', 'hw');
    }

    /** @return list<int> */
    public function inputs(): array
    {
        return InterfacePorts::numbers($this->return ?? '', 'in');
    }

    public function withPorts(?string $send, ?string $return): self
    {
        return new self($this->unit, $send, $return, $this->knobs, $this->isInverted);
    }

    /** @param  array<string, float|string|bool>  $knobs */
    public function withKnobs(array $knobs): self
    {
        return new self($this->unit, $this->send, $this->return, $knobs, $this->isInverted);
    }

    public function withInverted(bool $isInverted): self
    {
        return new self($this->unit, $this->send, $this->return, $this->knobs, $isInverted);
    }
}
