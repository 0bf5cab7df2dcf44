<script setup lang="ts">
import { computed } from 'vue';
import StatusChip from '@/components/paths/StatusChip.vue';
import { wholePercent } from '@/format';
import { useListening } from '@/stores/listening';
import { useScreen } from '@/stores/screen';
import { useSurvey } from '@/stores/survey';

/** Time the engine needs for a second of sound, of one core; a press shows what needs it. */
const listening = useListening();
const survey = useSurvey();
const screen = useScreen();

const load = computed(() => (listening.isPlaying ? listening.load : (survey.state?.result?.load ?? null)));
const text = computed(() => (load.value === null ? '·' : wholePercent(load.value)));
const title = computed(() =>
    listening.isPlaying && listening.processes > 1
        ? `Time the engine needs for a second of sound, of one core: it plays in ${listening.processes} processes, and this is the one that takes longest. Press to see what needs it`
        : 'Time the engine needs for a second of sound, of one core. Press to see what needs it',
);
const isOverloaded = computed(() => listening.isPlaying && (listening.load ?? 0) > 1);
</script>

<template>
    <StatusChip
        :value="text"
        label="engine"
        :tone="isOverloaded ? 'clips' : null"
        data-chip="load"
        :title="title"
        @click="screen.view = 'load'"
    />
</template>
