<?php

declare(strict_types=1);

namespace Hafen\Session\Sound;

use Hafen\Session\Copies;
use Hafen\Session\Macro\MacroTarget;
use Hafen\Session\Macro\MacroTargetKind;

/**
 * One switch for the whole sound of a channel: of its sounds one is chosen at a time.
 *
 * It moves only what differs between its sounds. An insert that one of them does not know, because it was not there yet, is off in it;
 * other controls it does not know stay as they are.
 */
final readonly class SoundSwitch
{
    use Copies;

    /** Of a channel. */
    public const MOST = 16;

    public const MOST_SOUNDS = 32;

    /** The longest fade in ms. */
    public const LONGEST_FADE = 5000.0;

    /**
     * @param  list<Sound>  $sounds
     * @param  ?string  $chosen  id of a sound; null until one was chosen
     * @param  float  $fade  ms from one sound to the next
     * @param  ?SoundNotes  $notes  that choose sounds; null is none
     */
    public function __construct(public string $id, public string $name, public array $sounds = [], public ?string $chosen = null, public float $fade = 30.0, public ?SoundNotes $notes = null)
    {
    }

    public function sound(string $id): ?Sound
    {
        foreach ($this->sounds as $sound) {
            if ($sound->id === $id) {
                return $sound;
            }
        }

        return null;
    }

    /** The place of a sound among them, from 0. */
    public function placeOf(string $id): ?int
    {
        foreach ($this->sounds as $place => $sound) {
            if ($sound->id === $id) {
                return $place;
            }
        }

        return null;
    }

    /** @return list<MacroTarget> the controls that differ between its sounds */
    public function targets(): array
    {
        $targets = [];
        foreach ($this->sounds as $sound) {
            foreach (array_keys($sound->values) as $text) {
                $target = isset($targets[$text]) || ! $this->differs((string) $text) ? null : MacroTarget::fromString((string) $text);
                $targets += $target === null ? [] : [$text => $target];
            }
        }

        return array_values($targets);
    }

    /** Whether a control is moved by it, see {@see targets()}. */
    public function differs(string $target): bool
    {
        $values = array_map(static fn (Sound $sound): string => serialize(self::valueIn($sound, $target)), $this->sounds);

        return count(array_unique($values)) > 1;
    }

    /**
     * What a control is in a sound.
     *
     * @return array{}|array{?float} nothing where the sound does not know it
     */
    public static function valueIn(Sound $sound, string $target): array
    {
        return match (true) {
            array_key_exists($target, $sound->values) => [$sound->values[$target]],
            str_starts_with($target, MacroTargetKind::On->value.':') => [0.0],
            default => [],
        };
    }

    public function withName(string $name): self
    {
        return $this->copy(name: $name);
    }

    public function withFade(float $fade): self
    {
        return $this->copy(fade: $fade);
    }

    public function withNotes(?SoundNotes $notes): self
    {
        return $this->copy(notes: $notes);
    }

    public function withChosen(?string $chosen): self
    {
        return $this->copy(chosen: $chosen);
    }

    /** @param  list<Sound>  $sounds */
    public function withSounds(array $sounds): self
    {
        return $this->copy(sounds: $sounds);
    }

    /** With the sound of the same id replaced. */
    public function withSound(Sound $changed): self
    {
        return $this->withSounds(array_map(static fn (Sound $sound): Sound => $sound->id === $changed->id ? $changed : $sound, $this->sounds));
    }

    /** @param  callable(string): bool  $isKept  by target */
    public function keeping(callable $isKept): self
    {
        $kept = array_map(static fn (Sound $sound): Sound => $sound->withValues(array_filter($sound->values, static fn (int|string $target): bool => $isKept((string) $target), ARRAY_FILTER_USE_KEY)), $this->sounds);

        return $kept == $this->sounds ? $this : $this->withSounds($kept);
    }
}
