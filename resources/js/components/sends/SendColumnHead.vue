<script setup lang="ts">
import { computed } from 'vue';
import type { Channel } from '@/api/types';
import { decibels } from '@/format';
import { isProcessor } from '@/inserts';
import { useListening } from '@/stores/listening';
import { usePilot } from '@/stores/pilot';
import { useSelection } from '@/stores/selection';
import { useSession } from '@/stores/session';
import { usePathPointing } from '@/composables/usePathPointing';

/** What stands at the head of a column: the return's row of inserts, whether it is wet and solo-safe, its fader and its level. */
const props = defineProps<{ channel: Channel }>();

const session = useSession();
const selection = useSelection();
const listening = useListening();
const pilot = usePilot();

const notWet = computed(() => pilot.of(props.channel.id).find((one) => one.check === 'return-not-wet') ?? null);
const wet = computed(() => {
    const insert = notWet.value?.part ? session.locate(notWet.value.part)?.insert : null;
    return isProcessor(insert) ? `${Math.round(insert.mix * 100)} % wet` : '';
});
const inserts = computed(() => {
    if (props.channel.kind === 'cue') {
        return props.channel.output === 'none' ? 'no output' : props.channel.output.replace(':', ' ').replace('-', '–');
    }
    const names = props.channel.inserts.map((insert) => {
        const facts = session.state?.inserts[insert.id];
        return facts?.chip?.name ?? facts?.label ?? '';
    });
    return names.length > 0 ? names.join(' · ') : '→ ' + (session.channel(props.channel.output)?.name ?? 'nowhere');
});
const level = computed(() => listening.level(`${props.channel.id}:post-fader`)?.peak);

function select(event: MouseEvent): void {
    selection.selectChannel(props.channel.id, event, [props.channel.id]);
}

const point = usePathPointing(() => props.channel.id);
</script>

<template>
    <div class="head" :class="{ cue: channel.kind === 'cue', chosen: selection.channels.includes(channel.id) }">
        <span class="top">
            <button class="name plain" @click="select" @pointerenter="point(true)" @pointerleave="point(false)">
                {{ channel.name }}
            </button>
            <button
                v-if="channel.kind === 'return'"
                class="safe"
                :class="{ on: channel.soloSafe }"
                :aria-pressed="channel.soloSafe"
                :title="channel.soloSafe ? 'Solo-safe: heard when other channels are soloed' : 'Not solo-safe'"
                @click="session.edit({ type: 'set-solo-safe', channels: [channel.id], soloSafe: !channel.soloSafe })"
            >
                safe
            </button>
        </span>
        <button
            v-if="notWet?.fix"
            class="row dry plain"
            :title="`${notWet.text} Press to ${notWet.fix.label.toLowerCase()}`"
            @click="notWet.fix && session.edit(notWet.fix.edit)"
        >
            {{ inserts }} · {{ wet }}
        </button>
        <span v-else class="row" :title="inserts">{{ inserts }}</span>
        <span class="figure numbers" :title="`Fader ${decibels(channel.fader)} dB, peak ${decibels(level)} dBFS`"
            >{{ decibels(channel.fader, true) }} ▸ {{ decibels(level) }}</span
        >
    </div>
</template>

<style scoped>
.head {
    display: flex;
    flex-direction: column;
    gap: 1px;
    min-width: 0;
    padding: 2px 8px 5px;
}

.head.chosen {
    background: var(--shoal-wash);
}

.top {
    display: flex;
    align-items: center;
    gap: 6px;
}

.name {
    font-weight: 600;
    line-height: 16px;
    overflow-wrap: anywhere;
    text-align: left;
}

.cue .name {
    color: var(--plum);
}

.safe {
    padding: 0 6px;
    border: 1px solid var(--contour);
    border-radius: 999px;
    background: none;
    font-size: 12px;
    color: var(--soft);
    text-decoration: line-through;
}

.safe.on {
    color: var(--ink);
    text-decoration: none;
}

.row {
    font-size: 12px;
    line-height: 15px;
    color: var(--soft);
}

.dry {
    color: var(--brass-text);
}

.numbers {
    font-size: 12px;
    white-space: nowrap;
}
</style>
