<script setup lang="ts">
import { computed } from 'vue';
import { depth } from '@/format';
import { useListening } from '@/stores/listening';

/** A piece of the drawn line, coloured by the level it carries; dashed where it carries nothing, two lines where it is wide. */
const props = defineProps<{ tap: string; wide: boolean; silent?: boolean }>();

const listening = useListening();
const look = computed(() => (props.silent ? 'none' : depth(listening.level(props.tap)?.peak)));
</script>

<template>
    <span class="line" :class="[look, { wide }]" />
</template>

<style scoped>
.line {
    position: absolute;
    left: 0;
    right: 0;
    top: var(--axis, 50%);
    height: 2px;
    margin-top: -1px;
    background: var(--water);
    pointer-events: none;
}

.wide {
    height: 5px;
    margin-top: -2.5px;
    background: none;
    border: solid var(--water);
    border-width: 1.5px 0;
}

.shoal {
    background-color: var(--shoal);
    border-color: var(--shoal);
}

.deep {
    background-color: var(--deep);
    border-color: var(--deep);
}

.brass,
.over {
    background-color: var(--brass);
    border-color: var(--brass);
}

.wide.shoal,
.wide.deep,
.wide.brass,
.wide.over {
    background: none;
}

.none {
    background: none;
    border: 0;
    border-top: 1.5px dashed var(--contour);
}
</style>
