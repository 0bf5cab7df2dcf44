<script setup lang="ts">
import type { Channel } from '@/api/types';
import { useFinder } from '@/stores/finder';
import { splitWays } from '@/splits';

/** Splits a row at its end: into copies, bands or sides. */
defineProps<{ channel: Channel }>();

const finder = useFinder();

function split(channel: string, event: Event): void {
    const select = event.target as HTMLSelectElement;
    const way = splitWays[Number(select.value)];
    select.value = '';
    if (way) {
        void finder.splitAt({ channels: [channel], row: 'inserts', at: null, replace: null, branch: null }, way);
    }
}
</script>

<template>
    <select
        class="split"
        :aria-label="`Split ${channel.name}`"
        title="Parallel branches at the end of the row"
        @change="split(channel.id, $event)"
    >
        <option value="">Split …</option>
        <option v-for="(way, index) in splitWays" :key="way.name" :value="index">{{ way.name }}</option>
    </select>
</template>

<style scoped>
.split {
    width: 72px;
    margin: 2px 4px;
    border: 1px solid var(--contour);
    border-radius: 4px;
    background: var(--sheet);
}
</style>
