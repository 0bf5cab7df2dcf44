<?php

declare(strict_types=1);

namespace Hafen\Preset;

use RuntimeException;

/** The presets that come with the program, in core/presets/. */
final class ShippedPresets
{
    private ?PresetFile $file = null;

    public function __construct(private readonly PresetCodec $codec)
    {
    }

    public function all(): PresetFile
    {
        return $this->file ??= $this->codec->decode(self::read());
    }

    private static function read(): string
    {
        $json = file_get_contents(__DIR__.'/../../presets/shipped.json');

        return $json === false ? throw new RuntimeException('core/presets/shipped.json is missing: the installation is not complete.') : $json;
    }
}
