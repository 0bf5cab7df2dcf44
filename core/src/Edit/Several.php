<?php

declare(strict_types=1);

namespace Hafen\Edit;

use Hafen\Document\InvalidDocument;
use Hafen\Document\JsonNode;
use Hafen\Edit\Json\EditCodec;
use Hafen\Edit\Json\EditRequest;
use Hafen\Session\Session;
use Hafen\Session\SessionTooLarge;
use stdClass;

/** Edits one after the other as one step: all of them, or none. Each is read in the session the ones before it made. */
final readonly class Several implements Edit
{
    public const MOST = 600;

    private const MOST_BYTES = 8 << 20;

    /** Ids, values and fields that all its edits may name together. */
    private const MOST_NAMED = 20_000;

    /**
     * @param  list<JsonNode>  $edits
     *
     * @throws InvalidDocument when one of them is of several itself
     * @throws SessionTooLarge when they name too much for one step
     */
    public function __construct(public string $label, public array $edits, private EditCodec $codec)
    {
        $named = 0;
        foreach ($edits as $edit) {
            if ($edit->has('type') && $edit->get('type')->value === 'several') {
                throw $edit->get('type')->expected('a single edit: several do not stand within several');
            }
            $named += self::named($edit->value);
        }
        if ($named > self::MOST_NAMED) {
            throw SessionTooLarge::work($named, self::MOST_NAMED);
        }
    }

    /** @param  list<EditRequest>|list<array<string, mixed>>  $edits  requests, or their fields as they were stored */
    public static function of(string $label, array $edits, EditCodec $codec): self
    {
        $json = json_encode($edits, JSON_THROW_ON_ERROR | JSON_PRESERVE_ZERO_FRACTION);

        return new self($label, JsonNode::parse($json, self::MOST_BYTES)->items(self::MOST), $codec);
    }

    private static function named(mixed $value): int
    {
        return is_array($value) || $value instanceof stdClass ? array_sum(array_map(self::named(...), (array) $value)) : 1;
    }

    public function apply(Session $session): Session
    {
        foreach ($this->edits as $edit) {
            $session = $this->codec->decode($edit, $session)->apply($session);
        }

        return $session;
    }

    public function label(Session $before): string
    {
        return $this->label;
    }

    public function touches(Session $before): array
    {
        $touches = [];
        foreach ($this->edits as $node) {
            $edit = $this->codec->decode($node, $before);
            array_push($touches, ...$edit->touches($before));
            $before = $edit->apply($before);
        }

        return array_values(array_unique($touches));
    }
}
