<?php

declare(strict_types=1);

namespace Hafen\Hardware;

use Hafen\Document\InvalidDocument;
use Hafen\Document\JsonNode;
use Hafen\Hardware\Outboard\PluggedUnit;
use Hafen\Hardware\Outboard\Rack;
use Hafen\Session\Channel\InterfacePorts;

/**
 * How the interface is set, to and from JSON: {buffer, inputs: [{name, plug, gain, file?, output?}], outputs: [name], units: {id: {send?, return?, knobs, inverted}}},
 * ports in their order.
 */
final class ProfileCodec
{
    /** @return array{buffer: int, inputs: list<array<string, mixed>>, outputs: list<string>, units: array<string, array<string, mixed>>} */
    public static function toArray(InterfaceProfile $profile): array
    {
        return [
            'buffer' => $profile->buffer,
            'inputs' => array_map(static fn (InputPort $input): array => array_filter(
                ['name' => $input->name, 'plug' => $input->plug->value, 'gain' => $input->gain, 'file' => $input->file, 'output' => $input->output],
                static fn (mixed $value): bool => $value !== null,
            ), array_values($profile->inputs)),
            'outputs' => array_values($profile->outputs),
            'units' => array_map(static fn (PluggedUnit $unit): array => ['send' => $unit->send, 'return' => $unit->return, 'knobs' => (object) $unit->knobs, 'inverted' => $unit->isInverted], $profile->units),
        ];
    }

    /** @throws InvalidDocument naming the field */
    public static function fromArray(JsonNode $node): InterfaceProfile
    {
        $profile = InterfaceProfile::standard()->withBuffer(self::buffer($node->keys(['buffer', 'inputs', 'outputs'], ['units'])->get('buffer')));
        foreach ($node->get('inputs')->items(InterfacePorts::INPUTS) as $index => $input) {
            $profile = $profile->withInput($index + 1, self::input($input->keys(['name', 'plug', 'gain'], ['file', 'output']), new InputPort('')));
        }
        foreach ($node->get('outputs')->items(InterfacePorts::OUTPUTS) as $index => $name) {
            $profile = $profile->withOutput($index + 1, $name->text(1, 40));
        }
        foreach ($node->optional('units')?->entries() ?? [] as $id => $unit) {
            $profile = $profile->withUnit(self::unit($unit, $profile, (string) $id));
        }

        return $profile;
    }

    /**
     * The profile with one thing set otherwise: {buffer}, {input: port, ...}, {output: port, name} or {unit: id, send?, return?, knobs?, inverted?}.
     *
     * @throws InvalidDocument naming the field
     */
    public static function changed(InterfaceProfile $profile, JsonNode $change): InterfaceProfile
    {
        if ($change->has('buffer')) {
            return $profile->withBuffer(self::buffer($change->keys(['buffer'])->get('buffer')));
        }
        if ($change->has('unit')) {
            $id = $change->keys(['unit'], ['send', 'return', 'knobs', 'inverted'])->get('unit')->oneOf(Rack::ids());

            return $profile->withUnit(self::unit($change, $profile, $id));
        }
        if ($change->has('output') && ! $change->has('input')) {
            return $profile->withOutput($change->keys(['output', 'name'])->get('output')->integer(1, InterfacePorts::OUTPUTS), $change->get('name')->text(1, 40));
        }
        $port = $change->keys(['input'], ['name', 'plug', 'gain', 'file', 'output'])->get('input')->integer(1, InterfacePorts::INPUTS);

        return $profile->withInput($port, self::input($change, $profile->inputs[$port]));
    }

    /** @throws InvalidDocument naming the field */
    private static function input(JsonNode $node, InputPort $before): InputPort
    {
        $plug = $node->optional('plug')?->oneOf(array_column(PlugKind::cases(), 'value'));
        $plug = $plug === null ? $before->plug : PlugKind::from($plug);

        return new InputPort(
            $node->optional('name')?->text(1, 40) ?? $before->name,
            $plug,
            $node->optional('gain')?->number(InputPort::LOWEST_GAIN, InputPort::HIGHEST_GAIN, 'dB') ?? $before->gain,
            $plug === PlugKind::File ? ($node->optional('file')?->id() ?? $before->file ?? throw $node->expected('a "file": what is plugged in is one')) : null,
            $plug === PlugKind::Cable ? ($node->optional('output')?->integer(1, InterfacePorts::OUTPUTS) ?? $before->output ?? throw $node->expected('an "output": the cable comes from one')) : null,
        );
    }

    /** @throws InvalidDocument naming the field */
    private static function unit(JsonNode $node, InterfaceProfile $profile, string $id): PluggedUnit
    {
        $spec = Rack::specs()[$id] ?? throw $node->expected('a unit of the rack: '.implode(', ', Rack::ids()));
        $unit = $profile->units[$id]->withPorts(
            $node->has('send') ? self::ports($node->get('send'), 'hw', $spec->isStereo) : $profile->units[$id]->send,
            $node->has('return') ? self::ports($node->get('return'), 'in', $spec->isStereo) : $profile->units[$id]->return,
        );
        $unit = $node->has('knobs') ? $unit->withKnobs([...$unit->knobs, ...$spec->read($node->get('knobs'))]) : $unit;

        return $node->has('inverted') ? $unit->withInverted($node->get('inverted')->boolean()) : $unit;
    }

    /** @param  'in'|'hw'  $way */
    private static function ports(JsonNode $node, string $way, bool $isStereo): ?string
    {
        if ($node->value === null) {
            return null;
        }
        $numbers = InterfacePorts::numbers($node->text(1, 20), $way);

        return count($numbers) === ($isStereo ? 2 : 1) && max($numbers) <= InterfacePorts::INPUTS
            ? $node->text(1, 20)
            : throw $node->expected($isStereo ? "a pair such as \"{$way}:5-6\", as the unit is stereo" : "a port such as \"{$way}:3\", as the unit is mono");
    }

    private static function buffer(JsonNode $node): int
    {
        $buffer = $node->integer(1, PHP_INT_MAX);

        return in_array($buffer, InterfaceProfile::BUFFERS, true) ? $buffer : throw $node->expected('a buffer of '.implode(', ', InterfaceProfile::BUFFERS).' samples');
    }
}
