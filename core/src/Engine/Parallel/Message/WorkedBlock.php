<?php

declare(strict_types=1);

namespace Hafen\Engine\Parallel\Message;

use Hafen\Engine\Fault;

/** A block is worked; what passes out of it is in the shared memory. */
final readonly class WorkedBlock
{
    /**
     * @param  string  $forms  a byte for each output, see {@see \Hafen\Engine\Parallel\SharedBlocks}
     * @param  bool  $isClosing  whether something still fades out
     * @param  list<Fault>  $faults
     * @param  ?string  $readings  packed numbers of 64 bits: peak, mean square, overs and gain reduction of each tap
     * @param  ?string  $loads  packed numbers of 64 bits
     */
    public function __construct(public string $forms, public bool $isClosing, public array $faults, public ?string $readings = null, public ?string $loads = null)
    {
    }
}
