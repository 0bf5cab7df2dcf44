<script setup lang="ts">
import { computed, ref } from 'vue';
import type { Stage } from '@/api/types';
import { LEFT, useLevelScale, useStations } from '@/composables/useLevelScale';
import { useHeadroom } from '@/stores/headroom';
import { useSession } from '@/stores/session';
import LevelGrid from './LevelGrid.vue';
import LevelLegend from './LevelLegend.vue';

/** Peaks of all paths that make a sound, each with its channel's name where it begins. */
const emit = defineEmits<{ choose: [channel: string] }>();

const session = useSession();
const headroom = useHeadroom();

const RIGHT = 34;
/** From the scale to the sources: room for the names. */
const INSET = 118;
/** Least distance of two names, and how many there is room for: of more paths the loudest have theirs. */
const LINE = 13;
const MOST_NAMES = 30;
/** A channel's own stages, what is between, and the main have their parts of the width. */
const PARTS: [number, number][] = [
    [0, 0.48],
    [0.52, 0.7],
    [0.74, 1],
];

const pointed = ref<string | null>(null);
const stationsOf = useStations();
const inner = computed(() => width.value - LEFT - INSET - RIGHT);
const paths = computed(() =>
    session.channels
        .filter((channel) => channel.kind !== 'main')
        .map((channel) => {
            const stages = headroom.paths[channel.id] ?? [];
            const part = (stage: Stage) =>
                stage.channel === channel.id ? 0 : stage.channel === session.main?.id ? 2 : 1;
            const counts = [0, 1, 2].map((wanted) => stages.filter((stage) => part(stage) === wanted).length);
            const seen = [0, 0, 0];
            const found = stationsOf(stages, (index) => {
                const where = part(stages[index] as Stage);
                const [from, to] = PARTS[where] ?? [0, 1];
                const count = counts[where] ?? 1;
                const share = count > 1 ? (seen[where] ?? 0) / (count - 1) : 0.5;
                seen[where] = (seen[where] ?? 0) + 1;
                return LEFT + INSET + inner.value * (from + share * (to - from));
            });
            return { channel, stations: found.filter((station) => station.peak !== null) };
        })
        .filter((path) => path.stations.length > 0),
);
const named = computed(() =>
    [...paths.value]
        .sort((one, two) => (two.stations[0]?.peak ?? lowest) - (one.stations[0]?.peak ?? lowest))
        .slice(0, MOST_NAMES),
);
const { width, height, y, lines, aim, outline, top, lowest } = useLevelScale(
    () => paths.value.flatMap((path) => path.stations),
    () => Math.min(paths.value.length, MOST_NAMES) * LINE - 20,
);

/** Names beside the first station of each path, moved apart where they would lie on each other. */
const names = computed(() => {
    const bottom = y(lowest);
    const wanted = named.value
        .map((path) => ({
            channel: path.channel,
            x: path.stations[0]?.at ?? 0,
            at: y(path.stations[0]?.peak ?? lowest),
            y: 0,
        }))
        .sort((one, two) => one.at - two.at);
    const gap = Math.min(LINE, (bottom - top + 20) / Math.max(1, wanted.length));
    let last = top - 20;
    for (const one of wanted) {
        one.y = last = Math.max(one.at, last + gap);
    }
    // What ran over the end moves up again.
    let next = bottom + 10;
    for (const one of [...wanted].reverse()) {
        one.y = Math.min(one.y, next);
        next = one.y - gap;
    }
    return wanted;
});
</script>

<template>
    <div ref="box" class="diagram">
        <svg :viewBox="`0 0 ${width} ${height}`" :height="height" role="group" aria-label="Level diagram">
            <LevelGrid
                :width="width"
                :y="y"
                :lines="lines"
                :aim="aim"
                :from="LEFT + INSET - 8"
                :scale-at="LEFT + INSET + inner * 0.5"
                :aim-at="LEFT + INSET + inner * 0.86"
            />
            <text :x="LEFT + INSET" :y="height - 40" class="start">sources</text>
            <text :x="LEFT + INSET + inner * 0.48" :y="height - 40" class="end">after their faders</text>
            <text :x="LEFT + INSET + inner * 0.61" :y="height - 40">groups and returns</text>
            <text :x="LEFT + INSET + inner" :y="height - 40" class="end">{{ session.main?.name }}</text>
            <g
                v-for="path in paths"
                :key="path.channel.id"
                class="one"
                :class="[
                    path.channel.kind,
                    {
                        pointed: pointed === path.channel.id,
                        aside: pointed !== null && pointed !== path.channel.id,
                    },
                ]"
                tabindex="0"
                role="button"
                :aria-label="`${path.channel.name}. Show its path`"
                :data-path="path.channel.id"
                @pointerenter="pointed = path.channel.id"
                @pointerleave="pointed = null"
                @focus="pointed = path.channel.id"
                @blur="pointed = null"
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
                        :y="y(one.peak ?? lowest) - 4.5"
                        width="9"
                        height="9"
                    />
                    <circle
                        v-else-if="one.mark === 'over'"
                        class="over-mark"
                        :cx="one.at"
                        :cy="y(one.peak ?? lowest)"
                        r="4"
                    />
                </template>
            </g>
            <g
                v-for="name in names"
                :key="name.channel.id"
                class="name"
                :class="{ pointed: pointed === name.channel.id }"
                :data-path-name="name.channel.id"
                @pointerenter="pointed = name.channel.id"
                @pointerleave="pointed = null"
                @click="emit('choose', name.channel.id)"
            >
                <line :x1="name.x - 14" :x2="name.x - 2" :y1="name.y" :y2="name.at" />
                <text :x="name.x - 18" :y="name.y + 4">{{ name.channel.name }}</text>
            </g>
        </svg>
        <p class="detail" aria-live="polite">
            <template v-if="pointed"
                ><strong>{{ session.channel(pointed)?.name }}</strong>
                <span class="soft">press to see its path alone</span></template
            >
            <template v-else
                ><LevelLegend :one-path="false" /><span v-if="paths.length > named.length" class="soft"
                    >The {{ named.length }} loudest of {{ paths.length }} are named; point at a line for its name.</span
                ></template
            >
        </p>
    </div>
</template>

<style scoped src="./diagram.css"></style>
<style scoped>
.detail {
    display: flex;
    gap: 20px;
}

text {
    font-size: 12px;
    fill: var(--soft);
    text-anchor: middle;
}

.end {
    text-anchor: end;
}

.peak {
    fill: none;
    stroke: var(--deep);
    stroke-linejoin: round;
}

.over-mark {
    fill: var(--brass);
    stroke: var(--brass);
}

.clip-mark {
    fill: var(--buoy);
    stroke: var(--buoy);
}

.one,
.name {
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

.name text {
    text-anchor: end;
}

.name line {
    stroke: var(--contour);
}

.name.pointed text {
    font-weight: 600;
    fill: var(--ink);
}
</style>
