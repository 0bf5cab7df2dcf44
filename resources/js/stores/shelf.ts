import { defineStore } from 'pinia';
import { computed, ref } from 'vue';
import { api } from '@/api/client';
import type { Insert, ParameterValue, Preset, RowPreset } from '@/api/types';
import { tell, tellRefusal } from './notices';

interface Kept {
    favourites: string[];
    folders: { name: string; processors: string[] }[];
}

const KEPT = 'hafen.shelf';

/** Presets of effects and of rows, and what of the shelf is one's own: favourites and folders. */
export const useShelf = defineStore('shelf', () => {
    const presets = ref<Preset[]>([]);
    const rows = ref<RowPreset[]>([]);
    const kept = ref<Kept>({
        favourites: [],
        folders: [],
        ...(JSON.parse(localStorage.getItem(KEPT) ?? '{}') as Partial<Kept>),
    });

    const byProcessor = computed(() => {
        const found: Record<string, Preset[]> = {};
        for (const preset of presets.value) {
            (found[preset.processor] ??= []).push(preset);
        }
        return found;
    });

    async function load(): Promise<void> {
        [presets.value, rows.value] = await Promise.all([
            api.get<Preset[]>('presets'),
            api.get<RowPreset[]>('row-presets'),
        ]);
    }

    async function tried(work: () => Promise<unknown>): Promise<boolean> {
        try {
            await work();
            await load();
            return true;
        } catch (error) {
            tellRefusal(error);
            return false;
        }
    }

    const save = (processor: string, name: string, use: string, parameters: Record<string, ParameterValue>) =>
        tried(() => api.post('presets', { processor, name, use, parameters }));
    const saveRow = (name: string, use: string, inserts: Insert[]) =>
        tried(() => api.post('row-presets', { name, use, inserts }));
    const remove = (preset: Preset) => tried(() => api.delete(`presets/${preset.id}`));
    const removeRow = (row: RowPreset) => tried(() => api.delete(`row-presets/${row.id}`));

    /** Takes a file of presets in; all of it or nothing. */
    async function take(file: File): Promise<void> {
        await tried(async () => {
            const taken = await api.post<{ presets: number; rows: number; replaced: string[] }>(
                'presets/file',
                new Blob([await file.text()], { type: 'application/json' }),
            );
            const replaced = taken.replaced.length > 0 ? `, ${taken.replaced.length} of them replaced` : '';
            tell(`${taken.presets} presets and ${taken.rows} rows taken in${replaced}.`);
        });
    }

    function keep(change: Partial<Kept>): void {
        kept.value = { ...kept.value, ...change };
        localStorage.setItem(KEPT, JSON.stringify(kept.value));
    }

    function toggleFavourite(processor: string): void {
        const { favourites } = kept.value;
        keep({
            favourites: favourites.includes(processor)
                ? favourites.filter((other) => other !== processor)
                : [...favourites, processor],
        });
    }

    /** Into the folder, or out of it where it already lies there; a folder that is empty goes. */
    function toggleInFolder(name: string, processor: string): void {
        const old = kept.value.folders.find((folder) => folder.name === name);
        const processors = old?.processors.includes(processor)
            ? old.processors.filter((other) => other !== processor)
            : [...(old?.processors ?? []), processor];
        const others = kept.value.folders.filter((folder) => folder.name !== name);
        keep({
            folders: [...others, ...(processors.length > 0 ? [{ name, processors }] : [])].sort((a, b) =>
                a.name.localeCompare(b.name),
            ),
        });
    }

    return {
        presets,
        rows,
        kept,
        byProcessor,
        load,
        save,
        saveRow,
        remove,
        removeRow,
        take,
        toggleFavourite,
        toggleInFolder,
    };
});
