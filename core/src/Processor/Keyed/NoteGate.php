<?php

declare(strict_types=1);

namespace Hafen\Processor\Keyed;

use Hafen\Audio\Block;
use Hafen\Audio\Samples;
use Hafen\Processor\ChipLabel;
use Hafen\Processor\FollowsNotes;
use Hafen\Processor\NoLatency;
use Hafen\Processor\ParameterSpec;
use Hafen\Processor\ParameterValues;
use Hafen\Processor\Picture;
use Hafen\Processor\Processor;
use Hafen\Processor\ProcessorSpec;
use Hafen\Processor\Scale;
use Hafen\Processor\Setting;

/** Opens while a note is held, harder strokes further, and closes after it. Source: one-pole movements, 1 - e^(-1) of the way in their times. */
final class NoteGate implements FollowsNotes, Processor
{
    use NoLatency;
    use WorksOnHeldKeys;

    private float $attack = 1.0;

    private float $release = 1.0;

    private float $closed = 0.0;

    private float $velocityShare = 0.0;

    private float $gain = 0.0;

    public static function spec(): ProcessorSpec
    {
        return new ProcessorSpec(
            'note-gate',
            'Gate opened by notes',
            'NGate', 'Dynamics',
            'Lets sound through while notes are held.',
            [
                ParameterSpec::number('attack', 'Attack', 'ms', 0.5, 500.0, 4.0, Scale::Logarithmic, 0.1),
                ParameterSpec::number('release', 'Release', 'ms', 5.0, 5000.0, 120.0, Scale::Logarithmic, 1.0),
                ParameterSpec::number('closed', 'Closed at', 'dB', -80.0, 0.0, -80.0, step: 1.0),
                ParameterSpec::number('velocity', 'By velocity', '%', 0.0, 100.0, 50.0, step: 1.0),
            ],
            synonyms: ['gate', 'trance gate', 'chop', 'rhythm', 'notes', 'midi'],
            followsNotes: true,
            needsNotes: true,
        );
    }

    public static function label(ParameterValues $values): string
    {
        return 'Gate by notes '.round($values->number('release')).' ms';
    }

    public static function chip(ParameterValues $values): ChipLabel
    {
        return new ChipLabel('NGate', round($values->number('release')).' ms');
    }

    public static function picture(ParameterValues $values, Setting $setting): ?Picture
    {
        return null;
    }

    public function __construct(private readonly Setting $setting)
    {
    }

    public function set(ParameterValues $values): void
    {
        $step = fn (float $milliseconds): float => 1.0 - exp(-1000.0 / ($milliseconds * $this->setting->sampleRate));
        $this->attack = $step($values->number('attack'));
        $this->release = $step($values->number('release'));
        $closed = $values->number('closed');
        $this->closed = $closed <= -80.0 ? 0.0 : 10.0 ** ($closed / 20.0);
        $this->velocityShare = $values->number('velocity') / 100.0;
    }

    public function reset(): void
    {
        $this->held = [];
        $this->gain = $this->closed;
    }

    public function isSettled(): bool
    {
        return $this->held === [] && abs($this->gain - $this->closed) < 1e-6;
    }

    public function tail(): int
    {
        return 0;
    }

    private function work(Block $block): void
    {
        $target = $this->held === [] ? $this->closed : $this->closed + (1.0 - $this->closed) * (1.0 - $this->velocityShare * (1.0 - max($this->held)));
        $gain = $this->gain;
        $step = $target > $gain ? $this->attack : $this->release;
        $gains = [];
        for ($i = 0, $n = $block->frames(); $i < $n; ++$i) {
            $gain += $step * ($target - $gain);
            $gains[] = $gain;
        }
        $this->gain = $gain;
        $block->left = Samples::multiply($block->left, $gains);
        $block->right = $block->mono ? [] : Samples::multiply($block->right, $gains);
    }
}
