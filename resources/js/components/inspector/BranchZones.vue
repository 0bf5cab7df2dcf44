<script setup lang="ts">
import { computed } from 'vue';
import type { Branch, NoteZone } from '@/api/types';
import LyingSlider from '@/components/controls/LyingSlider.vue';
import { keyName } from '@/format';
import { useSession } from '@/stores/session';

/** The keys and velocities of the notes a branch plays, with fades towards their ends. */
const props = defineProps<{ branch: Branch }>();

const session = useSession();

const ZONES = [
    { key: 'keys', name: 'Keys', lowest: 0, said: (value: number) => keyName(value) },
    { key: 'velocities', name: 'Velocity', lowest: 1, said: (value: number) => String(value) },
] as const;
const PARTS = [
    { key: 'from', name: 'from' },
    { key: 'fadeFrom', name: 'fade' },
    { key: 'to', name: 'to' },
    { key: 'fadeTo', name: 'fade' },
] as const;

const zones = computed(() => ({
    keys: props.branch.keys ?? { from: 0, to: 127, fadeFrom: 0, fadeTo: 0 },
    velocities: props.branch.velocities ?? { from: 1, to: 127, fadeFrom: 0, fadeTo: 0 },
}));

function limits(of: NoteZone, part: keyof NoteZone, lowest: number): [number, number] {
    return part === 'from' ? [lowest, of.to] : part === 'to' ? [of.from, 127] : [0, Math.max(1, of.to - of.from)];
}

function set(zone: 'keys' | 'velocities', part: keyof NoteZone, value: number | null, gesture: string): void {
    const changed = { ...zones.value[zone], [part]: Math.round(value ?? 0) };
    const isAll = (of: NoteZone, lowest: number) => of.from === lowest && of.to === 127 && !of.fadeFrom && !of.fadeTo;
    const next = { ...zones.value, [zone]: changed };
    void session.edit(
        {
            type: 'set-branch-zones',
            branch: props.branch.id,
            keys: isAll(next.keys, 0) ? null : next.keys,
            velocities: isAll(next.velocities, 1) ? null : next.velocities,
        },
        gesture,
    );
}
</script>

<template>
    <details class="zones" :open="Boolean(branch.keys || branch.velocities)" :data-zones="branch.id">
        <summary>Plays which notes</summary>
        <template v-for="zone in ZONES" :key="zone.key">
            <div v-for="part in PARTS" :key="part.key" class="setting">
                <span>{{ part.key === 'from' ? zone.name : '' }} {{ part.name }}</span>
                <LyingSlider
                    :model-value="zones[zone.key][part.key]"
                    :min="limits(zones[zone.key], part.key, zone.lowest)[0]"
                    :max="limits(zones[zone.key], part.key, zone.lowest)[1]"
                    :default="part.key === 'to' ? 127 : part.key === 'from' ? zone.lowest : 0"
                    :step="1"
                    :label="`${branch.name}: ${zone.name} ${part.key}`"
                    :text="String(zones[zone.key][part.key])"
                    @change="(value, gesture) => set(zone.key, part.key, value, gesture)"
                >
                    <template #default="{ value }">{{
                        part.name === 'fade' ? Math.round(value ?? 0) : zone.said(Math.round(value ?? 0))
                    }}</template>
                </LyingSlider>
            </div>
        </template>
    </details>
</template>

<style scoped>
summary {
    color: var(--soft);
    cursor: pointer;
}
</style>
