<?php

declare(strict_types=1);

namespace Hafen\Processor\NoteEffect;

use Hafen\Processor\ChangesNotes;
use Hafen\Processor\ChipLabel;
use Hafen\Processor\ParameterSpec;
use Hafen\Processor\ParameterValues;
use Hafen\Processor\Processor;
use Hafen\Processor\ProcessorSpec;
use Hafen\Processor\Setting;

/** Lets notes pass by key and by velocity: in the branches of a split it sends parts of what is played different ways. */
final class NoteFilter implements ChangesNotes, Processor
{
    use MapsKeys;

    private const NAMES = ['C', 'C#', 'D', 'D#', 'E', 'F', 'F#', 'G', 'G#', 'A', 'A#', 'B'];

    /** @var array{int, int} */
    private array $keys = [0, 127];

    /** @var array{float, float} */
    private array $velocities = [0.0, 1.0];

    public static function spec(): ProcessorSpec
    {
        $number = static fn (string $id, string $label, float $default): ParameterSpec => ParameterSpec::number($id, $label, '', 0.0, 127.0, $default, step: 1.0);

        return new ProcessorSpec(
            'note-filter',
            'Key and velocity filter',
            'Keys', 'Notes',
            'Lets notes pass by their keys and velocities.',
            [$number('lowest-key', 'From key', 0.0), $number('highest-key', 'To key', 127.0), $number('softest', 'From velocity', 1.0), $number('hardest', 'To velocity', 127.0)],
            synonyms: ['key range', 'velocity', 'split', 'zone', 'notes', 'midi'],
            takesNotes: true,
        );
    }

    public static function label(ParameterValues $values): string
    {
        return 'Keys '.self::chip($values)->figure;
    }

    public static function chip(ParameterValues $values): ChipLabel
    {
        $name = static fn (float $key): string => self::NAMES[(int) $key % 12].(intdiv((int) $key, 12) - 1);

        return new ChipLabel('Keys', $name($values->number('lowest-key')).'–'.$name($values->number('highest-key')));
    }

    public function __construct(Setting $setting)
    {
    }

    public function set(ParameterValues $values): void
    {
        $this->keys = [(int) round($values->number('lowest-key')), (int) round($values->number('highest-key'))];
        $this->velocities = [(round($values->number('softest')) - 0.5) / 127.0, (round($values->number('hardest')) + 0.5) / 127.0];
    }

    private function made(int $key, float $velocity): array
    {
        $passes = $key >= $this->keys[0] && $key <= $this->keys[1] && $velocity >= $this->velocities[0] && $velocity <= $this->velocities[1];

        return $passes ? [[$key, $velocity]] : [];
    }
}
