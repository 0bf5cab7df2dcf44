<?php

declare(strict_types=1);

namespace Hafen\Document;

use Hafen\Session\Channel\Channel;
use Hafen\Session\Macro\MacroControls;
use Hafen\Session\Sound\Sound;
use Hafen\Session\Sound\SoundNotes;
use Hafen\Session\Sound\SoundSwitch;

/** Sound switches of a channel to and from the format; checks that what they move is there, and their values against its range. */
final readonly class SoundCodec
{
    public const MOST_VALUES = 2000;

    public function __construct(private MacroControls $controls)
    {
    }

    /**
     * @param  Channel  $channel  with its inserts
     * @return list<SoundSwitch>
     *
     * @throws InvalidDocument with the JSON pointer of the place
     */
    public function decode(JsonNode $node, Channel $channel): array
    {
        $switches = [];
        foreach ($node->items(SoundSwitch::MOST) as $item) {
            $item->keys(['id', 'name'], ['fade', 'chosen', 'sounds', 'notes']);
            $sounds = array_map(fn (JsonNode $sound): Sound => $this->sound($sound, $channel), $item->optional('sounds')?->items(SoundSwitch::MOST_SOUNDS) ?? []);
            $chosen = $item->optional('chosen');
            $switch = new SoundSwitch(
                $item->get('id')->id(),
                MacroCodec::name($item->get('name')),
                $sounds,
                $chosen === null || $chosen->value === null ? null : $chosen->id(),
                $item->has('fade') ? self::fade($item->get('fade')) : 30.0,
                $item->has('notes') ? self::notes($item->get('notes')) : null,
            );
            if ($switch->chosen !== null && $switch->sound($switch->chosen) === null) {
                throw $item->get('chosen')->expected('the id of one of its sounds, or null');
            }
            $switches[] = $switch;
        }

        return $switches;
    }

    /** Time in ms. */
    public static function fade(JsonNode $node): float
    {
        return $node->number(0.0, SoundSwitch::LONGEST_FADE, 'ms');
    }

    /** Keys of a note channel that choose sounds. */
    public static function notes(JsonNode $node): SoundNotes
    {
        $node->keys(['channel', 'lowest']);

        return new SoundNotes($node->get('channel')->id(), $node->get('lowest')->integer(0, 127));
    }

    /**
     * @param  list<SoundSwitch>  $switches
     * @return list<array<string, mixed>>
     */
    public static function encode(array $switches): array
    {
        return array_map(static fn (SoundSwitch $switch): array => [
            'id' => $switch->id,
            'name' => $switch->name,
            'fade' => $switch->fade,
            'chosen' => $switch->chosen,
            ...($switch->notes === null ? [] : ['notes' => ['channel' => $switch->notes->channel, 'lowest' => $switch->notes->lowest]]),
            'sounds' => array_map(static fn (Sound $sound): array => ['id' => $sound->id, 'name' => $sound->name, 'values' => (object) $sound->values], $switch->sounds),
        ], $switches);
    }

    private function sound(JsonNode $node, Channel $channel): Sound
    {
        $node->keys(['id', 'name', 'values']);
        $values = [];
        foreach ($node->get('values')->entries() as $text => $value) {
            if (count($values) >= self::MOST_VALUES) {
                throw $node->get('values')->expected('at most '.self::MOST_VALUES.' controls');
            }
            $target = MacroCodec::targetOf((string) $text, $value);
            $range = $this->controls->range($target, $channel) ?? throw $value->expected('the value of a control of this channel');
            $values[$target->text()] = MacroCodec::valueOf($value, $range);
        }

        return new Sound($node->get('id')->id(), MacroCodec::name($node->get('name')), $values);
    }
}
