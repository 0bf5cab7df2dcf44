<script setup lang="ts">
import { computed } from 'vue';
import type { Channel } from '@/api/types';
import { useSelection } from '@/stores/selection';
import { useSession } from '@/stores/session';

/** Where a channel goes at the end of its row; a press chooses another output. */
const props = defineProps<{ channel: Channel }>();

const session = useSession();
const selection = useSelection();

const id = computed(() => props.channel.id);
const pairName = (pair: string) => pair.replace(':', ' ').replace('-', '–');
const endsAtInterface = computed(() => session.endsAtInterface(props.channel));
const targets = computed(() => session.outputTargets(props.channel));
const output = computed(() => {
    const to = props.channel.output;
    return to === 'none' ? 'nowhere' : to.startsWith('hw:') ? pairName(to) : (session.channel(to)?.name ?? to);
});

function choose(to: string): void {
    void session.edit({
        type: 'set-output',
        channels: endsAtInterface.value ? [id.value] : selection.along(id.value),
        output: to,
    });
}
</script>

<template>
    <span class="output" :class="{ figure: endsAtInterface }">
        <span class="shown" aria-hidden="true">{{ endsAtInterface ? output : `→ ${output}` }}</span>
        <select
            :value="channel.output"
            :aria-label="`Output of ${channel.name}`"
            :title="`Output: ${output}`"
            @change="choose(($event.target as HTMLSelectElement).value)"
            @click.stop
            @keydown.stop
        >
            <template v-if="endsAtInterface">
                <option v-for="pair in session.state?.outputPairs" :key="pair" :value="pair">
                    {{ pairName(pair) }}
                </option>
            </template>
            <template v-else>
                <option
                    v-for="target in targets"
                    :key="target.channel.id"
                    :value="target.channel.id"
                    :disabled="target.isLoop"
                >
                    {{ target.channel.name }}{{ target.isLoop ? ' (would loop)' : '' }}
                </option>
            </template>
            <option value="none">nowhere</option>
        </select>
    </span>
</template>

<style scoped>
.output {
    position: relative;
    display: flex;
    align-items: center;
    height: var(--row-height);
    padding-top: calc(2 * var(--axis) - var(--row-height));
    color: var(--soft);
}

.shown {
    overflow-wrap: anywhere;
    line-height: 15px;
}

.compact .shown {
    line-height: 13px;
}

.output select {
    position: absolute;
    inset: 0;
    width: 100%;
    opacity: 0;
    cursor: pointer;
}

.output:focus-within .shown {
    outline: 2px solid var(--deep);
    outline-offset: 2px;
    border-radius: 4px;
}

.output:hover .shown {
    color: var(--ink);
    text-decoration: underline dotted;
    text-underline-offset: 3px;
}
</style>
