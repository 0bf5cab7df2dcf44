<script setup lang="ts">
import { computed } from 'vue';
import type { Split } from '@/api/types';
import ChoiceMenu from '@/components/controls/ChoiceMenu.vue';
import LyingSlider from '@/components/controls/LyingSlider.vue';
import { KEYS, NUMBERS, keyName } from '@/format';
import { useSession } from '@/stores/session';

/** The notes that move a selector: of which channel, and which of its keys or velocities lead where. */
const props = defineProps<{ split: Split }>();

const session = useSession();

const NONE = '';
const notes = computed(() => props.split.selector?.notes ?? null);
const sources = computed(() => [
    { value: NONE, name: 'no notes' },
    ...session.channels
        .filter(({ kind }) => kind === 'note')
        .flatMap(({ id, name }) => [
            { value: `key:${id}`, name: `keys of ${name}` },
            { value: `velocity:${id}`, name: `velocities of ${name}` },
        ]),
]);
const source = computed(() => (notes.value ? `${notes.value.value}:${notes.value.channel}` : NONE));
const lowest = computed(() => (notes.value?.value === 'velocity' ? 1 : 0));

const said = (value: number | null) =>
    notes.value?.value === 'key' ? keyName(Math.round(value ?? 0)) : String(Math.round(value ?? 0));

function choose(value: string): void {
    const [by, channel] = value.split(':');
    void session.edit({
        type: 'set-selector-notes',
        split: props.split.id,
        notes:
            value === NONE || !channel
                ? null
                : by === 'velocity'
                  ? { channel, value: 'velocity', from: 1, to: 127 }
                  : { channel, value: 'key', from: 36, to: 84 },
    });
}

function set(part: 'from' | 'to' | 'glide', value: number | null, gesture: string): void {
    const now = notes.value;
    const to = Math.round(value ?? 0);
    if (now && !(part !== 'glide' && to === (part === 'from' ? now.to : now.from))) {
        void session.edit(
            { type: 'set-selector-notes', split: props.split.id, notes: { ...now, [part]: to } },
            gesture,
        );
    }
}
</script>

<template>
    <div v-if="sources.length > 1" data-selector-notes>
        <div class="setting">
            <span>Moved by</span>
            <ChoiceMenu
                label="Notes that move the selector"
                :model-value="source"
                :items="sources"
                @update:model-value="choose"
            />
        </div>
        <template v-if="notes">
            <div v-for="part in ['from', 'to'] as const" :key="part" class="setting">
                <span>{{ part === 'from' ? '0 % at' : '100 % at' }}</span>
                <LyingSlider
                    :model-value="notes[part]"
                    :min="lowest"
                    :max="127"
                    :default="part === 'from' ? (lowest === 1 ? 1 : 36) : lowest === 1 ? 127 : 84"
                    :step="1"
                    :spelling="notes.value === 'key' ? KEYS : NUMBERS"
                    :label="`Selector: ${part}`"
                    :text="said(notes[part])"
                    @change="(value, gesture) => set(part, value, gesture)"
                >
                    <template #default="{ value }">{{ said(value) }}</template>
                </LyingSlider>
            </div>
            <div class="setting">
                <span>Glide</span>
                <LyingSlider
                    :model-value="notes.glide ?? 20"
                    :min="0"
                    :max="5000"
                    :default="20"
                    :step="10"
                    label="Glide from place to place"
                    :text="`${Math.round(notes.glide ?? 20)} ms`"
                    @change="(value, gesture) => set('glide', value, gesture)"
                >
                    <template #default="{ value }">{{ Math.round(value ?? 0) }} ms</template>
                </LyingSlider>
            </div>
        </template>
    </div>
</template>
