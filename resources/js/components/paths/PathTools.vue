<script setup lang="ts">
import { nextTick } from 'vue';
import { useRowDensity } from '@/composables/useRowDensity';
import { useScreen } from '@/stores/screen';
import { useSelection } from '@/stores/selection';

/** Above the rows: finds a channel by part of its name, and chooses how tall the rows are. */
const props = defineProps<{ order: string[] }>();

const screen = useScreen();
const selection = useSelection();
const density = useRowDensity();

/** Goes to the first channel that was found, among all the others again. */
async function go(): Promise<void> {
    const found = screen.wanted.trim() === '' ? undefined : props.order[0];
    leave();
    if (found) {
        selection.clear();
        selection.channels = [found];
        await nextTick();
        document.querySelector(`[data-channel-row="${CSS.escape(found)}"]`)?.scrollIntoView({ block: 'center' });
    }
}

function leave(): void {
    screen.wanted = '';
    document.getElementById('hafen-find')?.blur();
}
</script>

<template>
    <span class="tools">
        <input
            id="hafen-find"
            v-model="screen.wanted"
            type="search"
            placeholder="Find a channel"
            aria-label="Find a channel by part of its name"
            title="Find a channel (F): type part of its name, Enter goes there"
            @keydown.enter.stop="go"
            @keydown.escape.stop="leave"
        />
        <button
            class="text-button"
            :aria-pressed="density.isCompact.value"
            title="Rows of one line, for many channels; from 24 channels on by themselves"
            @click="density.choose(!density.isCompact.value)"
        >
            {{ density.isCompact.value ? 'Tall rows' : 'Compact rows' }}
        </button>
    </span>
</template>

<style scoped>
.tools {
    display: flex;
    order: 2;
    align-items: center;
    gap: 8px;
}

input {
    width: 128px;
    height: 20px;
    padding: 0 6px;
    border: 1px solid var(--contour);
    border-radius: 10px;
    background: none;
    font-size: 12px;
}

input::placeholder {
    color: var(--soft);
}

.text-button {
    padding: 0 2px;
    font-size: 12px;
    white-space: nowrap;
}
</style>
