<?php

declare(strict_types=1);

namespace Hafen\Edit\Json;

use Hafen\Document\InvalidDocument;
use Hafen\Document\JsonNode;
use Hafen\Document\MacroCodec;
use Hafen\Document\SoundCodec;
use Hafen\Edit\Edit;
use Hafen\Edit\Sound\AddSound;
use Hafen\Edit\Sound\AddSoundSwitch;
use Hafen\Edit\Sound\ChooseSound;
use Hafen\Edit\Sound\KeepSound;
use Hafen\Edit\Sound\RemoveSound;
use Hafen\Edit\Sound\RemoveSoundSwitch;
use Hafen\Edit\Sound\RenameSound;
use Hafen\Edit\Sound\SetSoundNotes;
use Hafen\Edit\Sound\SetSoundSwitch;
use Hafen\Edit\Sound\StepSound;
use Hafen\Processor\ProcessorCatalogue;
use Hafen\Session\Sound\SoundControls;

/** The edits of sound switches, from JSON; {@see EditCodec}. */
final class SoundEditCodec
{
    /**
     * @return ?Edit null when the name is of none of these
     *
     * @throws InvalidDocument with the JSON pointer of the field
     */
    public static function decode(string $name, JsonNode $node, ProcessorCatalogue $processors): ?Edit
    {
        $fields = static fn (string ...$keys): JsonNode => $node->keys(['type', ...array_values($keys)]);
        $sound = static fn (): string => $node->get('sound')->id();
        $controls = new SoundControls($processors);

        return match ($name) {
            'add-sound-switch' => new AddSoundSwitch($fields('channel', 'name', 'sound')->get('channel')->id(), MacroCodec::name($node->get('name')), MacroCodec::name($node->get('sound')), $controls),
            'remove-sound-switch' => new RemoveSoundSwitch($fields('switch')->get('switch')->id()),
            'set-sound-switch' => new SetSoundSwitch(
                $node->keys(['type', 'switch'], ['name', 'fade'])->get('switch')->id(),
                $node->has('name') ? MacroCodec::name($node->get('name')) : null,
                $node->has('fade') ? SoundCodec::fade($node->get('fade')) : null,
            ),
            'add-sound' => new AddSound($fields('switch', 'name')->get('switch')->id(), MacroCodec::name($node->get('name')), $controls),
            'keep-sound' => new KeepSound($fields('switch', 'sound')->get('switch')->id(), $sound(), $controls),
            'choose-sound' => new ChooseSound($fields('switch', 'sound')->get('switch')->id(), $sound(), $controls),
            'set-sound-notes' => new SetSoundNotes($fields('switch', 'notes')->get('switch')->id(), $node->get('notes')->value === null ? null : SoundCodec::notes($node->get('notes'))),
            'step-sound' => new StepSound($fields('switch', 'to')->get('switch')->id(), $node->get('to')->oneOf(['next', 'previous']) === 'next', $controls),
            'rename-sound' => new RenameSound($fields('switch', 'sound', 'name')->get('switch')->id(), $sound(), MacroCodec::name($node->get('name'))),
            'remove-sound' => new RemoveSound($fields('switch', 'sound')->get('switch')->id(), $sound()),
            default => null,
        };
    }
}
