<script setup lang="ts">
import { computed } from 'vue';
import type { ChannelLoad } from '@/api/types';
import { percent } from '@/format';
import { useSession } from '@/stores/session';

/** One channel's load as a bar made of its effects, the heaviest first, and what is no effect at its end. */
const props = defineProps<{ load: ChannelLoad; most: number; isPlanned: boolean; isFrozen: boolean }>();

const session = useSession();

interface Part {
    key: string;
    load: number;
    name: string;
    title: string;
    tone: string;
}

/** Load from which a part can be seen. */
const SHOWN = 0.0005;
const parts = computed<Part[]>(() => {
    const effects = Object.entries(props.load.inserts)
        .sort(([, one], [, other]) => other - one)
        .map(([id, load], index) => ({
            key: id,
            load,
            name: session.state?.inserts[id]?.chip?.name ?? '',
            title: `${session.state?.inserts[id]?.label ?? id}: ${percent(load)}`,
            tone: ['first', 'second', 'third'][Math.min(index, 2)]!,
        }));
    const rest = props.load.reading + props.load.own;
    return [
        ...effects.filter((part) => part.load >= SHOWN),
        { key: 'rest', load: rest, name: '', title: `Reading, gains, meters: ${percent(rest)}`, tone: 'rest' },
    ];
});
const width = (load: number) => `${(load / props.most) * 100}%`;

/** Whether a name fits into its part, which is so wide of the whole bar's room. */
function fits(part: Part): boolean {
    return part.load / props.most > 0.02 * part.name.length + 0.02;
}
</script>

<template>
    <span class="bar" :class="{ planned: isPlanned, frozen: isFrozen }">
        <span
            v-for="part in parts"
            :key="part.key"
            class="part"
            :class="part.tone"
            :style="{ width: width(part.load) }"
            :title="part.title"
            ><span v-if="part.name && fits(part)" class="name">{{ part.name }}</span></span
        >
        <span class="figure total">{{ percent(load.total) }}</span>
    </span>
</template>

<style scoped>
.bar {
    display: flex;
    align-items: center;
    height: 20px;
}

.part {
    flex: none;
    height: 100%;
    border-right: 1px solid var(--paper);
    overflow: hidden;
    white-space: nowrap;
}

.name {
    padding-left: 6px;
    font-size: 12px;
    line-height: 20px;
}

.first {
    background: var(--deep);
    color: var(--on-deep);
}

.second {
    background: var(--water);
    color: var(--ink);
}

.third {
    background: var(--shoal);
    color: var(--ink);
}

.rest {
    background: var(--contour);
}

/* What the plan freezes, and what is frozen, is hatched as its row on the paths. */
.planned .part,
.frozen .part {
    border: 1px solid var(--deep);
    border-right-width: 2px;
    background: var(--hatch);
    color: var(--ink);
}

.planned .name,
.frozen .name {
    padding: 0 3px;
    margin-left: 3px;
    background: var(--sheet);
    line-height: 18px;
}

.total {
    padding-left: 8px;
    color: var(--soft);
    white-space: nowrap;
}
</style>
