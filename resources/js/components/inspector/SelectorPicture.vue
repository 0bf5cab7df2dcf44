<script setup lang="ts">
import { computed, ref } from 'vue';
import type { Edit } from '@/api/edits';
import type { Branch, Channel, SelectorRange, Split } from '@/api/types';
import { followPointer } from '@/composables/followPointer';
import { useSelectorPlace } from '@/composables/useSelectorPlace';
import { newGesture } from '@/gesture';
import { useSession } from '@/stores/session';

/**
 * The branches of a split as sidings along the way of its selector: each leaves the line where its range begins and comes back where it
 * ends, over the width of its fades. The switch stands where the selector stands.
 */
const props = defineProps<{ channel: Channel; split: Split; picked: string | null }>();
const emit = defineEmits<{ pick: [branch: string] }>();

const session = useSession();
const { place, isMoved, opening } = useSelectorPlace(
    () => props.channel,
    () => props.split,
);

const WIDTH = 300;
const EDGE = 10;
const TRACK = 26;
/** Steepest way off the line, in pixels. */
const STEEP = 5;
/** Edges nearer than this are one, and are moved together. */
const JOINED = 0.002;

const picture = ref<SVGSVGElement>();
/** Ranges while they are dragged, by branch. */
const held = ref<Record<string, SelectorRange>>({});
/** Where the switch is dragged to. */
const turned = ref<number | null>(null);

const height = computed(() => props.split.branches.length * TRACK + 34);
const line = computed(() => height.value - 18);
const stands = computed(() => turned.value ?? place.value);
const x = (at: number) => EDGE + at * (WIDTH - 2 * EDGE);

const tracks = computed(() =>
    props.split.branches.map((branch, index) => {
        const range = held.value[branch.id] ?? branch.range ?? null;
        const y = line.value - (index + 1) * TRACK;
        return { branch, range, y, open: opening(index), ...wayOf(range, y) };
    }),
);

/** The way of a siding, and the middles of its two turns. */
function wayOf(range: SelectorRange | null, y: number) {
    const from = range?.from ?? 0;
    const to = range?.to ?? 1;
    const out = Math.max(STEEP, (x(range?.fadeFrom ?? 0) - EDGE) / 2);
    const back = Math.max(STEEP, (x(range?.fadeTo ?? 0) - EDGE) / 2);
    const turn = (at: number, half: number, a: number, b: number) =>
        `${at - half} ${a} C${at} ${a} ${at} ${b} ${at + half} ${b}`;
    const start = from <= 0 ? `M${x(0)} ${y}` : `M${turn(x(from), out, line.value, y)}`;
    const end = to >= 1 ? `L${x(1)} ${y}` : `L${turn(x(to), back, y, line.value)}`;
    return {
        way: `${start} ${end}`,
        edges: [
            { key: 'from' as const, at: from, is: from > 0 },
            { key: 'to' as const, at: to, is: to < 1 },
        ].filter((edge) => range && edge.is),
        middle: (Math.max(0, from) + Math.min(1, to)) / 2,
    };
}

function placeOf(event: PointerEvent): number {
    const box = picture.value?.getBoundingClientRect();
    const at = box ? ((event.clientX - box.left) / box.width) * WIDTH : 0;
    return Math.round(Math.min(1, Math.max(0, (at - EDGE) / (WIDTH - 2 * EDGE))) * 1000) / 1000;
}

function turn(event: PointerEvent): void {
    if (event.button !== 0) {
        return;
    }
    event.preventDefault();
    const gesture = newGesture();
    const to = (at: PointerEvent) => {
        turned.value = placeOf(at);
        void session.edit({ type: 'turn-selector', split: props.split.id, value: turned.value }, gesture);
    };
    to(event);
    followPointer(to, () => (turned.value = null));
}

/** The other edges that lie on an edge: they go with it. */
function joined(branch: Branch, at: number): { branch: Branch; key: 'from' | 'to' }[] {
    return props.split.branches.flatMap((other) =>
        other.id === branch.id || !other.range
            ? []
            : (['from', 'to'] as const)
                  .filter((key) => Math.abs(other.range![key] - at) < JOINED)
                  .map((key) => ({ branch: other, key })),
    );
}

function dragged(range: SelectorRange, key: 'from' | 'to', at: number): SelectorRange {
    const to = key === 'from' ? Math.min(at, range.to - 0.01) : Math.max(at, range.from + 0.01);
    return { ...range, [key]: Math.round(Math.min(1, Math.max(0, to)) * 1000) / 1000 };
}

function moveEdge(event: PointerEvent, branch: Branch, key: 'from' | 'to'): void {
    if (event.button !== 0 || !branch.range) {
        return;
    }
    event.preventDefault();
    emit('pick', branch.id);
    const gesture = newGesture();
    const moving = [{ branch, key }, ...(event.altKey ? [] : joined(branch, branch.range[key]))];
    const before = Object.fromEntries(moving.map(({ branch: one }) => [one.id, one.range!]));
    followPointer(
        (to) => {
            held.value = Object.fromEntries(
                moving.map(({ branch: one, key: of }) => [one.id, dragged(before[one.id]!, of, placeOf(to))]),
            );
            const edits: Edit[] = Object.entries(held.value).map(([id, range]) => ({
                type: 'set-selector-range',
                branch: id,
                range,
            }));
            void session.edit(
                edits.length === 1 ? edits[0]! : { type: 'several', label: 'Ranges of the selector', edits },
                gesture,
            );
        },
        () => (held.value = {}),
    );
}
</script>

<template>
    <svg
        ref="picture"
        class="selector"
        :viewBox="`0 0 ${WIDTH} ${height}`"
        role="group"
        aria-label="Branches along the way of the selector"
        data-selector-picture
    >
        <line :x1="x(0)" :x2="x(1)" :y1="line" :y2="line" class="line" />
        <rect :x="0" :y="line - 10" :width="WIDTH" height="26" class="ground" @pointerdown="turn" />
        <g
            v-for="track in tracks"
            :key="track.branch.id"
            class="track"
            :class="{ open: track.open > 0, picked: picked === track.branch.id }"
            :style="{ '--open': track.open }"
            :data-track="track.branch.id"
            @click="emit('pick', track.branch.id)"
        >
            <path :d="track.way" class="bed" />
            <path :d="track.way" class="way" />
            <circle v-if="track.open > 0" :cx="x(stands)" :cy="track.y" :r="3 + 3 * track.open" class="passes" />
            <text :x="x(track.middle)" :y="track.y - 7">{{ track.branch.name }}</text>
        </g>
        <g :class="{ moved: isMoved }" class="switch">
            <line :x1="x(stands)" :x2="x(stands)" :y1="8" :y2="line" />
            <circle
                :cx="x(stands)"
                :cy="line"
                r="7"
                tabindex="-1"
                :aria-label="`Selector at ${Math.round(stands * 100)} %`"
                data-switch
                @pointerdown="turn"
            />
        </g>
        <template v-for="track in tracks" :key="`edges${track.branch.id}`">
            <circle
                v-for="edge in track.edges"
                :key="edge.key"
                class="edge"
                :cx="x(edge.at)"
                :cy="(track.y + line) / 2"
                r="5"
                :data-edge="`${track.branch.id}:${edge.key}`"
                @pointerdown.stop="moveEdge($event, track.branch, edge.key)"
            >
                <title>
                    {{ track.branch.name }} {{ edge.key === 'from' ? 'opens' : 'closes' }} at
                    {{ Math.round(edge.at * 1000) / 10 }} %: drag it; with Alt it leaves those behind that lie on it
                </title>
            </circle>
        </template>
    </svg>
</template>

<style scoped>
.selector {
    display: block;
    width: 100%;
    touch-action: none;
    user-select: none;
}

.line {
    stroke: var(--contour);
    stroke-width: 3;
}

.ground {
    fill: transparent;
    cursor: ew-resize;
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

.open text,
.picked text {
    fill: var(--ink);
}

.switch line {
    stroke: var(--deep);
    stroke-dasharray: 2 3;
    pointer-events: none;
}

.switch circle {
    fill: var(--sheet);
    stroke: var(--deep);
    stroke-width: 3;
    cursor: ew-resize;
}

.switch.moved circle {
    stroke-dasharray: 4 3;
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
