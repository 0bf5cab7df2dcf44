import { defineStore } from 'pinia';
import { computed, ref } from 'vue';
import { api } from '@/api/client';
import type { Channel, ParameterValue, Preset, RowPreset } from '@/api/types';
import { controlsOf } from '@/inserts';
import { useSession } from './session';
import { tell, tellRefusal } from './notices';

interface Kept {
    favourites: string[];
    folders: { name: string; processors: string[] }[];
}

/** Where this browser kept favourites and folders before the server did. */
const EARLIER = 'hafen.shelf';

/** Presets of effects and of rows, and what of the shelf is one's own: favourites and folders. */
export const useShelf = defineStore('shelf', () => {
    const presets = ref<Preset[]>([]);
    const rows = ref<RowPreset[]>([]);
    const kept = ref<Kept>({ favourites: [], folders: [] });

    const byProcessor = computed(() => {
        const found: Record<string, Preset[]> = {};
        for (const preset of presets.value) {
            (found[preset.processor] ??= []).push(preset);
        }
        return found;
    });

    async function load(): Promise<void> {
        [presets.value, rows.value, kept.value] = await Promise.all([
            api.get<Preset[]>('presets'),
            api.get<RowPreset[]>('row-presets'),
            api.get<Kept>('folders'),
        ]);
        await bringEarlier();
    }

    /** Brings what this browser kept to the server, once. */
    async function bringEarlier(): Promise<void> {
        const earlier = localStorage.getItem(EARLIER);
        if (earlier === null) {
            return;
        }
        const { favourites = [], folders = [] } = JSON.parse(earlier) as Partial<Kept>;
        const all = [{ name: null, processors: favourites }, ...folders];
        try {
            for (const { name, processors } of all) {
                for (const processor of processors) {
                    kept.value = await api.put<Kept>('folders', { folder: name, processor, in: true });
                }
            }
            localStorage.removeItem(EARLIER);
        } catch (error) {
            // It stays here until the server has all of it.
            tellRefusal(error);
        }
    }

    async function tried(work: () => Promise<unknown>): Promise<boolean> {
        try {
            await work();
            await load();
            // Which inserts have a preset's setting follows from the presets there are.
            await useSession().refresh();
            return true;
        } catch (error) {
            tellRefusal(error);
            return false;
        }
    }

    const save = (processor: string, name: string, use: string, parameters: Record<string, ParameterValue>) =>
        tried(() => api.post('presets', { processor, name, use, parameters }));
    const saveRow = (name: string, use: string, channel: Channel) =>
        tried(() =>
            api.post('row-presets', {
                name,
                use,
                inserts: channel.inserts,
                ...controlsOf(channel, channel.inserts),
            }),
        );
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

    async function put(folder: string | null, processor: string, isIn: boolean): Promise<void> {
        try {
            kept.value = await api.put<Kept>('folders', { folder, processor, in: isIn });
        } catch (error) {
            tellRefusal(error);
        }
    }

    const toggleFavourite = (processor: string) => put(null, processor, !kept.value.favourites.includes(processor));

    /** Into the folder, or out of it where it already lies there; a folder that is empty goes. */
    const toggleInFolder = (name: string, processor: string) =>
        put(
            name,
            processor,
            !kept.value.folders.find((folder) => folder.name === name)?.processors.includes(processor),
        );

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
