<script setup lang="ts">
import { computed, onMounted, onUnmounted, ref } from 'vue';
import type { Stage, SurveyedTap } from '@/api/types';
import { decibels } from '@/format';
import { useHeadroom } from '@/stores/headroom';
import { useListening } from '@/stores/listening';
import { useSession } from '@/stores/session';

/** Stages of a path across, dBFS up: a band from average to peak; of all paths, their peaks. */
const props = defineProps<{ channel: string }>();
const emit = defineEmits<{ choose: [channel: string] }>();

const session = useSession();
const listening = useListening();
const headroom = useHeadroom();

const HEIGHT = 274;
const TOP = 26;
const BOTTOM = 60;
const LEFT = 56;
const RIGHT = 34;
/** From the scale to the first stage. */
const INSET = 34;
const LOWEST = -60;

interface Station {
    stage: Stage;
    at: number;
    peak: number | null;
    average: number | null;
    floor: number | null;
    overs: number;
    /** dB of average level the stage adds. */
    gain: number | null;
    mark: 'clip' | 'over' | 'plain';
}

const box = ref<HTMLElement>();
const width = ref(940);
const pointed = ref<number | null>(null);
const pointedPath = ref<string | null>(null);
const observer = new ResizeObserver((entries) => (width.value = Math.max(420, entries[0]?.contentRect.width ?? 940)));

onMounted(() => box.value && observer.observe(box.value));
onUnmounted(() => observer.disconnect());

const shifted = (level: number | null | undefined, by: number) =>
    level === null || level === undefined ? null : level + by;

function stationsOf(stages: Stage[], place: (index: number) => number): Station[] {
    let before: number | null = null;
    return stages.map((stage, index) => {
        const level = headroom.level(stage.tap);
        const surveyed: SurveyedTap | undefined = headroom.result?.taps[stage.tap];
        const peak = shifted(level?.peak, stage.offset);
        const average = shifted(level?.rms, stage.offset);
        const floor = shifted(surveyed?.floor, stage.offset);
        const clipped = index === 0 ? (headroom.result?.channels[stage.channel]?.clipped ?? []).length > 0 : false;
        const gain = before === null || average === null ? null : average - before;
        before = average;
        return {
            stage,
            at: place(index),
            peak,
            average,
            floor,
            overs: peak !== null && peak > 0 ? (level?.overs ?? 0) : 0,
            gain,
            mark: clipped || (stage.fixed && (peak ?? -1) > 0) ? 'clip' : (peak ?? -1) > 0 ? 'over' : 'plain',
        };
    });
}

const inner = computed(() => width.value - LEFT - INSET - RIGHT);
const stages = computed(() => headroom.paths[props.channel] ?? []);
const stations = computed(() => {
    const step = inner.value / Math.max(1, stages.value.length - 1);
    return stationsOf(stages.value, (index) => LEFT + INSET + index * step);
});
const step = computed(() => inner.value / Math.max(1, stages.value.length - 1));

/** Peaks of all paths that make a sound; a channel's own stages, what is between, and the main have their parts of the width. */
const overlaid = computed(() => {
    if (props.channel !== '') {
        return [];
    }
    const main = session.main?.id;
    return session.channels
        .filter((channel) => channel.kind !== 'main')
        .map((channel) => {
            const list = headroom.paths[channel.id] ?? [];
            const part = (stage: Stage) => (stage.channel === channel.id ? 0 : stage.channel === main ? 2 : 1);
            const bounds = [0, 0.48, 0.52, 0.7, 0.74, 1];
            const counts = [0, 1, 2].map((wanted) => list.filter((stage) => part(stage) === wanted).length);
            const seen = [0, 0, 0];
            const found = stationsOf(list, (index) => {
                const where = part(list[index] as Stage);
                const [from = 0, to = 1] = bounds.slice(2 * where, 2 * where + 2);
                const share = (counts[where] ?? 1) > 1 ? (seen[where] ?? 0) / ((counts[where] ?? 2) - 1) : 0.5;
                seen[where] = (seen[where] ?? 0) + 1;
                return LEFT + INSET + inner.value * (from + share * (to - from));
            });
            return { channel, stations: found.filter((station) => station.peak !== null) };
        })
        .filter((path) => path.stations.length > 0);
});

const everything = computed(() =>
    props.channel === '' ? overlaid.value.flatMap((path) => path.stations) : stations.value,
);
const highest = computed(() =>
    Math.max(6, Math.ceil(Math.max(...everything.value.map((one) => one.peak ?? 0)) / 6) * 6),
);
const y = (level: number) =>
    TOP + ((highest.value - Math.max(LOWEST, level)) / (highest.value - LOWEST)) * (HEIGHT - TOP - BOTTOM);
const lines = computed(() => {
    const found = [];
    for (let level = highest.value; level >= LOWEST; level -= level > -12 ? 6 : 12) {
        found.push(level);
    }
    return found;
});
const aim = computed(() => (headroom.aim.figure === 'loudness' ? -6 : headroom.aim.level));

function outline(list: Station[], figure: 'peak' | 'average' | 'floor'): string {
    return list.map((one) => `${one.at.toFixed(1)},${y(one[figure] ?? LOWEST).toFixed(1)}`).join(' ');
}

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
            about.peak > 0
                ? about.stage.fixed
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

/** Whether the figure above a station would lie on the line of full scale. */
const isUnderCeiling = (one: Station) => one.peak !== null && one.peak < 0 && one.peak > -5.5;
const isCrowded = computed(() => step.value < 86);
const short = (text: string) => {
    const most = Math.max(6, Math.floor((isCrowded.value ? 2 : 1) * (step.value / 7.2)) - 1);
    return text.length > most ? `${text.slice(0, most - 1)}…` : text;
};

function listenAt(station: Station): void {
    listening.listenAt(station.stage.tap);
}
</script>

<template>
    <div ref="box" class="diagram">
        <svg :viewBox="`0 0 ${width} ${HEIGHT}`" :height="HEIGHT" role="group" aria-label="Level diagram">
            <g v-for="level in lines" :key="level">
                <line
                    :x1="LEFT"
                    :x2="width - 12"
                    :y1="y(level)"
                    :y2="y(level)"
                    :class="level === 0 ? 'full-scale' : 'grid'"
                />
                <text :x="LEFT - 10" :y="y(level) + 4" class="axis figure">
                    {{ (level > 0 ? '+' : '') + String(level).replace('-', '−') }}
                </text>
            </g>
            <line :x1="LEFT" :x2="width - 12" :y1="y(aim)" :y2="y(aim)" class="aim" />
            <text :x="LEFT + INSET + Math.min(60, step / 3)" :y="y(aim) - 4" class="note start aim-text">
                aim {{ decibels(aim) }}
            </text>
            <text :x="LEFT + INSET + Math.min(60, step / 3)" :y="y(0) - 5" class="note start">0 dBFS</text>

            <template v-if="props.channel !== ''">
                <polygon :points="band" class="band" />
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
                    <rect class="hit" :x="one.at - step / 2" :y="TOP - 20" :width="step" :height="HEIGHT - TOP + 20" />
                    <rect
                        v-if="one.stage.fixed"
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
                        :y="y(one.peak ?? LOWEST) - 5.5"
                        width="11"
                        height="11"
                    />
                    <circle v-else class="mark" :cx="one.at" :cy="y(one.peak ?? LOWEST)" r="5" />
                    <text
                        class="figure level"
                        :x="one.at"
                        :y="y(one.peak ?? LOWEST) + (isUnderCeiling(one) ? 20 : -10)"
                    >
                        {{ decibels(one.peak, true) }}
                    </text>
                    <text class="label" :x="one.at" :y="HEIGHT - 40 + (isCrowded && index % 2 === 1 ? 15 : 0)">
                        {{ short(one.stage.label) }}
                    </text>
                    <text v-if="one.gain !== null" class="figure gain" :x="one.at" :y="HEIGHT - 7" data-gain>
                        {{ decibels(one.gain, true) }}
                    </text>
                </g>
            </template>

            <template v-else>
                <text :x="LEFT" :y="HEIGHT - 40" class="note start">sources</text>
                <text :x="LEFT + INSET + inner * 0.48" :y="HEIGHT - 40" class="note">after their faders</text>
                <text :x="LEFT + INSET + inner * 0.61" :y="HEIGHT - 40" class="note middle">groups and returns</text>
                <text :x="LEFT + INSET + inner" :y="HEIGHT - 40" class="note">{{ session.main?.name }}</text>
                <g
                    v-for="path in overlaid"
                    :key="path.channel.id"
                    class="one"
                    :class="[
                        path.channel.kind,
                        {
                            pointed: pointedPath === path.channel.id,
                            aside: pointedPath !== null && pointedPath !== path.channel.id,
                        },
                    ]"
                    tabindex="0"
                    role="button"
                    :aria-label="`${path.channel.name}. Show its path`"
                    :data-path="path.channel.id"
                    @pointerenter="pointedPath = path.channel.id"
                    @pointerleave="pointedPath = null"
                    @focus="pointedPath = path.channel.id"
                    @blur="pointedPath = null"
                    @click="emit('choose', path.channel.id)"
                    @keydown.enter.prevent="emit('choose', path.channel.id)"
                >
                    <polyline :points="outline(path.stations, 'peak')" class="wide" />
                    <polyline :points="outline(path.stations, 'peak')" class="peak" />
                    <template v-for="(one, index) in path.stations" :key="index">
                        <rect
                            v-if="one.mark === 'clip'"
                            class="clip-mark"
                            :x="one.at - 4.5"
                            :y="y(one.peak ?? LOWEST) - 4.5"
                            width="9"
                            height="9"
                        />
                        <circle
                            v-else-if="one.mark === 'over'"
                            class="over-mark"
                            :cx="one.at"
                            :cy="y(one.peak ?? LOWEST)"
                            r="4"
                        />
                    </template>
                </g>
            </template>
        </svg>
        <p class="detail" aria-live="polite">
            <template v-if="detail"
                ><strong>{{ detail.name }}</strong> <span class="figure">{{ detail.text }}</span></template
            >
            <template v-else-if="pointedPath"
                ><strong>{{ session.channel(pointedPath)?.name }}</strong>
                <span class="soft">press to see its path alone</span></template
            >
            <span v-else class="legend">
                <span v-if="props.channel !== ''"><i class="dot brass-ring" /> level-dependent</span>
                <span><i class="dot brass-dot" /> over, harmless in floating point</span>
                <span><i class="dot buoy-square" /> clips</span>
                <span v-if="props.channel !== ''"><i class="bar" /> fixed point: nothing above</span>
            </span>
        </p>
    </div>
</template>

<style scoped>
.diagram {
    padding: 0 4px 0 0;
}

svg {
    display: block;
    width: 100%;
}

text {
    font-size: 12px;
    fill: var(--ink);
    text-anchor: middle;
}

.axis {
    font-size: 12px;
    fill: var(--soft);
    text-anchor: end;
}

.note {
    fill: var(--soft);
    text-anchor: end;
}

.middle {
    text-anchor: middle;
}

.start {
    text-anchor: start;
}

.gain {
    fill: var(--soft);
}

.grid {
    stroke: var(--contour);
}

.full-scale {
    stroke: var(--ink);
    stroke-width: 1.4;
}

.aim {
    stroke: var(--deep);
    stroke-dasharray: 5 5;
}

.aim-text {
    fill: var(--deep);
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

.station:hover .hit {
    fill: var(--shoal-wash);
    opacity: 0.6;
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

.over .mark,
.over-mark {
    fill: var(--brass);
    stroke: var(--brass);
}

.over .level {
    fill: var(--brass-text);
}

.clip .mark,
.clip-mark {
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

.one {
    cursor: pointer;
}

.one .peak {
    stroke-width: 1.5;
    opacity: 0.75;
}

.one.return .peak {
    stroke: var(--water);
    stroke-dasharray: 7 3;
}

.one.cue .peak {
    stroke: var(--plum);
}

.one .wide {
    fill: none;
    stroke: transparent;
    stroke-width: 12;
}

.one.pointed .peak {
    stroke-width: 3.4;
    opacity: 1;
}

.one.aside .peak {
    opacity: 0.25;
}

.detail {
    height: 20px;
    margin: 0 16px 8px 56px;
    overflow: hidden;
    white-space: nowrap;
    text-overflow: ellipsis;
}

.detail .figure {
    margin-left: 8px;
    font-size: 12px;
}

.legend {
    display: flex;
    gap: 20px;
    color: var(--soft);
}

.legend i {
    display: inline-block;
    width: 9px;
    height: 9px;
    margin-right: 3px;
    border-radius: 50%;
}

.legend .brass-ring {
    border: 2px solid var(--brass);
}

.legend .brass-dot {
    background: var(--brass);
}

.legend .buoy-square {
    border-radius: 0;
    background: var(--buoy);
}

.legend .bar {
    width: 18px;
    height: 4px;
    border-radius: 0;
    background: var(--buoy);
    vertical-align: middle;
}
</style>
