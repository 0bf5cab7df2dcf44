<?php

declare(strict_types=1);

namespace Hafen\Processor\Instrument;

use Hafen\Audio\Decibel;
use Hafen\Note\Note;
use Hafen\Processor\ChipLabel;
use Hafen\Processor\NoLatency;
use Hafen\Processor\ParameterSpec;
use Hafen\Processor\ParameterValues;
use Hafen\Processor\Picture;
use Hafen\Processor\Positioned;
use Hafen\Processor\Processor;
use Hafen\Processor\ProcessorSpec;
use Hafen\Processor\Scale;
use Hafen\Processor\Setting;
use Hafen\Processor\TakesNotes;

/**
 * Struck bars of wood or metal.
 *
 * Source of the modes: a bar of even thickness that is free at both ends vibrates at 1, 2.756, 5.404 and 8.933 times its lowest frequency
 * (theory of Euler and Bernoulli); bars of instruments are cut away below the middle, so that the second mode is two octaves above (1, 4,
 * 9.2 and 16.2; practice). High modes die first, and high bars sooner than low ones.
 */
final class StruckBar implements Positioned, Processor, TakesNotes
{
    use NoLatency;
    use PlaysVoices;

    private const MODES = ['cut' => [1.0, 4.0, 9.2, 16.2], 'even' => [1.0, 2.756, 5.404, 8.933]];

    private const MOST_VOICES = 24;

    private ParameterValues $values;

    public static function spec(): ProcessorSpec
    {
        return new ProcessorSpec(
            'struck-bar',
            'Struck bar',
            'Bars', 'Instrument',
            'Plays notes on bars of wood or metal.',
            [
                ParameterSpec::choice('bar', 'Bar', ['cut' => 'Tuned, cut away', 'even' => 'Even, like a chime'], 'cut'),
                ParameterSpec::number('decay', 'Decay', 's', 0.05, 12.0, 1.6, Scale::Logarithmic, 0.01),
                ParameterSpec::number('material', 'Metal', '%', 0.0, 100.0, 40.0, step: 1.0),
                ParameterSpec::number('hardness', 'Mallet', '%', 0.0, 100.0, 45.0, step: 1.0),
                ParameterSpec::number('damping', 'Damped in', 'ms', 0.0, 2000.0, 0.0, step: 1.0),
                ParameterSpec::number('velocity', 'By velocity', '%', 0.0, 100.0, 80.0, step: 1.0),
                ParameterSpec::decibels('level', 'Level', -40.0, 6.0, -12.0),
            ],
            synonyms: ['bars', 'mallet', 'chime', 'bell', 'percussion', 'notes', 'midi', 'instrument', 'wood', 'metal'],
            takesNotes: true,
        );
    }

    public static function label(ParameterValues $values): string
    {
        return 'Struck bar '.ChipLabel::seconds('', $values->number('decay'))->figure;
    }

    public static function chip(ParameterValues $values): ChipLabel
    {
        return ChipLabel::seconds('Bars', $values->number('decay'));
    }

    public static function picture(ParameterValues $values, Setting $setting): ?Picture
    {
        return null;
    }

    public function __construct(private readonly Setting $setting)
    {
        $this->voices = new Voices($this->voice(...), self::MOST_VOICES, $setting->sampleRate);
    }

    public function set(ParameterValues $values): void
    {
        $this->values = $values;
    }

    public function tail(): int
    {
        // Low bars sound twice as long, and 120 dB are twice as far as 60.
        return (int) ceil(4.0 * $this->values->number('decay') * $this->setting->sampleRate);
    }

    public function reset(): void
    {
        $this->voices->reset();
    }

    private function voice(int $key, float $velocity): Voice
    {
        $values = $this->values;
        $frequency = Note::frequency((float) $key);
        $hardness = $values->number('hardness') / 100.0;
        $metal = $values->number('material') / 100.0;
        $gain = Decibel::toGain($values->number('level')) * (1.0 - $values->number('velocity') / 100.0 * (1.0 - $velocity));
        // A bar an octave up sounds 0.7 times as long, no longer than twice what is set.
        $seconds = $values->number('decay') * min(2.0, 0.7 ** (($key - 60.0) / 12.0));
        // A hard mallet, and a hard stroke, wake the high modes.
        $bright = min(1.0, $hardness * (0.6 + 0.8 * $velocity));
        $modes = [];
        foreach (self::MODES[$values->choice('bar')] ?? self::MODES['cut'] as $i => $ratio) {
            $modes[] = [$frequency * $ratio, $gain * ($i === 0 ? 1.0 : 0.6 * $bright ** $i), $seconds / $ratio ** (1.6 - 1.1 * $metal)];
        }

        return new StruckBarVoice($modes, $values->number('damping') / 1000.0, $this->setting->sampleRate);
    }
}
