<script setup lang="ts">
import { computed } from 'vue';
import type { Channel, Macro, MacroMove, MovedControl } from '@/api/types';
import LyingSlider from '@/components/controls/LyingSlider.vue';
import { decibels, plain } from '@/format';
import { faderTravel } from '@/scales';
import { useSession } from '@/stores/session';

/** What a macro moves: each control with where it stands, from where and to where it goes, and how. */
const props = defineProps<{ channel: Channel; macro: Macro }>();

const session = useSession();

const rows = computed(() =>
    props.macro.moves.flatMap((move) => {
        const control = session.state?.macros[props.channel.id]?.[move.target];
        return control ? [{ move, control }] : [];
    }),
);

function said(control: MovedControl, value: number | null): string {
    if (control.scale === 'switch') {
        return value ? 'on' : 'off';
    }
    if (control.scale === 'fader') {
        return `${decibels(value, true)} dB`;
    }
    return control.unit === '' && control.highest === 1
        ? `${Math.round((value ?? 0) * 100)} %`
        : plain(value ?? 0, control.unit, 0.1);
}

function change(move: MacroMove, by: Partial<MacroMove>, gesture: string | null = null): void {
    void session.edit({ type: 'set-macro-move', macro: props.macro.id, ...move, ...by }, gesture);
}
</script>

<template>
    <p v-if="rows.length === 0" class="hint">Press Assign, then move what this macro is to move.</p>
    <div v-for="{ move, control } in rows" :key="move.target" class="row" :data-move="move.target">
        <div class="line">
            <span class="what">{{ control.name }}</span>
            <span class="figure now" title="Where it stands">{{ said(control, control.value) }}</span>
            <button
                class="plain"
                :aria-label="`${macro.name} moves ${control.name} no more`"
                title="Moves it no more"
                @click="session.edit({ type: 'remove-macro-move', macro: macro.id, target: move.target })"
            >
                ×
            </button>
        </div>
        <div v-for="end in ['from', 'to'] as const" :key="end" class="line" :data-end="end">
            <span class="hint">{{ end }}</span>
            <button
                v-if="control.scale === 'switch'"
                class="pill"
                :class="{ on: move[end] === 1 }"
                :aria-pressed="move[end] === 1"
                :aria-label="`${control.name}, ${end}`"
                @click="change(move, { [end]: move[end] ? 0 : 1 })"
            >
                {{ said(control, move[end]) }}
            </button>
            <LyingSlider
                v-else
                class="slider"
                :model-value="move[end]"
                :min="control.lowest ?? faderTravel().min"
                :max="control.highest"
                :default="move[end] ?? 0"
                :step="(control.highest - (control.lowest ?? faderTravel().min)) / 100"
                :scale="control.scale"
                :label="`${control.name}, ${end}`"
                :text="said(control, move[end])"
                @change="(to, gesture) => change(move, { [end]: to }, gesture)"
            >
                <template #default="{ value }">{{ said(control, value) }}</template>
            </LyingSlider>
        </div>
        <div v-if="control.scale !== 'switch'" class="line">
            <span class="hint">curve</span>
            <LyingSlider
                class="slider"
                :model-value="move.curve"
                :min="-1"
                :max="1"
                :default="0"
                :step="0.05"
                centred
                :label="`${control.name}, curve`"
                :text="move.curve === 0 ? 'even' : move.curve < 0 ? 'at first' : 'at last'"
                @change="(to, gesture) => change(move, { curve: to ?? 0 }, gesture)"
            />
        </div>
    </div>
</template>

<style scoped>
.row {
    padding: 2px 0 4px 10px;
    border-left: 2px solid var(--plum);
}

.row + .row {
    margin-top: 6px;
}

.line {
    display: flex;
    gap: 8px;
    align-items: center;
}

.what {
    flex: 1;
    overflow-wrap: anywhere;
}

.line .hint {
    flex: none;
    width: 38px;
    margin: 0;
}

.slider {
    flex: 1;
    min-width: 0;
}
</style>
