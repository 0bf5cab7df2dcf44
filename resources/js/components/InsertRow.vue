<script setup lang="ts">
import { computed } from 'vue';
import type { Channel, RowName } from '@/api/types';
import { useFinder } from '@/stores/finder';
import InsertChip from './InsertChip.vue';
import PathLine from './PathLine.vue';
import { useChipDrag } from './chipDrag';

/** A row of inserts on the line, and the place to add one. */
const props = defineProps<{ channel: Channel; row: RowName; start: string; wideFrom: number; silent?: boolean }>();

const finder = useFinder();
const drag = useChipDrag();

const inserts = computed(() => props.channel[props.row]);
const gap = computed(() => {
    const target = drag.state.value?.target;
    return target && !target.swap && target.channel === props.channel.id && target.row === props.row ? target.at : null;
});

function before(index: number): string {
    const earlier = inserts.value[index - 1];
    return earlier ? `${props.channel.id}:insert:${earlier.id}` : props.start;
}

/** Whether the line is wide after so many inserts of this row. */
function isWide(index: number): boolean {
    return index >= props.wideFrom;
}
</script>

<template>
    <div class="row" :data-drop-row="row" :data-channel="channel.id">
        <template v-for="(insert, index) in inserts" :key="insert.id">
            <span class="between"
                ><PathLine :tap="before(index)" :wide="isWide(index)" :silent="silent" /><span
                    v-if="gap === index"
                    class="gap"
            /></span>
            <InsertChip :channel="channel" :row="row" :index="index" :insert="insert" :before="before(index)" />
        </template>
        <span class="rest">
            <PathLine :tap="before(inserts.length)" :wide="isWide(inserts.length)" :silent="silent" />
            <span v-if="gap === inserts.length" class="gap" />
            <button
                class="add plain"
                :title="
                    row === 'inserts'
                        ? `Add an effect to ${channel.name}`
                        : `Add an effect after the fader of ${channel.name}`
                "
                :aria-label="
                    row === 'inserts'
                        ? `Add an effect to ${channel.name}`
                        : `Add an effect after the fader of ${channel.name}`
                "
                @click.stop="finder.openFor(channel.id, row, inserts.length)"
            >
                +
            </button>
        </span>
    </div>
</template>

<style scoped>
.row {
    position: relative;
    display: flex;
    align-items: center;
    height: 100%;
    min-width: 0;
    padding-top: 8px;
    overflow-x: auto;
    overflow-y: hidden;
    scrollbar-width: thin;
}

.row :deep(.line) {
    top: 50%;
}

.between {
    position: relative;
    flex: none;
    width: 6px;
    height: 100%;
}

.rest {
    position: relative;
    display: flex;
    align-items: center;
    flex: 1;
    min-width: 26px;
    height: 100%;
}

.add {
    position: relative;
    width: 20px;
    height: 20px;
    margin-left: 5px;
    border: 1.2px dashed var(--soft);
    border-radius: 50%;
    background: var(--paper);
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
