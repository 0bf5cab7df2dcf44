<script setup lang="ts">
import { computed } from 'vue';
import type { Channel, Send } from '@/api/types';
import { decibels, sendText } from '@/format';
import { useScreen } from '@/stores/screen';
import { useSelection } from '@/stores/selection';
import { useSession } from '@/stores/session';

/** The sends of a channel at the end of its row: where to and how much, filled after the fader, a ring before it. */
const props = defineProps<{ channel: Channel; isCompact?: boolean }>();

const session = useSession();
const selection = useSelection();
const screen = useScreen();

/** How many fit: one under the other, or one alone. */
const most = computed(() => (props.isCompact ? 1 : 3));

const shown = computed(() => {
    const sends = props.channel.sends;
    return sends.length > most.value ? sends.slice(0, Math.max(1, most.value - 1)) : sends;
});
const more = computed(() => props.channel.sends.length - shown.value.length);

function target(send: Send): Channel | undefined {
    return session.channel(send.to);
}

function title(send: Send): string {
    return sendText(props.channel.name, target(send)?.name ?? send.to, send);
}

function select(send: Send): void {
    selection.channels = [props.channel.id];
    selection.selectSends([send.id]);
}
</script>

<template>
    <span class="list" :class="{ compact: isCompact }">
        <button
            v-for="send in shown"
            :key="send.id"
            class="send plain"
            :class="{
                off: !send.on,
                cue: target(send)?.kind === 'cue',
                chosen: selection.sends.includes(send.id),
                aside: screen.path !== null && !screen.path.has(send.to),
            }"
            :data-send="send.id"
            :title="title(send)"
            @click.stop="select(send)"
        >
            <span class="tap" :class="send.tap" /><span class="to">{{ target(send)?.name ?? send.to }}</span
            ><span class="figure amount">{{ decibels(send.gain, true) }}</span>
        </button>
        <button
            v-if="more > 0"
            class="plain more hint"
            :title="channel.sends.slice(shown.length).map(title).join('\n')"
            @click.stop="screen.view = 'sends'"
        >
            {{ isCompact ? `+${more}` : `and ${more} more` }}
        </button>
    </span>
</template>

<style scoped>
.list {
    display: flex;
    flex-direction: column;
    justify-content: center;
    min-width: 0;
    min-height: var(--row-height);
    padding: calc(2 * var(--axis) - var(--row-height)) 8px 0 6px;
    font-size: 12px;
    line-height: 15px;
}

.list.compact {
    line-height: 13px;
    flex-direction: row;
    align-items: center;
    gap: 4px;
}

.list.compact .send {
    flex: 1;
}

.send {
    display: flex;
    align-items: center;
    gap: 4px;
    min-width: 0;
    color: var(--soft);
    border-radius: 3px;
}

.send:hover,
.send.chosen {
    color: var(--ink);
    background: var(--shoal-wash);
}

.tap {
    flex: none;
    width: 7px;
    height: 7px;
    border: 1.5px solid var(--deep);
    border-radius: 50%;
    background: var(--deep);
}

.tap.pre-fader,
.tap.source {
    background: none;
}

.tap.source {
    border-radius: 0;
}

.cue .tap {
    border-color: var(--plum);
}

.cue .tap.post-fader {
    background: var(--plum);
}

.to {
    flex: 1;
    min-width: 0;
    overflow-wrap: anywhere;
    text-align: left;
}

.amount {
    flex: none;
    color: var(--ink);
    letter-spacing: -0.03em;
}

.off .to,
.off .amount {
    text-decoration: line-through;
}

.aside {
    opacity: 0.3;
}

.more {
    padding-left: 11px;
    text-align: left;
}

.compact .more {
    padding: 0;
}
</style>
