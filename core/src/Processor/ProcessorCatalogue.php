<?php

declare(strict_types=1);

namespace Hafen\Processor;

use OutOfBoundsException;

/** Every processor there is, by id. */
final class ProcessorCatalogue
{
    /** Ids that documents may still hold, and what is meant by them now. */
    private const FORMER = ['trim' => 'gain'];

    /** @var array<string, class-string<Processor>> */
    private array $classes = [];

    /** @var array<string, ProcessorSpec> built once for each processor */
    private array $specs = [];

    /** @param  list<class-string<Processor>>  $classes */
    public function __construct(array $classes)
    {
        foreach ($classes as $class) {
            $spec = $class::spec();
            $this->classes[$spec->id] = $class;
            $this->specs[$spec->id] = $spec;
        }
    }

    public static function standard(): self
    {
        return new self([
            Level\Gain::class,
            Level\Polarity::class,
            Level\Balance::class,
            Level\Width::class,
            Level\Channels::class,
            Level\Tremolo::class,
            Tone\Filter::class,
            Tone\ParametricEq::class,
            Tone\GraphicEq3::class,
            Tone\GraphicEq10::class,
            Tone\GraphicEq31::class,
            Tone\Tilt::class,
            Tone\SweepFilter::class,
            Tone\TelephoneBand::class,
            Dynamics\Compressor::class,
            Dynamics\Limiter::class,
            Dynamics\Gate::class,
            Dynamics\MultibandCompressor::class,
            Dynamics\DeEsser::class,
            Dynamics\TransientShaper::class,
            Space\EchoDelay::class,
            Space\Reverb::class,
            Space\Room::class,
            Space\Hall::class,
            Space\Plate::class,
            Space\Spring::class,
            Space\ConvolutionReverb::class,
            Space\MicroDelay::class,
            Movement\Chorus::class,
            Movement\Flanger::class,
            Movement\Phaser::class,
            Movement\Ensemble::class,
            Movement\Vibrato::class,
            Movement\Rotary::class,
            Colour\Drive::class,
            Colour\Distortion::class,
            Colour\TubeStage::class,
            Colour\Waveshaper::class,
            Colour\TapeStage::class,
            Colour\ConsoleStage::class,
            Colour\Amplifier::class,
            Colour\BitReducer::class,
            Pitch\PitchCorrection::class,
            Pitch\PitchShift::class,
            Pitch\FormantShift::class,
            Instrument\Synthesiser::class,
            Instrument\Sampler::class,
            Instrument\StruckBar::class,
            NoteEffect\Arpeggio::class,
            NoteEffect\Transpose::class,
            NoteEffect\NoteFilter::class,
            NoteEffect\Chord::class,
            NoteEffect\NoteEcho::class,
            NoteEffect\Humanise::class,
            Keyed\Vocoder::class,
            Keyed\Resonator::class,
            Keyed\KeyFilter::class,
            Keyed\NoteGate::class,
        ]);
    }

    /**
     * These and one more.
     *
     * @param  class-string<Processor>  $class
     */
    public function with(string $class): self
    {
        return new self([...array_values($this->classes), $class]);
    }

    /** @return list<class-string<Processor>> */
    public function classes(): array
    {
        return array_values($this->classes);
    }

    public function has(string $id): bool
    {
        return isset($this->classes[$id]);
    }

    /** The id a processor has now, from any it ever had in a document; null when there is none. */
    public function currentId(string $id): ?string
    {
        $current = self::FORMER[$id] ?? $id;

        return $this->has($current) ? $current : null;
    }

    /** @return 'instrument'|'note-effect'|'processor' how documents call it in a row: what is played, what works on notes, and what works on sound */
    public function kind(string $id): string
    {
        return match (true) {
            is_subclass_of($this->classes[$id], TakesNotes::class) => 'instrument',
            is_subclass_of($this->classes[$id], ChangesNotes::class) => 'note-effect',
            default => 'processor',
        };
    }

    /** @return list<string> ids of those that work on sound, and need no notes */
    public function effects(): array
    {
        return array_values(array_filter($this->ids(), fn (string $id): bool => ! $this->specs[$id]->takesNotes && ! $this->specs[$id]->needsNotes));
    }

    /** @return list<string> */
    public function ids(): array
    {
        return array_map(strval(...), array_keys($this->classes));
    }

    /** @return list<ProcessorSpec> */
    public function specs(): array
    {
        return array_values($this->specs);
    }

    /** @throws OutOfBoundsException for an id that is not in the catalogue */
    public function spec(string $id): ProcessorSpec
    {
        return $this->specs[$id] ?? throw self::unknown($id);
    }

    /** @param  array<string, float|string|bool>  $parameters */
    public function make(string $id, array $parameters, Setting $setting): Processor
    {
        $class = $this->class($id);
        $processor = new $class($setting);
        $processor->set($this->values($id, $parameters));

        return $processor;
    }

    /** @param  array<string, float|string|bool>  $parameters */
    public function latency(string $id, array $parameters, Setting $setting): int
    {
        return $this->class($id)::latencyOf($this->values($id, $parameters), $setting);
    }

    /** @param  array<string, float|string|bool>  $parameters */
    public function label(string $id, array $parameters): string
    {
        return $this->class($id)::label($this->values($id, $parameters));
    }

    /** @param  array<string, float|string|bool>  $parameters */
    public function chip(string $id, array $parameters): ChipLabel
    {
        return $this->class($id)::chip($this->values($id, $parameters));
    }

    /** @param  array<string, float|string|bool>  $parameters */
    public function picture(string $id, array $parameters, Setting $setting): ?Picture
    {
        return $this->class($id)::picture($this->values($id, $parameters), $setting);
    }

    /** @param  array<string, float|string|bool>  $parameters */
    private function values(string $id, array $parameters): ParameterValues
    {
        return ParameterValues::of($this->spec($id), $parameters);
    }

    /** @return class-string<Processor> */
    private function class(string $id): string
    {
        return $this->classes[$id] ?? throw self::unknown($id);
    }

    private static function unknown(string $id): OutOfBoundsException
    {
        return new OutOfBoundsException("There is no processor \"{$id}\".");
    }
}
