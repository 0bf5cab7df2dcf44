<script setup lang="ts">
import { useSliding } from '@/composables/useSliding';
import EntryField from './EntryField.vue';

/** A large slider that stands, to be found without looking: drag up and down anywhere in it, wheel and arrow keys, Enter to type. */
const props = withDefaults(
    defineProps<{
        modelValue: number | null;
        min: number;
        max: number;
        default: number;
        step: number;
        fine?: number;
        label: string;
        text: string;
        scale?: 'linear' | 'logarithmic' | 'fader';
    }>(),
    { fine: 0, scale: 'linear' },
);
const emit = defineEmits<{ change: [value: number | null, gesture: string] }>();

const { typing, shown, position, grab, wheel, key, typed, reset } = useSliding(
    props,
    (value, gesture) => emit('change', value, gesture),
    (moved, before, element) => (before.clientY - moved.clientY) / element.clientHeight,
);
</script>

<template>
    <div
        ref="bar"
        class="tall"
        role="slider"
        tabindex="0"
        aria-orientation="vertical"
        :aria-label="label"
        :aria-valuemin="min"
        :aria-valuemax="max"
        :aria-valuenow="shown ?? min"
        :aria-valuetext="text"
        @pointerdown="grab"
        @wheel.prevent="wheel"
        @keydown="key"
        @dblclick="reset"
    >
        <span class="filled" :style="{ height: `${position(shown) * 100}%` }" />
        <slot />
        <EntryField
            v-if="typing !== null"
            v-model="typing"
            class="entry"
            :label="`${label}, exact`"
            is-selected
            @enter="typed"
        />
        <span v-else class="figure value">{{ text }}</span>
    </div>
</template>

<style scoped>
.tall {
    position: relative;
    display: flex;
    flex-direction: column;
    justify-content: space-between;
    height: 132px;
    padding: 8px 10px;
    overflow: hidden;
    border: 1px solid var(--contour);
    border-radius: 6px;
    background: var(--paper);
    cursor: ns-resize;
    touch-action: none;
    user-select: none;
}

.filled {
    position: absolute;
    inset: auto 0 0;
    border-top: 3px solid var(--deep);
    background: var(--shoal-wash);
}

.value {
    position: relative;
    font-size: 17px;
    font-weight: 600;
    text-align: right;
}

.entry {
    position: relative;
    width: 100%;
    text-align: right;
}

.tall :slotted(*) {
    position: relative;
}
</style>
