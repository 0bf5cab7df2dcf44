<script setup lang="ts">
/** A figure of the top bar with its name below; pressing it leads to what it is about. */
defineProps<{ value: string | number; label: string; tone?: 'clips' | 'over' | null }>();
</script>

<template>
    <button class="chip plain" :class="tone">
        <span class="figure value">{{ value }}</span
        ><span class="hint">{{ label }}</span>
    </button>
</template>

<style scoped>
.chip {
    display: flex;
    flex-direction: column;
    align-items: flex-end;
    min-width: 62px;
    margin-right: 10px;
    line-height: 1.15;
}

.value {
    font-size: 15px;
    font-weight: 500;
}

.clips .value {
    color: var(--buoy-text);
}

.over .value {
    color: var(--brass-text);
}

.hint {
    white-space: nowrap;
}

@media (max-width: 1180px) {
    .chip {
        min-width: 52px;
        margin-right: 5px;
    }
}
</style>
