<?php

declare(strict_types=1);

namespace Hafen\Document;

use Hafen\Session\Channel\ChannelKind;
use Hafen\Session\Channel\Frozen;
use Hafen\Session\Channel\InterfacePorts;
use Hafen\Session\Source\BusSource;
use Hafen\Session\Source\Clip;
use Hafen\Session\Source\ClipSource;
use Hafen\Session\Source\LiveInput;
use Hafen\Session\Source\LiveSource;
use Hafen\Session\Source\Monitor;
use Hafen\Session\Source\NoteSource;
use Hafen\Session\Source\PrintedFrom;
use Hafen\Session\Source\Source;
use Hafen\Session\Source\TapSource;
use Hafen\Session\Source\Version;

/** Where the sound of a channel comes from, to and from the "hafen-session" format: clips, versions of them, taps, freezes. */
final class SourceCodec
{
    private const MOST_VERSIONS = 64;

    /** Seconds a tail can be asked to last. */
    public const LONGEST_TAIL = 600.0;

    /**
     * @throws InvalidDocument with the JSON pointer of the place
     */
    public static function source(?JsonNode $node, ChannelKind $kind): Source
    {
        if ($node === null) {
            return match (true) {
                $kind->isBus() => new BusSource,
                $kind === ChannelKind::Note => new NoteSource,
                default => new ClipSource,
            };
        }
        $type = $node->get('type');
        $name = $type->oneOf(['clips', 'bus', 'tap', 'input', 'notes']);
        if ($kind->isBus()) {
            $type->oneOf(['bus']);
            $node->keys(['type']);

            return new BusSource;
        }
        if ($kind === ChannelKind::Note) {
            $type->oneOf(['notes']);

            return new NoteSource(NoteCodec::clips($node->keys(['type'], ['clips'])->optional('clips')));
        }
        $type->oneOf(['clips', 'tap', 'input']);
        if ($name === 'input') {
            $node->keys(['type', 'input'], ['monitor', 'clips']);

            return new ClipSource($node->has('clips') ? self::clips($node->get('clips')) : [], self::input($node));
        }
        if ($name === 'tap') {
            $node->keys(['type', 'channel', 'tap']);

            return new TapSource($node->get('channel')->id(), SessionCodec::tap($node->get('tap')));
        }
        $node->keys(['type', 'clips']);

        return new ClipSource(self::clips($node->get('clips')));
    }

    /**
     * The input a track takes, from the fields of an object that may have others.
     *
     * @throws InvalidDocument naming the field
     */
    public static function input(JsonNode $node): LiveInput
    {
        $port = $node->get('input')->text(1, 64);
        if (! InterfacePorts::isInput($port)) {
            throw $node->get('input')->expected('an input such as "in:1", or a pair such as "in:1-2"');
        }
        $monitor = $node->optional('monitor')?->oneOf(array_column(Monitor::cases(), 'value'));

        return new LiveInput($port, $monitor === null ? Monitor::Armed : Monitor::from($monitor));
    }

    /** @return array<string, mixed> */
    public static function sourceToArray(Source $source): array
    {
        return match (true) {
            $source instanceof ClipSource => [
                ...($source->input === null ? ['type' => 'clips'] : ['type' => 'input', 'input' => $source->input->port, 'monitor' => $source->input->monitor->value]),
                'clips' => array_map(self::clipToArray(...), $source->clips),
            ],
            $source instanceof NoteSource => ['type' => 'notes', 'clips' => array_map(NoteCodec::clipToArray(...), $source->notes)],
            $source instanceof LiveSource => ['type' => 'input', 'input' => $source->port],
            $source instanceof TapSource => ['type' => 'tap', 'channel' => $source->channel, 'tap' => $source->tap->value],
            default => ['type' => 'bus'],
        };
    }

    /**
     * @return list<Version>
     *
     * @throws InvalidDocument with the JSON pointer of the place
     */
    public static function versions(JsonNode $node, ChannelKind $kind): array
    {
        if ($kind->isBus()) {
            throw $node->expected('no versions on a '.$kind->value.': tracks have them');
        }
        $versions = array_map(static function (JsonNode $one): Version {
            $one->keys(['id', 'name', 'clips']);

            return new Version($one->get('id')->id(), $one->get('name')->text(1, 120), self::clips($one->get('clips')));
        }, $node->items(self::MOST_VERSIONS));
        DocumentRules::unique(array_map(static fn (Version $version): string => $version->id, $versions), $node->pointer);

        return $versions;
    }

    /** @return array<string, mixed> */
    public static function versionToArray(Version $version): array
    {
        return ['id' => $version->id, 'name' => $version->name, 'clips' => array_map(self::clipToArray(...), $version->clips)];
    }

    /** @throws InvalidDocument where a channel of this kind cannot be frozen, or naming the field */
    public static function frozenOf(JsonNode $node, ChannelKind $kind): Frozen
    {
        return $kind->canBeFrozen() ? self::frozen($node->keys(['file', 'hash'], ['tail'])) : throw $node->expected('no freeze on a '.$kind->value.': tracks, groups and returns can be frozen');
    }

    /**
     * What a channel plays while it is frozen, from the fields of an object that may have others.
     *
     * @throws InvalidDocument naming the field
     */
    public static function frozen(JsonNode $node): Frozen
    {
        return new Frozen($node->get('file')->text(1, 1000), self::contentHash($node->get('hash')), self::tail($node->optional('tail')));
    }

    /**
     * "auto", or seconds.
     *
     * @return ?float null is as long as it is heard
     *
     * @throws InvalidDocument when it is neither
     */
    public static function tail(?JsonNode $node): ?float
    {
        return match (true) {
            $node === null || $node->value === 'auto' => null,
            is_int($node->value) || is_float($node->value) => $node->number(0.0, self::LONGEST_TAIL, 's'),
            default => throw $node->expected('"auto" or a number of seconds from 0 to '.(int) self::LONGEST_TAIL),
        };
    }

    private static function contentHash(JsonNode $node): string
    {
        $hash = $node->text(32, 32);

        return preg_match('/^[0-9a-f]{32}$/D', $hash) === 1 ? $hash : throw $node->expected('a content hash of 32 hexadecimal digits');
    }

    /** @return array<string, mixed> */
    public static function frozenToArray(Frozen $frozen): array
    {
        return ['file' => $frozen->file, 'hash' => $frozen->hash, 'tail' => $frozen->tail ?? 'auto'];
    }

    private static function clip(JsonNode $node): Clip
    {
        $node->keys(['id', 'file', 'start', 'length'], ['offset', 'gain', 'printedFrom', 'clipped']);
        $gain = $node->optional('gain');
        $start = $node->get('start')->integer(0, SessionCodec::LONGEST - 1);

        return new Clip(
            $node->get('id')->id(),
            $node->get('file')->text(1, 1000),
            $start,
            $node->optional('offset')?->integer(0, SessionCodec::LONGEST) ?? 0,
            // It ends where a session can still end.
            $node->get('length')->integer(1, SessionCodec::LONGEST - $start),
            $gain === null ? 0.0 : $gain->gain(),
            $node->has('printedFrom') ? self::printedFrom($node->get('printedFrom')) : null,
            $node->optional('clipped')?->integer(0, 2 * SessionCodec::LONGEST) ?? 0,
        );
    }

    /** @throws InvalidDocument naming the field */
    public static function printedFrom(JsonNode $node): PrintedFrom
    {
        $node->keys(['revision', 'channel', 'tap'], ['with']);

        return new PrintedFrom(
            $node->get('revision')->integer(0, PHP_INT_MAX),
            $node->get('channel')->id(),
            $node->get('tap')->oneOf(PrintedFrom::TAPS),
            $node->optional('with')?->ids(SessionCodec::MOST_CHANNELS) ?? [],
        );
    }

    /** @return array<string, mixed> */
    private static function printedFromToArray(PrintedFrom $from): array
    {
        return ['revision' => $from->revision, 'channel' => $from->channel, 'tap' => $from->tap, ...($from->with === [] ? [] : ['with' => $from->with])];
    }

    /** @return list<Clip> */
    private static function clips(JsonNode $node): array
    {
        $clips = array_map(self::clip(...), $node->items());
        DocumentRules::unique(array_map(static fn (Clip $clip): string => $clip->id, $clips), $node->pointer);

        return $clips;
    }

    /** @return array<string, mixed> */
    private static function clipToArray(Clip $clip): array
    {
        return [
            'id' => $clip->id,
            'file' => $clip->file,
            'start' => $clip->start,
            'offset' => $clip->offset,
            'length' => $clip->length,
            'gain' => $clip->gain,
            ...($clip->printedFrom === null ? [] : ['printedFrom' => self::printedFromToArray($clip->printedFrom)]),
            ...($clip->clipped === 0 ? [] : ['clipped' => $clip->clipped]),
        ];
    }
}
