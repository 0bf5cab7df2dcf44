<script setup lang="ts">
import { computed } from 'vue';
import { decibels, depth } from '@/format';
import { useListening } from '@/stores/listening';
import { useSurvey } from '@/stores/survey';

/** A tap on the line: its level above, a press listens there. */
const props = defineProps<{ tap: string; name: string; fixedPoint?: boolean }>();

const listening = useListening();
const survey = useSurvey();

const level = computed(() => listening.level(props.tap));
const isClipped = computed(() => Boolean(props.fixedPoint) && (level.value?.overs ?? 0) > 0);
const deep = computed(() => depth(level.value?.peak));
const isHeard = computed(() => listening.listeningAt === props.tap);
const isStale = computed(() => !listening.isPlaying && survey.isStale(props.tap));
const text = computed(() => (level.value ? decibels(level.value.peak, true) : '·'));
const title = computed(() => {
    const reading = level.value;
    if (!reading) {
        return `${props.name}: not measured yet. Press to listen here.`;
    }
    const about = isClipped.value
        ? ` ${reading.overs} samples clip here.`
        : reading.overs > 0
          ? ` ${reading.overs} samples over 0 dBFS, harmless here.`
          : '';
    const soFar = survey.isSoFar(props.tap) && !listening.isPlaying ? ' up to where it is measured' : '';
    return `${props.name}: peak ${decibels(reading.peak)} dBFS, RMS ${decibels(reading.rms)} dBFS${soFar}.${about} Press to listen here.`;
});
</script>

<template>
    <button
        class="station plain"
        :class="[deep, { heard: isHeard, clipped: isClipped, stale: isStale }]"
        :data-tap="tap"
        :data-level="level ? (level.peak ?? 'silence') : ''"
        :title="title"
        :aria-label="title"
        :aria-pressed="isHeard"
        @click.stop="listening.listenAt(isHeard ? null : tap)"
    >
        <span class="level figure">{{ text }}</span>
        <span class="mark" />
    </button>
</template>

<style scoped>
.station {
    position: relative;
    width: 100%;
    height: 100%;
    text-align: center;
}

.level {
    position: absolute;
    left: -8px;
    right: -8px;
    top: 1px;
    font-size: 12px;
    letter-spacing: -0.02em;
}

.compact .level {
    top: -3px;
}

.compact .mark {
    width: 10px;
    height: 10px;
}

.stale .level {
    color: var(--soft);
    font-style: italic;
}

.mark {
    position: absolute;
    left: 50%;
    top: var(--axis, 50%);
    width: 11px;
    height: 11px;
    transform: translate(-50%, -50%);
    border: 3px solid var(--water);
    border-radius: 50%;
    background: var(--ground);
}

.none .mark {
    border-color: var(--contour);
}

.shoal .mark {
    border-color: var(--shoal);
}

.deep .mark {
    border-color: var(--deep);
}

.brass .mark {
    border-color: var(--brass);
}

.over .mark {
    border-color: var(--brass);
    background: var(--brass);
}

.clipped .mark {
    border-color: var(--buoy);
    border-radius: 1px;
    background: var(--buoy);
}

.brass .level,
.over .level {
    color: var(--brass-text);
}

.clipped .level {
    color: var(--buoy-text);
    font-weight: 500;
}

.heard .mark {
    outline: 2px solid var(--plum);
    outline-offset: 2px;
}
</style>
