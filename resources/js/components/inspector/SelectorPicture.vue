<script setup lang="ts">
import { computed, ref, useTemplateRef } from 'vue';
import type { Edit } from '@/api/edits';
import type { Channel, SelectorRange, Split } from '@/api/types';
import { followPointer } from '@/composables/followPointer';
import { useSelectorPlace } from '@/composables/useSelectorPlace';
import { newGesture } from '@/gesture';
import { useSession } from '@/stores/session';
import SidingsPicture, { type Siding } from './SidingsPicture.vue';

/** The branches of a split along the way of its selector. The switch stands where the selector stands. */
const props = defineProps<{ channel: Channel; split: Split; picked: string | null }>();
const emit = defineEmits<{ pick: [branch: string] }>();

const session = useSession();
const { place, isMoved, opening } = useSelectorPlace(
    () => props.channel,
    () => props.split,
);

/** Places are told to a tenth of a percent. */
const STEPS = 1000;
const LEAST = 0.01;

const picture = useTemplateRef('picture');
/** Where the switch is dragged to. */
const turned = ref<number | null>(null);
const stands = computed(() => turned.value ?? place.value);
const sidings = computed(() =>
    props.split.branches.map((branch, index) => ({
        id: branch.id,
        name: branch.name,
        range: branch.range ?? null,
        open: opening(index),
        passes: opening(index) > 0 ? [stands.value] : [],
    })),
);

const said = ({ name, range }: Siding, end: 'from' | 'to') =>
    `${name} ${end === 'from' ? 'opens' : 'closes'} at ${Math.round((range?.[end] ?? 0) * STEPS) / 10} %`;

function turn(event: PointerEvent): void {
    if (event.button !== 0) {
        return;
    }
    event.preventDefault();
    const gesture = newGesture();
    const to = (at: PointerEvent) => {
        turned.value = Math.round((picture.value?.placeOf(at) ?? 0) * STEPS) / STEPS;
        void session.edit({ type: 'turn-selector', split: props.split.id, value: turned.value }, gesture);
    };
    to(event);
    followPointer(to, () => (turned.value = null));
}

function move(ranges: Record<string, SelectorRange>, gesture: string): void {
    const edits: Edit[] = Object.entries(ranges).map(([branch, range]) => ({
        type: 'set-selector-range',
        branch,
        range,
    }));
    void session.edit(
        edits.length === 1 ? edits[0]! : { type: 'several', label: 'Ranges of the selector', edits },
        gesture,
    );
}
</script>

<template>
    <SidingsPicture
        ref="picture"
        :sidings="sidings"
        :picked="picked"
        :places="[stands]"
        :steps="STEPS"
        :least="LEAST"
        :said="said"
        aria-label="Branches along the way of the selector"
        data-selector-picture
        @pick="emit('pick', $event)"
        @move="move"
    >
        <template #ground="{ line, width }">
            <rect :x="0" :y="line - 10" :width="width" height="26" class="ground" @pointerdown="turn" />
        </template>
        <template #switch="{ line, x }">
            <circle
                class="switch"
                :class="{ moved: isMoved }"
                :cx="x(stands)"
                :cy="line"
                r="7"
                tabindex="-1"
                :aria-label="`Selector at ${Math.round(stands * 100)} %`"
                data-switch
                @pointerdown="turn"
            />
        </template>
    </SidingsPicture>
</template>

<style scoped>
.ground {
    fill: transparent;
    cursor: ew-resize;
}

.switch {
    fill: var(--sheet);
    stroke: var(--deep);
    stroke-width: 3;
    cursor: ew-resize;
}

.switch.moved {
    stroke-dasharray: 4 3;
}
</style>
