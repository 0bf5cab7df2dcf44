<script setup lang="ts">
import { computed, nextTick, ref } from 'vue';
import type { AutomationPoint, Channel } from '@/api/types';
import { controlsOf, laneOf, laneValueAt } from '@/automation';
import EntryField from '@/components/controls/EntryField.vue';
import ChoiceMenu from '@/components/controls/ChoiceMenu.vue';
import { followPointer } from '@/composables/followPointer';
import { LANE_HEIGHT, useLaneDrawing } from '@/composables/useLaneDrawing';
import { usePointEdits } from '@/composables/usePointEdits';
import { useSteps } from '@/composables/useSteps';
import { clock, typedNumber } from '@/format';
import { positionOf, valueAt } from '@/scales';
import { useCatalogue } from '@/stores/catalogue';
import { useListening } from '@/stores/listening';
import { useScreen } from '@/stores/screen';
import { newGesture } from '@/gesture';
import { useSession } from '@/stores/session';

/** One control over time, below the row of its channel: points to add, move, bend, copy and take away. */
const props = defineProps<{ channel: Channel; target: string }>();

const session = useSession();
const listening = useListening();
const catalogue = useCatalogue();
const screen = useScreen();

/** Seconds of a fade where no loop says otherwise. */
const FADE = 3;
/** Pixels a bend is dragged from straight to as bent as can be. */
const BEND = 30;

const area = ref<SVGSVGElement>();
const typing = ref<string | null>(null);

const controls = computed(() =>
    controlsOf(
        props.channel,
        (id) => session.channel(id)?.name ?? id,
        (id) => catalogue.byId[id],
        (id) => session.state?.inserts[id]?.label ?? id,
    ),
);
const control = computed(() => controls.value.find((one) => one.target === props.target) ?? controls.value[0]!);
const choices = computed(() =>
    controls.value.map(({ target, name }) => ({
        value: target,
        name: `${laneOf(props.channel, target) ? '∿ ' : ''}${name}`,
    })),
);
const edits = usePointEdits(
    () => props.channel,
    () => control.value,
);
const { points, chosen, held, length, put, rounded, paste } = edits;
const { width, x, yOf, atX, travelAtY, shiftOf, line, bends, guides } = useLaneDrawing(
    area,
    () => points.value,
    () => control.value,
    () => length.value,
);
const steps = useSteps();
const rate = computed(() => session.document?.sampleRate ?? 48000);
const now = computed(() => control.value.text(laneValueAt(points.value, control.value, listening.position)));

function follow(event: PointerEvent, change: (dx: number, dy: number) => AutomationPoint[]): void {
    if (event.button !== 0) {
        return;
    }
    event.preventDefault();
    const gesture = newGesture();
    let last: AutomationPoint[] | null = null;
    followPointer(
        (to) => {
            last = change(to.clientX - event.clientX, to.clientY - event.clientY);
            held.value = last;
            void put(last, gesture);
        },
        async () => {
            if (last) {
                await put(last, gesture);
            }
            held.value = null;
        },
    );
}

function grab(event: PointerEvent, index: number): void {
    if (event.shiftKey) {
        chosen.value = chosen.value.includes(index)
            ? chosen.value.filter((other) => other !== index)
            : [...chosen.value, index];
        return;
    }
    if (!chosen.value.includes(index)) {
        chosen.value = [index];
    }
    const list = points.value;
    const which = [...chosen.value];
    follow(event, (dx, dy) => {
        const { by, travelBy } = shiftOf(dx, dy);
        return edits.moved(list, which, by, travelBy);
    });
}

function bend(event: PointerEvent, index: number): void {
    const list = points.value;
    const before = list[index]?.curve ?? 0;
    const position = (at: number) => positionOf(list[at]?.value ?? null, control.value.travel);
    const way = position(index + 1) > position(index) ? 1 : -1;
    follow(event, (_, dy) => edits.bent(list, index, before + (way * dy) / BEND));
}

async function add(event: MouseEvent): Promise<void> {
    const box = area.value?.getBoundingClientRect();
    if (box) {
        const value = rounded(valueAt(travelAtY(event.clientY - box.top), control.value.travel));
        await addAt(atX(event.clientX - box.left), value);
    }
}

async function addAt(at: number, value: number | null): Promise<void> {
    await edits.addAt(at, value);
    await nextTick();
    area.value?.querySelectorAll<SVGElement>('[data-point]')[chosen.value[0] ?? 0]?.focus();
}

function startTyping(index: number): void {
    typing.value = typedNumber(points.value[index]?.value ?? null);
}

/** Seconds and travel that a key moves a point by. */
function stepOf(event: KeyboardEvent): [number, number] | undefined {
    const size = event.shiftKey ? 0.2 : 1;
    const up = control.value.holds ? 1 : 0.02 * size;
    return {
        ArrowLeft: [-0.1 * size, 0],
        ArrowRight: [0.1 * size, 0],
        ArrowUp: [0, up],
        ArrowDown: [0, -up],
    }[event.key] as [number, number] | undefined;
}

/** What a key does with a point; null when it is not for points. */
function actionOf(event: KeyboardEvent, index: number): (() => unknown) | null {
    const step = stepOf(event);
    if (step) {
        return () => put(edits.moved(points.value, chosen.value, step[0] * rate.value, step[1]), steps.gesture());
    }
    if (event.ctrlKey || event.metaKey) {
        const all = () => (chosen.value = points.value.map((_, at) => at));
        return { c: edits.copy, v: paste, a: all }[event.key] ?? null;
    }
    return { Delete: edits.remove, Backspace: edits.remove, Enter: () => startTyping(index) }[event.key] ?? null;
}

function pointKey(event: KeyboardEvent, index: number): void {
    if (!chosen.value.includes(index)) {
        chosen.value = [index];
    }
    const action = actionOf(event, index);
    if (action) {
        action();
        event.preventDefault();
        event.stopPropagation();
    }
}

function bendKey(event: KeyboardEvent, index: number): void {
    const by = { ArrowUp: -0.1, ArrowDown: 0.1, ArrowLeft: -0.1, ArrowRight: 0.1 }[event.key];
    if (by !== undefined) {
        event.preventDefault();
        event.stopPropagation();
        void put(edits.bent(points.value, index, (points.value[index]?.curve ?? 0) + by));
    }
}

function fade(direction: 'in' | 'out'): void {
    const region = listening.loop;
    const reach = Math.min(length.value - 1, FADE * rate.value);
    const [from, to] = region
        ? [region.start, region.end]
        : direction === 'in'
          ? [0, reach]
          : [length.value - reach, length.value];
    void session.edit({
        type: 'fade',
        channels: [props.channel.id],
        direction,
        from: Math.round(from),
        to: Math.round(to),
    });
}
</script>

<template>
    <div class="lane" :data-lane="`${channel.id}:${control.target}`" @click.stop>
        <div class="head">
            <ChoiceMenu
                :label="`What is automated on ${channel.name}`"
                :model-value="control.target"
                :items="choices"
                @update:model-value="(target) => screen.openLane(channel.id, target)"
            />
            <span class="figure now" :title="`At the playhead`">{{ now }}</span>
            <button
                class="plain"
                title="Over the loop, or the first seconds"
                :disabled="control.target !== 'fader'"
                @click="fade('in')"
            >
                fade in
            </button>
            <button
                class="plain"
                title="Over the loop, or the last seconds"
                :disabled="control.target !== 'fader'"
                @click="fade('out')"
            >
                fade out
            </button>
            <button
                class="plain"
                title="A point where the playhead is"
                @click="
                    addAt(Math.round(listening.position), rounded(laneValueAt(points, control, listening.position)))
                "
            >
                + point
            </button>
            <button
                v-if="screen.copiedPoints.length > 0"
                class="plain"
                title="Copied points, where the playhead is"
                @click="paste"
            >
                paste
            </button>
            <button v-if="points.length > 0" class="plain" title="No automation of this any more" @click="put([])">
                clear
            </button>
            <button
                class="plain"
                :aria-label="`Close the lane of ${channel.name}`"
                @click="screen.closeLane(channel.id)"
            >
                close
            </button>
        </div>
        <svg
            ref="area"
            :viewBox="`0 0 ${width} ${LANE_HEIGHT}`"
            :height="LANE_HEIGHT"
            role="group"
            :aria-label="`${control.name} of ${channel.name} over time: double-click adds a point`"
            @dblclick="add"
            @pointerdown.self="chosen = []"
        >
            <g v-for="guide in guides" :key="guide.value">
                <line x1="0" :x2="width" :y1="guide.at" :y2="guide.at" class="guide" />
                <text :x="width - 4" :y="guide.at - 3" class="figure">{{ control.text(guide.value) }}</text>
            </g>
            <rect
                v-if="listening.loop"
                class="loop"
                :x="x(listening.loop.start)"
                y="0"
                :width="x(listening.loop.end) - x(listening.loop.start)"
                :height="LANE_HEIGHT"
            />
            <polyline :points="line" class="way" :class="{ still: points.length === 0 }" />
            <line :x1="x(listening.position)" :x2="x(listening.position)" y1="0" :y2="LANE_HEIGHT" class="playhead" />
            <rect
                v-for="handle in bends"
                :key="`bend${handle.index}`"
                class="bend"
                :x="handle.cx - 4"
                :y="handle.cy - 4"
                width="8"
                height="8"
                :transform="`rotate(45 ${handle.cx} ${handle.cy})`"
                tabindex="0"
                role="slider"
                :aria-label="`Bend of the way after point ${handle.index + 1}`"
                :aria-valuenow="handle.curve"
                aria-valuemin="-1"
                aria-valuemax="1"
                :data-bend="handle.index"
                @pointerdown.stop="bend($event, handle.index)"
                @keydown="bendKey($event, handle.index)"
                @dblclick.stop="put(edits.bent(points, handle.index, 0))"
            />
            <circle
                v-for="(point, index) in points"
                :key="`point${index}`"
                class="point"
                :class="{ chosen: chosen.includes(index) }"
                :cx="x(point.at)"
                :cy="yOf(point.value)"
                r="5.5"
                tabindex="0"
                role="button"
                :aria-label="`Point at ${clock(point.at, rate)}: ${control.text(point.value)}`"
                :data-point="index"
                @pointerdown.stop="grab($event, index)"
                @focus="chosen.includes(index) || (chosen = [index])"
                @keydown="pointKey($event, index)"
                @dblclick.stop
            >
                <title>{{ clock(point.at, rate) }} · {{ control.text(point.value) }}</title>
            </circle>
        </svg>
        <EntryField
            v-if="typing !== null"
            v-model="typing"
            class="entry"
            label="Value of the point"
            is-selected
            @enter="edits.setValue"
        />
    </div>
</template>

<style scoped>
.lane {
    position: relative;
    margin: 0 10px 8px 16px;
    border: 1px solid var(--contour);
    border-radius: 4px;
    background: var(--sheet);
}

.head {
    display: flex;
    align-items: center;
    gap: 14px;
    padding: 3px 10px;
    border-bottom: 1px solid var(--contour);
}

.head .choice-menu {
    width: 260px;
}

.head .plain {
    color: var(--soft);
}

.head .plain:disabled {
    opacity: 0.4;
    cursor: default;
}

.head .plain:hover:not(:disabled) {
    color: var(--ink);
    text-decoration: underline dotted;
}

.now {
    min-width: 72px;
}

svg {
    display: block;
    width: 100%;
    touch-action: none;
}

text {
    font-size: 12px;
    fill: var(--soft);
    text-anchor: end;
}

.guide {
    stroke: var(--contour);
    stroke-dasharray: 2 4;
}

.loop {
    fill: var(--shoal-wash);
}

.way {
    fill: none;
    stroke: var(--deep);
    stroke-width: 2;
    stroke-linejoin: round;
    pointer-events: none;
}

.way.still {
    stroke: var(--soft);
    stroke-dasharray: 6 5;
}

.playhead {
    stroke: var(--ink);
    pointer-events: none;
}

.point {
    fill: var(--sheet);
    stroke: var(--deep);
    stroke-width: 2;
    cursor: grab;
}

.point.chosen {
    fill: var(--deep);
}

.bend {
    fill: var(--sheet);
    stroke: var(--water);
    cursor: ns-resize;
}

.entry {
    position: absolute;
    top: 34px;
    left: 50%;
    width: 90px;
    padding: 2px 6px;
    border: 1px solid var(--deep);
    border-radius: 3px;
    background: var(--sheet);
}
</style>
