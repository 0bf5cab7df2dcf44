<?php

declare(strict_types=1);

namespace Hafen\Preset;

use Hafen\Document\InvalidDocument;
use Hafen\Document\JsonNode;
use Hafen\Document\SessionCodec;

/** Files of presets, format "hafen-presets" version 1; see docs/formats/presets.md. */
final readonly class PresetCodec
{
    public const USES = ['Voice', 'Bass', 'Drums', 'Strings', 'Keys', 'Guitar', 'Room', 'Master', 'Effect', 'Own'];

    private const MOST_BYTES = 16_000_000;

    private const MOST = 5000;

    public function __construct(private SessionCodec $sessions)
    {
    }

    /** @throws InvalidDocument with the JSON pointer of what is wrong */
    public function decode(string $json): PresetFile
    {
        $node = JsonNode::parse($json, self::MOST_BYTES)->keys(['format', 'version'], ['presets', 'rows']);
        if ($node->get('format')->value !== 'hafen-presets') {
            throw $node->get('format')->expected('"hafen-presets"');
        }
        $node->get('version')->integer(1, 1);

        return new PresetFile(
            array_map($this->preset(...), $node->optional('presets')?->items(self::MOST) ?? []),
            array_map($this->row(...), $node->optional('rows')?->items(self::MOST) ?? []),
        );
    }

    public function encode(PresetFile $file): string
    {
        return json_encode([
            'format' => 'hafen-presets',
            'version' => 1,
            'presets' => array_map(static fn (Preset $preset): array => $preset->toArray(), $file->presets),
            'rows' => array_map($this->rowToArray(...), $file->rows),
        ], JSON_THROW_ON_ERROR | JSON_PRETTY_PRINT | JSON_UNESCAPED_UNICODE | JSON_UNESCAPED_SLASHES | JSON_PRESERVE_ZERO_FRACTION)."\n";
    }

    /** @throws InvalidDocument */
    public function preset(JsonNode $node): Preset
    {
        $node->keys(['processor', 'name', 'parameters'], ['use']);
        $processor = $this->sessions->processorId($node->get('processor'));

        return new Preset($processor, $node->get('name')->text(1, 120), self::useOf($node), $this->sessions->parameters($node->get('parameters'), $processor));
    }

    /** @throws InvalidDocument */
    public function row(JsonNode $node): RowPreset
    {
        $node->keys(['name', 'inserts'], ['use', 'macros', 'sounds']);
        $inserts = $this->sessions->row($node->get('inserts'));
        if ($inserts === []) {
            throw $node->get('inserts')->expected('one insert or more');
        }

        return new RowPreset($node->get('name')->text(1, 120), self::useOf($node), $inserts, $this->sessions->controls($node, $inserts));
    }

    /** @return array<string, mixed> */
    public function rowToArray(RowPreset $row): array
    {
        return ['name' => $row->name, 'use' => $row->use, 'inserts' => $this->sessions->rowToArray($row->inserts), ...SessionCodec::controlsToArray($row->controls)];
    }

    private static function useOf(JsonNode $node): string
    {
        return $node->optional('use')?->oneOf(self::USES) ?? 'Own';
    }
}
