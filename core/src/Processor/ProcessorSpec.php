<?php

declare(strict_types=1);

namespace Hafen\Processor;

/**
 * What a processor is called, what it can be set to, and what the rest of the program has to know about it.
 *
 * `levelDependent`: it sounds different when fed louder or softer. `wetOnly`: it puts out no dry sound, so that on a
 * track it starts as a part of the mix and on a return it is whole. `widens`: mono goes in, stereo comes out. `takesSidechain`: it can
 * listen to another sound, see {@see TakesSidechain}. `followsLevel`: parameters that, moved along with the level of what is heard, have it do
 * to a louder sound what it did, and put it out as much louder: by how many dB for each dB more. `takesNotes`: it is played, or works on notes.
 * `followsNotes`: the notes of a note channel steer it, see {@see FollowsNotes};
 * `needsNotes`: without them it is silent, or stands still.
 */
final readonly class ProcessorSpec
{
    /** What a processor is for, in the order in which the finder shows them. */
    public const CATEGORIES = ['Level', 'Tone', 'Dynamics', 'Space', 'Movement', 'Colour', 'Pitch', 'Instrument', 'Notes'];

    /**
     * @param  value-of<self::CATEGORIES>  $category
     * @param  string  $shortName  at most six letters, see {@see ChipLabel}
     * @param  list<ParameterSpec>  $parameters
     * @param  list<string>  $synonyms  other words people type to find it
     * @param  array<string, float>  $followsLevel  by parameter
     * @param  array<string, string>  $formerParameters  present ids of parameters by those they had before
     */
    public function __construct(
        public string $id,
        public string $name,
        public string $shortName,
        public string $category,
        public string $purpose,
        public array $parameters,
        public bool $levelDependent = false,
        public bool $wetOnly = false,
        public bool $widens = false,
        public array $synonyms = [],
        public bool $takesSidechain = false,
        public array $followsLevel = [],
        public array $formerParameters = [],
        public bool $takesNotes = false,
        public bool $followsNotes = false,
        public bool $needsNotes = false,
    ) {
    }

    /** The id a parameter has now, from one that documents may still hold. */
    public function currentParameter(string $id): string
    {
        return $this->formerParameters[$id] ?? $id;
    }

    public function parameter(string $id): ?ParameterSpec
    {
        foreach ($this->parameters as $parameter) {
            if ($parameter->id === $id) {
                return $parameter;
            }
        }

        return null;
    }

    /** The choice that can say that a recording of one's own is used; null where there is none. */
    public function userOfAudioFile(): ?ParameterSpec
    {
        foreach ($this->parameters as $parameter) {
            if (isset($parameter->choices[ParameterSpec::OWN_FILE])) {
                return $parameter;
            }
        }

        return null;
    }

    /** The mix a new insert starts with on a channel that carries the sound itself. */
    public function mixOnTrack(): float
    {
        return $this->wetOnly ? 0.25 : 1.0;
    }

    /** @return array<string, mixed> */
    public function toArray(): array
    {
        return [
            'id' => $this->id,
            'name' => $this->name,
            'shortName' => $this->shortName,
            'category' => $this->category,
            'purpose' => $this->purpose,
            'levelDependent' => $this->levelDependent,
            'wetOnly' => $this->wetOnly,
            'widens' => $this->widens,
            'takesSidechain' => $this->takesSidechain,
            'takesNotes' => $this->takesNotes,
            'followsNotes' => $this->followsNotes,
            'needsNotes' => $this->needsNotes,
            'cost' => Costs::of($this->id),
            'synonyms' => $this->synonyms,
            'parameters' => array_map(static fn (ParameterSpec $parameter): array => $parameter->toArray(), $this->parameters),
        ];
    }
}
