<?php

declare(strict_types=1);

namespace App\Presets;

use App\Models\Preset as StoredPreset;
use App\Models\RowPreset as StoredRow;
use Hafen\Document\JsonNode;
use Hafen\Preset\Preset;
use Hafen\Preset\PresetCodec;
use Hafen\Preset\PresetFile;
use Hafen\Preset\RowPreset;
use Hafen\Preset\ShippedPresets;
use Illuminate\Support\Facades\DB;

/** The presets there are: those that ship, and one's own. An own one of the same name takes the place of what it replaces. */
final readonly class PresetShelf
{
    public function __construct(private PresetCodec $codec, private ShippedPresets $shipped)
    {
    }

    /** @return list<array<string, mixed>> shipped ones first; `id` is null where it ships */
    public function presets(?string $processor): array
    {
        $shipped = array_filter($this->shipped->all()->presets, static fn (Preset $preset): bool => $processor === null || $preset->processor === $processor);
        $own = StoredPreset::query()->when($processor, static fn ($query, $id) => $query->where('processor', $id))->orderBy('name')->get();

        return [
            ...array_map(static fn (Preset $preset): array => ['id' => null, ...$preset->toArray()], array_values($shipped)),
            ...array_values($own->map(self::shown(...))->all()),
        ];
    }

    /** @return array<string, list<Preset>> shipped ones first, by processor */
    public function byProcessor(): array
    {
        $byProcessor = [];
        $own = StoredPreset::query()->orderBy('name')->get()
            ->map(static fn (StoredPreset $preset): Preset => new Preset($preset->processor, $preset->name, $preset->use, $preset->parameters))->all();
        foreach ([...$this->shipped->all()->presets, ...$own] as $preset) {
            $byProcessor[$preset->processor][] = $preset;
        }

        return $byProcessor;
    }

    /** @return list<array<string, mixed>> */
    public function rows(): array
    {
        return [
            ...array_map(fn (RowPreset $row): array => ['id' => null, ...$this->codec->rowToArray($row)], $this->shipped->all()->rows),
            ...array_values(StoredRow::query()->orderBy('name')->get()->map(self::shownRow(...))->all()),
        ];
    }

    /** @return array<string, mixed> */
    public function keep(Preset $preset): array
    {
        return self::shown(StoredPreset::query()->updateOrCreate(
            ['processor' => $preset->processor, 'name' => $preset->name],
            ['use' => $preset->use, 'parameters' => $preset->parameters],
        ));
    }

    /** @return array<string, mixed> */
    public function keepRow(RowPreset $row): array
    {
        $whole = $this->codec->rowToArray($row);
        $json = static fn (mixed $part): string => json_encode($part, JSON_THROW_ON_ERROR | JSON_PRESERVE_ZERO_FRACTION | JSON_UNESCAPED_UNICODE);

        return self::shownRow(StoredRow::query()->updateOrCreate(['name' => $row->name], [
            'use' => $row->use,
            'inserts' => $json($whole['inserts']),
            'macros' => $json($whole['macros'] ?? []),
            'sounds' => $json($whole['sounds'] ?? []),
        ]));
    }

    /** Everything of one's own. */
    public function own(): PresetFile
    {
        return new PresetFile(
            array_values(StoredPreset::query()->orderBy('processor')->orderBy('name')->get()
                ->map(static fn (StoredPreset $preset): Preset => new Preset($preset->processor, $preset->name, $preset->use, $preset->parameters))->all()),
            array_values(StoredRow::query()->orderBy('name')->get()
                ->map(fn (StoredRow $row): RowPreset => $this->codec->row(new JsonNode((object) array_diff_key(self::shownRow($row), ['id' => 0]))))->all()),
        );
    }

    /**
     * Takes all of a file, or nothing of it.
     *
     * @return array{presets: int, rows: int, replaced: list<string>}
     */
    public function take(PresetFile $file): array
    {
        return DB::transaction(function () use ($file): array {
            $replaced = [];
            foreach ($file->presets as $preset) {
                if (StoredPreset::query()->where('processor', $preset->processor)->where('name', $preset->name)->exists()) {
                    $replaced[] = $preset->name;
                }
                $this->keep($preset);
            }
            foreach ($file->rows as $row) {
                if (StoredRow::query()->where('name', $row->name)->exists()) {
                    $replaced[] = $row->name;
                }
                $this->keepRow($row);
            }

            return ['presets' => count($file->presets), 'rows' => count($file->rows), 'replaced' => $replaced];
        });
    }

    /** @return array<string, mixed> */
    private static function shown(StoredPreset $preset): array
    {
        return ['id' => $preset->id, 'processor' => $preset->processor, 'name' => $preset->name, 'use' => $preset->use, 'parameters' => (object) $preset->parameters];
    }

    /** @return array<string, mixed> */
    private static function shownRow(StoredRow $row): array
    {
        return ['id' => $row->id, 'name' => $row->name, 'use' => $row->use, 'inserts' => json_decode($row->inserts), 'macros' => json_decode($row->macros), 'sounds' => json_decode($row->sounds)];
    }
}
