<script setup lang="ts">
import { computed, ref } from 'vue';
import type { SelectorRange } from '@/api/types';
import { followPointer } from '@/composables/followPointer';
import { newGesture } from '@/gesture';

/** A branch, and the part of the way from 0 to 1 that is its own; null is all of it. */
export interface Siding {
    id: string;
    name: string;
    range: SelectorRange | null;
    /** How far it is open now, 0 to 1. */
    open: number;
    /** Where on the line something goes through it now. */
    passes: number[];
}

/**
 * The branches of a split as sidings along a line from 0 to 1: each leaves the line where its range begins and comes back where it ends,
 * over the width of its fades. Its ends are dragged.
 */
const props = withDefaults(
    defineProps<{
        sidings: Siding[];
        picked: string | null;
        /** Where something stands on the line now. */
        places: number[];
        /** Steps of the line: ends lie on them. */
        steps: number;
        /** Width a range has at least. */
        least: number;
        /** Whether fades lie inside the range, or to both sides of its ends. */
        isInside?: boolean;
        /** Whether ends can be dragged off the ends of the line. */
        isFree?: boolean;
        marks?: { at: number; name: string }[];
        /** What an end is called, in its title. */
        said: (siding: Siding, end: 'from' | 'to') => string;
    }>(),
    { marks: () => [] },
);
const emit = defineEmits<{
    pick: [siding: string];
    /** Ranges of those that were dragged, by id. */
    move: [ranges: Record<string, SelectorRange>, gesture: string];
}>();

const WIDTH = 250;
const EDGE = 10;
const TRACK = 26;
/** Steepest way off the line, in pixels. */
const STEEP = 5;
/** Width of a letter of a name, in pixels. */
const LETTER = 6.5;
/** Ends nearer than this are one, and are moved together. */
const JOINED = 0.002;

const picture = ref<SVGSVGElement>();
/** Ranges while they are dragged, by id. */
const held = ref<Record<string, SelectorRange>>({});

const height = computed(() => props.sidings.length * TRACK + 34);
const line = computed(() => height.value - 18);
const x = (at: number) => EDGE + at * (WIDTH - 2 * EDGE);

const tracks = computed(() =>
    props.sidings.map((siding, index) => {
        const range = held.value[siding.id] ?? siding.range;
        const y = line.value - (index + 1) * TRACK;
        const way = wayOf(range, y);
        // A name stands over the middle of its range, as far as there is room for it.
        const half = Math.min(WIDTH, siding.name.length * LETTER) / 2;
        return { siding, y, ...way, nameAt: Math.min(WIDTH - half, Math.max(half, way.middle)) };
    }),
);

/** Where the turn at an end of a range has its middle. */
function turnOf(range: SelectorRange, end: 'from' | 'to'): number {
    const inside = props.isInside ? 0.5 : 0;
    return end === 'from' ? range.from + inside * range.fadeFrom : range.to - inside * range.fadeTo;
}

/** The way of a siding, and the middles of its two turns. */
function wayOf(given: SelectorRange | null, y: number) {
    const range = given ?? { from: 0, to: 1, fadeFrom: 0, fadeTo: 0 };
    const half = (fade: number) => Math.max(STEEP, (x(fade) - EDGE) / 2);
    const turn = (at: number, width: number, a: number, b: number) =>
        `${at - width} ${a} C${at} ${a} ${at} ${b} ${at + width} ${b}`;
    const isTurned = (end: 'from' | 'to') =>
        (end === 'from' ? range.from > 0 : range.to < 1) || (props.isInside === true && range[FADES[end]] > 0);
    const start = isTurned('from')
        ? `M${turn(x(turnOf(range, 'from')), half(range.fadeFrom), line.value, y)}`
        : `M${x(0)} ${y}`;
    const finish = isTurned('to')
        ? `L${turn(x(turnOf(range, 'to')), half(range.fadeTo), y, line.value)}`
        : `L${x(1)} ${y}`;
    return {
        way: `${start} ${finish}`,
        ends: (['from', 'to'] as const)
            .filter((end) => props.isFree || (given && isTurned(end)))
            .map((end) => ({ end, at: turnOf(range, end), y: isTurned(end) ? (y + line.value) / 2 : y })),
        middle: x((Math.max(0, range.from) + Math.min(1, range.to)) / 2),
    };
}

const FADES = { from: 'fadeFrom', to: 'fadeTo' } as const;

const onGrid = (at: number) => Math.round(Math.min(1, Math.max(0, at)) * props.steps) / props.steps;

/** Where on the line a pointer is. */
function placeOf(event: PointerEvent): number {
    const box = picture.value?.getBoundingClientRect();
    const at = box ? ((event.clientX - box.left) / box.width) * WIDTH : 0;
    return Math.min(1, Math.max(0, (at - EDGE) / (WIDTH - 2 * EDGE)));
}

/** The other ends that lie on an end, and not at an end of the line: they go with it. */
function joined(id: string, at: number): { id: string; end: 'from' | 'to'; range: SelectorRange }[] {
    if (at <= 0 || at >= 1) {
        return [];
    }
    return props.sidings.flatMap(({ id: other, range }) =>
        other === id || !range
            ? []
            : (['from', 'to'] as const)
                  .filter((end) => Math.abs(range[end] - at) < JOINED)
                  .map((end) => ({ id: other, end, range })),
    );
}

function dragged(range: SelectorRange, end: 'from' | 'to', at: number): SelectorRange {
    const to = end === 'from' ? Math.min(at, range.to - props.least) : Math.max(at, range.from + props.least);
    return { ...range, [end]: onGrid(to) };
}

function drag(event: PointerEvent, siding: Siding, end: 'from' | 'to'): void {
    if (event.button !== 0) {
        return;
    }
    event.preventDefault();
    emit('pick', siding.id);
    const gesture = newGesture();
    const range = siding.range ?? { from: 0, to: 1, fadeFrom: 0, fadeTo: 0 };
    const beside = turnOf(range, end) - range[end];
    const moving = [{ id: siding.id, end, range }, ...(event.altKey ? [] : joined(siding.id, range[end]))];
    followPointer(
        (pointer) => {
            held.value = Object.fromEntries(
                moving.map((one) => [one.id, dragged(one.range, one.end, onGrid(placeOf(pointer) - beside))]),
            );
            emit('move', held.value, gesture);
        },
        () => (held.value = {}),
    );
}

defineExpose({ placeOf });
</script>

<template>
    <svg ref="picture" class="ranges" :viewBox="`0 0 ${WIDTH} ${height}`" role="group">
        <line :x1="x(0)" :x2="x(1)" :y1="line" :y2="line" class="line" />
        <g v-for="mark in marks" :key="mark.name">
            <line :x1="x(mark.at)" :x2="x(mark.at)" :y1="line" :y2="line + 5" class="mark" />
            <text :x="x(mark.at)" :y="line + 16" class="said">{{ mark.name }}</text>
        </g>
        <slot name="ground" :line="line" :width="WIDTH" />
        <g
            v-for="track in tracks"
            :key="track.siding.id"
            class="track"
            :class="{ open: track.siding.open > 0, picked: picked === track.siding.id }"
            :style="{ '--open': track.siding.open }"
            :data-track="track.siding.id"
            @click="emit('pick', track.siding.id)"
        >
            <path :d="track.way" class="bed" />
            <path :d="track.way" class="way" />
            <circle
                v-for="place in track.siding.passes"
                :key="place"
                :cx="x(place)"
                :cy="track.y"
                :r="3 + 3 * track.siding.open"
                class="passes"
            />
        </g>
        <line v-for="place in places" :key="place" :x1="x(place)" :x2="x(place)" :y1="8" :y2="line" class="place" />
        <slot name="switch" :line="line" :x="x" />
        <template v-for="track in tracks" :key="`ends${track.siding.id}`">
            <circle
                v-for="end in track.ends"
                :key="end.end"
                class="edge"
                :cx="x(end.at)"
                :cy="end.y"
                r="5"
                :data-edge="`${track.siding.id}:${end.end}`"
                @pointerdown.stop="drag($event, track.siding, end.end)"
            >
                <title>
                    {{ said(track.siding, end.end) }}: drag it; with Alt it leaves those behind that lie on it
                </title>
            </circle>
        </template>
        <!-- Above all else, so that nothing goes through a name. -->
        <text
            v-for="track in tracks"
            :key="`name${track.siding.id}`"
            class="name"
            :class="{ open: track.siding.open > 0 || picked === track.siding.id }"
            :x="track.nameAt"
            :y="track.y - 7"
        >
            {{ track.siding.name }}
        </text>
    </svg>
</template>

<style scoped>
.ranges {
    display: block;
    width: 100%;
    touch-action: none;
    user-select: none;
}

.line {
    stroke: var(--contour);
    stroke-width: 3;
}

.track {
    cursor: pointer;
}

.bed {
    fill: none;
    stroke: transparent;
    stroke-width: 14;
}

.way {
    fill: none;
    stroke: var(--contour);
    stroke-width: 2;
    stroke-dasharray: 5 4;
}

.open .way {
    stroke: var(--water);
    stroke-width: calc(2px + 1.5px * var(--open));
    stroke-dasharray: none;
}

.picked .way {
    stroke: var(--deep);
}

.passes {
    fill: var(--deep);
}

text {
    font-size: 12px;
    fill: var(--soft);
    text-anchor: middle;
}

text.said {
    font-size: 11px;
}

text.name {
    stroke: var(--sheet);
    stroke-width: 4px;
    stroke-linejoin: round;
    paint-order: stroke;
    pointer-events: none;
}

text.name.open {
    fill: var(--ink);
}

.place {
    stroke: var(--deep);
    stroke-dasharray: 2 3;
    pointer-events: none;
}

.mark {
    stroke: var(--contour);
}

.edge {
    fill: var(--sheet);
    stroke: var(--soft);
    stroke-width: 1.5;
    cursor: ew-resize;
}

.edge:hover {
    fill: var(--deep);
    stroke: var(--deep);
}
</style>
