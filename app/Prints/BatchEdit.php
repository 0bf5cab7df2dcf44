<?php

declare(strict_types=1);

namespace App\Prints;

use App\Models\PrintBatch;
use App\Models\PrintPart;
use Illuminate\Support\Collection;

/** The edit that puts the files of a batch into the session. */
final class BatchEdit
{
    /**
     * @param  Collection<int, PrintPart>  $parts
     * @return array<string, mixed>
     */
    public static function of(PrintBatch $batch, Collection $parts): array
    {
        return $batch->kind === 'freeze' ? self::freeze($parts) : self::print($batch, $parts);
    }

    /**
     * @param  Collection<int, PrintPart>  $parts
     * @return array<string, mixed>
     */
    private static function freeze(Collection $parts): array
    {
        return ['type' => 'freeze', 'channels' => $parts->map(static fn (PrintPart $part): array => [
            'channel' => $part->channel,
            'file' => $part->media_id,
            'hash' => $part->hash,
            'tail' => $part->options['tail'] ?? 'auto',
        ])->values()->all()];
    }

    /**
     * @param  Collection<int, PrintPart>  $parts
     * @return array<string, mixed>
     */
    private static function print(PrintBatch $batch, Collection $parts): array
    {
        return [
            'type' => 'put-prints',
            'prints' => $parts->map(static function (PrintPart $part) use ($batch): array {
                $with = $part->options['with'] ?? [];

                return [
                    'file' => [
                        'file' => $part->media_id,
                        'length' => $part->result['frames'] ?? 1,
                        'width' => ($part->result['channels'] ?? 2) === 1 ? 'mono' : 'stereo',
                        'start' => $part->options['from'] ?? 0,
                    ],
                    'from' => ['revision' => $batch->options['revision'] ?? 0, 'channel' => $part->channel, 'tap' => $part->options['tap'] ?? 'post-fader', ...($with === [] ? [] : ['with' => $with])],
                    'name' => $part->options['name'] ?? $part->name,
                ];
            })->values()->all(),
            'inPlace' => $batch->options['inPlace'] ?? false,
            'after' => $batch->options['after'] ?? 'keep',
        ];
    }
}
