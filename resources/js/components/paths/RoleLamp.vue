<script setup lang="ts">
import { computed } from 'vue';

/** The lamp of an insert in the shape of what it does: filled or strong when it works, thin when it is bypassed. */
const props = defineProps<{ role: string; on: boolean }>();

/** In a box of 12 by 12; open ones are lines. */
const SHAPES: Record<string, { path: string; isOpen?: boolean }> = {
    Level: { path: 'M6 2.2a3.8 3.8 0 1 1 0 7.6a3.8 3.8 0 1 1 0-7.6z' },
    Dynamics: { path: 'M1.5 2.5h9L6 10z' },
    Colour: { path: 'M6 1l5 5l-5 5l-5-5z' },
    Tone: { path: 'M1 9.8C4 9.8 4 2.4 6 2.4S8 9.8 11 9.8z' },
    Instrument: { path: 'M4 9.4A1.9 1.6 0 1 1 4 8.2V2L10 1V7.4M10 8.4A1.9 1.6 0 1 1 10 7.2', isOpen: true },
    Notes: { path: 'M4 9.4A1.9 1.6 0 1 1 4 8.2V2L10 1V4', isOpen: true },
    Movement: { path: 'M1 6C2.4 2.2 4.6 2.2 6 6S9.6 9.8 11 6', isOpen: true },
    Space: { path: 'M2.2 3.6a5 5 0 0 1 0 4.8M5.4 2.2a8 8 0 0 1 0 7.6M8.6 .9a11 11 0 0 1 0 10.2', isOpen: true },
    Pitch: { path: 'M3.4 10.8v-8M8.6 9.2v-8M1.2 5.2l9.6-2M1.2 9l9.6-2', isOpen: true },
};

const shape = computed(() => SHAPES[props.role] ?? SHAPES.Level!);
</script>

<template>
    <svg
        class="role"
        :class="[role.toLowerCase(), { off: !on, open: shape.isOpen }]"
        :data-role="role"
        viewBox="0 0 12 12"
        width="10"
        height="10"
        aria-hidden="true"
    >
        <path :d="shape.path" />
    </svg>
</template>

<style scoped>
.role {
    display: block;
    flex: none;
    fill: currentcolor;
    stroke: currentcolor;
    stroke-width: 1.3;
    stroke-linejoin: round;
    stroke-linecap: round;
    color: var(--deep);
}

.role.open {
    fill: none;
    stroke-width: 2;
}

.role.off {
    fill: none;
    color: var(--soft);
}

.role.off.open {
    stroke-width: 1.1;
}
</style>
