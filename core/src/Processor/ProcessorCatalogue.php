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

    /** @param  list<class-string<Processor>>  $classes */
    public function __construct(array $classes)
    {
        foreach ($classes as $class) {
            $this->classes[$class::spec()->id] = $class;
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

    /** @return list<string> */
    public function ids(): array
    {
        return array_map(strval(...), array_keys($this->classes));
    }

    /** @return list<ProcessorSpec> */
    public function specs(): array
    {
        return array_values(array_map(static fn (string $class): ProcessorSpec => $class::spec(), $this->classes));
    }

    /** @throws OutOfBoundsException for an id that is not in the catalogue */
    public function spec(string $id): ProcessorSpec
    {
        return $this->class($id)::spec();
    }

    /** @param  array<string, float|string|bool>  $parameters */
    public function make(string $id, array $parameters, Setting $setting): Processor
    {
        $class = $this->class($id);
        $processor = new $class($setting);
        $processor->set(ParameterValues::of($class::spec(), $parameters));

        return $processor;
    }

    /** @param  array<string, float|string|bool>  $parameters */
    public function latency(string $id, array $parameters, Setting $setting): int
    {
        $class = $this->class($id);

        return $class::latencyOf(ParameterValues::of($class::spec(), $parameters), $setting);
    }

    /** @param  array<string, float|string|bool>  $parameters */
    public function label(string $id, array $parameters): string
    {
        $class = $this->class($id);

        return $class::label(ParameterValues::of($class::spec(), $parameters));
    }

    /** @param  array<string, float|string|bool>  $parameters */
    public function picture(string $id, array $parameters, Setting $setting): ?Picture
    {
        $class = $this->class($id);

        return $class::picture(ParameterValues::of($class::spec(), $parameters), $setting);
    }

    /** @return class-string<Processor> */
    private function class(string $id): string
    {
        return $this->classes[$id] ?? throw new OutOfBoundsException("There is no processor \"{$id}\".");
    }
}
