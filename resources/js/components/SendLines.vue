<script setup lang="ts">
import { computed } from 'vue';
import type { Channel, Send } from '@/api/types';
import { decibels, sendText } from '@/format';
import { useScreen } from '@/stores/screen';
import { useSelection } from '@/stores/selection';
import { useSession } from '@/stores/session';

/** The sends of a channel at the end of its row: where to and how much, filled after the fader, a ring before it. */
const props = defineProps<{ channel: Channel }>();

const session = useSession();
const selection = useSelection();
const screen = useScreen();

/** How many fit on the line. */
const MOST = 2;

const shown = computed(() => {
    const sends = props.channel.sends;
    return sends.length > MOST + 1 ? sends.slice(0, MOST) : sends.slice(0, MOST + 1);
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
    <span class="list" :class="{ three: shown.length + (more > 0 ? 1 : 0) > 2 }">
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
        <button v-if="more > 0" class="plain more hint" @click.stop="screen.view = 'sends'">and {{ more }} more</button>
    </span>
</template>

<style scoped>
.list {
    display: flex;
    flex-direction: column;
    justify-content: center;
    min-height: 42px;
    margin-top: 8px;
    padding-left: 6px;
    font-size: 12px;
    line-height: 15px;
}

.list.three {
    margin-top: 4px;
    min-height: 46px;
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
    overflow: hidden;
    text-overflow: ellipsis;
    white-space: nowrap;
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
}
</style>
