<?php

declare(strict_types=1);

namespace Hafen\Command;

use Hafen\Preset\Preset;
use Hafen\Preset\ShippedPresets;
use Hafen\Processor\Costs;
use Hafen\Processor\ParameterKind;
use Hafen\Processor\ParameterSpec;
use Hafen\Processor\ProcessorCatalogue;
use Hafen\Processor\ProcessorSpec;
use Hafen\Processor\Setting;
use ReflectionClass;

/** Writes docs/processors.md and its pictures from the catalogue, so that they say what the program does. */
final readonly class ProcessorDocs
{
    public function __construct(private ProcessorCatalogue $processors, private ShippedPresets $presets)
    {
    }

    /** @return array<string, string> text of each file, by its path below docs/ */
    public function files(): array
    {
        $setting = new Setting(48000, 120.0);
        $files = [];
        $text = "# Processors\n\nMade by `core/bin/hafen processors --docs docs`; do not edit. Costs are per cent of one core for a stereo instance at work, at 48 kHz"
            .", on a quiet machine (`bin/bench processors`). Latency is that of the defaults. Pictures show the first preset that ships.\n";
        $category = '';
        foreach ($this->processors->specs() as $spec) {
            if ($spec->category !== $category) {
                $category = $spec->category;
                $text .= "\n## {$category}\n";
            }
            $text .= $this->section($spec, $setting);
            $picture = $this->processors->picture($spec->id, $this->shown($spec->id), $setting);
            if ($picture !== null) {
                $files["processors/{$spec->id}.svg"] = PictureSvg::of($picture);
                $text .= "\n![{$picture->title} of {$spec->name}](processors/{$spec->id}.svg)\n";
            }
        }

        return ['processors.md' => $text, ...$files];
    }

    private function section(ProcessorSpec $spec, Setting $setting): string
    {
        $latency = $this->processors->latency($spec->id, [], $setting);
        $cost = Costs::of($spec->id);
        $facts = array_filter([
            $latency === 0 ? 'no latency' : sprintf('latency %d samples (%.1f ms)', $latency, $latency / 48.0),
            $cost === null ? null : sprintf('cost %.1f %%', $cost),
            $spec->levelDependent ? 'level-dependent' : null,
            $spec->wetOnly ? 'wet only' : null,
            $spec->widens ? 'mono in, stereo out' : null,
        ]);
        $text = "\n### {$spec->name}\n\n`{$spec->id}` · ".implode(' · ', $facts)."\n\n{$spec->purpose} {$this->source($spec->id)}\n\n| parameter | range | default |\n|---|---|---|\n";
        foreach ($spec->parameters as $parameter) {
            $name = $parameter->group === '' ? $parameter->label : "{$parameter->group}: {$parameter->label}";
            $text .= "| {$name} (`{$parameter->id}`) | ".self::range($parameter).' | '.self::value($parameter)." |\n";
        }
        $presets = array_map(static fn (Preset $preset): string => "{$preset->name} ({$preset->use})", $this->of($spec->id));

        return $text.($presets === [] ? '' : "\nPresets: ".implode(', ', $presets).".\n");
    }

    private static function range(ParameterSpec $parameter): string
    {
        return match ($parameter->kind) {
            ParameterKind::Number => trim("{$parameter->min} to {$parameter->max} {$parameter->unit}"),
            ParameterKind::Choice => implode(', ', $parameter->choices),
            ParameterKind::Toggle => 'on, off',
            ParameterKind::AudioFile => 'a WAV',
        };
    }

    private static function value(ParameterSpec $parameter): string
    {
        return match (true) {
            is_bool($parameter->default) => $parameter->default ? 'on' : 'off',
            is_string($parameter->default) => $parameter->choices[$parameter->default] ?? 'none',
            default => trim("{$parameter->default} {$parameter->unit}"),
        };
    }

    /** What the class says of where its algorithm comes from. */
    private function source(string $processor): string
    {
        $comment = (new ReflectionClass($this->processors->make($processor, [], new Setting(48000, 120.0))))->getDocComment();
        $plain = trim((string) preg_replace('/\s+/', ' ', (string) preg_replace('/^\s*\/?\*+\/?|\*\/\s*$/m', '', (string) $comment)));
        $plain = (string) preg_replace('/\{@see \\\\?(\w+)(?:\(\))?\}/', '`$1`', $plain);

        return preg_match('/Sources?: .*/', $plain, $found) === 1 ? $found[0] : $plain;
    }

    /** @return list<Preset> */
    private function of(string $processor): array
    {
        return array_values(array_filter($this->presets->all()->presets, static fn (Preset $preset): bool => $preset->processor === $processor));
    }

    /** @return array<string, float|string|bool> */
    private function shown(string $processor): array
    {
        return $this->of($processor)[0]->parameters ?? [];
    }
}
