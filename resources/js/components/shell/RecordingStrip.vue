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
const named = (channels: string[]) => channels.map((id) => session.channel(id)?.name ?? id).join(', ');
const track = computed(() => named((listening.recording ?? []).map(({ channel }) => channel)));
/** Over, and not on its tracks yet. */
const placed = computed(() => named(session.state?.recorded ?? []));
/** The picture of each take, as high as it is loud. */
const pictures = computed(() =>
    Object.entries(listening.drawn).map(([channel, peaks]) => ({
        channel,
        path: peaks.map((peak, i) => `M${i + 0.5} ${9 - 8 * Math.min(1, peak)}V${9 + 8 * Math.min(1, peak)}`).join(''),
    })),
);
/** Said in the last hour. */
const minutes = computed(() => {
    const left = listening.recorded?.left ?? Infinity;
    return left < 3600 ? Math.floor(left / 60) : null;
});
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
        <svg
            v-for="{ channel, path } in pictures"
            :key="channel"
            class="drawn"
            viewBox="0 0 160 18"
            :data-drawn="channel"
            aria-hidden="true"
        >
            <path :d="path" />
        </svg>
        <span v-if="minutes !== null" class="room" data-minutes-left>{{ minutes }} min left on the disk</span>
        <button class="text-button" @click="listening.stopRecording()">Stop recording</button>
    </div>
    <div v-else-if="placed !== ''" class="strip" data-recorded role="status">
        Recorded, and being put on its track: {{ placed }}
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

.drawn {
    width: 160px;
    height: 18px;
}

.drawn path {
    stroke: var(--buoy);
    stroke-width: 1;
}

.room {
    color: var(--brass-text);
}

.over {
    color: var(--brass-text);
    font-weight: 600;
}
</style>
