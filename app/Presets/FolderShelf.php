<?php

declare(strict_types=1);

namespace App\Presets;

use App\Models\Folder;
use Illuminate\Support\Facades\DB;

/** Favourites and folders of effects. Putting in and taking out say what is wanted, so that two windows cannot undo each other. */
final readonly class FolderShelf
{
    /** @return array{favourites: list<string>, folders: list<array{name: string, processors: list<string>}>} */
    public function all(): array
    {
        $folders = Folder::query()->orderBy('name')->get();

        return [
            'favourites' => $folders->firstWhere('name', Folder::FAVOURITES)->processors ?? [],
            'folders' => array_values($folders->where('name', '!==', Folder::FAVOURITES)
                ->map(static fn (Folder $folder): array => ['name' => $folder->name, 'processors' => $folder->processors])->all()),
        ];
    }

    /** Puts an effect in or takes it out; a folder that is empty goes. */
    public function put(string $folder, string $processor, bool $in): void
    {
        DB::transaction(static function () use ($folder, $processor, $in): void {
            $found = Folder::query()->firstOrNew(['name' => $folder], ['processors' => []]);
            $others = array_values(array_diff($found->processors, [$processor]));
            $found->processors = $in ? [...$others, $processor] : $others;
            if ($found->processors !== []) {
                $found->save();
            } elseif ($found->exists) {
                $found->delete();
            }
        });
    }
}
