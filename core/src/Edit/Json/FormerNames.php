<?php

declare(strict_types=1);

namespace Hafen\Edit\Json;

use Hafen\Document\JsonNode;

/** Reads edits written with the names of earlier versions. */
final class FormerNames
{
    private const TYPES = ['set-lane' => 'set-automation', 'set-key' => 'set-sidechain'];

    private const FIELDS = ['set-sidechain' => ['key' => 'sidechain'], 'put-sends' => ['cells' => 'sends']];

    /** The edit with the names it has now. */
    public static function replaced(JsonNode $edit): JsonNode
    {
        $type = $edit->get('type')->value;
        $current = is_string($type) ? self::TYPES[$type] ?? $type : '';
        if ($current !== $type && $current !== '') {
            $edit = $edit->with('type', $current);
        }

        return isset(self::FIELDS[$current]) ? $edit->renamed(self::FIELDS[$current]) : $edit;
    }
}
