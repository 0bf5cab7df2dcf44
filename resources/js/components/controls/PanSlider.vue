<script setup lang="ts">
import LyingSlider from './LyingSlider.vue';

/** Where a send or a branch stands, from -1 (left) to +1 (right). */
defineProps<{ pan: number; label: string }>();
defineEmits<{ change: [pan: number, gesture: string] }>();
</script>

<template>
    <LyingSlider
        :model-value="Math.round(pan * 100)"
        :min="-100"
        :max="100"
        :default="0"
        :step="5"
        :fine="1"
        centred
        :label="label"
        :text="String(Math.round(pan * 100))"
        @change="(value, gesture) => $emit('change', (value ?? 0) / 100, gesture)"
    >
        <template #default="{ value }">{{
            value === 0 ? 'centre' : `${(value ?? 0) < 0 ? 'L' : 'R'}${Math.abs(value ?? 0)}`
        }}</template>
    </LyingSlider>
</template>
