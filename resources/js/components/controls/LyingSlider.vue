<script setup lang="ts">
import { computed, ref } from 'vue';
import { useSteps } from '@/composables/useSteps';
import EntryField from './EntryField.vue';
import { typedNumber } from '@/format';
import { positionOf, valueAt } from '@/scales';
import { newGesture } from '@/stores/session';

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
    }>(),
    { fine: 0, scale: 'linear', centred: false, dim: false },
);
const emit = defineEmits<{ change: [value: number | null, gesture: string] }>();

const bar = ref<HTMLElement>();
const held = ref<number | null | undefined>(undefined);
const typing = ref<string | null>(null);
let gesture = '';
const nudges = useSteps();

const shown = computed(() => (held.value === undefined ? props.modelValue : held.value));

const travel = computed(() => ({ min: props.min, max: props.max, scale: props.scale }));
const position = (value: number | null) => positionOf(value, travel.value);
const valueHere = (where: number) => valueAt(where, travel.value);

function rounded(value: number | null, isExact: boolean): number | null {
    if (value === null) {
        return null;
    }
    const clamped = Math.min(props.max, Math.max(props.min, value));
    if (isExact) {
        return Number(clamped.toFixed(4));
    }
    if (props.scale === 'logarithmic') {
        return Number(clamped.toPrecision(4));
    }
    const grid = props.fine || props.step;
    return Number((Math.round(clamped / grid) * grid).toFixed(6));
}

/** What is typed is meant to the last digit; what is moved goes along the steps. */
function send(value: number | null, isExact = false): void {
    const next = rounded(value, isExact);
    if (next !== shown.value) {
        held.value = next;
        emit('change', next, gesture);
    }
}

function grab(event: PointerEvent): void {
    if (event.button !== 0 || typing.value !== null) {
        return;
    }
    event.preventDefault();
    const element = bar.value as HTMLElement;
    element.focus();
    element.setPointerCapture(event.pointerId);
    gesture = newGesture();
    let lastX = event.clientX;
    let where = position(props.modelValue);
    held.value = props.modelValue;
    const move = (moved: PointerEvent) => {
        where += ((moved.clientX - lastX) / element.clientWidth) * (moved.shiftKey ? 0.15 : 1);
        where = Math.min(1, Math.max(0, where));
        lastX = moved.clientX;
        send(valueHere(where));
    };
    const drop = () => {
        element.removeEventListener('pointermove', move);
        element.removeEventListener('pointerup', drop);
        element.removeEventListener('pointercancel', drop);
        window.setTimeout(() => (held.value = undefined), 250);
    };
    element.addEventListener('pointermove', move);
    element.addEventListener('pointerup', drop);
    element.addEventListener('pointercancel', drop);
}

function nudge(steps: number, fine: boolean): void {
    if (nudges.isNew()) {
        held.value = undefined;
    }
    gesture = nudges.gesture();
    const now = shown.value ?? props.min;
    const size = fine ? props.fine || props.step / 5 : props.step;
    const next = props.scale === 'logarithmic' ? now * (fine ? 1.005 : 1.03) ** steps : now + steps * size;
    send(next);
    window.setTimeout(() => {
        if (nudges.isNew()) {
            held.value = undefined;
        }
    }, 750);
}

function wheel(event: WheelEvent): void {
    nudge(event.deltaY < 0 || event.deltaX < 0 ? 1 : -1, event.shiftKey);
}

function key(event: KeyboardEvent): void {
    const ways: Record<string, number> = {
        ArrowRight: 1,
        ArrowUp: 1,
        ArrowLeft: -1,
        ArrowDown: -1,
        PageUp: 6,
        PageDown: -6,
    };
    const way = ways[event.key];
    if (way !== undefined && !event.altKey) {
        event.preventDefault();
        event.stopPropagation();
        nudge(way, event.shiftKey);
    } else if (event.key === 'Enter') {
        event.preventDefault();
        event.stopPropagation();
        startTyping();
    }
}

function startTyping(): void {
    typing.value = typedNumber(shown.value === null ? null : Number(shown.value.toFixed(3)));
}

function typed(value: number | null): void {
    gesture = newGesture();
    send(value === null && props.scale !== 'fader' ? props.min : value, true);
    window.setTimeout(() => (held.value = undefined), 250);
    bar.value?.focus();
}

function reset(): void {
    gesture = newGesture();
    send(props.default);
    window.setTimeout(() => (held.value = undefined), 250);
}
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
