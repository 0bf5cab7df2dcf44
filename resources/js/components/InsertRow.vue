<script setup lang="ts">
import { computed } from 'vue';
import type { Branch, Channel, Insert, RowName } from '@/api/types';
import { useCatalogue } from '@/stores/catalogue';
import { useFinder } from '@/stores/finder';
import { usePilot } from '@/stores/pilot';
import InsertChip from './InsertChip.vue';
import OrderOffer from './OrderOffer.vue';
import PathLine from './PathLine.vue';
import SplitSiding from './SplitSiding.vue';
import { useChipDrag } from './chipDrag';

/** Inserts on the line, of a channel's row or of a branch, and the place to add one. */
const props = defineProps<{
    channel: Channel;
    row: RowName;
    inserts: Insert[];
    branch?: Branch;
    start: string;
    wide: boolean;
    silent?: boolean;
}>();

const catalogue = useCatalogue();
const finder = useFinder();
const pilot = usePilot();
const drag = useChipDrag();

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
/** Better orders the Pilot knows of, of inserts that would go to a place in this row. */
function offersAt(place: number) {
    return pilot.of(props.channel.id).flatMap((note) => {
        const edit = note.fix?.edit;
        const isHere = edit?.type === 'move-insert' && edit.row === props.row && edit.at === place && !props.branch;
        const index = props.inserts.findIndex((insert) => insert.id === note.part);
        return note.fix && isHere && index >= 0 ? [{ text: note.text, fix: note.fix, isForward: place > index }] : [];
    });
}
/** After how many inserts the sound has two sides. */
const wideFrom = computed(() => {
    if (props.wide) {
        return 0;
    }
    const index = props.channel.insertsOn ? props.inserts.findIndex(catalogue.widens) : -1;
    return index < 0 ? Infinity : index + 1;
});

function before(index: number): string {
    const earlier = props.inserts[index - 1];
    return earlier ? `${props.channel.id}:insert:${earlier.id}` : props.start;
}
</script>

<template>
    <div class="row" :data-drop-row="row" :data-channel="channel.id" :data-branch="branch?.id">
        <template v-for="(insert, index) in inserts" :key="insert.id">
            <span class="between"
                ><PathLine :tap="before(index)" :wide="index >= wideFrom" :silent="silent" /><span
                    v-if="gap === index"
                    class="gap" /><OrderOffer v-for="offer in offersAt(index)" :key="offer.text" v-bind="offer"
            /></span>
            <SplitSiding
                v-if="insert.type === 'split'"
                :channel="channel"
                :row="row"
                :split="insert"
                :wide="index >= wideFrom"
                :silent="silent"
            />
            <InsertChip
                v-else
                :channel="channel"
                :row="row"
                :index="index"
                :insert="insert"
                :before="before(index)"
                :is-crowded="inserts.length > 3 || branch !== undefined"
                :is-widening="index + 1 === wideFrom"
            />
        </template>
        <span class="rest">
            <PathLine :tap="before(inserts.length)" :wide="inserts.length >= wideFrom" :silent="silent" />
            <span v-if="gap === inserts.length" class="gap" />
            <OrderOffer v-for="offer in offersAt(inserts.length)" :key="offer.text" v-bind="offer" />
            <button
                class="add plain"
                :title="addText"
                :aria-label="addText"
                @click.stop="finder.openFor(channel.id, row, inserts.length, branch?.id ?? null)"
            >
                +
            </button>
        </span>
    </div>
</template>

<style scoped>
.row {
    --line-height: 42px;

    position: relative;
    display: flex;
    align-items: flex-start;
    min-width: 0;
}

.row > :deep(.chip) {
    margin: calc((var(--line-height) - 26px) / 2) 0;
}

.row :deep(.line) {
    top: 50%;
}

.between {
    position: relative;
    flex: none;
    width: 6px;
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

.add {
    position: relative;
    width: 20px;
    height: 20px;
    margin-left: 5px;
    border: 1.2px dashed var(--soft);
    border-radius: 50%;
    background: var(--ground);
    color: var(--soft);
    line-height: 16px;
    text-align: center;
}

.add:hover,
.add:focus-visible {
    border-style: solid;
    border-color: var(--deep);
    color: var(--deep);
}

.gap {
    position: absolute;
    left: 2px;
    top: 50%;
    width: 3px;
    height: 34px;
    transform: translateY(-50%);
    border-radius: 2px;
    background: var(--brass);
}
</style>
