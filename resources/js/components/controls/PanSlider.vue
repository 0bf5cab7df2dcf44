<script setup lang="ts">
import { panText } from '@/format';
import LyingSlider from './LyingSlider.vue';

/** Where a channel, a send or a branch stands, from -1 (left) to +1 (right). */
withDefaults(defineProps<{ pan: number; label: string; centre?: string; dim?: boolean }>(), {
    centre: 'centre',
    dim: false,
});
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
        :dim="dim"
        :text="panText(pan, centre)"
        @change="(value, gesture) => $emit('change', (value ?? 0) / 100, gesture)"
    >
        <template #default="{ value }">{{ panText((value ?? 0) / 100, centre) }}</template>
    </LyingSlider>
</template>
