<?php

declare(strict_types=1);

namespace Hafen\Session\Hardware;

use Hafen\Session\Channel\InterfacePorts;
use Hafen\Session\Copies;

/**
 * A way out of the session through a unit of outboard and back. Trims in dB; `tail` in ms, for which the unit sounds on; `delay` is what a ping
 * measured, null before the first.
 */
final readonly class HardwareLoop
{
    use Copies;

    /**
     * @param  string  $send  outputs "hw:3" or "hw:3-4"
     * @param  string  $return  inputs "in:3" or "in:3-4", as many
     * @param  ?string  $unit  id of the unit in the rack, where it is known
     */
    public function __construct(
        public string $id,
        public string $name,
        public string $send,
        public string $return,
        public ?string $unit = null,
        public float $sendTrim = 0.0,
        public float $returnTrim = 0.0,
        public bool $invert = false,
        public float $tail = 2000.0,
        public ?MeasuredDelay $delay = null,
        public ?Recall $recall = null,
    ) {
    }

    /** @return list<int> */
    public function outputs(): array
    {
        return InterfacePorts::numbers($this->send, 'hw');
    }

    /** @return list<int> */
    public function inputs(): array
    {
        return InterfacePorts::numbers($this->return, 'in');
    }

    public function isStereo(): bool
    {
        return count($this->outputs()) > 1;
    }

    /** Samples by which sound comes back late, out and in again; 0 before it was pinged. */
    public function latency(): int
    {
        return (int) round($this->delay->samples ?? 0.0);
    }

    /** The same with another buffer, which makes sound late once on its way out and once on its way in. */
    public function atBuffer(int $buffer): self
    {
        return $this->delay === null || $this->delay->buffer === $buffer ? $this : $this->copy(delay: $this->delay->atBuffer($buffer));
    }

    public function sharesPortsWith(self $other): bool
    {
        return array_intersect($this->outputs(), $other->outputs()) !== [] || array_intersect($this->inputs(), $other->inputs()) !== [];
    }

    public function withId(string $id): self
    {
        return $this->copy(id: $id);
    }

    /**
     * With other values of some fields. On other ports, or through another unit, nothing is known of its delay; of another unit's knobs neither.
     *
     * @param  array{name?: string, send?: string, return?: string, unit?: ?string, sendTrim?: float, returnTrim?: float, invert?: bool, tail?: float, delay?: ?MeasuredDelay, recall?: ?Recall}  $changes
     */
    public function with(array $changes): self
    {
        $isOtherUnit = array_key_exists('unit', $changes) && $changes['unit'] !== $this->unit;
        $isElsewhere = $isOtherUnit || ($changes['send'] ?? $this->send) !== $this->send || ($changes['return'] ?? $this->return) !== $this->return;

        return $this->copy(...[...($isElsewhere ? ['delay' => null] : []), ...($isOtherUnit ? ['recall' => null] : []), ...$changes]);
    }
}
