<script setup lang="ts">
import type { Channel } from '@/api/types';
import { allInserts } from '@/inserts';
import { useSelection } from '@/stores/selection';
import { useSession } from '@/stores/session';
import { splitWays } from '@/splits';

/** Splits a row at its end: into copies, bands or sides. */
const props = defineProps<{ channel: Channel; branch?: string }>();

const session = useSession();
const selection = useSelection();

async function split(event: Event): Promise<void> {
    const select = event.target as HTMLSelectElement;
    const way = splitWays[Number(select.value)];
    select.value = '';
    if (!way) {
        return;
    }
    const ids = () => allInserts([...(session.channel(props.channel.id)?.inserts ?? [])]).map((insert) => insert.id);
    const known = new Set(ids());
    await session.edit({
        type: 'add-split',
        channel: props.channel.id,
        ...(props.branch ? { branch: props.branch } : {}),
        ...way.edit,
    });
    const added = ids().find((id) => !known.has(id));
    if (added) {
        selection.selectInsert(props.channel.id, added);
    }
}
</script>

<template>
    <select
        class="split"
        :aria-label="`Split ${channel.name}`"
        title="Parallel branches at the end of the row"
        @change="split"
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
