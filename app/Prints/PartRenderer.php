<?php

declare(strict_types=1);

namespace App\Prints;

use App\Hardware\ThroughHardware;
use App\Hardware\UnitUse;
use App\Media\DiskRoom;
use App\Media\Importer;
use App\Media\MediaFolder;
use App\Models\PrintPart;
use App\Sessions\DocumentDifference;
use App\Sessions\EngineFactory;
use App\Work\Claim;
use Hafen\Audio\Decibel;
use Hafen\Audio\SampleFormat;
use Hafen\Audio\UnableToWriteAudioFile;
use Hafen\Document\SessionCodec;
use Hafen\Hardware\AudioInterface;
use Hafen\Printing\FreezeOptions;
use Hafen\Printing\Freezer;
use Hafen\Printing\Printer;
use Hafen\Printing\PrintOptions;
use Hafen\Printing\PrintResult;
use Hafen\Printing\RenderStopped;
use Hafen\Printing\StemList;
use Hafen\Processor\ProcessorCatalogue;
use Hafen\Session\Session;
use ZipArchive;

/** Renders one channel of a batch, and keeps the file in the library. */
final readonly class PartRenderer
{
    public function __construct(
        private SessionCodec $codec,
        private ProcessorCatalogue $processors,
        private EngineFactory $engines,
        private MediaFolder $folder,
        private Importer $importer,
        private DiskRoom $room,
        private ThroughHardware $hardware,
    ) {
    }

    public function render(Claim $claim): void
    {
        $part = $claim->task;
        assert($part instanceof PrintPart);
        $batch = $part->batch()->firstOrFail();
        $session = $this->codec->decode(DocumentDifference::inflated($batch->document));
        $path = $this->folder->unfinishedPrint((string) $part->id);
        try {
            $values = $this->hardware->work($session, self::wanted($part, $batch->kind), $claim, UnitUse::Asked, fn (?AudioInterface $interface): ?array => match ($batch->kind) {
                'freeze' => $this->freeze($claim, $part, $session, $path, $interface),
                'files' => $this->files($claim, $part, $session, $path, $interface),
                default => $this->print($claim, $part, $session, $path, $interface),
            });
        } catch (RenderStopped) {
            $values = null;
        } finally {
            @unlink($path);
        }
        if ($values !== null) {
            $claim->finish(['status' => 'done', 'progress' => 1.0, ...$values]);
        } elseif (! $claim->isLeaving()) {
            $claim->finish(['status' => 'stopped']);
        }
    }

    /** Bytes a file will have, about. */
    public static function bytes(Session $session, SampleFormat $format, ?float $tail): int
    {
        return 1024 + 2 * $format->bytes() * ($session->length + (int) (($tail ?? 5.0) * $session->sampleRate));
    }

    /** @return ?list<string> ids of the channels whose sound is wanted; null is all of them, as it comes out of the main */
    private static function wanted(PrintPart $part, string $kind): ?array
    {
        /** @var array{tap?: string, names?: array<array-key, string>, withReturns?: bool, printed?: list<string>} $options */
        $options = $part->options;
        if ($kind === 'freeze') {
            return [$part->channel];
        }

        return ($options['tap'] ?? 'main') === 'main' || ($options['withReturns'] ?? false) ? null : ($options['printed'] ?? array_map(strval(...), array_keys($options['names'] ?? [$part->channel => ''])));
    }

    /** @return ?array<string, mixed> columns of the part; null when stopped */
    private function freeze(Claim $claim, PrintPart $part, Session $session, string $path, ?AudioInterface $interface): ?array
    {
        /** @var array{tail: float|int|null, format: string} $options */
        $options = $part->options;
        $freeze = new FreezeOptions($options['tail'] === null ? null : (float) $options['tail'], SampleFormat::from($options['format']));
        $this->room->need(self::bytes($session, $freeze->format, $freeze->tail), $part->name());
        $result = (new Freezer($this->engines->compiler($session->sampleRate, $interface), $this->processors))->freeze($session, $part->channel, $path, $freeze, $claim->beat(...));
        $media = $this->importer->keepRendered($path, "{$part->name} frozen", $part->name, static fn (): bool => $claim->beat());

        return $media === null ? null : ['media_id' => $media->id, 'hash' => $result->hash];
    }

    /**
     * Prints channels to files of one length, and packs them with a list.
     *
     * @return array<string, mixed>
     */
    private function files(Claim $claim, PrintPart $part, Session $session, string $path, ?AudioInterface $interface): array
    {
        /** @var array{tap: string, names: array<array-key, string>, withReturns: bool, name: string, printed?: non-empty-list<string>} $options */
        $options = $part->options;
        $print = self::printOptions($part);
        if (isset($options['printed'])) {
            return $this->fileOfAll($claim, $part, $session, $path, $interface);
        }
        $this->room->need(2 * count($options['names']) * self::bytes($session, $print->format, $print->tail), $part->name());
        $paths = $entries = [];
        foreach ($options['names'] as $id => $name) {
            $paths["{$id}:{$options['tap']}"] = "{$path}-".count($paths).'.part';
            $entries["{$id}:{$options['tap']}"] = "{$name}.wav";
        }
        try {
            assert($paths !== []);
            $printer = $this->printer($session, $interface);
            $results = $options['withReturns'] ? $printer->stemsWithReturns($session, $paths, $print, $claim->beat(...)) : $printer->stems($session, $paths, $print, $claim->beat(...));
            $this->pack($part, $path, array_combine($paths, $entries), StemList::of($session, $entries, $results, $options['withReturns']));
        } finally {
            array_map(static fn (string $file): bool => @unlink($file), $paths);
        }

        return ['result' => [
            'frames' => max(array_map(static fn (PrintResult $result): int => $result->frames, $results)),
            'channels' => 2,
            'peak' => Decibel::fromGain(max(array_map(static fn (PrintResult $result): float => $result->peak, $results))),
            'clipped' => array_sum(array_map(static fn (PrintResult $result): int => $result->clipped, $results)),
        ]];
    }

    /**
     * Prints several channels to one file, and packs it with a list.
     *
     * @return array<string, mixed>
     */
    private function fileOfAll(Claim $claim, PrintPart $part, Session $session, string $path, ?AudioInterface $interface): array
    {
        /** @var array{tap: string, name: string, printed: non-empty-list<string>} $options */
        $options = $part->options;
        $this->room->need(2 * self::bytes($session, self::printOptions($part)->format, self::printOptions($part)->tail), $part->name());
        $file = "{$path}-0.part";
        try {
            $result = $this->result($claim, $part, $session, $file, $interface);
            $this->pack($part, $path, [$file => "{$options['name']}.wav"], StemList::ofOne($session, "{$options['name']}.wav", $options['printed'], $options['tap'], $result));
        } finally {
            @unlink($file);
        }

        return ['result' => self::figures($result)];
    }

    /**
     * @param  array<array-key, string>  $files  names in the archive by path
     *
     * @throws UnableToWriteAudioFile
     */
    private function pack(PrintPart $part, string $path, array $files, string $list): void
    {
        $zip = new ZipArchive;
        $zip->open($path, ZipArchive::CREATE | ZipArchive::OVERWRITE);
        foreach ($files as $file => $name) {
            $zip->addFile((string) $file, $name);
            $zip->setCompressionName($name, ZipArchive::CM_STORE);
        }
        $zip->addFromString('prints.txt', $list);
        if (! @$zip->close() || ! @rename($path, $this->folder->archive($part->batch_id))) {
            throw UnableToWriteAudioFile::open($this->folder->archive($part->batch_id));
        }
    }

    /** @return ?array<string, mixed> */
    private function print(Claim $claim, PrintPart $part, Session $session, string $path, ?AudioInterface $interface): ?array
    {
        /** @var array{name: string} $options */
        $options = $part->options;
        $print = self::printOptions($part);
        $this->room->need(self::bytes($session, $print->format, $print->tail), $part->name());
        $result = $this->result($claim, $part, $session, $path, $interface);
        $media = $this->importer->keepRendered($path, $options['name'], null, static fn (): bool => $claim->beat());

        return $media === null ? null : ['media_id' => $media->id, 'result' => self::figures($result)];
    }

    /** Prints one channel, or several to one file. */
    private function result(Claim $claim, PrintPart $part, Session $session, string $path, ?AudioInterface $interface): PrintResult
    {
        /** @var array{tap: string, printed?: non-empty-list<string>} $options */
        $options = $part->options;

        return $this->printer($session, $interface)->channels($session, $options['printed'] ?? [$part->channel], $options['tap'], $path, self::printOptions($part), $claim->beat(...));
    }

    /** @return array<string, mixed> */
    private static function figures(PrintResult $result): array
    {
        return ['frames' => $result->frames, 'channels' => $result->channels, 'peak' => Decibel::fromGain($result->peak), 'clipped' => $result->clipped];
    }

    private function printer(Session $session, ?AudioInterface $interface): Printer
    {
        return new Printer($this->engines->compiler($session->sampleRate, $interface), $this->processors);
    }

    private static function printOptions(PrintPart $part): PrintOptions
    {
        /** @var array{tail: float|int|null, format: string, from: int, to: ?int} $options */
        $options = $part->options;

        return new PrintOptions($options['from'], $options['to'], $options['tail'] === null ? null : (float) $options['tail'], SampleFormat::from($options['format']));
    }
}
