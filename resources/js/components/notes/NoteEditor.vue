<script setup lang="ts">
import { useElementSize } from '@vueuse/core';
import { computed, ref, watch } from 'vue';
import type { Channel } from '@/api/types';
import ChoiceMenu from '@/components/controls/ChoiceMenu.vue';
import LyingSlider from '@/components/controls/LyingSlider.vue';
import { followPointer } from '@/composables/followPointer';
import { BEATS, nameOf, useNoteEdits, type PlacedNote } from '@/composables/useNoteEdits';
import { useSteps } from '@/composables/useSteps';
import { keyName } from '@/format';
import { newGesture } from '@/gesture';
import { allInserts } from '@/inserts';
import { rules } from '@/rules';
import { useFreezes } from '@/stores/freezes';
import { useKeysPlayed } from '@/stores/keys';
import { useListening } from '@/stores/listening';
import { useScreen } from '@/stores/screen';
import { useSession } from '@/stores/session';
import ControllerStrip from './ControllerStrip.vue';

/** The notes of a channel below its row: keys from low to high over bars, and how hard each is struck. */
const props = defineProps<{ channel: Channel }>();

const session = useSession();
const listening = useListening();
const screen = useScreen();
const keys = useKeysPlayed();
const freezes = useFreezes();
const isPlayed = computed(() => keys.channel === props.channel.id);
/** Why its keys do not sound. */
const silence = computed(() => {
    const { name, frozen, off, mute, inserts } = props.channel;
    if (frozen) {
        return `${name} is frozen: its file plays, its keys do not sound.`;
    }
    if (off || mute) {
        return `${name} is ${off ? 'switched off' : 'muted'}: its keys do not sound.`;
    }
    return allInserts(inserts).some(({ type }) => type === 'instrument')
        ? null
        : `${name} has no instrument in its row: its keys only steer what follows them.`;
});
const steps = useSteps();
const edits = useNoteEdits(() => props.channel);
const { perBeat, bar, notes, chosen, picked, held } = edits;

const KEYS = 30;
const KEY = 9;
const HEAD = 16;
const LEFT = 34;
const STRIP = 44;
/** Pixels at the end of a note by which its length is dragged. */
const GRIP = 6;
const BLACK = [1, 3, 6, 8, 10];
const GRIDS = [
    { value: 1, name: '1/4' },
    { value: 2, name: '1/8' },
    { value: 3, name: '1/8 triplet' },
    { value: 4, name: '1/16' },
    { value: 6, name: '1/16 triplet' },
    { value: 8, name: '1/32' },
];
const SPANS = [1, 2, 4, 8, 16];
const VELOCITY = -1;
const COUNTS = [
    { value: 0, name: 'no count-in' },
    { value: 1, name: '1 bar before' },
    { value: 2, name: '2 bars before' },
];

const area = ref<SVGSVGElement>();
const size = useElementSize(area, { width: 800, height: 0 });
const width = computed(() => Math.max(300, size.width.value || 800));
const divisions = ref(4);
const bars = ref(4);
const from = ref(0);
const lowest = ref(48);
/** What the strip below shows: velocities, or a controller. */
const strip = ref(VELOCITY);
/** A box that is drawn to choose what is in it. */
const box = ref<{ x: number; y: number; w: number; h: number } | null>(null);

const grid = computed(() => perBeat / divisions.value);
const span = computed(() => bars.value * bar);
const height = HEAD + KEYS * KEY + STRIP;
const rate = computed(() => session.document?.sampleRate ?? 48000);
const perSample = computed(() => ((session.document?.tempo ?? 120) * perBeat) / (60 * rate.value));
const playhead = computed(() => listening.position * perSample.value);
const bottom = HEAD + KEYS * KEY;

const x = (tick: number) => LEFT + ((tick - from.value) / span.value) * (width.value - LEFT);
const y = (key: number) => HEAD + (lowest.value + KEYS - 1 - key) * KEY;
const tickAt = (px: number) => from.value + ((px - LEFT) / (width.value - LEFT)) * span.value;
const keyAt = (py: number) => lowest.value + KEYS - 1 - Math.floor((py - HEAD) / KEY);
const onGrid = (tick: number) => Math.round(tick / grid.value) * grid.value;

/** Controllers with names, and others the clips move. */
const controllers = computed(() => {
    const named = rules().controllers;
    const used = new Set(edits.clips.value.flatMap(({ controls }) => (controls ?? []).map(([, number]) => number)));
    return [
        ...named,
        ...[...used]
            .filter((number) => !named.some((one) => one.number === number))
            .sort((one, other) => one - other)
            .map((number) => ({ number, name: `Controller ${number}`, lowest: 0, highest: 127, rest: 0 })),
    ];
});
const controller = computed(() => controllers.value.find(({ number }) => number === strip.value) ?? null);

const rows = computed(() =>
    Array.from({ length: KEYS }, (_, i) => lowest.value + i).map((key) => ({
        key,
        y: y(key),
        isBlack: BLACK.includes(key % 12),
        name: key % 12 === 0 ? keyName(key) : '',
    })),
);
const lines = computed(() => {
    const found = [];
    for (
        let tick = Math.ceil(from.value / grid.value) * grid.value;
        tick <= from.value + span.value;
        tick += grid.value
    ) {
        found.push({
            tick,
            x: x(tick),
            kind: tick % bar === 0 ? 'bar' : tick % perBeat === 0 ? 'beat' : 'step',
            name: tick % bar === 0 ? String(tick / bar + 1) : '',
        });
    }
    return found;
});
const shown = computed(() =>
    notes.value
        .filter(
            ({ at, length, key }) =>
                at + length > from.value &&
                at < from.value + span.value &&
                key >= lowest.value &&
                key < lowest.value + KEYS,
        )
        .map((note) => ({
            note,
            name: nameOf(note),
            x: Math.max(LEFT, x(note.at)),
            w: Math.max(3, x(note.at + note.length) - Math.max(LEFT, x(note.at)) - 1),
            y: y(note.key),
            strike: (note.velocity / 127) * (STRIP - 8),
        })),
);

/** Begins where the notes begin, with the keys there are notes on. */
watch(
    () => props.channel.id,
    () => {
        const keys = notes.value.map(({ key }) => key);
        if (keys.length > 0) {
            const middle = (Math.min(...keys) + Math.max(...keys)) / 2;
            lowest.value = Math.round(Math.min(127 - KEYS + 1, Math.max(0, middle - KEYS / 2)));
            from.value = Math.floor(Math.min(...notes.value.map(({ at }) => at)) / bar) * bar;
        }
    },
    { immediate: true },
);

function scroll(event: WheelEvent): void {
    if (event.shiftKey || Math.abs(event.deltaX) > Math.abs(event.deltaY)) {
        go(Math.sign(event.deltaX || event.deltaY) * perBeat);
    } else {
        lowest.value = Math.min(127 - KEYS + 1, Math.max(0, lowest.value - Math.sign(event.deltaY) * 2));
    }
}

function go(by: number): void {
    from.value = Math.max(0, from.value + by);
}

function placeOf(event: MouseEvent): [number, number] {
    const around = area.value!.getBoundingClientRect();
    return [event.clientX - around.left, event.clientY - around.top];
}

const newNote = (at: number, key: number) => ({ at, key, length: grid.value, velocity: 96 });

async function addAt(event: MouseEvent): Promise<void> {
    const [px, py] = placeOf(event);
    if (px > LEFT && py > HEAD && py < bottom) {
        const at = Math.max(0, Math.floor(tickAt(px) / grid.value) * grid.value);
        await edits.add([newNote(at, keyAt(py))]);
        area.value?.focus();
    }
}

/** A movement of what is chosen, drawn at once and sent as one step. */
function drag(
    event: PointerEvent,
    change: (dx: number, dy: number, list: PlacedNote[], which: string[]) => PlacedNote[],
): void {
    event.preventDefault();
    area.value?.focus();
    const gesture = newGesture();
    const list = notes.value;
    const which = [...chosen.value];
    let last: PlacedNote[] | null = null;
    followPointer(
        (to) => {
            last = change(to.clientX - event.clientX, to.clientY - event.clientY, list, which);
            held.value = last;
        },
        async () => {
            if (last) {
                await edits.put(last, gesture);
            }
            held.value = null;
        },
    );
}

const ticksOf = (dx: number) => (dx / (width.value - LEFT)) * span.value;

function grab(event: PointerEvent, name: string, isEnd: boolean): void {
    if (event.button !== 0) {
        return;
    }
    if (event.shiftKey) {
        chosen.value = chosen.value.includes(name)
            ? chosen.value.filter((other) => other !== name)
            : [...chosen.value, name];
        return;
    }
    if (!chosen.value.includes(name)) {
        chosen.value = [name];
    }
    const first = notes.value.find((note) => nameOf(note) === name)!;
    drag(event, (dx, dy, list, which) => {
        if (isEnd) {
            const by = onGrid(first.at + first.length + ticksOf(dx)) - first.at - first.length;
            return edits.changed(list, which, (note) => ({
                ...note,
                length: Math.max(Math.min(grid.value, note.length), note.length + by),
            }));
        }
        const by = event.altKey ? Math.round(ticksOf(dx)) : onGrid(ticksOf(dx));
        return edits.moved(list, which, by, -Math.round(dy / KEY));
    });
}

function strike(event: PointerEvent, name: string): void {
    if (!chosen.value.includes(name)) {
        chosen.value = [name];
    }
    drag(event, (_, dy, list, which) =>
        edits.changed(list, which, (note) => ({
            ...note,
            velocity: Math.round(Math.min(127, Math.max(1, note.velocity - (dy / (STRIP - 8)) * 127))),
        })),
    );
}

function drawBox(event: PointerEvent): void {
    if (event.button !== 0) {
        return;
    }
    area.value?.focus();
    const [px, py] = placeOf(event);
    chosen.value = [];
    followPointer(
        (to) => {
            const [qx, qy] = placeOf(to);
            box.value = { x: Math.min(px, qx), y: Math.min(py, qy), w: Math.abs(qx - px), h: Math.abs(qy - py) };
            const in_ = box.value;
            chosen.value = shown.value
                .filter(
                    (one) =>
                        one.x + one.w > in_.x && one.x < in_.x + in_.w && one.y + KEY > in_.y && one.y < in_.y + in_.h,
                )
                .map(({ name }) => name);
        },
        () => (box.value = null),
    );
}

function velocity(value: number, gesture: string): void {
    void edits.put(
        edits.changed(notes.value, chosen.value, (note) => ({ ...note, velocity: Math.round(value) })),
        gesture,
    );
}

/** What a key does here; null where it is the application's. */
function actionOf(event: KeyboardEvent): (() => unknown) | null {
    if (event.ctrlKey || event.metaKey) {
        const all = () => (chosen.value = notes.value.map(nameOf));
        const paste = () => edits.paste(onGrid(playhead.value));
        return { c: edits.copy, v: paste, a: all }[event.key.toLowerCase()] ?? null;
    }
    const by = (ticks: number, keys: number) => () =>
        edits.put(edits.moved(notes.value, chosen.value, ticks, keys), steps.gesture());
    const octave = event.shiftKey ? 12 : 1;
    const longer = (ticks: number) => () =>
        edits.put(
            edits.changed(notes.value, chosen.value, (note) => ({ ...note, length: Math.max(1, note.length + ticks) })),
            steps.gesture(),
        );
    const isAny = chosen.value.length > 0;
    const forChosen: Record<string, () => unknown> = {
        ArrowLeft: event.shiftKey ? longer(-grid.value) : by(-grid.value, 0),
        ArrowRight: event.shiftKey ? longer(grid.value) : by(grid.value, 0),
        ArrowUp: by(0, octave),
        ArrowDown: by(0, -octave),
        Delete: edits.remove,
        Backspace: edits.remove,
        Escape: () => (chosen.value = []),
    };
    const always: Record<string, () => unknown> = {
        q: () => edits.quantise(grid.value),
        Enter: () => edits.add([newNote(onGrid(playhead.value), picked.value[0]?.key ?? lowest.value + 12)]),
        PageDown: () => go(bar),
        PageUp: () => go(-bar),
    };
    return (isAny ? forChosen[event.key] : undefined) ?? always[event.key] ?? null;
}

function press(event: KeyboardEvent): void {
    const action = actionOf(event);
    if (action) {
        event.preventDefault();
        event.stopPropagation();
        void action();
    }
}
</script>

<template>
    <div class="notes" :data-notes="channel.id" @click.stop>
        <div class="head">
            <strong>Notes</strong>
            <ChoiceMenu v-model="divisions" class="grid" label="Grid" :items="GRIDS" />
            <ChoiceMenu
                v-model="bars"
                class="grid"
                label="Bars in sight"
                :items="SPANS.map((value) => ({ value, name: value === 1 ? '1 bar' : `${value} bars` }))"
            />
            <ChoiceMenu
                v-model="strip"
                class="strip"
                label="What the strip below the notes shows"
                data-strip
                :items="[
                    { value: VELOCITY, name: 'Velocity' },
                    ...controllers.map(({ number, name }) => ({ value: number, name })),
                ]"
            />
            <button class="plain" aria-label="A bar back" title="A bar back (Page up)" @click="go(-bar)">‹</button>
            <button class="plain" aria-label="A bar on" title="A bar on (Page down)" @click="go(bar)">›</button>
            <button class="plain" title="Chosen notes, or all, onto the grid (Q)" @click="edits.quantise(grid)">
                quantise
            </button>
            <button
                class="plain"
                :class="{ on: isPlayed }"
                :aria-pressed="isPlayed"
                title="A to P are keys from a C on, Z and X an octave down and up; keys of controllers too. Escape ends it"
                data-play-keys
                @click="isPlayed ? keys.close() : keys.open(channel.id)"
            >
                play keys
            </button>
            <template v-if="picked.length > 0">
                <span class="figure chosen">{{
                    picked.length === 1 ? keyName(picked[0]!.key) : `${picked.length} notes`
                }}</span>
                <LyingSlider
                    class="velocity"
                    :model-value="picked[0]!.velocity"
                    :min="1"
                    :max="127"
                    :default="96"
                    :step="1"
                    label="Velocity"
                    :text="`velocity ${picked[0]!.velocity}`"
                    @change="(value, gesture) => velocity(value ?? 1, gesture)"
                >
                    <template #default="{ value }">{{ Math.round(value ?? 1) }}</template>
                </LyingSlider>
            </template>
            <a class="plain export" :href="`/api/sessions/${session.state?.id}/notes/${channel.id}`" download
                >MIDI file</a
            >
            <button
                class="plain"
                :aria-label="`Close the notes of ${channel.name}`"
                @click="screen.toggleNotes(channel.id)"
            >
                close
            </button>
        </div>
        <p v-if="isPlayed && silence" class="silence" data-silence>
            {{ silence }}
            <button v-if="channel.frozen" class="plain" @click="freezes.unfreeze([channel.id])">unfreeze</button>
        </p>
        <div v-if="isPlayed" class="head">
            <span class="figure">A to P from {{ keyName(keys.lowest) }}, Z X octaves</span>
            <button
                class="plain"
                :class="{ on: keys.isRecording }"
                :aria-pressed="keys.isRecording"
                title="Keeps what is played, from where the session stands"
                data-record-keys
                @click="keys.isRecording ? keys.endRecording() : keys.record()"
            >
                {{ keys.isRecording ? 'keep' : 'record' }}
            </button>
            <ChoiceMenu
                v-model="listening.countIn"
                class="count"
                label="Bars played before what is recorded"
                data-count-in
                :items="COUNTS"
            />
            <button
                class="plain"
                :class="{ on: listening.click }"
                :aria-pressed="listening.click"
                title="A click on each beat while it plays, where you listen; not part of the session"
                data-click
                @click="listening.click = !listening.click"
            >
                click
            </button>
        </div>
        <svg
            ref="area"
            class="roll"
            :viewBox="`0 0 ${width} ${height}`"
            :height="height"
            tabindex="0"
            role="group"
            :aria-label="`Notes of ${channel.name}: double-click adds one, arrows move what is chosen, Enter adds at the playhead`"
            @dblclick="addAt"
            @wheel.prevent="scroll"
            @keydown="press"
        >
            <g v-for="row in rows" :key="row.key">
                <rect
                    :x="LEFT"
                    :y="row.y"
                    :width="width - LEFT"
                    :height="KEY"
                    class="row"
                    :class="{ black: row.isBlack }"
                    @pointerdown="drawBox"
                />
                <rect :x="0" :y="row.y" :width="LEFT - 4" :height="KEY" class="key" :class="{ black: row.isBlack }" />
                <text v-if="row.name" :x="LEFT - 7" :y="row.y + KEY - 1" class="figure name">{{ row.name }}</text>
            </g>
            <g v-for="line in lines" :key="line.tick">
                <line :x1="line.x" :x2="line.x" :y1="HEAD" :y2="height" class="line" :class="line.kind" />
                <text v-if="line.name" :x="line.x + 3" :y="HEAD - 5" class="figure">{{ line.name }}</text>
            </g>
            <g
                v-for="one in shown"
                :key="one.name"
                class="note"
                :class="{ chosen: chosen.includes(one.name) }"
                :style="{ '--strike': one.note.velocity / 127 }"
                :data-note="one.name"
            >
                <rect
                    :x="one.x"
                    :y="one.y"
                    :width="one.w"
                    :height="KEY - 1"
                    rx="2"
                    class="body"
                    @pointerdown.stop="grab($event, one.name, false)"
                    @dblclick.stop
                >
                    <title>
                        {{ keyName(one.note.key) }}, velocity {{ one.note.velocity }}, bar
                        {{ Math.floor(one.note.at / bar) + 1 }}.{{ (Math.floor(one.note.at / perBeat) % BEATS) + 1 }}
                    </title>
                </rect>
                <rect
                    :x="one.x + one.w - GRIP"
                    :y="one.y"
                    :width="GRIP"
                    :height="KEY - 1"
                    class="grip"
                    data-grip
                    @pointerdown.stop="grab($event, one.name, true)"
                    @dblclick.stop
                />
                <line
                    v-if="!controller"
                    :x1="one.x"
                    :x2="one.x"
                    :y1="height - 2"
                    :y2="height - 2 - one.strike"
                    class="stem"
                />
                <circle
                    v-if="!controller"
                    :cx="one.x"
                    :cy="height - 2 - one.strike"
                    r="4"
                    class="strike"
                    @pointerdown.stop="strike($event, one.name)"
                />
            </g>
            <ControllerStrip
                v-if="controller"
                :channel="channel.id"
                :clips="edits.clips.value"
                :controller="controller"
                :left="LEFT"
                :width="width"
                :top="bottom"
                :height="STRIP"
                :x="x"
                :tick-at="tickAt"
                :grid="grid"
                :add="edits.add"
            />
            <line
                v-if="playhead >= from && playhead <= from + span"
                :x1="x(playhead)"
                :x2="x(playhead)"
                :y1="HEAD"
                :y2="height"
                class="playhead"
            />
            <rect v-if="box" :x="box.x" :y="box.y" :width="box.w" :height="box.h" class="box" />
        </svg>
    </div>
</template>

<style scoped>
.notes {
    margin: 0 10px 8px 16px;
    border: 1px solid var(--contour);
    border-radius: 4px;
    background: var(--sheet);
}

.head {
    display: flex;
    flex-wrap: wrap;
    align-items: center;
    gap: 2px 12px;
    padding: 3px 10px;
    border-bottom: 1px solid var(--contour);
}

.silence {
    margin: 0;
    padding: 3px 10px;
    border-bottom: 1px solid var(--contour);
    color: var(--ink);
}

.silence .plain {
    color: var(--deep);
    font-weight: 600;
}

.grid {
    width: 104px;
}

.strip {
    width: 150px;
}

.count {
    width: 130px;
}

.head .plain {
    color: var(--soft);
}

.head .plain:hover {
    color: var(--ink);
    text-decoration: underline dotted;
}

.head .plain.on {
    color: var(--deep);
    font-weight: 600;
}

.chosen {
    min-width: 54px;
}

.velocity {
    width: 150px;
}

.export {
    margin-left: auto;
    text-decoration: none;
}

.roll {
    display: block;
    width: 100%;
    touch-action: none;
    user-select: none;
}

.roll:focus-visible {
    outline: 2px solid var(--deep);
    outline-offset: -2px;
}

text {
    font-size: 12px;
    fill: var(--soft);
    pointer-events: none;
}

.name {
    font-size: 10px;
    text-anchor: end;
}

.row {
    fill: var(--sheet);
}

.row.black {
    fill: var(--paper);
}

.key {
    fill: var(--sheet);
    stroke: var(--contour);
    stroke-width: 0.5;
}

.key.black {
    fill: var(--soft);
    opacity: 0.55;
}

.line {
    stroke: var(--contour);
    pointer-events: none;
}

.line.step {
    stroke-dasharray: 1 4;
}

.line.beat {
    stroke-dasharray: 3 3;
}

.body {
    fill: color-mix(in srgb, var(--deep) calc(30% + 60% * var(--strike)), var(--sheet));
    stroke: var(--deep);
    stroke-width: 0.7;
    cursor: grab;
}

.note.chosen .body {
    fill: var(--brass);
    stroke: var(--ink);
}

.grip {
    fill: transparent;
    cursor: ew-resize;
}

.stem {
    stroke: var(--water);
    stroke-width: 2;
}

.strike {
    fill: var(--deep);
    cursor: ns-resize;
}

.note.chosen .strike {
    fill: var(--brass);
}

.playhead {
    stroke: var(--ink);
    pointer-events: none;
}

.box {
    fill: var(--shoal-wash);
    stroke: var(--deep);
    stroke-dasharray: 3 3;
    opacity: 0.5;
    pointer-events: none;
}
</style>
