<script setup lang="ts">
import { computed } from 'vue';
import type { Branch, Channel, RowName, Split } from '@/api/types';
import { useSelectorPlace } from '@/composables/useSelectorPlace';
import { decibels } from '@/format';
import { useListening } from '@/stores/listening';
import { useScreen } from '@/stores/screen';
import { useSelection } from '@/stores/selection';
import { useSession } from '@/stores/session';
import InsertRow from './InsertRow.vue';
import PathLine from './PathLine.vue';
import { useChipDrag } from './chipDrag';

/** A split on the line: the first branch goes straight on, the others leave it as sidings, and all rejoin. */
const props = defineProps<{
    channel: Channel;
    row: RowName;
    split: Split;
    silent?: boolean;
    isCompact?: boolean;
}>();

const session = useSession();
const selection = useSelection();
const screen = useScreen();
const listening = useListening();
const drag = useChipDrag();

const isOpen = computed(() => screen.isSplitOpen(props.split.id, props.isCompact));
const isOn = computed(() => props.split.on && props.channel.insertsOn);
const isSelected = computed(() => selection.inserts.includes(props.split.id));
const into = computed(() => `${props.channel.id}:into:${props.split.id}`);
const after = computed(() => `${props.channel.id}:insert:${props.split.id}`);
const facts = computed(() => session.state?.inserts[props.split.id]);
const rises = computed(() => Boolean(facts.value?.equal) && (facts.value?.rise ?? 0) > 0.05);
const kind = computed(
    () =>
        ({
            copies: '',
            frequency: ' by frequency',
            'left-right': ' into left and right',
            'mid-side': ' into mid and side',
        })[props.split.by],
);
const label = computed(() => `Split${kind.value} of ${props.channel.name}`);
const shownBranches = computed(() => (isOpen.value ? props.split.branches : []));

const { opening } = useSelectorPlace(
    () => props.channel,
    () => props.split,
);

function openOf(branch: Branch): number {
    return opening(props.split.branches.indexOf(branch));
}

function isHeard(branch: Branch): boolean {
    return isOn.value && (facts.value?.heard?.includes(branch.id) ?? true) && openOf(branch) > 0;
}

/** What a split says while it is closed: how many branches, or which of them its selector has open. */
const closedName = computed(() => {
    const open = props.split.branches.filter((branch) => openOf(branch) > 0);
    const name = facts.value?.label ?? 'Split';
    return props.split.selector ? `${name} · ${open.map((branch) => branch.name).join(' + ') || 'none'}` : name;
});

function select(event: MouseEvent): void {
    selection.selectInsert(props.channel.id, props.split.id, event);
}

function band(index: number): string {
    if (props.split.by !== 'frequency') {
        return '';
    }
    const hertz = (value: number) =>
        value >= 1000 ? `${Number((value / 1000).toFixed(1))}k` : String(Math.round(value));
    const [from, to] = [props.split.crossovers[index - 1], props.split.crossovers[index]];
    return from === undefined
        ? `to ${hertz(to ?? 0)}`
        : to === undefined
          ? `from ${hertz(from)}`
          : `${hertz(from)}–${hertz(to)}`;
}

/** Widest a name stands in one line, in pixels, and a letter of it. */
const NAME = 110;
const LETTER = 6.4;
const isLong = (branch: Branch) => branch.name.length * LETTER > NAME;

/** Room for a branch's name and the widest of its chips: more of them go on in another line. */
function leastWidth(branch: Branch, index: number): number {
    const label =
        Math.min(branch.name.length * LETTER, NAME) +
        ` ${decibels(branch.gain, true)}${band(index)}`.length * LETTER +
        (props.split.selector ? 30 : 14);
    const inside = branch.inserts.some((insert) => insert.type === 'split') ? 190 : branch.inserts.length > 0 ? 84 : 0;
    return label + 28 + inside;
}

function branchTitle(branch: Branch): string {
    const open = Math.round(openOf(branch) * 100);
    const state = branch.mute
        ? ', muted'
        : props.split.selector && open < 100
          ? `, ${open} % open`
          : isHeard(branch)
            ? ''
            : ', silent';
    const level = listening.level(`${props.channel.id}:branch:${branch.id}`);
    return `${branch.name} ${decibels(branch.gain)} dB${branch.invert ? ', polarity inverted' : ''}${state}${
        level ? `, peak ${decibels(level.peak)} dBFS` : ''
    }`;
}
</script>

<template>
    <div
        class="siding"
        :style="{ minWidth: isOpen ? `${28 + Math.max(...split.branches.map(leastWidth))}px` : undefined }"
        :class="{ off: !isOn, picked: isSelected, dragged: drag.state.value?.insert === split.id }"
        data-item
        :data-split="split.id"
        :data-open="isOpen"
    >
        <span class="end">
            <PathLine :tap="into" :wide="session.isStereo(into)" :silent="silent" />
            <button
                class="fork plain"
                :class="{ rises }"
                :aria-label="label"
                :title="`${label}: press for its settings, drag to move it${rises ? '. Its equal branches add ' + (facts?.rise ?? 0).toFixed(2) + ' dB' : ''}`"
                @pointerdown="drag.grab($event, split.id, label)"
                @click.stop="select"
            />
        </span>
        <div v-if="isOpen" class="branches">
            <div
                v-for="(branch, index) in shownBranches"
                :key="branch.id"
                class="branch"
                :class="{ siding: index > 0, last: index === split.branches.length - 1, quiet: !isHeard(branch) }"
                :data-branch-row="branch.id"
                :style="{ minWidth: `${leastWidth(branch, index)}px` }"
            >
                <span class="turn out" aria-hidden="true" />
                <button
                    class="name plain"
                    :class="{ long: isLong(branch) }"
                    :style="{ '--name': `${NAME}px` }"
                    :title="branchTitle(branch)"
                    @click.stop="select"
                >
                    <span v-if="branch.mute" class="state">M</span><span v-if="branch.solo" class="state solo">S</span
                    ><span
                        v-if="split.selector"
                        class="opening"
                        :style="{ '--open': `${Math.round(openOf(branch) * 360)}deg` }"
                    /><span class="words">{{ branch.name }}</span
                    >{{ ' ' }}<span class="figure gain">{{ decibels(branch.gain, true) }}</span
                    ><span v-if="band(index)" class="band">{{ band(index) }}</span>
                </button>
                <InsertRow
                    class="inner"
                    :channel="channel"
                    :row="row"
                    :inserts="branch.inserts"
                    :branch="branch"
                    :start="into"
                    :silent="silent || !isHeard(branch)"
                    :is-compact="isCompact"
                />
                <span class="turn in" aria-hidden="true" />
            </div>
        </div>
        <button
            v-else
            class="closed plain"
            :title="label"
            @click.stop="select"
            @dblclick.stop="screen.toggleSplit(split.id, isCompact)"
        >
            {{ closedName }}
        </button>
        <span class="end">
            <PathLine :tap="after" :wide="session.isStereo(after)" :silent="silent" />
            <button
                class="join plain"
                :aria-expanded="isOpen"
                :aria-label="isOpen ? `Close the ${label}` : `Open the ${label}`"
                :title="isOpen ? 'Close' : 'Open'"
                @click.stop="screen.toggleSplit(split.id, isCompact)"
            >
                {{ isOpen ? '‹' : '›' }}
            </button>
        </span>
    </div>
</template>

<style scoped>
.siding {
    --tie: var(--water);

    position: relative;
    display: flex;
    flex: 0 1 auto;
    align-items: flex-start;
    min-width: 0;
}

.siding.off {
    --tie: var(--contour);
}

.siding.dragged {
    opacity: 0.35;
}

.end {
    position: relative;
    display: flex;
    align-items: center;
    justify-content: center;
    flex: none;
    width: 14px;
    height: var(--line-height);
}

.end :deep(.line) {
    top: 50%;
}

.fork,
.join {
    position: relative;
    width: 12px;
    height: 12px;
    border: 2px solid var(--tie);
    border-radius: 50%;
    background: var(--ground);
    touch-action: none;
}

.fork {
    cursor: grab;
}

.fork.rises {
    border-color: var(--brass);
    background: var(--brass);
}

.picked > .end > .fork {
    border-color: var(--deep);
    background: var(--deep);
    outline: 2px solid var(--deep);
    outline-offset: 1.5px;
}

.join {
    width: 14px;
    height: 14px;
    font-size: 12px;
    line-height: 8px;
    text-align: center;
    color: var(--soft);
}

/* Branches are lines of their own: what is in them gets room between. */
.branches {
    display: flex;
    flex: 0 1 auto;
    flex-direction: column;
    min-width: 0;
}

.branch {
    position: relative;
    display: flex;
    align-items: flex-start;
    min-width: 0;
    padding: 0 0 3px 4px;
}

.branch.siding {
    padding: 0 8px 3px 10px;
}

.name {
    position: relative;
    display: inline-flex;
    align-items: center;
    flex: none;
    gap: 4px;
    min-height: var(--line-height);
    padding: 0 2px;
    font-size: 12px;
    white-space: nowrap;
    --pill: 24px;
}

/* A long name takes several lines. */
.name.long {
    --pill: calc(100% - 4px);
}

.long .words {
    max-width: var(--name);
    line-height: 13px;
    text-align: left;
    overflow-wrap: anywhere;
    white-space: normal;
}

.branch:not(.siding) .name::before {
    position: absolute;
    inset: calc((100% - var(--pill)) / 2) -2px;
    z-index: 0;
    border: 1px solid var(--contour);
    border-radius: 999px;
    content: '';
}

.branch:not(.siding) .name {
    padding: 0 6px;
    margin-left: -4px;
    background: linear-gradient(var(--ground), var(--ground)) center / 100% var(--pill) no-repeat;
}

.picked > .branches > .branch > .name {
    color: var(--deep);
    font-weight: 500;
}

.quiet > .name {
    color: var(--soft);
}

.gain,
.band {
    font-size: 12px;
    color: var(--soft);
    letter-spacing: -0.02em;
}

/* How far the selector has it open. */
.opening {
    flex: none;
    width: 11px;
    height: 11px;
    border: 1.5px solid var(--deep);
    border-radius: 50%;
    background: conic-gradient(var(--deep) var(--open), transparent 0);
}

.state {
    width: 15px;
    height: 15px;
    border-radius: 50%;
    background: var(--ink);
    color: var(--paper);
    font-size: 12px;
    line-height: 15px;
    text-align: center;
}

.state.solo {
    background: var(--brass);
}

.inner {
    flex: 1 1 auto;
    min-width: 0;
}

/* The track that leaves the line and comes back to it. */
.turn {
    position: absolute;
    top: 0;
    bottom: 0;
    width: 12px;
    pointer-events: none;
}

.turn.out {
    left: -7px;
}

.turn.in {
    right: -7px;
}

.branch:not(.siding):not(.last) > .turn::before {
    position: absolute;
    top: calc(var(--line-height) / 2);
    bottom: 0;
    border: 0 solid var(--tie);
    content: '';
}

.branch:not(.siding):not(.last) > .turn.out::before {
    left: 0;
    border-left-width: 2px;
}

.branch:not(.siding):not(.last) > .turn.in::before {
    right: 0;
    border-right-width: 2px;
}

.branch.siding > .turn::before {
    position: absolute;
    top: 0;
    height: calc(var(--line-height) / 2 + 1px);
    width: 14px;
    border: 0 solid var(--tie);
    border-bottom-width: 2px;
    content: '';
}

.branch.siding > .turn.out::before {
    left: 0;
    border-left-width: 2px;
    border-bottom-left-radius: 12px;
}

.branch.siding > .turn.in::before {
    right: 0;
    border-right-width: 2px;
    border-bottom-right-radius: 12px;
}

.branch.siding:not(.last) > .turn::after {
    position: absolute;
    top: 0;
    bottom: 0;
    border: 0 solid var(--tie);
    content: '';
}

.branch.siding:not(.last) > .turn.out::after {
    left: 0;
    border-left-width: 2px;
}

.branch.siding:not(.last) > .turn.in::after {
    right: 0;
    border-right-width: 2px;
}

.branch.quiet.siding > .turn::before {
    border-bottom-style: dashed;
}

.closed {
    height: 24px;
    margin: calc((var(--line-height) - 24px) / 2) 0;
    padding: 0 8px;
    border: 1px solid var(--deep);
    border-radius: 5px;
    background: var(--sheet);
    white-space: nowrap;
}

.picked > .closed {
    background: var(--deep);
    color: var(--on-deep);
}
</style>
