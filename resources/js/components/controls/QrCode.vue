<script setup lang="ts">
import { encode } from 'uqr';
import { computed } from 'vue';

/** An address for the camera of another device: always dark on light, as readers want it. */
const props = defineProps<{ text: string; label: string }>();

const code = computed(() => encode(props.text, { border: 4 }));
const squares = computed(() =>
    code.value.data.flatMap((row, y) => row.map((isDark, x) => (isDark ? `M${x} ${y}h1v1h-1z` : ''))).join(''),
);
</script>

<template>
    <svg
        class="code"
        role="img"
        :aria-label="label"
        :viewBox="`0 0 ${code.size} ${code.size}`"
        shape-rendering="crispEdges"
    >
        <path :d="`M0 0h${code.size}v${code.size}H0z`" fill="#ffffff" />
        <path :d="squares" fill="#16323c" />
    </svg>
</template>

<style scoped>
.code {
    display: block;
    width: 176px;
    height: 176px;
    border: 1px solid var(--contour);
    border-radius: 4px;
}
</style>
