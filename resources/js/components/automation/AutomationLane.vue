<script setup lang="ts">
import { computed, nextTick, onMounted, onUnmounted, ref, shallowRef } from 'vue';
import type { Channel, AutomationPoint } from '@/api/types';
import ChoiceMenu from '@/components/controls/ChoiceMenu.vue';
import { clock, parseNumber } from '@/format';
import { controlsOf, laneOf, laneValueAt, travelAt } from '@/automation';
import { rules } from '@/rules';
import { placeOf, valueAt } from '@/scales';
import { useCatalogue } from '@/stores/catalogue';
import { useListening } from '@/stores/listening';
import { useScreen } from '@/stores/screen';
import { newGesture, useSession } from '@/stores/session';

/** One control over time, below the row of its channel: points to add, move, bend, copy and take away. */
const props = defineProps<{ channel: Channel; target: string }>();

const session = useSession();
const listening = useListening();
const catalogue = useCatalogue();
const screen = useScreen();

const HEIGHT = 84;
const EDGE = 8;
/** Room at the right for what the lines stand for. */
const RIGHT = 62;
/** Seconds of a fade where no loop says otherwise. */
const FADE = 3;
/** Drawn steps of a bent way. */
const STEPS = 24;

const area = ref<SVGSVGElement>();
const entry = ref<HTMLInputElement>();
const width = ref(800);
const chosen = ref<number[]>([]);
const held = shallowRef<AutomationPoint[] | null>(null);
const typing = ref<string | null>(null);
const observer = new ResizeObserver((entries) => (width.value = Math.max(200, entries[0]?.contentRect.width ?? 800)));

onMounted(() => area.value && observer.observe(area.value));
onUnmounted(() => observer.disconnect());

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
const points = computed(() => held.value ?? laneOf(props.channel, control.value.target)?.points ?? []);
const length = computed(() => Math.max(1, session.document?.length ?? 1));
const rate = computed(() => session.document?.sampleRate ?? 48000);

const x = (at: number) => EDGE + (at / length.value) * (width.value - EDGE - RIGHT);
/** What a lane holds above the end of its control stands at the upper edge. */
const y = (travel: number) => HEIGHT - EDGE - Math.min(1, travel) * (HEIGHT - 2 * EDGE);
const highest = computed(() =>
    control.value.travel.scale === 'fader' ? rules().fader.highestAutomated : control.value.travel.max,
);
const yOf = (value: number | null) => y(placeOf(value, control.value.travel));
const atX = (pixel: number) =>
    Math.round(Math.max(0, Math.min(1, (pixel - EDGE) / (width.value - EDGE - RIGHT))) * length.value);

const line = computed(() => {
    const list = points.value;
    const drawn: [number, number][] = [[x(0), y(travelAt(list, control.value, 0))]];
    list.forEach((point, index) => {
        const next = list[index + 1];
        drawn.push([x(point.at), yOf(point.value)]);
        if (next && control.value.holds) {
            drawn.push([x(next.at), yOf(point.value)]);
        } else if (next) {
            for (let step = 1; step < STEPS; ++step) {
                const at = point.at + ((next.at - point.at) * step) / STEPS;
                drawn.push([x(at), y(travelAt(list, control.value, at))]);
            }
        }
    });
    drawn.push([x(length.value), y(travelAt(list, control.value, length.value))]);
    return drawn.map(([px, py]) => `${px.toFixed(1)},${py.toFixed(1)}`).join(' ');
});
/** Handles in the middle of ways that can bend. */
const bends = computed(() =>
    control.value.holds
        ? []
        : points.value.slice(0, -1).flatMap((point, index) => {
              const next = points.value[index + 1];
              if (!next || x(next.at) - x(point.at) < 26 || point.value === next.value) {
                  return [];
              }
              const at = (point.at + next.at) / 2;
              return [{ index, cx: x(at), cy: y(travelAt(points.value, control.value, at)), curve: point.curve ?? 0 }];
          }),
);
const guides = computed(() => {
    const values = control.value.travel.scale === 'fader' ? [0, -12] : control.value.target === 'pan' ? [0] : [];
    return values.map((value) => ({ value, at: yOf(value) }));
});
const now = computed(() => control.value.text(laneValueAt(points.value, control.value, listening.position)));

function put(next: AutomationPoint[], gesture: string | null = null): Promise<void> {
    return session.edit(
        { type: 'set-automation', channel: props.channel.id, target: control.value.target, points: next },
        gesture,
    );
}

function rounded(value: number | null): number | null {
    if (value === null || control.value.holds) {
        return value === null ? null : Math.round(value);
    }
    return control.value.travel.scale === 'fader' ? Math.round(value * 10) / 10 : Number(value.toPrecision(4));
}

/** Dragged, a point goes to the end of its control; one that stands above it can come down. */
function movedTravel(value: number | null, by: number): number {
    const before = placeOf(value, control.value.travel);
    return Math.min(Math.max(1, before), before + by);
}

/** The lane with some points moved: none past its neighbours, all as far as each other. */
function moved(list: AutomationPoint[], which: number[], by: number, travelBy: number): AutomationPoint[] {
    let least = -Infinity;
    let most = Infinity;
    for (const index of which) {
        const point = list[index] as AutomationPoint;
        const before = which.includes(index - 1) ? -Infinity : (list[index - 1]?.at ?? -1) + 1 - point.at;
        const after = which.includes(index + 1) ? Infinity : (list[index + 1]?.at ?? length.value + 1) - 1 - point.at;
        least = Math.max(least, before, -point.at);
        most = Math.min(most, after, length.value - point.at);
    }
    const shift = Math.round(Math.max(least, Math.min(most, by)));
    return list.map((point, index) =>
        which.includes(index)
            ? {
                  ...point,
                  at: point.at + shift,
                  value: rounded(valueAt(movedTravel(point.value, travelBy), control.value.travel)),
              }
            : point,
    );
}

function follow(event: PointerEvent, change: (dx: number, dy: number) => AutomationPoint[]): void {
    if (event.button !== 0) {
        return;
    }
    event.preventDefault();
    const gesture = newGesture();
    let last: AutomationPoint[] | null = null;
    const move = (to: PointerEvent) => {
        last = change(to.clientX - event.clientX, to.clientY - event.clientY);
        held.value = last;
        void put(last, gesture);
    };
    const up = async () => {
        window.removeEventListener('pointermove', move);
        window.removeEventListener('pointerup', up);
        if (last) {
            await put(last, gesture);
        }
        held.value = null;
    };
    window.addEventListener('pointermove', move);
    window.addEventListener('pointerup', up);
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
    follow(event, (dx, dy) =>
        moved(list, which, (dx / (width.value - EDGE - RIGHT)) * length.value, -dy / (HEIGHT - 2 * EDGE)),
    );
}

function bend(event: PointerEvent, index: number): void {
    const list = points.value;
    const before = list[index]?.curve ?? 0;
    const rises =
        placeOf(list[index + 1]?.value ?? null, control.value.travel) >
        placeOf(list[index]?.value ?? null, control.value.travel);
    follow(event, (_, dy) => bentBy(list, index, before + ((rises ? 1 : -1) * dy) / 30));
}

function bentBy(list: AutomationPoint[], index: number, curve: number): AutomationPoint[] {
    const clamped = Math.round(Math.max(-1, Math.min(1, curve)) * 100) / 100;
    return list.map((point, at) =>
        at === index ? { ...point, curve: Math.abs(clamped) < 0.04 ? 0 : clamped } : point,
    );
}

async function add(event: MouseEvent): Promise<void> {
    const box = area.value?.getBoundingClientRect();
    if (!box) {
        return;
    }
    const travel = 1 - (event.clientY - box.top - EDGE) / (HEIGHT - 2 * EDGE);
    await addAt(atX(event.clientX - box.left), rounded(valueAt(travel, control.value.travel)));
}

async function addAt(at: number, value: number | null): Promise<void> {
    const others = points.value.filter((point) => point.at !== at);
    const next = [...others, { at, value }].sort((a, b) => a.at - b.at);
    await put(next);
    chosen.value = [next.findIndex((point) => point.at === at)];
    await nextTick();
    area.value?.querySelectorAll<SVGElement>('[data-point]')[chosen.value[0] ?? 0]?.focus();
}

async function remove(): Promise<void> {
    const which = chosen.value;
    chosen.value = [];
    await put(points.value.filter((_, index) => !which.includes(index)));
}

function copy(): void {
    const list = chosen.value.flatMap((index) => points.value[index] ?? []).sort((a, b) => a.at - b.at);
    const first = list[0]?.at ?? 0;
    screen.copiedPoints = list.map((point) => ({ ...point, at: point.at - first }));
}

/** Puts copied points where the playhead is; what lies between the first and the last of them makes room. */
async function paste(): Promise<void> {
    const copied = screen.copiedPoints;
    const from = Math.round(listening.position);
    const to = from + (copied[copied.length - 1]?.at ?? -1);
    const put_ = copied
        .map((point) => ({
            ...point,
            at: point.at + from,
            value: rounded(valueAt(placeOf(point.value, control.value.travel), control.value.travel)),
        }))
        .filter((point) => point.at <= length.value);
    if (put_.length > 0) {
        const others = points.value.filter((point) => point.at < from || point.at > to);
        await put([...others, ...put_].sort((a, b) => a.at - b.at));
    }
}

let nudging = '';
let nudged = 0;
function pointKey(event: KeyboardEvent, index: number): void {
    if (!chosen.value.includes(index)) {
        chosen.value = [index];
    }
    const size = event.shiftKey ? 0.2 : 1;
    const steps: Record<string, [number, number]> = {
        ArrowLeft: [-0.1 * size, 0],
        ArrowRight: [0.1 * size, 0],
        ArrowUp: [0, control.value.holds ? 1 : 0.02 * size],
        ArrowDown: [0, control.value.holds ? -1 : -0.02 * size],
    };
    const step = steps[event.key];
    if (step) {
        if (Date.now() - nudged > 700) {
            nudging = newGesture();
        }
        nudged = Date.now();
        void put(moved(points.value, chosen.value, step[0] * rate.value, step[1]), nudging);
    } else if (event.key === 'Delete' || event.key === 'Backspace') {
        void remove();
    } else if (event.key === 'Enter') {
        const value = points.value[index]?.value ?? null;
        typing.value = value === null ? '-inf' : String(value);
        void nextTick(() => entry.value?.select());
    } else if (event.key === 'c' && (event.ctrlKey || event.metaKey)) {
        copy();
    } else if (event.key === 'v' && (event.ctrlKey || event.metaKey)) {
        void paste();
    } else if (event.key === 'a' && (event.ctrlKey || event.metaKey)) {
        chosen.value = points.value.map((_, at) => at);
    } else {
        return;
    }
    event.preventDefault();
    event.stopPropagation();
}

function bendKey(event: KeyboardEvent, index: number): void {
    const by = { ArrowUp: -0.1, ArrowDown: 0.1, ArrowLeft: -0.1, ArrowRight: 0.1 }[event.key];
    if (by !== undefined) {
        event.preventDefault();
        event.stopPropagation();
        void put(bentBy(points.value, index, (points.value[index]?.curve ?? 0) + by));
    }
}

function typed(): void {
    const value = typing.value === null ? undefined : parseNumber(typing.value);
    typing.value = null;
    const { travel } = control.value;
    if (value !== undefined && (value !== null || travel.scale === 'fader')) {
        const clamped = value === null ? null : Math.max(travel.min, Math.min(highest.value, value));
        void put(points.value.map((point, at) => (chosen.value.includes(at) ? { ...point, value: clamped } : point)));
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
            :viewBox="`0 0 ${width} ${HEIGHT}`"
            :height="HEIGHT"
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
                :height="HEIGHT"
            />
            <polyline :points="line" class="way" :class="{ still: points.length === 0 }" />
            <line :x1="x(listening.position)" :x2="x(listening.position)" y1="0" :y2="HEIGHT" class="playhead" />
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
                @dblclick.stop="put(bentBy(points, handle.index, 0))"
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
        <input
            v-if="typing !== null"
            ref="entry"
            v-model="typing"
            class="entry figure"
            aria-label="Value of the point"
            @keydown.enter.stop="typed"
            @keydown.escape.stop="typing = null"
            @keydown.stop
            @blur="typing = null"
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
