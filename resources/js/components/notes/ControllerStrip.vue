<script setup lang="ts">
import { computed, ref } from 'vue';
import type { NoteClip, Rules } from '@/api/types';
import { followPointer } from '@/composables/followPointer';
import { useSteps } from '@/composables/useSteps';
import { newGesture } from '@/gesture';
import { useSession } from '@/stores/session';

/** The movements of a controller below the notes: it stays where it was moved until it is moved again. */
const props = defineProps<{
    channel: string;
    clips: NoteClip[];
    controller: Rules['controllers'][number];
    left: number;
    width: number;
    top: number;
    height: number;
    x: (tick: number) => number;
    tickAt: (px: number) => number;
    grid: number;
    add: (notes: [], controls: [number, number, number][]) => Promise<boolean>;
}>();

const session = useSession();
const steps = useSteps();

const EDGE = 5;

interface Point {
    clip: string;
    at: number;
    value: number;
}

/** Points as they are drawn while they are dragged. */
const held = ref<Point[] | null>(null);
const chosen = ref<string | null>(null);

const points = computed<Point[]>(
    () =>
        held.value ??
        props.clips.flatMap(({ id, start, controls }) =>
            (controls ?? [])
                .filter(([, number]) => number === props.controller.number)
                .map(([at, , value]) => ({ clip: id, at: start + at, value })),
        ),
);
const nameOf = ({ clip, at }: Point) => `${clip}:${at}`;
const y = (value: number) =>
    props.top +
    EDGE +
    (1 - (value - props.controller.lowest) / (props.controller.highest - props.controller.lowest)) *
        (props.height - 2 * EDGE);
const valueAt = (py: number) =>
    limited(
        props.controller.lowest +
            (1 - (py - props.top - EDGE) / (props.height - 2 * EDGE)) *
                (props.controller.highest - props.controller.lowest),
    );
const limited = (value: number) =>
    Math.round(Math.min(props.controller.highest, Math.max(props.controller.lowest, value)));
const shown = computed(() =>
    points.value
        .map((point) => ({ point, name: nameOf(point), x: props.x(point.at), y: y(point.value) }))
        .filter((one) => one.x >= props.left && one.x <= props.width),
);
const line = computed(() => {
    const sorted = [...points.value].sort((one, other) => one.at - other.at);
    let value = sorted.filter(({ at }) => props.x(at) < props.left).at(-1)?.value ?? props.controller.rest;
    let path = `M${props.left} ${y(value)}`;
    for (const point of sorted.filter(({ at }) => props.x(at) >= props.left && props.x(at) <= props.width)) {
        path += `H${props.x(point.at)}V${y(point.value)}`;
        value = point.value;
    }
    return `${path}H${props.width}`;
});

async function put(next: Point[], clips: string[], gesture: string | null = null): Promise<void> {
    for (const clip of props.clips.filter(({ id }) => clips.includes(id))) {
        await session.edit(
            {
                type: 'set-note-controls',
                channel: props.channel,
                clip: clip.id,
                controller: props.controller.number,
                controls: next
                    .filter((point) => point.clip === clip.id)
                    .map(({ at, value }): [number, number] => [Math.max(0, at - clip.start), value]),
            },
            gesture,
        );
    }
}

/** With a point in place of the one at its tick. */
function withPoint(of: Point[], point: Point, before: Point | null = null): Point[] {
    return [...of.filter((one) => one !== before && !(one.clip === point.clip && one.at === point.at)), point];
}

async function addMovement(event: MouseEvent): Promise<void> {
    const area = (event.currentTarget as SVGElement).ownerSVGElement!.getBoundingClientRect();
    const at = Math.max(0, Math.round(props.tickAt(event.clientX - area.left) / props.grid) * props.grid);
    await props.add([], [[at, props.controller.number, valueAt(event.clientY - area.top)]]);
    chosen.value = points.value.filter((point) => point.at === at).map(nameOf)[0] ?? null;
}

function drag(event: PointerEvent, point: Point): void {
    event.preventDefault();
    (event.currentTarget as SVGElement).focus();
    chosen.value = nameOf(point);
    const all = points.value;
    const first = props.clips.find(({ id }) => id === point.clip)?.start ?? 0;
    const gesture = newGesture();
    const [startX, startY] = [props.x(point.at), y(point.value)];
    followPointer(
        (to) => {
            const at = props.tickAt(startX + to.clientX - event.clientX);
            const moved = {
                ...point,
                at: Math.max(first, to.altKey ? Math.round(at) : Math.round(at / props.grid) * props.grid),
                value: valueAt(startY + to.clientY - event.clientY),
            };
            held.value = withPoint(all, moved, point);
            chosen.value = nameOf(moved);
        },
        async () => {
            if (held.value) {
                await put(held.value, [point.clip], gesture);
            }
            held.value = null;
        },
    );
}

function press(event: KeyboardEvent, point: Point): void {
    const by = (ticks: number, value: number) => {
        const moved = { ...point, at: Math.max(0, point.at + ticks), value: limited(point.value + value) };
        chosen.value = nameOf(moved);
        void put(withPoint(points.value, moved, point), [point.clip], steps.gesture());
    };
    const step = event.shiftKey ? 1 : Math.ceil((props.controller.highest - props.controller.lowest) / 32);
    const actions: Record<string, () => void> = {
        ArrowUp: () => by(0, step),
        ArrowDown: () => by(0, -step),
        ArrowLeft: () => by(-props.grid, 0),
        ArrowRight: () => by(props.grid, 0),
        Delete: () =>
            void put(
                points.value.filter((one) => one !== point),
                [point.clip],
            ),
    };
    const action = actions[event.key === 'Backspace' ? 'Delete' : event.key];
    if (action) {
        event.preventDefault();
        event.stopPropagation();
        action();
    }
}
</script>

<template>
    <g data-controller-strip>
        <rect :x="left" :y="top" :width="width - left" :height="height" class="ground" @dblclick.stop="addMovement">
            <title>Double-click adds a movement of the {{ controller.name }}</title>
        </rect>
        <path :d="line" class="line" />
        <circle
            v-for="one in shown"
            :key="one.name"
            :cx="one.x"
            :cy="one.y"
            r="4"
            class="point"
            :class="{ chosen: chosen === one.name }"
            tabindex="0"
            role="slider"
            :aria-label="controller.name"
            :aria-valuenow="one.point.value"
            :aria-valuemin="controller.lowest"
            :aria-valuemax="controller.highest"
            :data-point="one.name"
            @pointerdown.stop="drag($event, one.point)"
            @keydown="press($event, one.point)"
            @focus="chosen = one.name"
            @dblclick.stop
        >
            <title>{{ controller.name }} {{ String(one.point.value).replace('-', '−') }}</title>
        </circle>
    </g>
</template>

<style scoped>
.ground {
    fill: transparent;
}

.line {
    fill: none;
    stroke: var(--water);
    stroke-width: 2;
    pointer-events: none;
}

.point {
    fill: var(--deep);
    cursor: move;
}

.point:focus-visible {
    outline: none;
    stroke: var(--ink);
    stroke-width: 2;
}

.point.chosen {
    fill: var(--brass);
}
</style>
