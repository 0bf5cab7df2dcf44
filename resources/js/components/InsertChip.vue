<script setup lang="ts">
import { computed } from 'vue';
import type { Channel, ProcessorInsert, RowName } from '@/api/types';
import { depth } from '@/format';
import { useCatalogue } from '@/stores/catalogue';
import { useListening } from '@/stores/listening';
import { usePilot } from '@/stores/pilot';
import { useSelection } from '@/stores/selection';
import { useSession } from '@/stores/session';
import { useChipDrag } from './chipDrag';
import RoleLamp from './RoleLamp.vue';

/** A stop on the line: lamp, name, level in and out along its lower edge. */
const props = defineProps<{
    channel: Channel;
    row: RowName;
    index: number;
    insert: ProcessorInsert;
    before: string;
    /** There are many beside it: names come before figures. */
    isCrowded: boolean;
    /** One side goes in, two come out. */
    isWidening: boolean;
}>();

const session = useSession();
const catalogue = useCatalogue();
const selection = useSelection();
const listening = useListening();
const pilot = usePilot();
const drag = useChipDrag();

const spec = computed(() => catalogue.byId[props.insert.processor]);
const label = computed(
    () => session.state?.inserts[props.insert.id]?.label ?? spec.value?.name ?? props.insert.processor,
);
const notes = computed(() => pilot.of(props.channel.id).filter((note) => note.part === props.insert.id));
const isOn = computed(() => props.insert.on && props.channel.insertsOn);
const isSelected = computed(() => selection.inserts.includes(props.insert.id));
const isDragged = computed(() => drag.state.value?.insert === props.insert.id);
const isSwapTarget = computed(() => drag.state.value?.target?.swap === props.insert.id);
const after = computed(() => `${props.channel.id}:insert:${props.insert.id}`);
const inDepth = computed(() => depth(listening.level(props.before)?.peak));
const outDepth = computed(() => depth(listening.level(after.value)?.peak));
const cost = computed(() => listening.loads[after.value] ?? 0);
const title = computed(
    () =>
        `${spec.value?.name ?? props.insert.processor} (${spec.value?.category.toLowerCase()})${props.insert.on ? '' : ', bypassed'}${
            props.insert.mix < 1 ? `, ${Math.round(props.insert.mix * 100)} % wet` : ''
        }${spec.value?.levelDependent ? '. Level-dependent: it sounds different when fed differently.' : ''}`,
);

function toggle(): void {
    void session.edit({ type: 'set-insert-on', inserts: [props.insert.id], on: !props.insert.on });
}

function select(event: MouseEvent): void {
    selection.selectInsert(props.channel.id, props.insert.id, event);
}

function grab(event: PointerEvent): void {
    drag.grab(event, props.insert.id, label.value);
}
</script>

<template>
    <div
        class="chip"
        :class="{
            off: !isOn,
            chosen: isSelected,
            dragged: isDragged,
            swap: isSwapTarget,
            'level-dependent': spec?.levelDependent,
        }"
        data-item
        :data-insert="insert.id"
        :data-processor="insert.processor"
        :data-row="row"
        :data-channel="channel.id"
        :data-index="index"
        :title="title"
    >
        <button
            class="lamp plain"
            :aria-label="`${label}: ${insert.on ? 'bypass' : 'switch on'}`"
            :aria-pressed="insert.on"
            @click.stop="toggle"
        >
            <RoleLamp :role="spec?.category ?? 'Level'" :on="isOn" />
        </button>
        <button class="name plain" :aria-label="`${label}, ${channel.name}`" @pointerdown="grab" @click.stop="select">
            {{ label }}<span v-if="insert.mix < 1" class="mix figure">{{ Math.round(insert.mix * 100) }} %</span>
        </button>
        <span
            v-if="notes.length > 0"
            class="noted"
            :class="{ severe: notes.some((note) => note.severity === 'severe') }"
            :title="notes.map((note) => note.text).join('\n')"
            >!</span
        >
        <span v-if="cost > 0.03" class="cost figure" :title="`${(cost * 100).toFixed(1)} % of a core`"
            >{{ isCrowded ? '' : Math.round(cost * 100) }}%</span
        >
        <svg v-if="isWidening" class="fork" viewBox="0 0 10 12" width="9" height="11" data-widens>
            <title>Mono in, stereo out</title>
            <path d="M0 6H3C6 6 5 2.5 10 2.5M3 6C6 6 5 9.5 10 9.5" />
        </svg>
        <span class="edge in" :class="inDepth" /><span class="edge out" :class="outDepth" />
    </div>
</template>

<style scoped>
.chip {
    position: relative;
    display: inline-flex;
    align-items: center;
    flex: 0 1 auto;
    min-width: 46px;
    height: 26px;
    border: 1px solid var(--deep);
    border-radius: 5px;
    background: var(--sheet);
    overflow: hidden;
    touch-action: none;
}

.chip.level-dependent {
    border-right: 4px solid var(--brass);
}

.lamp {
    align-self: stretch;
    padding: 0 3px 0 6px;
}

.name {
    align-self: stretch;
    min-width: 0;
    padding: 0 6px 1px 1px;
    font-size: 12.5px;
    overflow: hidden;
    text-overflow: ellipsis;
    white-space: nowrap;
    cursor: grab;
    user-select: none;
}

.noted {
    flex: none;
    width: 13px;
    height: 13px;
    margin-right: 4px;
    border-radius: 50%;
    background: var(--brass);
    color: var(--paper);
    font-size: 12px;
    font-weight: 700;
    line-height: 13px;
    text-align: center;
}

.noted.severe {
    border-radius: 2px;
    background: var(--buoy);
}

.mix {
    margin-left: 4px;
    font-size: 12px;
    letter-spacing: -0.03em;
    color: var(--soft);
}

.off {
    border-color: var(--contour);
    color: var(--soft);
}

.off .name {
    text-decoration: line-through;
    text-decoration-color: var(--soft);
}

.off.level-dependent {
    border-right-color: var(--contour);
}

.chosen {
    background: var(--deep);
    color: var(--on-deep);
}

.chosen :deep(.role) {
    color: var(--on-deep);
}

.chosen .mix,
.chosen.off {
    color: var(--on-deep);
}

.dragged {
    opacity: 0.35;
}

.swap {
    outline: 2px solid var(--brass);
    outline-offset: 1px;
}

.cost {
    padding-right: 7px;
    font-size: 12px;
    color: var(--brass-text);
}

.fork {
    flex: none;
    margin-right: 3px;
    fill: none;
    stroke: currentcolor;
    stroke-width: 1.4;
}

.chosen .cost {
    color: var(--on-deep);
}

.edge {
    position: absolute;
    bottom: 0;
    width: 50%;
    height: 2px;
    background: transparent;
}

.edge.in {
    left: 0;
}

.edge.out {
    right: 0;
}

.edge.shoal {
    background: var(--shoal);
}

.edge.water {
    background: var(--water);
}

.edge.deep {
    background: var(--deep);
}

.edge.brass,
.edge.over {
    background: var(--brass);
}
</style>
