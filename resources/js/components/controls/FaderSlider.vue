<script setup lang="ts">
import { decibels } from '@/format';
import { faderTravel } from '@/scales';
import LyingSlider from './LyingSlider.vue';

/** The gain of a channel, a send or a branch, on the travel of a fader; null is silence. */
withDefaults(defineProps<{ gain: number | null; label: string; default?: number; unit?: string; dim?: boolean }>(), {
    default: 0,
    unit: ' dB',
    dim: false,
});
defineEmits<{ change: [gain: number | null, gesture: string] }>();

const { min, max } = faderTravel();
</script>

<template>
    <LyingSlider
        :model-value="gain"
        :min="min"
        :max="max"
        :default="$props.default"
        :step="0.5"
        :fine="0.1"
        scale="fader"
        :label="label"
        :text="`${decibels(gain)} dB`"
        :dim="dim"
        @change="(value, gesture) => $emit('change', value, gesture)"
    >
        <template #default="{ value }">{{ decibels(value, true) }}{{ unit }}</template>
    </LyingSlider>
</template>
