<script setup lang="ts">
import { nextTick, ref } from 'vue';
import { useSteps } from '@/composables/useSteps';
import type { Channel } from '@/api/types';
import { decibels, parseNumber } from '@/format';
import { useSelection } from '@/stores/selection';
import { useSession } from '@/stores/session';

/** The trim of a channel as a figure under its source: wheel and arrows move it, a press types it. */
const props = defineProps<{ channel: Channel }>();

const session = useSession();
const selection = useSelection();
const text = ref<string | null>(null);
const field = ref<HTMLInputElement>();
const steps = useSteps();

async function type(): Promise<void> {
    text.value = props.channel.trim.gain === null ? '-inf' : String(props.channel.trim.gain);
    await nextTick();
    field.value?.select();
}

function typed(): void {
    const gain = text.value === null ? undefined : parseNumber(text.value);
    text.value = null;
    if (gain !== undefined) {
        void session.edit({ type: 'set-trim', channels: selection.along(props.channel.id), gain });
    }
}

function nudge(by: number): void {
    const channels = selection.along(props.channel.id);
    void session.edit({ type: 'move-trims', channels, by }, steps.gesture());
}

function key(event: KeyboardEvent): void {
    const way = { ArrowUp: 1, ArrowRight: 1, ArrowDown: -1, ArrowLeft: -1 }[event.key];
    if (way !== undefined) {
        event.preventDefault();
        event.stopPropagation();
        nudge(way * (event.shiftKey ? 0.1 : 0.5));
    }
}

function wheel(event: WheelEvent): void {
    nudge((event.deltaY < 0 ? 1 : -1) * (event.shiftKey ? 0.1 : 0.5));
}
</script>

<template>
    <input
        v-if="text !== null"
        ref="field"
        v-model="text"
        class="trim figure"
        :aria-label="`Trim of ${channel.name}, exact`"
        @keydown.enter.stop="typed"
        @keydown.escape.stop="text = null"
        @keydown.stop
        @blur="text = null"
        @click.stop
    />
    <button
        v-else
        class="trim plain figure"
        :class="{ inverted: channel.trim.invert }"
        :aria-label="`Trim of ${channel.name} ${decibels(channel.trim.gain)} dB${channel.trim.invert ? ', polarity inverted' : ''}`"
        :title="`Trim ${decibels(channel.trim.gain)} dB${channel.trim.invert ? ', polarity inverted' : ''}: wheel or arrows move it, press to type`"
        @click.stop="type"
        @keydown="key"
        @wheel.prevent="wheel"
    >
        <span v-if="channel.trim.invert" aria-hidden="true">ø</span>{{ decibels(channel.trim.gain) }}
    </button>
</template>

<style scoped>
.trim {
    width: 40px;
    height: 15px;
    padding: 0;
    border: 0;
    border-radius: 3px;
    background: none;
    font-size: 12px;
    line-height: 15px;
    text-align: center;
    white-space: nowrap;
    color: var(--soft);
}

.trim:hover,
.trim:focus-visible,
input.trim {
    background: var(--sheet);
    color: var(--ink);
}

.trim.inverted {
    color: var(--brass-text);
}
</style>
