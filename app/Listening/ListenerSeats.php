<?php

declare(strict_types=1);

namespace App\Listening;

/** A seat for each stream that can be served: held by a lock on a file, so that one is free again however its process ends. */
final readonly class ListenerSeats
{
    public function __construct(private string $folder, private int $seats)
    {
    }

    /**
     * Takes a free seat.
     *
     * @return resource to be kept open while listening
     *
     * @throws AllListening
     */
    public function take()
    {
        if (! is_dir($this->folder)) {
            @mkdir($this->folder, 0o775, true);
        }
        for ($seat = 1; $seat <= $this->seats; ++$seat) {
            $lock = @fopen("{$this->folder}/{$seat}", 'c');
            if ($lock !== false && flock($lock, LOCK_EX | LOCK_NB)) {
                return $lock;
            }
        }
        throw AllListening::most($this->seats);
    }
}
