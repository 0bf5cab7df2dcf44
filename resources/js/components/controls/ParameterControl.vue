<script setup lang="ts">
import { computed } from 'vue';
import type { ParameterSpec, ParameterValue } from '@/api/types';
import { plain } from '@/format';
import { newGesture } from '@/gesture';
import { useImports } from '@/stores/imports';
import ChoiceMenu from './ChoiceMenu.vue';
import LyingSlider from './LyingSlider.vue';

/** One parameter of any processor: a slider, a choice or a switch, from its spec alone. */
const props = defineProps<{
    spec: ParameterSpec;
    value: ParameterValue;
    locked?: boolean;
    reach?: [number | null, number | null];
}>();
const emit = defineEmits<{ change: [value: ParameterValue, gesture: string]; lock: [locked: boolean] }>();
const imports = useImports();

const text = computed(() =>
    typeof props.value === 'number' ? plain(props.value, props.spec.unit, props.spec.step) : '',
);

async function record(event: Event): Promise<void> {
    const file = (event.target as HTMLInputElement).files?.[0];
    const media = file ? await imports.keep(file) : null;
    if (media) {
        choose(media);
    }
}

function choose(value: ParameterValue): void {
    emit('change', value, newGesture());
}
</script>

<template>
    <div class="parameter" :data-parameter="spec.id">
        <label :for="`parameter-${spec.id}`"
            ><button
                class="plain lock"
                :class="{ on: locked }"
                :aria-label="`${spec.label}: ${locked ? 'let presets set it' : 'lock against presets'}`"
                :aria-pressed="locked === true"
                :title="locked ? 'Locked: presets leave it alone' : 'Lock against presets'"
                @click="emit('lock', !locked)"
            >
                {{ locked ? '▪' : '▫' }}</button
            >{{ spec.label }}</label
        >
        <LyingSlider
            v-if="spec.kind === 'number'"
            class="control"
            :model-value="value as number"
            :min="spec.min"
            :max="spec.max"
            :default="spec.default as number"
            :step="spec.step"
            :fine="spec.step / (spec.step >= 1 ? 10 : 1)"
            :scale="spec.scale"
            :label="spec.label"
            :text="text"
            :reach="reach"
            @change="(next, gesture) => next !== null && emit('change', next, gesture)"
        >
            <template #default="{ value: shown }">{{
                shown === null ? '' : plain(shown, spec.unit, spec.step)
            }}</template>
        </LyingSlider>
        <ChoiceMenu
            v-else-if="spec.kind === 'choice'"
            :id="`parameter-${spec.id}`"
            class="choice"
            :label="spec.label"
            :model-value="value as string"
            :items="spec.choices.map((choice) => ({ value: choice.value, name: choice.label }))"
            @update:model-value="choose"
        />
        <label v-else-if="spec.kind === 'audio-file'" class="recording">
            {{ value === '' ? 'Choose a WAV …' : 'Recorded response' }}
            <input type="file" accept="audio/*" :aria-label="spec.label" @change="record" />
        </label>
        <button
            v-else
            class="toggle"
            :class="{ on: value }"
            :aria-pressed="value === true"
            :aria-label="spec.label"
            @click="choose(!value)"
        >
            {{ value ? 'on' : 'off' }}
        </button>
    </div>
</template>

<style scoped>
.parameter {
    display: grid;
    grid-template-columns: 84px 1fr;
    align-items: center;
    min-height: 29px;
}

.lock {
    width: 14px;
    margin-left: -14px;
    color: var(--soft);
    opacity: 0;
}

.parameter:hover .lock,
.lock:focus-visible,
.lock.on {
    opacity: 1;
}

.lock.on {
    color: var(--brass-text);
}

.recording {
    justify-self: end;
    text-decoration: underline;
    cursor: pointer;
}

.recording input {
    position: absolute;
    width: 1px;
    opacity: 0;
}

.choice {
    justify-self: end;
    max-width: 180px;
}

.toggle {
    justify-self: end;
    width: 46px;
    padding: 1px 0;
    border: 1px solid var(--contour);
    border-radius: 999px;
    background: none;
}

.toggle.on {
    background: var(--deep);
    border-color: var(--deep);
    color: var(--on-deep);
}
</style>
