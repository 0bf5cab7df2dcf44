<script setup lang="ts">
import { computed, nextTick, ref } from 'vue';
import type { Channel } from '@/api/types';
import SendColumnHead from '@/components/sends/SendColumnHead.vue';
import SendGridCell from '@/components/sends/SendGridCell.vue';
import { followPointer } from '@/composables/followPointer';
import { useSendEdits } from '@/composables/useSendEdits';
import { useSendGrid } from '@/composables/useSendGrid';
import { typedNumber } from '@/format';
import { useFinder } from '@/stores/finder';
import { useScreen } from '@/stores/screen';
import { useSelection } from '@/stores/selection';
import { newGesture } from '@/gesture';
import { useSession } from '@/stores/session';

/** Who sends where: a grid to read at a glance, to type into, and to change in blocks. */
const session = useSession();
const selection = useSelection();
const screen = useScreen();
const finder = useFinder();
const sends = useSendGrid();
const edits = useSendEdits(sends);
const { active, anchor, columns, rows, senders, sendAt, isLoop, isInBlock } = sends;

const grid = ref<HTMLElement>();
const typing = ref<string | null>(null);

const template = computed(() => `132px repeat(${columns.value.length}, minmax(104px, 128px))`);
const isActive = (row: number, column: number) => active.value.row === row && active.value.column === column;

async function focus(): Promise<void> {
    await nextTick();
    grid.value?.querySelector<HTMLElement>(`[data-cell="${active.value.row}:${active.value.column}"]`)?.focus();
}

function go(row: number, column: number, extend: boolean): void {
    sends.go(row, column, extend);
    void focus();
}

function startTyping(text: string): void {
    if (sends.cells().length > 0) {
        typing.value = text;
    }
}

function edit(): void {
    const channel = rows.value[active.value.row];
    const bus = columns.value[active.value.column];
    const send = channel && bus ? sendAt(channel, bus) : undefined;
    startTyping(send ? typedNumber(send.gain) : '');
}

const WAYS: Record<string, [number, number]> = {
    ArrowUp: [-1, 0],
    ArrowDown: [1, 0],
    ArrowLeft: [0, -1],
    ArrowRight: [0, 1],
};
const COMMANDS: Record<string, () => void> = { c: edits.copy, v: edits.paste, a: sends.selectAll };
const ACTIONS: Record<string, () => void> = {
    Enter: edit,
    Delete: edits.remove,
    Backspace: edits.remove,
    p: edits.flipTap,
    o: edits.flipOn,
};

/** What a key does in the grid; null when it is not for the grid. */
function actionOf(event: KeyboardEvent): (() => void) | null {
    const { row, column } = active.value;
    const way = WAYS[event.key];
    if (way && event.altKey) {
        return () => edits.move((way[0] < 0 || way[1] > 0 ? 1 : -1) * (event.shiftKey ? 0.1 : 0.5));
    }
    if (way) {
        return () => go(row + way[0], column + way[1], event.shiftKey);
    }
    if (event.ctrlKey || event.metaKey) {
        return COMMANDS[event.key.toLowerCase()] ?? null;
    }
    if (event.key === 'Home' || event.key === 'End') {
        return () => go(row, event.key === 'Home' ? 0 : columns.value.length - 1, event.shiftKey);
    }
    if (/^[-\u2212\d.]$/.test(event.key)) {
        return () => startTyping(event.key);
    }
    return ACTIONS[event.key] ?? ACTIONS[event.key.toLowerCase()] ?? null;
}

function key(event: KeyboardEvent): void {
    const action = typing.value === null ? actionOf(event) : null;
    if (action) {
        action();
        event.preventDefault();
        event.stopPropagation();
    }
}

function grab(event: PointerEvent, row: number, column: number): void {
    if (event.button !== 0) {
        return;
    }
    const isWithin = isInBlock(row, column) && !event.shiftKey;
    const isPart = anchor.value !== null && isWithin;
    const isAgain = anchor.value === null && isWithin;
    if (!isPart) {
        go(row, column, event.shiftKey);
    }
    const gesture = newGesture();
    let lastY = event.clientY;
    let rest = 0;
    let isDragged = false;
    followPointer(
        (moved) => {
            // A decibel for four pixels, a tenth of that with Shift.
            rest += (lastY - moved.clientY) * (moved.shiftKey ? 0.025 : 0.25);
            lastY = moved.clientY;
            const by = Math.trunc(rest * 10) / 10;
            if (by !== 0 && edits.move(Number(by.toFixed(1)), gesture)) {
                isDragged = true;
                rest -= by;
            }
        },
        () => {
            if (isPart && !isDragged) {
                go(row, column, false);
            } else if (isAgain && sends.sends().length === 0) {
                // A second press on the plus of an empty cell.
                edits.put();
            }
        },
    );
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
                    <SendGridCell
                        v-for="(bus, column) in columns"
                        :key="bus.id"
                        v-model:typing="typing"
                        :channel="channel"
                        :bus="bus"
                        :send="sendAt(channel, bus)"
                        :is-loop="isLoop(channel, bus)"
                        :is-active="isActive(row, column)"
                        :is-chosen="isInBlock(row, column)"
                        :is-in-block="anchor !== null && isInBlock(row, column)"
                        :data-cell="`${row}:${column}`"
                        @pointerdown="grab($event, row, column)"
                        @dblclick="startTyping(String(sendAt(channel, bus)?.gain ?? ''))"
                        @focus="isActive(row, column) ? undefined : go(row, column, false)"
                        @typed="edits.put"
                        @left="focus"
                    />
                </div>
            </template>
            <p class="foot hint">
                <span><i class="tap-mark post-fader" /> after fader</span>
                <span><i class="tap-mark pre-fader" /> before fader</span>
                <span><i class="tap-mark source" /> source</span>
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
    padding: 0 8px;
    background: var(--paper);
    font-weight: 600;
    line-height: 15px;
    overflow-wrap: anywhere;
}

.chosen .who {
    background: var(--shoal-wash);
}

.first .cell {
    border-top-width: 1px;
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
    background: repeating-linear-gradient(-45deg, transparent 0 5px, var(--contour) 5px 6.5px);
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
