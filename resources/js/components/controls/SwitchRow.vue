<script setup lang="ts">
/** One thing that is on or off: a line to press, with a switch at its end. */
defineProps<{ name: string; on: boolean; about?: string }>();
defineEmits<{ change: [] }>();
</script>

<template>
    <button
        class="plain switch-row"
        role="switch"
        :aria-checked="on"
        :aria-pressed="on"
        :title="about"
        @click="$emit('change')"
    >
        {{ name }}<span class="track" :class="{ on }" aria-hidden="true" />
    </button>
</template>

<style scoped>
.switch-row {
    display: flex;
    justify-content: space-between;
    align-items: center;
    width: 100%;
    min-height: 26px;
    border-radius: 4px;
}

.switch-row:hover {
    background: var(--shoal-wash);
}

.track {
    position: relative;
    flex: none;
    width: 26px;
    height: 14px;
    border: 1px solid var(--soft);
    border-radius: 7px;
}

.track::after {
    position: absolute;
    top: 2px;
    left: 2px;
    width: 8px;
    height: 8px;
    border-radius: 50%;
    background: var(--soft);
    content: '';
}

.track.on {
    border-color: var(--deep);
    background: var(--deep);
}

.track.on::after {
    left: 14px;
    background: var(--sheet);
}
</style>
