<?php

declare(strict_types=1);

namespace Hafen\Engine\Parallel;

/** Another process of the engine: it ends with this one. */
final class EngineProcess
{
    /** Seconds in which an answer comes from a process that lives, on the slowest machine. */
    private const PATIENCE = 20;

    /** @var resource */
    private readonly mixed $process;

    private readonly MessageStream $messages;

    /**
     * @param  string  $php  path of its program
     *
     * @throws ProcessGone when it cannot be started
     */
    public function __construct(string $php)
    {
        // Where it is not there, the child would only find that out itself.
        $process = is_executable($php) ? @proc_open([$php, dirname(__DIR__, 3).'/bin/engine-process'], [['pipe', 'r'], ['pipe', 'w']], $pipes) : false;
        if ($process === false) {
            throw ProcessGone::notStarted($php);
        }
        foreach ($pipes as $pipe) {
            stream_set_read_buffer($pipe, 0);
            stream_set_write_buffer($pipe, 0);
        }
        $this->process = $process;
        $this->messages = new MessageStream($pipes[1], $pipes[0]);
    }

    public function __destruct()
    {
        $this->end();
    }

    /** Ends it at once: it has nothing to lose, and might be hung. */
    public function end(): void
    {
        if (is_resource($this->process)) {
            @proc_terminate($this->process, 9);
            @proc_close($this->process);
        }
    }

    public function id(): int
    {
        return proc_get_status($this->process)['pid'];
    }

    /** @throws ProcessGone */
    public function send(object $message): void
    {
        if (! $this->messages->send($message)) {
            throw ProcessGone::ended('has ended');
        }
    }

    /**
     * @template T of object
     *
     * @param  class-string<T>  $expected
     * @return T
     *
     * @throws ProcessGone
     * @throws SectionRefused
     */
    public function receive(string $expected): object
    {
        $message = $this->messages->receive(self::PATIENCE);
        if ($message instanceof Message\SectionRefusal) {
            throw SectionRefused::of($message);
        }

        return $message instanceof $expected ? $message : throw ProcessGone::ended('has ended or does not answer');
    }
}
