<?php

declare(strict_types=1);

namespace Hafen\Processor\Keyed;

use Hafen\Audio\Block;
use Hafen\Audio\Samples;
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
 * Strings that the sound sets in motion, tuned by the keys that are held; let go, they ring out.
 *
 * Source: K. Karplus, A. Strong, "Digital Synthesis of Plucked-String and Drum Timbres": a delay of one period fed back through a low-pass;
 * the part of a sample by a first-order all-pass (D. Jaffe, J. Smith). The feedback for a decay of 60 dB in T is 10^(-3 period / T).
 */
final class Resonator implements FollowsNotes, Processor
{
    use NoLatency;
    use WorksOnHeldKeys;

    private const MOST = 8;

    private float $decay = 1.0;

    private float $damping = 0.0;

    /** @var list<ResonatorString> the oldest first */
    private array $strings = [];

    public static function spec(): ProcessorSpec
    {
        return new ProcessorSpec(
            'note-resonator',
            'Resonator tuned by notes',
            'Reson', 'Space',
            'Strings tuned by held notes ring with the sound.',
            [
                ParameterSpec::number('decay', 'Decay', 's', 0.05, 10.0, 1.5, Scale::Logarithmic, 0.01),
                ParameterSpec::number('damping', 'Damping', '%', 0.0, 100.0, 30.0, step: 1.0),
            ],
            wetOnly: true,
            synonyms: ['sympathetic', 'strings', 'comb', 'resonance', 'notes', 'midi'],
            followsNotes: true,
            needsNotes: true,
        );
    }

    public static function label(ParameterValues $values): string
    {
        return 'Resonator '.self::chip($values)->figure;
    }

    public static function chip(ParameterValues $values): ChipLabel
    {
        return ChipLabel::seconds('Reson', $values->number('decay'));
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
        $this->decay = $values->number('decay');
        $this->damping = $values->number('damping') / 100.0;
    }

    public function reset(): void
    {
        $this->held = [];
        $this->strings = [];
    }

    public function isSettled(): bool
    {
        return $this->strings === [];
    }

    public function tail(): int
    {
        return (int) ceil($this->decay * $this->setting->sampleRate);
    }

    private function pressed(int $key, float $velocity): void
    {
        foreach ($this->strings as $string) {
            if ($string->key === $key) {
                $string->hold();

                return;
            }
        }
        if (count($this->strings) >= self::MOST) {
            array_shift($this->strings);
        }
        $this->strings[] = new ResonatorString($key, Note::frequency((float) $key), $this->decay, $this->damping, $this->setting->sampleRate);
    }

    private function work(Block $block): void
    {
        $in = $block->mono ? $block->left : Samples::mid($block->left, $block->right);
        $sound = array_fill(0, count($in), 0.0);
        foreach ($this->strings as $string) {
            // A key that is let go gets no more sound.
            isset($this->held[$string->key]) || $string->letGo();
            $sound = $string->ring($sound, isset($this->held[$string->key]) ? $in : []);
        }
        $this->strings = array_values(array_filter($this->strings, static fn (ResonatorString $string): bool => ! $string->isOver()));
        $block->left = $sound;
        $block->right = [];
        $block->mono = true;
    }
}
