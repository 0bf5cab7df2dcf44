<script setup lang="ts">
import { computed } from 'vue';
import type { Channel, HardwareInsert, RowName } from '@/api/types';
import { useChip } from '@/composables/useChip';
import { useHardware } from '@/stores/hardware';
import { useSession } from '@/stores/session';

/** A hardware loop on the line: the line leaves, goes through the unit, and comes back. */
const props = defineProps<{
    channel: Channel;
    row: RowName;
    index: number;
    insert: HardwareInsert;
    before: string;
    isCompact?: boolean;
    isTight?: boolean;
}>();

const session = useSession();
const hardware = useHardware();

const loop = computed(() => session.document?.loops?.find(({ id }) => id === props.insert.loop));
const name = computed(() => loop.value?.name ?? props.insert.loop);
const { isOn, isSelected, isDragged, isSwapTarget, inDepth, outDepth, toggle, select, grab } = useChip(
    props,
    () => name.value,
);
const delay = computed(() => (loop.value ? hardware.delayOf(loop.value) : { text: '', isRight: false }));
const title = computed(
    () =>
        `${name.value}: hardware, ${loop.value ? hardware.portsOf(loop.value) : ''}, ${delay.value.text}${
            props.insert.on ? '' : ', bypassed'
        }${props.insert.mix < 1 ? `, ${Math.round(props.insert.mix * 100)} % wet` : ''}`,
);
</script>

<template>
    <div
        class="loop"
        :class="{
            off: !isOn,
            chosen: isSelected,
            dragged: isDragged,
            swap: isSwapTarget,
            compact: isCompact,
            wrong: !delay.isRight,
        }"
        data-item
        :data-insert="insert.id"
        :data-hardware="insert.loop"
        :data-row="row"
        :data-channel="channel.id"
        :data-index="index"
        :title="title"
    >
        <svg class="way" viewBox="0 0 16 38" aria-hidden="true">
            <path d="M0 19C9 19 4 36 16 36" :class="inDepth" />
        </svg>
        <span class="unit">
            <button
                class="name plain"
                :aria-label="`${name}, hardware on ${channel.name}`"
                @pointerdown="grab"
                @click.stop="select"
            >
                <span class="short">{{ name }}</span>
                <span v-if="!isTight" class="figure main-figure"
                    >{{ delay.text
                    }}<span v-if="insert.mix < 1" class="mix">{{ ' ' }}{{ Math.round(insert.mix * 100) }}%</span></span
                >
            </button>
            <button
                class="lamp plain"
                :aria-label="`${name}: ${insert.on ? 'bypass' : 'switch on'}`"
                :aria-pressed="insert.on"
                @click.stop="toggle"
            >
                <svg :class="{ on: isOn }" viewBox="0 0 12 12" aria-hidden="true">
                    <path d="M1 4H10M7.5 1.5 10 4 7.5 6.5M11 8.5H2M4.5 6 2 8.5 4.5 11" />
                </svg>
            </button>
        </span>
        <svg class="way" viewBox="0 0 16 38" aria-hidden="true">
            <path d="M0 36C12 36 7 19 16 19" :class="outDepth" />
        </svg>
    </div>
</template>

<style scoped>
.loop {
    --chip-height: 38px;

    position: relative;
    display: inline-flex;
    flex: none;
    height: var(--chip-height);
    touch-action: none;
}

.loop.compact {
    --chip-height: 22px;
}

.unit {
    position: relative;
    display: flex;
    border: 1.5px solid var(--plum);
    border-radius: 4px;
    background: var(--sheet);
}

.way {
    width: 16px;
    height: 100%;
    fill: none;
}

.way path {
    stroke: var(--plum);
    stroke-width: 2;
    stroke-dasharray: 4 3;
}

.compact .way {
    width: 10px;
}

.off .way path {
    opacity: 0.4;
}

.off .short {
    text-decoration: line-through;
    color: var(--soft);
}

.chosen .unit {
    background: var(--plum);
    color: var(--paper);
}

.chosen .main-figure,
.chosen .short,
.chosen .mix,
.chosen .lamp svg {
    color: var(--paper);
}

.dragged {
    opacity: 0.4;
}

.swap .unit {
    outline: 2px dashed var(--deep);
    outline-offset: 2px;
}

.lamp {
    position: absolute;
    top: 0;
    left: 0;
    width: 18px;
    height: 20px;
    padding: 4px 0 0 4px;
}

.lamp svg {
    width: 12px;
    height: 12px;
    fill: none;
    stroke: currentcolor;
    stroke-width: 1.4;
    color: var(--soft);
}

.lamp svg.on {
    color: var(--plum);
}

.name {
    display: flex;
    flex-direction: column;
    justify-content: center;
    padding: 1px 5px 2px 4px;
    line-height: 16px;
    white-space: nowrap;
    text-align: left;
    cursor: grab;
    user-select: none;
}

.compact .name {
    flex-direction: row;
    align-items: center;
    gap: 4px;
}

.short {
    padding-left: 15px;
    font-size: 12.5px;
    font-weight: 500;
}

.main-figure {
    font-size: 12px;
    letter-spacing: -0.035em;
    color: var(--soft);
}

.wrong .main-figure {
    color: var(--brass-text);
}

.mix {
    color: var(--deep);
}
</style>
