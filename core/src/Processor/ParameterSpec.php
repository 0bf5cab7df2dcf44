<?php

declare(strict_types=1);

namespace Hafen\Processor;

/**
 * One control of a processor: everything an editor needs to show it and a document needs to check it.
 *
 * A number has a unit ("dB", "Hz", "ms", "s", ":1", "%", ""), a range and a scale; a choice has values with labels;
 * a switch is true or false; a recording is the name of a file of sound, or empty. `group` gathers the controls that belong together ("Bell 1").
 */
final readonly class ParameterSpec
{
    /** The value of a choice that says that a recording of one's own is used. */
    public const OWN_FILE = 'own';

    /** @param  array<string, string>  $choices label of each value */
    private function __construct(
        public string $id,
        public string $label,
        public ParameterKind $kind,
        public float|string|bool $default,
        public string $unit = '',
        public float $min = 0.0,
        public float $max = 1.0,
        public Scale $scale = Scale::Linear,
        public float $step = 0.1,
        public array $choices = [],
        public string $group = '',
    ) {
    }

    public static function number(
        string $id,
        string $label,
        string $unit,
        float $min,
        float $max,
        float $default,
        Scale $scale = Scale::Linear,
        float $step = 0.1,
        string $group = '',
    ): self {
        return new self($id, $label, ParameterKind::Number, $default, $unit, $min, $max, $scale, $step, [], $group);
    }

    public static function frequency(string $id, string $label, float $default, float $min = 20.0, float $max = 20000.0, string $group = ''): self
    {
        return self::number($id, $label, 'Hz', $min, $max, $default, Scale::Logarithmic, 1.0, $group);
    }

    public static function decibels(string $id, string $label, float $min, float $max, float $default, string $group = ''): self
    {
        return self::number($id, $label, 'dB', $min, $max, $default, group: $group);
    }

    /** @param  array<string, string>  $choices label of each value */
    public static function choice(string $id, string $label, array $choices, string $default, string $group = ''): self
    {
        return new self($id, $label, ParameterKind::Choice, $default, choices: $choices, group: $group);
    }

    public static function toggle(string $id, string $label, bool $default, string $group = ''): self
    {
        return new self($id, $label, ParameterKind::Toggle, $default, group: $group);
    }

    public static function audioFile(string $id, string $label, string $group = ''): self
    {
        return new self($id, $label, ParameterKind::AudioFile, '', group: $group);
    }

    /** The same parameter among others. */
    public function inGroup(string $group): self
    {
        return new self($this->id, $this->label, $this->kind, $this->default, $this->unit, $this->min, $this->max, $this->scale, $this->step, $this->choices, $group);
    }

    /**
     * What is wrong with a value for this parameter, as the end of a sentence; null when it is fine.
     */
    public function objection(mixed $value): ?string
    {
        return match ($this->kind) {
            ParameterKind::Number => (is_int($value) || is_float($value)) && $value >= $this->min && $value <= $this->max
                ? null
                : 'must be a number from '.self::plain($this->min).' to '.self::plain($this->max).($this->unit === '' ? '' : ' '.$this->unit),
            ParameterKind::Choice => is_string($value) && array_key_exists($value, $this->choices)
                ? null
                : 'must be one of '.implode(', ', array_map(static fn (int|string $choice): string => "\"{$choice}\"", array_keys($this->choices))),
            ParameterKind::Toggle => is_bool($value) ? null : 'must be true or false',
            ParameterKind::AudioFile => is_string($value) && strlen($value) <= 1000 ? null : 'must be the name of a recording, or empty',
        };
    }

    /** @return array<string, mixed> */
    public function toArray(): array
    {
        $choices = [];
        foreach ($this->choices as $value => $label) {
            $choices[] = ['value' => (string) $value, 'label' => $label];
        }

        return [
            'id' => $this->id,
            'label' => $this->label,
            'kind' => $this->kind->value,
            'group' => $this->group,
            'default' => $this->default,
            'unit' => $this->unit,
            'min' => $this->min,
            'max' => $this->max,
            'scale' => $this->scale->value,
            'step' => $this->step,
            'choices' => $choices,
        ];
    }

    private static function plain(float $value): string
    {
        return rtrim(rtrim(number_format($value, 3, '.', ''), '0'), '.');
    }
}
