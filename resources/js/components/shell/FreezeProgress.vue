<script setup lang="ts">
import { computed } from 'vue';
import { useFreezes } from '@/stores/freezes';
import { useListening } from '@/stores/listening';

/** How far the freezes or prints are that are being made, with a stop. */
const freezes = useFreezes();
const listening = useListening();

const names = computed(() => {
    const all = freezes.batch?.channels.map((one) => one.name) ?? [];
    return all.length > 3 ? `${all.slice(0, 2).join(', ')} and ${all.length - 2} more` : all.join(', ');
});
const left = computed(() => {
    const seconds = freezes.batch?.secondsLeft ?? null;
    return listening.isPlaying
        ? 'playing comes first'
        : seconds === null
          ? ''
          : `about ${Math.max(1, Math.round(seconds))} s left`;
});
</script>

<template>
    <div v-if="freezes.isRunning" class="strip" data-freeze-progress role="status">
        <span>{{ freezes.batch?.kind === 'freeze' ? 'Freezing' : 'Printing' }} {{ names }}</span>
        <span class="rail"><i :style="{ width: `${(freezes.batch?.progress ?? 0) * 100}%` }" /></span>
        <span class="figure">{{ Math.round((freezes.batch?.progress ?? 0) * 100) }} %</span>
        <span class="soft">{{ left }}</span>
        <button class="text-button" @click="freezes.stop()">Stop</button>
    </div>
</template>

<style scoped src="./strip.css"></style>

<style scoped>
.rail {
    flex: 1;
    max-width: 320px;
    height: 6px;
    border-radius: 3px;
    background: var(--shoal-wash);
}

.rail i {
    display: block;
    height: 100%;
    border-radius: 3px;
    background: var(--water);
}
</style>
