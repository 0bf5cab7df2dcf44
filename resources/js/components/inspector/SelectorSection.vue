<script setup lang="ts">
import { computed, ref } from 'vue';
import type { Channel, SelectorRange, Split } from '@/api/types';
import ChoiceMenu from '@/components/controls/ChoiceMenu.vue';
import LyingSlider from '@/components/controls/LyingSlider.vue';
import SwitchRow from '@/components/controls/SwitchRow.vue';
import { useSelectorPlace } from '@/composables/useSelectorPlace';
import { useSession } from '@/stores/session';
import SelectorNotes from './SelectorNotes.vue';
import SelectorPicture from './SelectorPicture.vue';

/** The selector of a split: where it stands, its ranges as they are drawn and typed, and how branches fade. */
const props = defineProps<{ channel: Channel; split: Split }>();

const session = useSession();
const { isMoved, isByNotes, place } = useSelectorPlace(
    () => props.channel,
    () => props.split,
);

const chosen = ref<string | null>(null);
const picked = computed(
    () => props.split.branches.find(({ id }) => id === chosen.value) ?? props.split.branches[0] ?? null,
);
const range = computed<SelectorRange>(() => picked.value?.range ?? { from: 0, to: 1, fadeFrom: 0, fadeTo: 0 });

const FADES: { value: 'equal-power' | 'linear'; name: string }[] = [
    { value: 'equal-power', name: 'equal power' },
    { value: 'linear', name: 'linear' },
];
const EDGES: { key: keyof SelectorRange; name: string }[] = [
    { key: 'from', name: 'Opens at' },
    { key: 'fadeFrom', name: 'over' },
    { key: 'to', name: 'Closes at' },
    { key: 'fadeTo', name: 'over' },
];

/** At the ends of the selector nothing comes further, and nothing fades. */
const edges = computed(() =>
    EDGES.filter(({ key }) => (key !== 'fadeFrom' || range.value.from > 0) && (key !== 'fadeTo' || range.value.to < 1)),
);

/** The ends a place can have: a range is at least a hundredth wide. */
function limits(key: keyof SelectorRange): [number, number] {
    return key === 'from' ? [0, range.value.to * 100 - 1] : key === 'to' ? [range.value.from * 100 + 1, 100] : [0, 100];
}

function set(key: keyof SelectorRange, value: number | null, gesture: string): void {
    if (picked.value) {
        void session.edit(
            {
                type: 'set-selector-range',
                branch: picked.value.id,
                range: { ...range.value, [key]: Math.round((value ?? 0) * 10) / 1000 },
            },
            gesture,
        );
    }
}

function step(to: 'next' | 'previous'): void {
    void session.edit({ type: 'step-selector', split: props.split.id, to });
}
</script>

<template>
    <section data-selector>
        <h3>Selector</h3>
        <template v-if="split.selector">
            <SelectorPicture :channel="channel" :split="split" :picked="picked?.id ?? null" @pick="chosen = $event" />
            <div class="turn">
                <button
                    class="text-button"
                    title="The branch before (,)"
                    aria-label="Previous branch"
                    @click="step('previous')"
                >
                    ‹
                </button>
                <LyingSlider
                    class="slider"
                    :model-value="Math.round((isMoved ? place : split.selector.value) * 1000) / 10"
                    :min="0"
                    :max="100"
                    :default="0"
                    :step="1"
                    :fine="0.1"
                    :dim="isMoved"
                    label="Selector"
                    :text="`${Math.round(split.selector.value * 100)} %`"
                    @change="
                        (value, gesture) =>
                            session.edit({ type: 'turn-selector', split: split.id, value: (value ?? 0) / 100 }, gesture)
                    "
                >
                    <template #default="{ value }">{{ Math.round(value ?? 0) }} %</template>
                </LyingSlider>
                <button class="text-button" title="The next branch (.)" aria-label="Next branch" @click="step('next')">
                    ›
                </button>
            </div>
            <p v-if="isMoved" class="hint">{{ isByNotes ? 'Notes move it.' : 'Its automation moves it.' }}</p>
            <div v-if="picked" class="range" :data-range="picked.id">
                <strong>{{ picked.name }}</strong>
                <span v-if="!picked.range" class="hint">always open</span>
                <div v-for="edge in edges" :key="edge.key" class="setting">
                    <span>{{ edge.name }}</span>
                    <LyingSlider
                        :model-value="Math.round(range[edge.key] * 1000) / 10"
                        :min="limits(edge.key)[0]"
                        :max="limits(edge.key)[1]"
                        :default="edge.key === 'to' ? 100 : 0"
                        :step="1"
                        :fine="0.1"
                        :label="`${picked.name}: ${edge.name} ${edge.key}`"
                        :text="`${Math.round(range[edge.key] * 1000) / 10} %`"
                        @change="(value, gesture) => set(edge.key, value, gesture)"
                    >
                        <template #default="{ value }">{{ Math.round((value ?? 0) * 10) / 10 }} %</template>
                    </LyingSlider>
                </div>
                <button
                    v-if="picked.range"
                    class="plain fix"
                    @click="session.edit({ type: 'set-selector-range', branch: picked.id, range: null })"
                >
                    Always open
                </button>
            </div>
            <div class="setting">
                <span>Fades</span>
                <ChoiceMenu
                    label="How branches fade into each other"
                    :model-value="split.selector.fade"
                    :items="FADES"
                    @update:model-value="(fade) => session.edit({ type: 'set-selector', split: split.id, fade })"
                />
            </div>
            <SelectorNotes :split="split" />
            <SwitchRow
                name="Let tails ring"
                about="What a branch holds sounds on when it is left; otherwise it is cut"
                :on="split.selector.rings"
                @change="session.edit({ type: 'set-selector', split: split.id, rings: !split.selector.rings })"
            />
            <div class="actions">
                <button class="text-button" @click="session.edit({ type: 'remove-selector', split: split.id })">
                    Remove selector
                </button>
            </div>
        </template>
        <div v-else class="actions">
            <button
                class="text-button"
                title="One control that chooses between the branches"
                data-add-selector
                @click="session.edit({ type: 'add-selector', split: split.id })"
            >
                Add selector
            </button>
        </div>
    </section>
</template>

<style scoped>
.turn {
    display: flex;
    gap: 6px;
    align-items: center;
}

.slider {
    flex: 1;
    min-width: 0;
}

.range {
    margin: 6px 0;
    padding-left: 10px;
    border-left: 2px solid var(--deep);
}

.range .hint {
    margin-left: 8px;
}
</style>
