<script setup lang="ts">
import { computed, nextTick, ref, watch } from 'vue';
import type { Channel, Send } from '@/api/types';
import SendColumnHead from '@/components/sends/SendColumnHead.vue';
import { decibels, parseNumber, sendText } from '@/format';
import { faderTravel, placeOf } from '@/scales';
import { useFinder } from '@/stores/finder';
import { useScreen } from '@/stores/screen';
import { useSelection } from '@/stores/selection';
import { newGesture, useSession } from '@/stores/session';

/** Who sends where: a grid to read at a glance, to type into, and to change in blocks. */
const session = useSession();
const selection = useSelection();
const screen = useScreen();
const finder = useFinder();

interface Cell {
    row: number;
    column: number;
}

const grid = ref<HTMLElement>();
const active = ref<Cell>({ row: 0, column: 0 });
const anchor = ref<Cell | null>(null);
const typing = ref<string | null>(null);
const copied = ref<Partial<Send>[][] | null>(null);

const columns = computed(() => [...session.returns, ...session.groups, ...session.cues]);
const senders = computed(() => [...session.tracks, ...session.groups].filter((channel) => screen.isShown(channel.id)));
const returns = computed(() => session.returns.filter((channel) => screen.isShown(channel.id)));
const rows = computed(() => [...senders.value, ...returns.value]);

const block = computed(() => {
    const from = anchor.value ?? active.value;
    return {
        top: Math.min(from.row, active.value.row),
        bottom: Math.max(from.row, active.value.row),
        left: Math.min(from.column, active.value.column),
        right: Math.max(from.column, active.value.column),
    };
});
const template = computed(() => `132px repeat(${columns.value.length}, minmax(104px, 128px))`);

function sendAt(channel: Channel, bus: Channel): Send | undefined {
    return channel.sends.find((send) => send.to === bus.id);
}

function isLoop(channel: Channel, bus: Channel): boolean {
    return session.closesLoop(channel.id, bus.id);
}

function isInBlock(row: number, column: number): boolean {
    const at = block.value;
    return row >= at.top && row <= at.bottom && column >= at.left && column <= at.right;
}

/** The cells of the block that can carry a send. */
function cells(): { channel: Channel; bus: Channel; send: Send | undefined }[] {
    const at = block.value;
    const found = [];
    for (const channel of rows.value.slice(at.top, at.bottom + 1)) {
        for (const bus of columns.value.slice(at.left, at.right + 1)) {
            if (!isLoop(channel, bus)) {
                found.push({ channel, bus, send: sendAt(channel, bus) });
            }
        }
    }
    return found;
}

const sendsInBlock = () => cells().flatMap((cell) => (cell.send ? [cell.send.id] : []));

/** Keeps the inspector on the send, or the sends, of the block. */
function inspect(): void {
    const channel = rows.value[active.value.row];
    if (channel) {
        selection.channels = [channel.id];
    }
    selection.selectSends(sendsInBlock());
}

async function focus(): Promise<void> {
    await nextTick();
    grid.value?.querySelector<HTMLElement>(`[data-cell="${active.value.row}:${active.value.column}"]`)?.focus();
}

function go(row: number, column: number, extend: boolean): void {
    anchor.value = extend ? (anchor.value ?? { ...active.value }) : null;
    active.value = {
        row: Math.min(rows.value.length - 1, Math.max(0, row)),
        column: Math.min(columns.value.length - 1, Math.max(0, column)),
    };
    inspect();
    void focus();
}

/** Sets the sends of the block; what is not there yet is made, at the usual amount where none is given. */
function put(gain?: number | null): void {
    const wanted = cells();
    if (wanted.length > 0) {
        void session
            .edit({
                type: 'put-sends',
                sends: wanted.map(({ channel, bus }) => ({
                    channel: channel.id,
                    to: bus.id,
                    ...(gain === undefined ? {} : { gain }),
                })),
            })
            .then(inspect);
    }
}

let nudging = '';
let nudged = 0;
function nudge(by: number): void {
    const sends = sendsInBlock();
    if (sends.length === 0) {
        return;
    }
    if (Date.now() - nudged > 700) {
        nudging = newGesture();
    }
    nudged = Date.now();
    void session.edit({ type: 'move-sends', sends, by }, nudging);
}

function startTyping(text: string): void {
    if (cells().length > 0) {
        typing.value = text;
        void nextTick(() => grid.value?.querySelector<HTMLInputElement>('.entry')?.focus());
    }
}

function typed(): void {
    const gain = typing.value === null ? undefined : parseNumber(typing.value);
    typing.value = null;
    if (gain !== undefined) {
        put(gain);
    }
    void focus();
}

function remove(): void {
    const sends = sendsInBlock();
    if (sends.length > 0) {
        selection.selectSends([]);
        void session.edit({ type: 'remove-sends', sends });
    }
}

function flipTap(): void {
    const sends = cells().flatMap((cell) => (cell.send ? [cell.send] : []));
    if (sends[0]) {
        void session.edit({
            type: 'set-send-tap',
            sends: sends.map((send) => send.id),
            tap: sends[0].tap === 'post-fader' ? 'pre-fader' : 'post-fader',
        });
    }
}

function flipOn(): void {
    const sends = cells().flatMap((cell) => (cell.send ? [cell.send] : []));
    if (sends[0]) {
        void session.edit({ type: 'set-send-on', sends: sends.map((send) => send.id), on: !sends[0].on });
    }
}

function copy(): void {
    const at = block.value;
    copied.value = rows.value.slice(at.top, at.bottom + 1).map((channel) =>
        columns.value.slice(at.left, at.right + 1).map((bus) => {
            const send = sendAt(channel, bus);
            return send ? { gain: send.gain, tap: send.tap, on: send.on, pan: send.pan } : {};
        }),
    );
}

/** The block as it was copied, from the corner on; one row is repeated over all rows of the block. */
function paste(): void {
    const source = copied.value;
    if (!source || !source[0]) {
        return;
    }
    const at = block.value;
    const height = source.length === 1 ? at.bottom - at.top + 1 : source.length;
    const wanted = [];
    for (let r = 0; r < height; ++r) {
        for (const [c, send] of (source[r % source.length] ?? []).entries()) {
            const channel = rows.value[at.top + r];
            const bus = columns.value[at.left + c];
            if (channel && bus && send.gain !== undefined && !isLoop(channel, bus)) {
                wanted.push({ channel: channel.id, to: bus.id, ...send });
            }
        }
    }
    if (wanted.length > 0) {
        void session.edit({ type: 'put-sends', sends: wanted }).then(inspect);
    }
}

function key(event: KeyboardEvent): void {
    if (typing.value !== null) {
        return;
    }
    const { row, column } = active.value;
    const command = event.ctrlKey || event.metaKey;
    const ways: Record<string, [number, number]> = {
        ArrowUp: [-1, 0],
        ArrowDown: [1, 0],
        ArrowLeft: [0, -1],
        ArrowRight: [0, 1],
    };
    const way = ways[event.key];
    if (way && event.altKey) {
        nudge((way[0] < 0 || way[1] > 0 ? 1 : -1) * (event.shiftKey ? 0.1 : 0.5));
    } else if (way) {
        go(row + way[0], column + way[1], event.shiftKey);
    } else if (command && event.key.toLowerCase() === 'c') {
        copy();
    } else if (command && event.key.toLowerCase() === 'v') {
        paste();
    } else if (command && event.key.toLowerCase() === 'a') {
        anchor.value = { row: 0, column: 0 };
        active.value = { row: rows.value.length - 1, column: columns.value.length - 1 };
        inspect();
    } else if (command) {
        return;
    } else if (event.key === 'Enter') {
        const channel = rows.value[row];
        const bus = columns.value[column];
        const send = channel && bus ? sendAt(channel, bus) : undefined;
        startTyping(send ? (send.gain === null ? '-inf' : String(send.gain)) : '');
    } else if (event.key === 'Delete' || event.key === 'Backspace') {
        remove();
    } else if (event.key === 'Home') {
        go(row, 0, event.shiftKey);
    } else if (event.key === 'End') {
        go(row, columns.value.length - 1, event.shiftKey);
    } else if (event.key.toLowerCase() === 'p') {
        flipTap();
    } else if (event.key.toLowerCase() === 'o') {
        flipOn();
    } else if (/^[-\u2212\d.]$/.test(event.key)) {
        startTyping(event.key);
    } else {
        return;
    }
    event.preventDefault();
    event.stopPropagation();
}

function grab(event: PointerEvent, row: number, column: number): void {
    if (event.button !== 0) {
        return;
    }
    const isPart = anchor.value !== null && isInBlock(row, column) && !event.shiftKey;
    const isAgain = anchor.value === null && isInBlock(row, column) && !event.shiftKey;
    if (!isPart) {
        go(row, column, event.shiftKey);
    }
    const gesture = newGesture();
    let lastY = event.clientY;
    let rest = 0;
    let isDragged = false;
    const move = (moved: PointerEvent) => {
        // A decibel for four pixels, a tenth of that with Shift.
        rest += (lastY - moved.clientY) * (moved.shiftKey ? 0.025 : 0.25);
        lastY = moved.clientY;
        const by = Math.trunc(rest * 10) / 10;
        const sends = sendsInBlock();
        if (by !== 0 && sends.length > 0) {
            isDragged = true;
            rest -= by;
            void session.edit({ type: 'move-sends', sends, by: Number(by.toFixed(1)) }, gesture);
        }
    };
    const drop = () => {
        window.removeEventListener('pointermove', move);
        window.removeEventListener('pointerup', drop);
        window.removeEventListener('pointercancel', drop);
        if (isPart && !isDragged) {
            go(row, column, false);
        } else if (isAgain && sendsInBlock().length === 0) {
            // A second press on the plus of an empty cell.
            put();
        }
    };
    window.addEventListener('pointermove', move);
    window.addEventListener('pointerup', drop);
    window.addEventListener('pointercancel', drop);
}

function share(gain: number | null): number {
    return gain === null ? 0 : Math.min(1, Math.max(0.02, placeOf(gain, faderTravel())));
}

function cellTitle(channel: Channel, bus: Channel): string {
    const send = sendAt(channel, bus);
    if (send) {
        return sendText(channel.name, bus.name, send);
    }
    if (channel.output === bus.id) {
        return `${channel.name} puts out to ${bus.name}. Type an amount to send there as well.`;
    }
    return isLoop(channel, bus)
        ? `${channel.name} to ${bus.name} would close a loop`
        : `${channel.name} does not send to ${bus.name}. Type an amount, or press again.`;
}

async function addCue(): Promise<void> {
    await session.edit({ type: 'add-channel', kind: 'cue', name: `Cue ${session.cues.length + 1}` });
}

function addReturn(): void {
    const chosen = selection.channels.filter((id) => rows.value.some((channel) => channel.id === id));
    const first = rows.value[0];
    if (chosen.length > 0 || first) {
        finder.openForNewReturn(chosen.length > 0 ? chosen : [first!.id]);
    }
}

function selectRow(channel: Channel, event: MouseEvent): void {
    selection.selectChannel(
        channel.id,
        event,
        rows.value.map((row) => row.id),
    );
}

watch([() => rows.value.length, () => columns.value.length], () => {
    active.value = {
        row: Math.max(0, Math.min(rows.value.length - 1, active.value.row)),
        column: Math.max(0, Math.min(columns.value.length - 1, active.value.column)),
    };
    anchor.value = null;
});
</script>

<template>
    <main class="sends" aria-label="Sends">
        <div v-if="columns.length === 0" class="empty">
            <h1>Nothing to send to yet</h1>
            <p>A return carries one effect for many channels; a cue is a mix of its own for a performer.</p>
            <button class="pill on" :disabled="rows.length === 0" @click="addReturn">New return …</button>
            <button class="pill" @click="addCue">New cue</button>
        </div>
        <div v-else ref="grid" class="grid" role="grid" :aria-label="'Sends'" @keydown="key">
            <div class="line heads" role="row" :style="{ gridTemplateColumns: template }">
                <span class="corner" role="columnheader" />
                <SendColumnHead
                    v-for="bus in columns"
                    :key="bus.id"
                    :channel="bus"
                    :class="{ aside: screen.isAside(bus.id) }"
                    role="columnheader"
                />
            </div>
            <template v-for="(channel, row) in rows" :key="channel.id">
                <p v-if="row === senders.length" class="hint between">returns into returns</p>
                <div
                    class="line"
                    role="row"
                    :class="{
                        chosen: selection.channels.includes(channel.id),
                        aside: screen.isAside(channel.id),
                        first: row === 0 || row === senders.length,
                    }"
                    :style="{ gridTemplateColumns: template }"
                >
                    <button class="who plain" role="rowheader" @click="selectRow(channel, $event)">
                        {{ channel.name }}
                    </button>
                    <div
                        v-for="(bus, column) in columns"
                        :key="bus.id"
                        class="cell"
                        :class="{
                            active: active.row === row && active.column === column,
                            block: anchor !== null && isInBlock(row, column),
                            loop: isLoop(channel, bus),
                            cue: bus.kind === 'cue',
                            off: sendAt(channel, bus)?.on === false,
                        }"
                        role="gridcell"
                        :tabindex="active.row === row && active.column === column ? 0 : -1"
                        :data-cell="`${row}:${column}`"
                        :data-from="channel.id"
                        :data-to="bus.id"
                        :aria-selected="isInBlock(row, column)"
                        :aria-disabled="isLoop(channel, bus)"
                        :aria-label="cellTitle(channel, bus)"
                        :title="cellTitle(channel, bus)"
                        @pointerdown="grab($event, row, column)"
                        @dblclick="startTyping(String(sendAt(channel, bus)?.gain ?? ''))"
                        @focus="active.row === row && active.column === column ? undefined : go(row, column, false)"
                    >
                        <input
                            v-if="typing !== null && active.row === row && active.column === column"
                            v-model="typing"
                            class="entry figure"
                            aria-label="Amount in dB"
                            @keydown.enter.stop="typed"
                            @keydown.escape.stop="((typing = null), focus())"
                            @keydown.stop
                            @pointerdown.stop
                            @blur="typing = null"
                        />
                        <template v-else-if="sendAt(channel, bus)">
                            <span class="figure amount">{{ decibels(sendAt(channel, bus)?.gain) }}</span>
                            <span class="tap" :class="sendAt(channel, bus)?.tap" />
                            <span
                                class="bar"
                                :style="{ width: `calc((100% - 12px) * ${share(sendAt(channel, bus)?.gain ?? null)})` }"
                            />
                        </template>
                        <span v-else-if="channel.output === bus.id" class="out">output →</span>
                        <span v-else-if="!isLoop(channel, bus)" class="none">+</span>
                    </div>
                </div>
            </template>
            <p class="foot hint">
                <span><i class="tap post-fader" /> after fader</span>
                <span><i class="tap pre-fader" /> before fader</span>
                <span><i class="tap source" /> source</span>
                <span><i class="hatch" /> would close a loop</span>
                <span class="fill" />
                <button class="pill" @click="addReturn">New return …</button>
                <button class="pill" @click="addCue">New cue</button>
            </p>
            <p class="hint help">
                Type an amount, or press an empty cell twice · Enter edits · Alt ↑ ↓ moves, drag too · Shift with arrows
                or a click selects a block · P before or after the fader · O on or off · Ctrl C and V copy rows and
                blocks · Delete removes
            </p>
        </div>
    </main>
</template>

<style scoped>
.sends {
    height: 100%;
    overflow: auto;
    padding: 0 12px 16px;
    scrollbar-width: thin;
    scrollbar-color: var(--contour) transparent;
}

.grid {
    min-width: max-content;
}

.line {
    display: grid;
    transition: opacity 120ms;
}

.heads {
    position: sticky;
    top: 0;
    z-index: 3;
    align-items: end;
    padding-top: 10px;
    background: var(--paper);
}

.aside {
    opacity: 0.25;
}

.who {
    position: sticky;
    left: 0;
    z-index: 2;
    overflow: hidden;
    padding: 0 8px;
    background: var(--paper);
    font-weight: 600;
    text-overflow: ellipsis;
    white-space: nowrap;
}

.chosen .who {
    background: var(--shoal-wash);
}

.cell {
    position: relative;
    height: 35px;
    border: solid var(--contour);
    border-width: 0 1px 1px 0;
    cursor: ns-resize;
    touch-action: none;
    user-select: none;
}

.cell:nth-child(2) {
    border-left-width: 1px;
}

.first .cell {
    border-top-width: 1px;
}

.cell:focus-visible {
    outline-offset: -2px;
    border-radius: 0;
}

.cell.active {
    background: var(--sheet);
    box-shadow: inset 0 0 0 2px var(--deep);
}

.cell.block {
    background: var(--shoal-wash);
}

.cell.loop,
.hatch {
    background: repeating-linear-gradient(-45deg, transparent 0 5px, var(--contour) 5px 6.5px);
}

.cell.loop {
    cursor: not-allowed;
}

.amount {
    position: absolute;
    left: 6px;
    top: 6px;
}

.off .amount {
    color: var(--soft);
    text-decoration: line-through;
}

.tap {
    display: inline-block;
    width: 10px;
    height: 10px;
    border: 2px solid var(--deep);
    border-radius: 50%;
    background: var(--deep);
}

.cell .tap {
    position: absolute;
    right: 7px;
    top: 8px;
}

.tap.pre-fader,
.tap.source {
    background: none;
}

.tap.source {
    border-radius: 0;
}

.cue .tap {
    border-color: var(--plum);
}

.cue .tap.post-fader {
    background: var(--plum);
}

.bar {
    position: absolute;
    left: 6px;
    bottom: 5px;
    height: 3px;
    border-radius: 2px;
    background: var(--water);
}

.cue .bar {
    background: var(--plum);
}

.off .bar {
    background: var(--contour);
}

.out {
    display: block;
    font-size: 12px;
    color: var(--soft);
    line-height: 34px;
    text-align: center;
}

.none {
    display: block;
    color: var(--contour);
    line-height: 34px;
    text-align: center;
}

.cell:hover .none,
.cell.active .none {
    color: var(--soft);
}

.entry {
    position: absolute;
    inset: 3px;
    width: calc(100% - 6px);
    padding: 0 4px;
    border: 0;
    outline: 0;
    background: var(--sheet);
}

.between {
    margin: 14px 0 4px 8px;
}

.foot {
    display: flex;
    align-items: center;
    gap: 16px;
    margin: 10px 8px 0;
}

.foot span:not(.fill) {
    display: inline-flex;
    align-items: center;
    gap: 6px;
}

.hatch {
    width: 14px;
    height: 10px;
    border: 1px solid var(--contour);
}

.fill {
    flex: 1;
}

.help {
    max-width: 900px;
    margin: 10px 8px 0;
}

.empty {
    max-width: 520px;
    margin: 18vh auto 0;
    text-align: center;
}

.empty h1 {
    margin: 0 0 6px;
    font-size: 20px;
    font-weight: 600;
}

.empty .pill {
    margin: 8px 4px;
}
</style>
