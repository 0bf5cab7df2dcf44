<script setup lang="ts">
import { computed } from 'vue';
import type { Channel, ProcessorInsert, RowName } from '@/api/types';
import { useChip } from '@/composables/useChip';
import { useCatalogue } from '@/stores/catalogue';
import { useHardware } from '@/stores/hardware';
import { useListening } from '@/stores/listening';
import { usePilot } from '@/stores/pilot';
import { useSession } from '@/stores/session';
import RoleLamp from './RoleLamp.vue';

/** An insert on the line: lamp, short name, main figure, level in and out along its lower edge. */
const props = defineProps<{
    channel: Channel;
    row: RowName;
    index: number;
    insert: ProcessorInsert;
    before: string;
    isCompact?: boolean;
    /** A compact row without room for figures. */
    isTight?: boolean;
}>();

const session = useSession();
const catalogue = useCatalogue();
const hardware = useHardware();
const listening = useListening();
const pilot = usePilot();

const spec = computed(() => catalogue.byId[props.insert.processor]);
const label = computed(
    () => session.state?.inserts[props.insert.id]?.label ?? spec.value?.name ?? props.insert.processor,
);
const { after, isOn, isSelected, isDragged, isSwapTarget, inDepth, outDepth, toggle, select, grab } = useChip(
    props,
    () => label.value,
);
const facts = computed(() => session.state?.inserts[props.insert.id]?.chip);
const advice = computed(() => pilot.of(props.channel.id).filter((one) => one.part === props.insert.id));
/** Mono goes in, stereo comes out. */
const isWidening = computed(() => session.isStereo(after.value) && !session.isStereo(props.before));
const cost = computed(() => listening.loads[after.value] ?? 0);
/** Left out of a live input that is heard, as it would make it late. */
const isAsleep = computed(() => hardware.isAsleep(props.channel.id, props.insert.id));
const title = computed(
    () =>
        `${spec.value?.name ?? props.insert.processor}${facts.value ? `, ${facts.value.figure}` : ''} (${spec.value?.category.toLowerCase()})${props.insert.on ? '' : ', bypassed'}${isAsleep.value ? ', asleep: quick monitoring leaves it out' : ''}${
            props.insert.mix < 1 ? `, ${Math.round(props.insert.mix * 100)} % wet` : ''
        }${spec.value?.levelDependent ? '. Level-dependent: it sounds different when fed differently.' : ''}`,
);
</script>

<template>
    <div
        class="chip"
        :class="{
            off: !isOn,
            asleep: isAsleep,
            chosen: isSelected,
            dragged: isDragged,
            swap: isSwapTarget,
            compact: isCompact,
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
        <button class="name plain" :aria-label="`${label}, ${channel.name}`" @pointerdown="grab" @click.stop="select">
            <span class="short">{{ facts?.name ?? spec?.shortName ?? insert.processor }}</span>
            <span v-if="!isTight" class="figure main-figure"
                >{{ facts?.figure
                }}<span v-if="insert.mix < 1" class="mix" :title="`${Math.round(insert.mix * 100)} % wet`"
                    >{{ ' ' }}{{ Math.round(insert.mix * 100) }}%</span
                ></span
            >
        </button>
        <button
            class="lamp plain"
            :aria-label="`${label}: ${insert.on ? 'bypass' : 'switch on'}`"
            :aria-pressed="insert.on"
            @click.stop="toggle"
        >
            <RoleLamp :role="spec?.category ?? 'Level'" :on="isOn" />
        </button>
        <span class="marks">
            <span v-if="cost > 0.03" class="cost figure" :title="`${(cost * 100).toFixed(1)} % of a core`"
                >{{ Math.round(cost * 100) }}%</span
            >
            <svg v-if="isWidening" class="fork" viewBox="0 0 10 12" width="9" height="11" data-widens>
                <title>Mono in, stereo out</title>
                <path d="M0 6H3C6 6 5 2.5 10 2.5M3 6C6 6 5 9.5 10 9.5" />
            </svg>
        </span>
        <span
            v-if="advice.length > 0"
            class="noted"
            :class="{ severe: advice.some((one) => one.severity === 'severe') }"
            :title="advice.map((one) => one.text).join('\n')"
            >!</span
        >
        <span class="edge in" :class="inDepth" /><span class="edge out" :class="outDepth" />
    </div>
</template>

<style scoped>
.chip {
    --chip-height: 38px;

    position: relative;
    display: inline-flex;
    align-items: stretch;
    flex: none;
    min-width: 50px;
    height: var(--chip-height);
    border: 1px solid var(--deep);
    border-radius: 4px;
    background: var(--sheet);
    touch-action: none;
}

.chip.compact {
    --chip-height: 22px;

    min-width: 0;
}

.chip.level-dependent {
    border-right: 4px solid var(--brass);
}

.lamp {
    position: absolute;
    top: 0;
    left: 0;
    width: 18px;
    height: 20px;
    padding: 4px 0 0 3px;
}

.name {
    display: flex;
    flex: 1;
    flex-direction: column;
    justify-content: center;
    padding: 1px 3px 2px;
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
    padding: 0 3px 1px 0;
}

.short {
    padding-left: 14px;
    font-size: 12.5px;
    font-weight: 500;
}

.compact .short {
    padding-left: 16px;
}

.main-figure {
    font-size: 12px;
    letter-spacing: -0.035em;
    color: var(--soft);
}

.mix {
    color: var(--deep);
}

.marks {
    display: flex;
    align-items: center;
    height: 20px;
}

.noted {
    position: absolute;
    top: -6px;
    right: -5px;
    z-index: 1;
    width: 13px;
    height: 13px;
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

.asleep {
    border-style: dashed;
}

.asleep .name {
    opacity: 0.5;
}

.off {
    border-color: var(--contour);
    color: var(--soft);
}

.off .short {
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

.chosen :deep(.role),
.chosen .main-figure,
.chosen .mix,
.chosen .cost,
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
    padding-right: 4px;
    font-size: 12px;
    letter-spacing: -0.035em;
    color: var(--brass-text);
}

.fork {
    flex: none;
    margin-right: 3px;
    fill: none;
    stroke: currentcolor;
    stroke-width: 1.4;
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
    border-bottom-left-radius: 3px;
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
