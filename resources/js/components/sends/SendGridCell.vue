<script setup lang="ts">
import { computed } from 'vue';
import type { Channel, Send } from '@/api/types';
import EntryField from '@/components/controls/EntryField.vue';
import { decibels, sendText } from '@/format';
import { faderTravel, positionOf } from '@/scales';

/** One cell of the grid: the amount of a send, where it is taken and how much that is, or why there is none. */
const props = defineProps<{
    channel: Channel;
    bus: Channel;
    send: Send | undefined;
    isLoop: boolean;
    isActive: boolean;
    isChosen: boolean;
    isInBlock: boolean;
}>();
/** What is being typed into it; null where nothing is. */
const typing = defineModel<string | null>('typing', { required: true });
defineEmits<{ typed: [gain: number | null]; left: [] }>();

const share = computed(() => {
    const gain = props.send?.gain ?? null;
    return gain === null ? 0 : Math.min(1, Math.max(0.02, positionOf(gain, faderTravel())));
});
const title = computed(() => {
    const { channel, bus, send } = props;
    if (send) {
        return sendText(channel.name, bus.name, send);
    }
    if (channel.output === bus.id) {
        return `${channel.name} puts out to ${bus.name}. Type an amount to send there as well.`;
    }
    return props.isLoop
        ? `${channel.name} to ${bus.name} would close a loop`
        : `${channel.name} does not send to ${bus.name}. Type an amount, or press again.`;
});
</script>

<template>
    <div
        class="cell"
        :class="{ active: isActive, block: isInBlock, loop: isLoop, cue: bus.kind === 'cue', off: send?.on === false }"
        role="gridcell"
        :tabindex="isActive ? 0 : -1"
        :data-from="channel.id"
        :data-to="bus.id"
        :aria-selected="isChosen"
        :aria-disabled="isLoop"
        :aria-label="title"
        :title="title"
    >
        <EntryField
            v-if="typing !== null && isActive"
            v-model="typing"
            class="entry"
            label="Amount in dB"
            @enter="(gain) => $emit('typed', gain)"
            @close="$emit('left')"
        />
        <template v-else-if="send">
            <span class="figure amount">{{ decibels(send.gain) }}</span>
            <span class="tap-mark" :class="send.tap" />
            <span class="bar" :style="{ width: `calc((100% - 12px) * ${share})` }" />
        </template>
        <span v-else-if="channel.output === bus.id" class="out">output →</span>
        <span v-else-if="!isLoop" class="none">+</span>
    </div>
</template>

<style scoped>
.cell {
    position: relative;
    height: 35px;
    border: solid var(--contour);
    border-width: 0 1px 1px 0;
    cursor: ns-resize;
    touch-action: none;
    user-select: none;
}

.cell:nth-child(2) {
    border-left-width: 1px;
}

.cell:focus-visible {
    outline-offset: -2px;
    border-radius: 0;
}

.cell.active {
    background: var(--sheet);
    box-shadow: inset 0 0 0 2px var(--deep);
}

.cell.block {
    background: var(--shoal-wash);
}

.cell.loop {
    background: repeating-linear-gradient(-45deg, transparent 0 5px, var(--contour) 5px 6.5px);
    cursor: not-allowed;
}

.amount {
    position: absolute;
    left: 6px;
    top: 6px;
}

.off .amount {
    color: var(--soft);
    text-decoration: line-through;
}

.tap-mark {
    position: absolute;
    right: 7px;
    top: 8px;
}

.cue .tap-mark {
    border-color: var(--plum);
}

.cue .tap-mark.post-fader {
    background: var(--plum);
}

.bar {
    position: absolute;
    left: 6px;
    bottom: 5px;
    height: 3px;
    border-radius: 2px;
    background: var(--water);
}

.cue .bar {
    background: var(--plum);
}

.off .bar {
    background: var(--contour);
}

.out,
.none {
    display: block;
    line-height: 34px;
    text-align: center;
}

.out {
    font-size: 12px;
    color: var(--soft);
}

.none {
    color: var(--contour);
}

.cell:hover .none,
.cell.active .none {
    color: var(--soft);
}

.entry {
    position: absolute;
    inset: 3px;
    width: calc(100% - 6px);
    padding: 0 4px;
    border: 0;
    outline: 0;
    background: var(--sheet);
}
</style>
