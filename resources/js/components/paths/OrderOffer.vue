<script setup lang="ts">
import type { Edit } from '@/api/edits';
import { useSession } from '@/stores/session';

/** Stands on the line where an insert would better go; it goes there when this is pressed, never by itself. */
defineProps<{ text: string; fix: { label: string; edit: Edit }; isForward: boolean }>();

const session = useSession();
</script>

<template>
    <button
        class="offer plain"
        data-order-offer
        :title="`${text}\n${fix.label}: press here.`"
        :aria-label="`${text} ${fix.label}`"
        @click.stop="session.edit(fix.edit)"
    >
        <svg viewBox="0 0 18 18" width="15" height="15" aria-hidden="true">
            <g :transform="isForward ? '' : 'matrix(-1 0 0 1 18 0)'">
                <path d="M3 11.5C3 4.5 12.5 3.5 12.5 9.5" />
                <path d="M9.6 8.4l2.9 4.1l2.9-4.1z" class="head" />
            </g>
        </svg>
    </button>
</template>

<style scoped>
/* Above the line, so that it takes no room from the row. */
.offer {
    position: absolute;
    left: 50%;
    top: -5px;
    z-index: 1;
    width: 18px;
    height: 18px;
    transform: translateX(-50%);
    border: 1.4px dashed var(--brass);
    border-radius: 50%;
    background: var(--ground);
    line-height: 0;
}

.offer:hover,
.offer:focus-visible {
    border-style: solid;
    background: var(--sheet);
}

path {
    fill: none;
    stroke: var(--brass);
    stroke-width: 1.8;
    stroke-linecap: round;
}

.head {
    fill: var(--brass);
    stroke-width: 0.6;
}

.rest .offer {
    left: 4px;
}
</style>
