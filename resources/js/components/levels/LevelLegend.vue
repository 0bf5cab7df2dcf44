<script setup lang="ts">
/** What the marks of a level diagram stand for. */
defineProps<{ onePath: boolean }>();
</script>

<template>
    <span class="legend">
        <span v-if="onePath"><i class="dot brass-ring" /> level-dependent</span>
        <span><i class="dot brass-dot" /> over, harmless in floating point</span>
        <span><i class="dot buoy-square" /> clips</span>
        <span v-if="onePath"><i class="bar" /> fixed point: nothing above</span>
    </span>
</template>

<style scoped>
.legend {
    display: flex;
    gap: 20px;
    color: var(--soft);
}

.legend i {
    display: inline-block;
    width: 9px;
    height: 9px;
    margin-right: 3px;
    border-radius: 50%;
}

.legend .brass-ring {
    border: 2px solid var(--brass);
}

.legend .brass-dot {
    background: var(--brass);
}

.legend .buoy-square {
    border-radius: 0;
    background: var(--buoy);
}

.legend .bar {
    width: 18px;
    height: 4px;
    border-radius: 0;
    background: var(--buoy);
    vertical-align: middle;
}
</style>
