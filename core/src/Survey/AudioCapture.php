<?php

declare(strict_types=1);

namespace Hafen\Survey;

use Hafen\Audio\Block;

/**
 * Writes what passes a tap to a file: blocks one after the other, silence and equal sides only named, samples to the bit; at the
 * end where each block begins.
 *
 * The file is made under another name and takes its own when it is whole.
 */
final class AudioCapture
{
    /** Bytes after which it is looked whether the disk still has room. */
    private const CHECK_EVERY = 4 << 20;

    public const SILENT_MONO = "\0";

    public const SILENT_STEREO = "\1";

    public const MONO = "\2";

    public const STEREO = "\3";

    /** @var resource */
    private $stream;

    /** @var list<int> */
    private array $offsets = [];

    private int $written = 0;

    private int $checked = 0;

    private readonly string $unfinished;

    /** What was given in shorter blocks, until it is a whole one. */
    private ?Block $gathered = null;

    /**
     * @param  int  $reserve  bytes of the disk that stay free
     * @param  int  $blockSize  frames of each block but the last
     */
    public function __construct(private readonly string $path, private readonly int $reserve = 0, private readonly int $blockSize = PartRunner::BLOCK)
    {
        $this->unfinished = $path.'.'.bin2hex(random_bytes(6)).'.part';
        $stream = is_dir(dirname($path)) ? @fopen($this->unfinished, 'wb') : false;
        if ($stream === false) {
            throw SurveyStoreFull::cannotWrite(dirname($path));
        }
        $this->stream = $stream;
    }

    /**
     * @param  Block  $block  as long as those of the file, or a part of one
     *
     * @throws SurveyStoreFull
     */
    public function write(Block $block): void
    {
        if ($this->gathered === null && $block->frames() >= $this->blockSize) {
            $this->add($block);

            return;
        }
        if ($this->gathered === null) {
            $this->gathered = clone $block;
        } else {
            if ($this->gathered->mono !== $block->mono) {
                $this->gathered->widen();
            }
            $right = $this->gathered->mono ? [] : [...$this->gathered->right, ...$block->right()];
            $this->gathered->left = [...$this->gathered->left, ...$block->left];
            $this->gathered->right = $right;
        }
        if ($this->gathered->frames() >= $this->blockSize) {
            $this->add($this->gathered);
            $this->gathered = null;
        }
    }

    private function add(Block $block): void
    {
        $this->offsets[] = $this->written;
        if (! self::sounds($block->left) && ($block->mono || ! self::sounds($block->right))) {
            $this->put($block->mono ? self::SILENT_MONO : self::SILENT_STEREO);
        } elseif ($block->mono) {
            $this->put(self::MONO.pack('e*', ...$block->left));
        } else {
            $this->put(self::STEREO.pack('e*', ...$block->left).pack('e*', ...$block->right));
        }
    }

    /** @throws SurveyStoreFull */
    public function close(): void
    {
        if ($this->gathered !== null) {
            $missing = array_fill(0, $this->blockSize - $this->gathered->frames(), 0.0);
            $this->write(new Block($missing, [], true));
        }
        $blocks = count($this->offsets);
        $this->put(pack('P*', ...[...$this->offsets, $blocks]));
        if (! fclose($this->stream) || ! @rename($this->unfinished, $this->path)) {
            throw SurveyStoreFull::cannotWrite(dirname($this->path));
        }
    }

    public function discard(): void
    {
        if (is_resource($this->stream)) {
            fclose($this->stream);
        }
        @unlink($this->unfinished);
    }

    /** @param  list<float>  $samples */
    private static function sounds(array $samples): bool
    {
        foreach ($samples as $sample) {
            if ($sample !== 0.0) {
                return true;
            }
        }

        return false;
    }

    private function put(string $bytes): void
    {
        if (@fwrite($this->stream, $bytes) !== strlen($bytes)) {
            $this->discard();
            throw SurveyStoreFull::cannotWrite(dirname($this->path));
        }
        $this->written += strlen($bytes);
        if ($this->written >= $this->checked) {
            $this->checked = $this->written + self::CHECK_EVERY;
            if ((int) @disk_free_space(dirname($this->path)) < $this->reserve) {
                $this->discard();
                throw SurveyStoreFull::reserve(dirname($this->path), $this->reserve);
            }
        }
    }
}
