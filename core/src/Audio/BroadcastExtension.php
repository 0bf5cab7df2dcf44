<?php

declare(strict_types=1);

namespace Hafen\Audio;

/**
 * The "bext" chunk of a Broadcast Wave file: who made it, when, and where it starts.
 *
 * Source: EBU Tech 3285 v2. Texts are cut to their field lengths when written. `timeReference` is the
 * first sample's position in samples since midnight. `rest` holds the version, loudness and coding
 * history bytes as they were read, so that a chunk passes through unharmed.
 */
final readonly class BroadcastExtension
{
    private const FIXED_BYTES = 602;

    public function __construct(
        public string $description = '',
        public string $originator = 'Hafen',
        public string $originatorReference = '',
        public string $originationDate = '',
        public string $originationTime = '',
        public int $timeReference = 0,
        public string $rest = '',
    ) {
    }

    /** Reads the body of a chunk; a short body is filled with zeros. */
    public static function fromBytes(string $bytes): self
    {
        $bytes = str_pad($bytes, self::FIXED_BYTES, "\0");
        $reference = unpack('Vlow/Vhigh', substr($bytes, 338, 8)) ?: ['low' => 0, 'high' => 0];

        return new self(
            rtrim(substr($bytes, 0, 256), "\0"),
            rtrim(substr($bytes, 256, 32), "\0"),
            rtrim(substr($bytes, 288, 32), "\0"),
            rtrim(substr($bytes, 320, 10), "\0"),
            rtrim(substr($bytes, 330, 8), "\0"),
            self::integer($reference['low']) | (self::integer($reference['high']) << 32),
            substr($bytes, 346),
        );
    }

    public function toBytes(): string
    {
        $text = static fn (string $value, int $length): string => str_pad(substr($value, 0, $length), $length, "\0");
        $rest = $this->rest !== '' ? $this->rest : pack('v', 1);

        return $text($this->description, 256)
            .$text($this->originator, 32)
            .$text($this->originatorReference, 32)
            .$text($this->originationDate, 10)
            .$text($this->originationTime, 8)
            .pack('VV', $this->timeReference & 0xFFFFFFFF, $this->timeReference >> 32)
            .str_pad($rest, self::FIXED_BYTES - 346, "\0");
    }

    public function withTimeReference(int $samples): self
    {
        return new self(
            $this->description,
            $this->originator,
            $this->originatorReference,
            $this->originationDate,
            $this->originationTime,
            $samples,
            $this->rest,
        );
    }

    private static function integer(mixed $value): int
    {
        return is_int($value) ? $value : 0;
    }
}
