import { useStorage } from '@vueuse/core';
import { defineStore } from 'pinia';
import { computed, ref } from 'vue';
import { api } from '@/api/client';
import type { Channel, ProcessorSpec, Split, SplitChoice, SplitPreset } from '@/api/types';
import { controlsOf } from '@/inserts';
import { rules } from '@/rules';

export type FoundSplit = Pick<SplitChoice, 'id' | 'name' | 'purpose'> &
    ({ edit: SplitChoice['edit'] } | { stored: SplitPreset });

/** The processors there are, and which were used last. */
export const useCatalogue = defineStore('catalogue', () => {
    const specs = ref<ProcessorSpec[]>([]);
    const recent = useStorage<string[]>('hafen.recent-processors', []);
    const byId = computed(() => Object.fromEntries(specs.value.map((spec) => [spec.id, spec])));

    const splits = ref<SplitPreset[]>([]);

    async function load(): Promise<void> {
        [specs.value, splits.value] = await Promise.all([
            api.get<ProcessorSpec[]>('processors'),
            api.get<SplitPreset[]>('split-presets'),
        ]);
    }

    async function saveSplit(name: string, split: Split, channel: Channel): Promise<void> {
        await api.post('split-presets', { name, split, ...controlsOf(channel, [split]) });
        splits.value = await api.get<SplitPreset[]>('split-presets');
    }

    async function removeSplit(id: number): Promise<void> {
        await api.delete(`split-presets/${id}`);
        splits.value = splits.value.filter((preset) => preset.id !== id);
    }

    /** Ways to split a row that match what was typed, stored splits first. */
    function searchSplits(text: string): FoundSplit[] {
        const wanted = text.trim().toLowerCase();
        const stored = splits.value.map((preset) => ({
            id: `stored-${preset.id}`,
            name: preset.name,
            purpose: preset.split.branches.map((branch) => branch.name).join(', '),
            stored: preset,
        }));
        return [...stored, ...rules().splitChoices].filter((way) =>
            ['split', 'parallel', 'branch', 'band', 'crossover', way.name.toLowerCase()].some((word) =>
                word.includes(wanted),
            ),
        );
    }

    function used(id: string): void {
        recent.value = [id, ...recent.value.filter((other) => other !== id)].slice(0, 5);
    }

    /** Those that match what was typed, the best match first; recent ones first when nothing was. */
    function search(text: string): ProcessorSpec[] {
        const wanted = text.trim().toLowerCase();
        const rank = (spec: ProcessorSpec): number => {
            const name = spec.name.toLowerCase();
            const words = [name, spec.category.toLowerCase(), ...spec.synonyms];
            if (wanted === '') {
                const index = recent.value.indexOf(spec.id);
                return index >= 0 ? index : 100;
            }
            if (name.startsWith(wanted)) {
                return 0;
            }
            const typed = wanted.split(/\s+/);
            const begins = (part: string) =>
                words.some((word) => word.split(/[\s,-]+/).some((one) => one.startsWith(part)));
            if (typed.every(begins)) {
                return 1;
            }
            return typed.every((part) => words.some((word) => word.includes(part))) ? 2 : Infinity;
        };
        return specs.value
            .map((spec, index) => ({ spec, index, rank: rank(spec) }))
            .filter((entry) => entry.rank < Infinity)
            .sort((a, b) => a.rank - b.rank || a.index - b.index)
            .map((entry) => entry.spec);
    }

    return { specs, byId, recent, splits, load, saveSplit, removeSplit, used, search, searchSplits };
});
