<script setup lang="ts">
import { portNumbers } from '@/ports';
import { useElementSize } from '@vueuse/core';
import { computed, ref } from 'vue';
import type { Branch, Channel, Insert, RowName } from '@/api/types';
import { useWrappedLine } from '@/composables/useWrappedLine';
import { depth } from '@/format';
import { useFinder } from '@/stores/finder';
import { useFreezes } from '@/stores/freezes';
import { useHardware } from '@/stores/hardware';
import { useListening } from '@/stores/listening';
import { usePilot } from '@/stores/pilot';
import { useSession } from '@/stores/session';
import HardwareChip from './HardwareChip.vue';
import InsertChip from './InsertChip.vue';
import OrderOffer from './OrderOffer.vue';
import PathLine from './PathLine.vue';
import SplitSiding from './SplitSiding.vue';
import { useChipDrag } from './chipDrag';

/**
 * Inserts on the line, of a channel's row or of a branch, and the button to add one. Those that do not fit go on in another
 * line, and the path is drawn on to it; a compact row leaves out its figures first.
 */
const props = defineProps<{
    channel: Channel;
    row: RowName;
    inserts: Insert[];
    branch?: Branch;
    start: string;
    silent?: boolean;
    isCompact?: boolean;
}>();

const session = useSession();
const finder = useFinder();
const hardware = useHardware();
const listening = useListening();
const pilot = usePilot();
const drag = useChipDrag();
const freezes = useFreezes();

const element = ref<HTMLElement>();
const { width } = useElementSize(element);
const chips = computed(() => props.inserts.map((insert) => session.state?.inserts[insert.id]));
const turns = useWrappedLine(element, () => [props.inserts, chips.value]);

/** Signs of all chips with their figures, against what the line has room for. */
const isTight = computed(() => {
    const wanted = chips.value.reduce(
        (sum, facts) => sum + 32 + 7.2 * `${facts?.chip?.name ?? 'Split 2'}${facts?.chip?.figure ?? ''}`.length,
        28,
    );
    return props.isCompact === true && width.value > 0 && wanted > width.value;
});
/** Where live sound comes from, and how late it comes to the headphones; or that nothing comes. */
const live = computed(() => {
    const input = hardware.inputOf(props.channel);
    if (!input || props.row !== 'inserts' || props.branch || !hardware.heard.includes(props.channel.id)) {
        return null;
    }
    const [empty] = hardware.emptyInputs(props.channel.id);
    if (empty !== undefined) {
        return `silent: nothing plugged into in ${empty}`;
    }
    const samples = hardware.delay(props.channel.id).reduce((sum, part) => sum + part.samples, 0);
    const milliseconds = (samples / (session.document?.sampleRate ?? 48000)) * 1000;
    return `live from in ${portNumbers(input.input).join('–')} · ${milliseconds.toFixed(1)} ms`;
});
/** The row before the fader of a frozen channel, with what stands in its splits. */
const isFrozen = computed(() => props.channel.frozen !== undefined && props.row === 'inserts');
const freeze = computed(() => freezes.facts(props.channel.id));
const gap = computed(() => {
    const target = drag.state.value?.target;
    const isHere =
        target &&
        !target.swap &&
        target.channel === props.channel.id &&
        target.row === props.row &&
        target.branch === (props.branch?.id ?? null);
    return isHere ? target.at : null;
});
const addText = computed(() =>
    props.branch
        ? `Add an effect to ${props.branch.name} of ${props.channel.name}`
        : `Add an effect ${props.row === 'inserts' ? 'to' : 'after the fader of'} ${props.channel.name}`,
);

/** Better orders the Pilot knows of, of inserts that would go to this position in the row. */
function offersAt(position: number) {
    return pilot.of(props.channel.id).flatMap((advice) => {
        const edit = advice.fix?.edit;
        const isHere = edit?.type === 'move-insert' && edit.row === props.row && edit.at === position && !props.branch;
        const index = props.inserts.findIndex((insert) => insert.id === advice.part);
        return advice.fix && isHere && index >= 0
            ? [{ text: advice.text, fix: advice.fix, isForward: position > index }]
            : [];
    });
}

function before(index: number): string {
    const earlier = props.inserts[index - 1];
    return earlier ? `${props.channel.id}:insert:${earlier.id}` : props.start;
}

function isWideBefore(index: number): boolean {
    return session.isStereo(before(index));
}
</script>

<template>
    <div
        ref="element"
        class="row"
        :class="{ compact: isCompact, wrapped: turns.length > 0, frozen: isFrozen }"
        :data-drop-row="row"
        :data-channel="channel.id"
        :data-branch="branch?.id"
        :data-lines="turns.length + 1"
    >
        <svg v-if="turns.length > 0" class="turns" aria-hidden="true">
            <path
                v-for="turn in turns"
                :key="turn.at"
                :d="turn.path"
                :class="silent ? 'none' : depth(listening.level(before(turn.at))?.peak)"
            />
        </svg>
        <span v-for="(insert, index) in inserts" :key="insert.id" class="step">
            <span class="between"
                ><PathLine :tap="before(index)" :wide="isWideBefore(index)" :silent="silent" /><span
                    v-if="gap === index"
                    class="gap" /><OrderOffer v-for="offer in offersAt(index)" :key="offer.text" v-bind="offer"
            /></span>
            <SplitSiding
                v-if="insert.type === 'split'"
                :channel="channel"
                :row="row"
                :split="insert"
                :silent="silent"
                :is-compact="isCompact"
            />
            <HardwareChip
                v-else-if="insert.type === 'hardware'"
                :channel="channel"
                :row="row"
                :index="index"
                :insert="insert"
                :before="before(index)"
                :is-compact="isCompact"
                :is-tight="isTight"
            />
            <InsertChip
                v-else
                :channel="channel"
                :row="row"
                :index="index"
                :insert="insert"
                :before="before(index)"
                :is-compact="isCompact"
                :is-tight="isTight"
            />
        </span>
        <span class="rest" :class="{ told: (isFrozen || live) && !branch }">
            <PathLine :tap="before(inserts.length)" :wide="isWideBefore(inserts.length)" :silent="silent" />
            <span v-if="gap === inserts.length" class="gap" />
            <OrderOffer v-for="offer in offersAt(inserts.length)" :key="offer.text" v-bind="offer" />
            <span v-if="isFrozen && !branch" class="freeze" data-frozen-row>
                <span v-if="freeze?.stale" class="stale" title="What feeds it was changed: it plays what it was"
                    >frozen, stale</span
                >
                <span v-else-if="freeze && !freeze.playable" class="stale" title="Its file is gone: it plays itself"
                    >frozen, file is gone</span
                >
                <span v-else-if="!isCompact" class="soft">frozen</span>
                <button class="plain fix" @click.stop="freezes.unfreeze([channel.id])">unfreeze</button>
            </span>
            <button
                v-if="!isFrozen"
                class="add plain"
                :title="addText"
                :aria-label="addText"
                @click.stop="finder.openFor(channel.id, row, inserts.length, branch?.id ?? null)"
            >
                +
            </button>
            <span
                v-if="live && !isCompact"
                class="live"
                :class="{ empty: hardware.emptyInputs(channel.id).length > 0 }"
                :title="`${live}: press the row for the delay by part`"
                data-live
                >{{ live }}</span
            >
        </span>
    </div>
</template>

<style scoped>
.row {
    --line-height: 42px;

    position: relative;
    display: flex;
    flex-wrap: wrap;
    align-items: flex-start;
    row-gap: 12px;
    min-width: 0;
}

.row.compact {
    --line-height: 24px;

    row-gap: 6px;
}

.turns {
    position: absolute;
    inset: 0;
    width: 100%;
    height: 100%;
    overflow: visible;
    fill: none;
    stroke: var(--water);
    stroke-width: 2;
    pointer-events: none;
}

.turns .none {
    stroke: var(--contour);
    stroke-dasharray: 4 3;
}

.turns .shoal {
    stroke: var(--shoal);
}

.turns .deep {
    stroke: var(--deep);
}

.turns .brass,
.turns .over {
    stroke: var(--brass);
}

.step {
    position: relative;
    display: flex;
    align-items: flex-start;
    min-width: 0;
    max-width: 100%;
}

.step > :deep(.chip) {
    margin: calc((var(--line-height) - var(--chip-height)) / 2) 0;
}

.row :deep(.line) {
    top: 50%;
}

.between {
    position: relative;
    flex: none;
    width: 4px;
    height: var(--line-height);
}

.rest {
    position: relative;
    display: flex;
    align-items: center;
    flex: 1;
    min-width: 26px;
    height: var(--line-height);
}

/* Room for what is said of the freeze; it goes on in the next line rather than over the figures. */
.rest.told {
    min-width: 132px;
}

.compact .rest.told {
    min-width: 76px;
}

.live {
    position: relative;
    margin-left: 8px;
    padding: 0 5px;
    background: var(--ground);
    color: var(--plum);
    white-space: nowrap;
}

.live.empty {
    color: var(--buoy-text);
}

.add {
    position: relative;
    flex: none;
    width: 20px;
    height: 20px;
    margin-left: 4px;
    border: 1.2px dashed var(--soft);
    border-radius: 50%;
    background: var(--ground);
    color: var(--soft);
    line-height: 16px;
    text-align: center;
}

.compact .add {
    width: 18px;
    height: 18px;
    line-height: 14px;
}

.add:hover,
.add:focus-visible {
    border-style: solid;
    border-color: var(--deep);
    color: var(--deep);
}

/* Frozen: the line runs through a hatched field; its chips can be read. */
.row.frozen:not([data-branch]) {
    background: var(--hatch);
}

.freeze {
    position: relative;
    display: flex;
    gap: 8px;
    align-items: center;
    margin-left: auto;
    padding: 0 6px;
    background: var(--ground);
    white-space: nowrap;
}

.stale {
    color: var(--brass-text);
}

.gap {
    position: absolute;
    left: 1px;
    top: 50%;
    width: 3px;
    height: 34px;
    transform: translateY(-50%);
    border-radius: 2px;
    background: var(--brass);
}
</style>
