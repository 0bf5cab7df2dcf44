<script setup lang="ts">
import { computed } from 'vue';
import type { Insert } from '@/api/types';
import { useCatalogue } from '@/stores/catalogue';

/** Where dynamics, colour, movement, space and tone sit in a row: one mark an insert, in the order of the sound. */
const props = defineProps<{ neighbours: Insert[]; insert: string }>();

const catalogue = useCatalogue();

const marks = computed(() =>
    props.neighbours.map((one) => {
        const spec = one.type === 'processor' ? catalogue.byId[one.processor] : undefined;
        return { id: one.id, role: spec?.category ?? 'Split', name: spec?.name ?? 'Split', on: one.on };
    }),
);
</script>

<template>
    <ol v-if="marks.length > 1" class="order" aria-label="Order of the row">
        <li
            v-for="mark in marks"
            :key="mark.id"
            :class="[mark.role.toLowerCase(), { here: mark.id === insert, off: !mark.on }]"
            :title="`${mark.name}: ${mark.role.toLowerCase()}`"
        >
            {{ mark.role }}
        </li>
    </ol>
</template>

<style scoped>
.order {
    display: flex;
    flex-wrap: wrap;
    gap: 4px;
    margin: 8px 0;
    padding: 0;
    list-style: none;
    font-size: 12px;
}

li {
    padding: 0 6px;
    border-bottom: 2px solid var(--contour);
    color: var(--soft);
}

li.here {
    color: var(--ink);
    font-weight: 500;
}

li.off {
    opacity: 0.5;
}

li.dynamics {
    border-color: var(--deep);
}

li.colour {
    border-color: var(--brass);
}

li.movement,
li.pitch {
    border-color: var(--water);
}

li.space {
    border-color: var(--shoal);
}

li.tone {
    border-color: var(--soft);
}
</style>
