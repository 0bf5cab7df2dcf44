<?php

declare(strict_types=1);

namespace Hafen\Preset;

/** What a file of presets holds. */
final readonly class PresetFile
{
    /**
     * @param  list<Preset>  $presets
     * @param  list<RowPreset>  $rows
     */
    public function __construct(public array $presets, public array $rows)
    {
    }
}
