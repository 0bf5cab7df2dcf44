<?php

declare(strict_types=1);

namespace Hafen\Engine\Parallel;

/** Messages over a pair of pipes: each is its length in four bytes, then the object, serialised. */
final readonly class MessageStream
{
    /**
     * @param  resource  $in
     * @param  resource  $out
     */
    public function __construct(private mixed $in, private mixed $out)
    {
    }

    /** Whether it could be sent: not to a process that ended. */
    public function send(object $message): bool
    {
        $bytes = serialize($message);
        $bytes = pack('V', strlen($bytes)).$bytes;
        for ($sent = 0; $sent < strlen($bytes); $sent += $written) {
            $written = @fwrite($this->out, $sent === 0 ? $bytes : substr($bytes, $sent));
            if ($written === false || $written === 0) {
                return false;
            }
        }

        return true;
    }

    /**
     * Waits for the next message.
     *
     * @param  ?int  $seconds  to wait at most; as long as it takes where it is left out
     * @return ?object null where the other side has ended, or does not say anything for so long
     */
    public function receive(?int $seconds = null): ?object
    {
        $length = $this->bytes(4, $seconds);
        if ($length === null) {
            return null;
        }
        /** @var array{length: int} $header */
        $header = unpack('Vlength', $length);
        $bytes = $this->bytes($header['length'], $seconds);
        $message = $bytes === null ? null : unserialize($bytes);

        return is_object($message) ? $message : null;
    }

    private function bytes(int $count, ?int $seconds): ?string
    {
        for ($bytes = ''; ($missing = $count - strlen($bytes)) > 0; $bytes .= $read) {
            $ready = [$this->in];
            $none = null;
            if ($seconds !== null && @stream_select($ready, $none, $none, $seconds) !== 1) {
                return null;
            }
            $read = @fread($this->in, $missing);
            if ($read === false || $read === '') {
                return null;
            }
        }

        return $bytes;
    }
}
