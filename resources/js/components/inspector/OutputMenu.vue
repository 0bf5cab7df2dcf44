<script setup lang="ts">
import { computed } from 'vue';
import type { Channel } from '@/api/types';
import { channelChoices } from '@/choices';
import ActionMenu from '@/components/controls/ActionMenu.vue';
import { useSelection } from '@/stores/selection';
import { useSession } from '@/stores/session';

/** Where a channel goes at the end of its row; a press chooses another output. */
const props = defineProps<{ channel: Channel }>();

const session = useSession();
const selection = useSelection();

const id = computed(() => props.channel.id);
const pairName = (pair: string) => pair.replace(':', ' ').replace('-', '–');
const endsAtInterface = computed(() => session.endsAtInterface(props.channel));
const items = computed(() => [
    ...(endsAtInterface.value
        ? (session.state?.outputPairs ?? []).map((pair) => ({ name: pairName(pair), value: pair }))
        : channelChoices(session.outputTargets(props.channel))),
    { name: 'nowhere', value: 'none' },
]);
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
    <span class="output" :class="{ figure: endsAtInterface }" @click.stop>
        <ActionMenu
            :name="`Output of ${channel.name}`"
            :about="`Output: ${output}`"
            :items="items.map((item) => ({ ...item, key: item.value }))"
            data-output
            @choose="choose"
        >
            <span class="shown">{{ endsAtInterface ? output : `→ ${output}` }}</span>
        </ActionMenu>
    </span>
</template>

<style scoped>
.output {
    display: flex;
    align-items: center;
    height: var(--row-height);
    padding-top: calc(2 * var(--axis) - var(--row-height));
}

.output :deep(.menu) {
    padding: 0;
    border: 0;
}

.shown {
    display: block;
    color: var(--soft);
    overflow-wrap: anywhere;
    line-height: 15px;
    white-space: normal;
}

.compact .shown {
    line-height: 13px;
}

.output:hover .shown {
    color: var(--ink);
    text-decoration: underline dotted;
    text-underline-offset: 3px;
}
</style>
