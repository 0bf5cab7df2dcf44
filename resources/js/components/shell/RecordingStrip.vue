<script setup lang="ts">
import { computed } from 'vue';
import { clock, decibels } from '@/format';
import { rules } from '@/rules';
import { useListening } from '@/stores/listening';
import { useSession } from '@/stores/session';

/** What is being recorded, how long and how loud; with a stop. */
const session = useSession();
const listening = useListening();

const rate = computed(() => session.document?.sampleRate ?? 48000);
const track = computed(() =>
    (listening.recording ?? []).map(({ channel }) => session.channel(channel)?.name ?? channel).join(', '),
);
const isOver = computed(() => (listening.recorded?.peak ?? -Infinity) > rules().fullScale);
</script>

<template>
    <div v-if="listening.recording" class="strip" data-recording role="status">
        <span class="dot" aria-hidden="true" />
        <span>Recording on {{ track }}</span>
        <span class="figure">{{ clock((listening.recorded?.seconds ?? 0) * rate, rate) }}</span>
        <span class="figure" :class="{ over: isOver }"
            >peak {{ decibels(listening.recorded?.peak, true) }} dBFS{{ isOver ? ', over' : '' }}</span
        >
        <button class="text-button" @click="listening.stopRecording()">Stop recording</button>
    </div>
</template>

<style scoped src="./strip.css"></style>

<style scoped>
.dot {
    width: 10px;
    height: 10px;
    border-radius: 50%;
    background: var(--buoy);
}

.over {
    color: var(--brass-text);
    font-weight: 600;
}
</style>
