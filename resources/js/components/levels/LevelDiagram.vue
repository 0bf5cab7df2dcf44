<script setup lang="ts">
import { computed, ref } from 'vue';
import type { Stage } from '@/api/types';
import { HEIGHT, LEFT, useLevelScale, useStations, type Station } from '@/composables/useLevelScale';
import { rules } from '@/rules';
import { decibels } from '@/format';
import { useHeadroom } from '@/stores/headroom';
import { useListening } from '@/stores/listening';
import LevelGrid from './LevelGrid.vue';
import LevelLegend from './LevelLegend.vue';

/** The stages of one path across, dBFS up: a band from average to peak, what each stage adds, and where it clips. */
const props = defineProps<{ channel: string }>();

const listening = useListening();
const headroom = useHeadroom();

const RIGHT = 34;
/** From the scale to the first stage. */
const INSET = 34;

const pointed = ref<number | null>(null);
const stationsOf = useStations();
const stages = computed(() => headroom.paths[props.channel] ?? []);
const stations = computed(() => stationsOf(stages.value, (index) => LEFT + INSET + index * step.value));
const { width, y, lines, aim, outline, top, lowest } = useLevelScale(() => stations.value);
const inner = computed(() => width.value - LEFT - INSET - RIGHT);
const step = computed(() => inner.value / Math.max(1, stages.value.length - 1));

const band = computed(() => `${outline(stations.value, 'peak')} ${outline([...stations.value].reverse(), 'average')}`);
const floors = computed(() => stations.value.filter((one) => one.floor !== null));
const detail = computed(() => {
    const about = pointed.value === null ? null : (stations.value[pointed.value] ?? null);
    if (!about) {
        return null;
    }
    const parts = [`peak ${decibels(about.peak, true)} dBFS`, `average ${decibels(about.average, true)} dBFS`];
    if (about.peak !== null) {
        parts.push(
            about.peak > rules().fullScale
                ? about.stage.above === 'clip'
                    ? `${about.overs} samples would clip here`
                    : `${about.overs} samples over, harmless in floating point`
                : `headroom ${decibels(-about.peak)} dB`,
            `to the aim ${decibels(aim.value - about.peak, true)} dB`,
        );
    }
    if (about.gain !== null) {
        parts.push(`stage ${decibels(about.gain, true)} dB`);
    }
    if (about.floor !== null) {
        parts.push(`noise floor ${decibels(about.floor, true)} dBFS`);
    }
    return { name: about.stage.label, text: parts.join(' · ') };
});

/** Height of the figure of a station. */
const figureAt = (one: Station) => y(one.peak ?? lowest) + (isUnderCeiling(one) ? 20 : -10);
/** Between two stations, where the aim is written farthest from their figures. */
const aimAt = computed(() => {
    const line = y(aim.value) - 4;
    const free = stations.value.slice(1).map((one, index) => {
        const before = stations.value[index] as Station;
        const nearest = Math.min(Math.abs(figureAt(before) - line), Math.abs(figureAt(one) - line));
        return { at: (before.at + one.at) / 2 - 26, room: Math.min(24, nearest) };
    });
    return free.reduce((best, one) => (one.room > best.room ? one : best), { at: LEFT + INSET + 12, room: -1 }).at;
});

/** Whether the figure above a station would lie on the line of full scale. */
const isUnderCeiling = (one: Station) => one.peak !== null && one.peak < 0 && one.peak > -5.5;
const isCrowded = computed(() => step.value < 86);
/** The label of a stage, or of an effect its short name where that is too long. */
const labelOf = (stage: Stage) =>
    stage.label.length * 7.2 > (isCrowded.value ? 2 : 1) * step.value - 6 && stage.short ? stage.short : stage.label;

function listenAt(station: Station): void {
    listening.listenAt(station.stage.tap);
}
</script>

<template>
    <div ref="box" class="diagram">
        <svg :viewBox="`0 0 ${width} ${HEIGHT}`" :height="HEIGHT" role="group" aria-label="Level diagram">
            <rect
                v-if="pointed !== null && stations[pointed]"
                class="highlight"
                :x="(stations[pointed]?.at ?? 0) - step / 2"
                :y="top - 20"
                :width="step"
                :height="HEIGHT - top + 20"
            />
            <polygon :points="band" class="band" />
            <LevelGrid
                :width="width"
                :y="y"
                :lines="lines"
                :aim="aim"
                :scale-at="LEFT + INSET + Math.min(60, step / 3)"
                :aim-at="aimAt"
            />
            <polyline :points="outline(stations, 'average')" class="average" />
            <polyline v-if="floors.length > 1" :points="outline(floors, 'floor')" class="floor" data-noise-floor />
            <text v-if="floors.length > 1" :x="floors[0]?.at" :y="y(floors[0]?.floor ?? 0) + 14" class="note start">
                noise floor
            </text>
            <polyline :points="outline(stations, 'peak')" class="peak" />
            <text :x="LEFT - 10" :y="HEIGHT - 7" class="note">adds</text>
            <g
                v-for="(one, index) in stations"
                :key="index"
                class="station"
                :class="[
                    one.mark,
                    { dependent: one.stage.levelDependent, here: listening.listeningAt === one.stage.tap },
                ]"
                tabindex="0"
                role="button"
                :aria-label="`${one.stage.label}: peak ${decibels(one.peak, true)} dBFS. Listen here`"
                :data-stage="one.stage.tap"
                :data-mark="one.mark"
                @pointerenter="pointed = index"
                @pointerleave="pointed = null"
                @focus="pointed = index"
                @blur="pointed = null"
                @click="listenAt(one)"
                @keydown.enter.prevent="listenAt(one)"
            >
                <rect class="hit" :x="one.at - step / 2" :y="top - 20" :width="step" :height="HEIGHT - top + 20" />
                <rect
                    v-if="one.stage.above === 'clip'"
                    class="ceiling"
                    :x="one.at - Math.min(22, step / 2)"
                    :y="y(0) - 2"
                    :width="Math.min(44, step)"
                    height="4"
                />
                <rect
                    v-if="one.mark === 'clip'"
                    class="mark"
                    :x="one.at - 5.5"
                    :y="y(one.peak ?? lowest) - 5.5"
                    width="11"
                    height="11"
                />
                <circle v-else class="mark" :cx="one.at" :cy="y(one.peak ?? lowest)" r="5" />
                <text class="figure level" :x="one.at" :y="figureAt(one)">
                    {{ decibels(one.peak, true) }}
                </text>
                <text class="label" :x="one.at" :y="HEIGHT - 40 + (isCrowded && index % 2 === 1 ? 15 : 0)">
                    {{ labelOf(one.stage) }}
                </text>
                <text v-if="one.gain !== null" class="figure gain" :x="one.at" :y="HEIGHT - 7" data-gain>
                    {{ decibels(one.gain, true) }}
                </text>
            </g>
        </svg>
        <p class="detail" aria-live="polite">
            <template v-if="detail"
                ><strong>{{ detail.name }}</strong> <span class="figure">{{ detail.text }}</span></template
            >
            <LevelLegend v-else one-path />
        </p>
    </div>
</template>

<style scoped src="./diagram.css"></style>
<style scoped>
text {
    font-size: 12px;
    fill: var(--ink);
    text-anchor: middle;
}

.note {
    fill: var(--soft);
    text-anchor: end;
}

.gain {
    fill: var(--soft);
}

.band {
    fill: var(--shoal);
    opacity: 0.55;
}

.peak,
.average,
.floor {
    fill: none;
    stroke-linejoin: round;
}

.peak {
    stroke: var(--deep);
    stroke-width: 2.6;
}

.average {
    stroke: var(--water);
    stroke-width: 1.5;
}

.floor {
    stroke: var(--soft);
    stroke-dasharray: 2 4;
}

.station {
    cursor: pointer;
}

.hit {
    fill: transparent;
}

.highlight {
    fill: var(--shoal-wash);
}

.mark {
    fill: var(--sheet);
    stroke: var(--deep);
    stroke-width: 2.4;
}

.dependent .mark {
    stroke: var(--brass);
}

.dependent .label {
    fill: var(--brass-text);
}

.here .mark {
    stroke-width: 4;
}

.over .mark {
    fill: var(--brass);
    stroke: var(--brass);
}

.over .level {
    fill: var(--brass-text);
}

.clip .mark {
    fill: var(--buoy);
    stroke: var(--buoy);
}

.clip .level {
    fill: var(--buoy-text);
    font-weight: 600;
}

.ceiling {
    fill: var(--buoy);
}

.detail .figure {
    margin-left: 8px;
    font-size: 12px;
}
</style>
