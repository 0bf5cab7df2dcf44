<?php

declare(strict_types=1);

namespace Hafen;

use RuntimeException;
use Throwable;

/**
 * Something Hafen will not do, said so that the person can act on it.
 *
 * `place` is where it happened: a JSON pointer into a document ("/channels/0/fader"), a file,
 * or the name of a rule. The message is one sentence that names the value and what is allowed.
 */
abstract class Refusal extends RuntimeException
{
    final protected function __construct(public readonly string $location, string $message, ?Throwable $previous = null)
    {
        parent::__construct($message, 0, $previous);
    }

    /** The place and the sentence in one line, for a terminal or a log. */
    public function line(): string
    {
        return $this->location === '' ? $this->getMessage() : $this->location.': '.$this->getMessage();
    }
}
