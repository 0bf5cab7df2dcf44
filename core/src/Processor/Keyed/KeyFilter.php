<?php

declare(strict_types=1);

namespace Hafen\Processor\Keyed;

use Hafen\Audio\Block;
use Hafen\Note\Note;
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

/**
 * A resonant filter that stands where the last key is, so many semitones above it, and glides there.
 *
 * Source: state variable, trapezoidal integration, V. Zavalishin, "The Art of VA Filter Design".
 */
final class KeyFilter implements FollowsNotes, Processor
{
    use NoLatency;
    use WorksOnHeldKeys;

    private string $type = 'band-pass';

    private float $offset = 0.0;

    private float $damping = 1.0;

    /** Share of the way it glides with each sample. */
    private float $glide = 1.0;

    private float $target = 60.0;

    private float $key = 60.0;

    /** @var array{float, float, float, float} both states of both sides */
    private array $states = [0.0, 0.0, 0.0, 0.0];

    public static function spec(): ProcessorSpec
    {
        return new ProcessorSpec(
            'key-filter',
            'Filter that follows keys',
            'KeyFlt', 'Tone',
            'A resonant filter at the pitch of the last note.',
            [
                ParameterSpec::choice('type', 'Type', ['low-pass' => 'Low-pass', 'band-pass' => 'Band-pass', 'high-pass' => 'High-pass'], 'band-pass'),
                ParameterSpec::number('offset', 'Above the key', 'st', -24.0, 60.0, 12.0, step: 1.0),
                ParameterSpec::number('resonance', 'Resonance', '%', 0.0, 100.0, 60.0, step: 1.0),
                ParameterSpec::number('glide', 'Glide', 'ms', 1.0, 2000.0, 20.0, Scale::Logarithmic, 1.0),
            ],
            synonyms: ['resonance', 'wah', 'cutoff', 'tracking', 'notes', 'midi'],
            followsNotes: true,
            needsNotes: true,
        );
    }

    public static function label(ParameterValues $values): string
    {
        return 'Key filter '.self::chip($values)->figure;
    }

    public static function chip(ParameterValues $values): ChipLabel
    {
        return ChipLabel::semitones('KeyFlt', $values->number('offset'));
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
        $this->type = $values->choice('type');
        $this->offset = $values->number('offset');
        $this->damping = 2.0 * (0.05 / 2.0) ** ($values->number('resonance') / 100.0);
        $this->glide = 1.0 - exp(-1000.0 / ($values->number('glide') * $this->setting->sampleRate));
    }

    public function reset(): void
    {
        $this->held = [];
        $this->key = $this->target = 60.0;
        $this->states = [0.0, 0.0, 0.0, 0.0];
    }

    public function isSettled(): bool
    {
        return abs($this->key - $this->target) < 1e-3;
    }

    public function tail(): int
    {
        return intdiv($this->setting->sampleRate, 2);
    }

    private function pressed(int $key, float $velocity): void
    {
        $this->target = (float) $key;
    }

    private function work(Block $block): void
    {
        $rate = $this->setting->sampleRate;
        $k = $this->damping;
        $key = $this->key;
        [$a, $b, $c, $d] = $this->states;
        $isMono = $block->mono;
        $isLow = $this->type === 'low-pass';
        $isHigh = $this->type === 'high-pass';
        $left = $block->left;
        $right = $block->right;
        for ($i = 0, $n = count($left); $i < $n; ++$i) {
            $key += $this->glide * ($this->target - $key);
            $g = tan(M_PI * min(0.45, Note::frequency($key + $this->offset) / $rate));
            $h = 1.0 / (1.0 + $g * ($g + $k));
            $v1 = $h * ($a + $g * ($left[$i] - $b));
            $v2 = $b + $g * $v1;
            $a = 2.0 * $v1 - $a;
            $b = 2.0 * $v2 - $b;
            $left[$i] = $isLow ? $v2 : ($isHigh ? $left[$i] - $k * $v1 - $v2 : $k * $v1);
            if (! $isMono) {
                $v1 = $h * ($c + $g * ($right[$i] - $d));
                $v2 = $d + $g * $v1;
                $c = 2.0 * $v1 - $c;
                $d = 2.0 * $v2 - $d;
                $right[$i] = $isLow ? $v2 : ($isHigh ? $right[$i] - $k * $v1 - $v2 : $k * $v1);
            }
        }
        $this->key = $key;
        $this->states = $isMono ? [$a, $b, $a, $b] : [$a, $b, $c, $d];
        $block->left = $left;
        $block->right = $right;
    }
}
