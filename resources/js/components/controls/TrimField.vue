<script setup lang="ts">
import { ref } from 'vue';
import { useSteps } from '@/composables/useSteps';
import EntryField from './EntryField.vue';
import type { Channel } from '@/api/types';
import { decibels, typedNumber } from '@/format';
import { useSelection } from '@/stores/selection';
import { useSession } from '@/stores/session';

/** The trim of a channel as a figure under its source: wheel and arrows move it, a press types it. */
const props = defineProps<{ channel: Channel }>();

const session = useSession();
const selection = useSelection();
const text = ref<string | null>(null);
const steps = useSteps();

function typed(gain: number | null): void {
    void session.edit({ type: 'set-trim', channels: selection.along(props.channel.id), gain });
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
    <EntryField
        v-if="text !== null"
        v-model="text"
        class="trim"
        :label="`Trim of ${channel.name}, exact`"
        is-selected
        @enter="typed"
    />
    <button
        v-else
        class="trim plain figure"
        :class="{ inverted: channel.trim.invert }"
        :aria-label="`Trim of ${channel.name} ${decibels(channel.trim.gain)} dB${channel.trim.invert ? ', polarity inverted' : ''}`"
        :title="`Trim ${decibels(channel.trim.gain)} dB${channel.trim.invert ? ', polarity inverted' : ''}: wheel or arrows move it, press to type`"
        @click.stop="text = typedNumber(channel.trim.gain)"
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
