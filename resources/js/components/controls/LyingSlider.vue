<script setup lang="ts">
import { useSliding } from '@/composables/useSliding';
import { NUMBERS, type Spelling } from '@/format';
import EntryField from './EntryField.vue';

/**
 * A slider that lies in the path: drag sideways (Shift is fine), wheel and arrow keys by steps, double-click for the
 * default, Enter to type a number.
 */
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
        centred?: boolean;
        dim?: boolean;
        /** How it is typed. */
        spelling?: Spelling;
        /** From where to where macros move it. */
        reach?: [number | null, number | null];
    }>(),
    { fine: 0, scale: 'linear', centred: false, dim: false, spelling: () => NUMBERS, reach: undefined },
);
const emit = defineEmits<{ change: [value: number | null, gesture: string] }>();

const { typing, shown, position, grab, wheel, key, startTyping, typed, reset } = useSliding(
    props,
    (value, gesture) => emit('change', value, gesture),
    (moved, before, element) => (moved.clientX - before.clientX) / element.clientWidth,
);
</script>

<template>
    <div class="slider" :class="{ dim }">
        <div
            ref="bar"
            class="bar"
            role="slider"
            tabindex="0"
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
            <span class="rail" />
            <span
                v-if="reach"
                class="reach"
                title="Macros move it from here to there"
                :style="{
                    left: `${position(reach[0]) * 100}%`,
                    width: `${(position(reach[1]) - position(reach[0])) * 100}%`,
                }"
            />
            <span
                class="filled"
                :style="
                    centred
                        ? {
                              left: `${Math.min(position(shown), 0.5) * 100}%`,
                              width: `${Math.abs(position(shown) - 0.5) * 100}%`,
                          }
                        : { left: 0, width: `${position(shown) * 100}%` }
                "
            />
            <span class="default" :style="{ left: `${position(props.default) * 100}%` }" />
            <span class="knob" :style="{ left: `${position(shown) * 100}%` }" />
        </div>
        <EntryField
            v-if="typing !== null"
            v-model="typing"
            class="entry"
            :label="`${label}, exact`"
            is-selected
            :spelling="spelling"
            @enter="typed"
        />
        <button v-else class="plain text figure" tabindex="-1" :title="`${label}: press to type`" @click="startTyping">
            <slot :value="shown">{{ text }}</slot>
        </button>
    </div>
</template>

<style scoped>
.slider {
    position: relative;
    display: flex;
    align-items: center;
    gap: 10px;
}

.bar {
    position: relative;
    flex: 1;
    height: 20px;
    min-width: 40px;
    touch-action: none;
    cursor: ew-resize;
}

.rail,
.filled {
    position: absolute;
    top: 8px;
    height: 4px;
    border-radius: 2px;
}

.rail {
    left: 0;
    right: 0;
    background: var(--contour);
}

.filled {
    background: var(--deep);
}

.reach {
    position: absolute;
    top: 15px;
    height: 3px;
    min-width: 3px;
    border-radius: 2px;
    background: var(--plum);
}

.dim .filled {
    background: var(--water);
}

.default {
    position: absolute;
    top: 4px;
    width: 1px;
    height: 12px;
    background: var(--soft);
    opacity: 0.6;
}

.knob {
    position: absolute;
    top: 4px;
    width: 12px;
    height: 12px;
    margin-left: -6px;
    border: 2px solid var(--deep);
    border-radius: 50%;
    background: var(--sheet);
}

.text {
    flex: none;
    width: 78px;
    text-align: right;
    white-space: nowrap;
}

.entry {
    flex: none;
    width: 78px;
    text-align: right;
    border: 1px solid var(--water);
    border-radius: 4px;
    background: var(--sheet);
    padding: 0 3px;
}
</style>
