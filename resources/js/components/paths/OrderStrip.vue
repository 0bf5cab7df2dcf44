<script setup lang="ts">
import { computed } from 'vue';
import type { Insert } from '@/api/types';
import { isProcessor } from '@/inserts';
import { useCatalogue } from '@/stores/catalogue';
import { useSession } from '@/stores/session';
import RoleLamp from './RoleLamp.vue';

/** Where dynamics, colour, movement, space and tone sit in a row: one mark an insert, in the order of the sound. */
const props = defineProps<{ neighbours: Insert[]; insert: string }>();

const catalogue = useCatalogue();
const session = useSession();

const marks = computed(() =>
    props.neighbours.map((one) => {
        const spec = isProcessor(one) ? catalogue.byId[one.processor] : undefined;
        return {
            id: one.id,
            role: spec?.category ?? 'Split',
            name: session.state?.inserts[one.id]?.label ?? spec?.name ?? 'Split',
            on: one.on,
        };
    }),
);
</script>

<template>
    <ol v-if="marks.length > 1" class="order" aria-label="Order of the row">
        <li
            v-for="mark in marks"
            :key="mark.id"
            :class="{ here: mark.id === insert, off: !mark.on }"
            :title="`${mark.name}: ${mark.role.toLowerCase()}`"
        >
            <RoleLamp :role="mark.role" :on="mark.on" />{{ mark.name }}
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
    display: flex;
    gap: 4px;
    align-items: center;
    padding: 0 4px;
    border-bottom: 2px solid transparent;
    color: var(--soft);
}

li.here {
    border-color: var(--deep);
    color: var(--ink);
    font-weight: 500;
}

li.off {
    text-decoration: line-through;
}
</style>
