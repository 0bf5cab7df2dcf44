<script setup lang="ts">
import { LEFT } from '@/composables/useLevelScale';
import { decibels } from '@/format';

/** The lines behind a level diagram: dBFS, full scale, and the aim. */
defineProps<{
    width: number;
    y: (level: number) => number;
    lines: number[];
    aim: number;
    from?: number;
    scaleAt: number;
    aimAt: number;
}>();
</script>

<template>
    <g v-for="level in lines" :key="level">
        <line
            :x1="from ?? LEFT"
            :x2="width - 12"
            :y1="y(level)"
            :y2="y(level)"
            :class="level === 0 ? 'full-scale' : 'grid'"
        />
        <text :x="LEFT - 10" :y="y(level) + 4" class="axis figure">
            {{ (level > 0 ? '+' : '') + String(level).replace('-', '−') }}
        </text>
    </g>
    <line :x1="from ?? LEFT" :x2="width - 12" :y1="y(aim)" :y2="y(aim)" class="aim" />
    <text :x="aimAt" :y="y(aim) - 4" class="aim-text">aim {{ decibels(aim) }}</text>
    <text :x="scaleAt" :y="y(0) - 5" class="scale-text">0 dBFS</text>
</template>

<style scoped>
text {
    font-size: 12px;
    text-anchor: start;
    fill: var(--soft);
}

.axis {
    text-anchor: end;
}

.aim-text {
    fill: var(--deep);
}

.grid {
    stroke: var(--contour);
}

.full-scale {
    stroke: var(--ink);
    stroke-width: 1.4;
}

.aim {
    stroke: var(--deep);
    stroke-dasharray: 5 5;
}
</style>
