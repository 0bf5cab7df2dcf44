<?php

declare(strict_types=1);

namespace Hafen\Edit\Json;

use Hafen\Document\InvalidDocument;
use Hafen\Document\JsonNode;
use Hafen\Document\SourceCodec;
use Hafen\Edit\Channel\NewChannels;
use Hafen\Edit\Channel\SetOff;
use Hafen\Edit\Edit;
use Hafen\Edit\Freeze\FreezeChannels;
use Hafen\Edit\Freeze\FreezeOf;
use Hafen\Edit\Freeze\UnfreezeChannels;
use Hafen\Edit\Print\AfterPrint;
use Hafen\Edit\Print\PlacedPrint;
use Hafen\Edit\Print\PutPrints;
use Hafen\Edit\Take\PutTakes;
use Hafen\Edit\Version\KeepVersion;
use Hafen\Edit\Version\RemoveVersion;
use Hafen\Edit\Version\UseVersion;
use Hafen\Edit\Version\Versions;
use Hafen\Processor\ProcessorCatalogue;

/** The edits that free the machine, from JSON: freezes, prints, versions, channels switched off; {@see EditCodec}. */
final class PrintEditCodec
{
    /**
     * @return ?Edit null when the name is of none of these
     *
     * @throws InvalidDocument with the JSON pointer of the field
     */
    public static function decode(string $name, JsonNode $node, ProcessorCatalogue $processors): ?Edit
    {
        $fields = static fn (string ...$keys): JsonNode => $node->keys(['type', ...array_values($keys)]);

        return match ($name) {
            'freeze' => new FreezeChannels(array_map(self::freezeOf(...), $fields('channels')->get('channels')->items(NewChannels::MOST)), $processors),
            'unfreeze' => new UnfreezeChannels(EditCodec::ids($fields('channels')->get('channels'))),
            'set-off' => new SetOff(EditCodec::ids($fields('channels', 'off')->get('channels')), $node->get('off')->boolean()),
            'keep-version' => new KeepVersion($fields('channel', 'name')->get('channel')->id(), $node->get('name')->text(1, 120)),
            'use-version' => new UseVersion($fields('channel', 'version')->get('channel')->id(), $node->get('version')->id()),
            'remove-version' => new RemoveVersion($fields('channel', 'version')->get('channel')->id(), $node->get('version')->id()),
            'put-takes' => self::putTakes($node->keys(['type', 'channel', 'takes'], ['from'])),
            'put-prints' => self::putPrints($fields('prints', 'inPlace', 'after')),
            default => null,
        };
    }

    private static function putTakes(JsonNode $node): PutTakes
    {
        return new PutTakes(
            $node->get('channel')->id(),
            array_map(EditCodec::file(...), $node->get('takes')->items(Versions::MOST)),
            $node->has('from') ? SourceCodec::printedFrom($node->get('from')) : null,
        );
    }

    private static function putPrints(JsonNode $node): PutPrints
    {
        return new PutPrints(
            array_map(static fn (JsonNode $print): PlacedPrint => new PlacedPrint(
                EditCodec::file($print->keys(['file', 'from', 'name'])->get('file')),
                SourceCodec::printedFrom($print->get('from')),
                $print->get('name')->text(1, 120),
            ), $node->get('prints')->items(NewChannels::MOST)),
            $node->get('inPlace')->boolean(),
            AfterPrint::from($node->get('after')->oneOf(array_column(AfterPrint::cases(), 'value'))),
        );
    }

    private static function freezeOf(JsonNode $node): FreezeOf
    {
        $node->keys(['channel', 'file', 'hash'], ['tail']);

        return new FreezeOf($node->get('channel')->id(), SourceCodec::frozen($node));
    }
}
