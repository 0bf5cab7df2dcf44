<?php

declare(strict_types=1);

namespace Hafen\Engine\Parallel;

use Hafen\Audio\Block;
use Hafen\Audio\SampleDecoder;
use Shmop;

/**
 * Blocks of sound in memory that two processes share, in two halves: one is read while the other is written. Numbers of 64 bits, so that
 * they arrive to the bit.
 *
 * The form of a block is a byte: 0 there is none, 1 silence, 2 both sides are the same, 3 two sides.
 */
final readonly class SharedBlocks
{
    private const SILENT = 1;

    private const MONO = 2;

    private const STEREO = 3;

    private const BYTES = 8;

    private function __construct(private Shmop $memory, public int $key, public int $frames, public int $blocks)
    {
    }

    public static function isAvailable(): bool
    {
        return function_exists('shmop_open');
    }

    /**
     * Makes memory for so many blocks, of at most so many frames.
     *
     * @throws ProcessGone when there is none
     */
    public static function create(int $blocks, int $frames): self
    {
        for ($attempt = 0; $attempt < 20; ++$attempt) {
            $key = random_int(1, 0x7FFFFFFF);
            $memory = @shmop_open($key, 'n', 0o600, 2 * self::size($blocks, $frames));
            if ($memory !== false) {
                return new self($memory, $key, $frames, $blocks);
            }
        }

        throw ProcessGone::noMemory(2 * self::size($blocks, $frames));
    }

    /** @throws ProcessGone when it is not there */
    public static function attach(int $key, int $blocks, int $frames): self
    {
        $memory = @shmop_open($key, 'w', 0, 0);

        return $memory === false ? throw ProcessGone::noMemory(2 * self::size($blocks, $frames)) : new self($memory, $key, $frames, $blocks);
    }

    /** Whether it is large enough for so many blocks. */
    public function holds(int $blocks): bool
    {
        return $blocks <= $this->blocks;
    }

    /** Both processes have it: it goes when the last of them ends, however that happens. */
    public function forgetKey(): void
    {
        @shmop_delete($this->memory);
    }

    /** @return string its form, a byte */
    public function write(int $half, int $output, ?Block $block): string
    {
        if ($block === null) {
            return "\0";
        }
        if ($block->isSilent) {
            return chr(self::SILENT);
        }
        $at = $this->offset($half, $output);
        shmop_write($this->memory, pack('e*', ...$block->left), $at);
        if ($block->mono) {
            return chr(self::MONO);
        }
        shmop_write($this->memory, pack('e*', ...$block->right), $at + self::BYTES * $this->frames);

        return chr(self::STEREO);
    }

    /** @param  string  $form  a byte */
    public function read(int $half, int $output, string $form, int $frames): ?Block
    {
        $form = ord($form);
        if ($form === 0) {
            return null;
        }
        if ($form === self::SILENT) {
            return Block::silent($frames);
        }
        $at = $this->offset($half, $output);
        $left = $this->samples($at, $frames);

        return $form === self::MONO ? Block::mono($left) : new Block($left, $this->samples($at + self::BYTES * $this->frames, $frames));
    }

    /** @return list<float> */
    private function samples(int $at, int $frames): array
    {
        return SampleDecoder::float64(shmop_read($this->memory, $at, self::BYTES * $frames));
    }

    private function offset(int $half, int $output): int
    {
        return $half * self::size($this->blocks, $this->frames) + $output * 2 * self::BYTES * $this->frames;
    }

    private static function size(int $blocks, int $frames): int
    {
        return $blocks * 2 * self::BYTES * $frames;
    }
}
