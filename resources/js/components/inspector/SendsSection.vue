<script setup lang="ts">
import { computed } from 'vue';
import type { Channel } from '@/api/types';
import { decibels, TAP_NAMES } from '@/format';
import { useFinder } from '@/stores/finder';
import { useSelection } from '@/stores/selection';
import { useSession } from '@/stores/session';
import CopySends from '@/components/sends/CopySends.vue';
import ActionMenu from '@/components/controls/ActionMenu.vue';

/** Where a channel sends to, and new sends; of a cue, the mix for its performer. */
const props = defineProps<{ channel: Channel; along: string[] }>();

const session = useSession();
const finder = useFinder();
const selection = useSelection();

const many = computed(() => props.along.length > 1);
const targets = computed(() =>
    session
        .sendTargets(props.channel)
        .filter((target) => !props.channel.sends.some((send) => send.to === target.channel.id))
        .map(({ channel, isLoop }) => ({
            key: channel.id,
            name: `${channel.name}${isLoop ? ' (would loop)' : ''}`,
            isOff: isLoop,
            value: channel.id,
        })),
);
</script>

<template>
    <section v-if="session.canSend(channel)">
        <h3>Sends</h3>
        <p v-for="send in many ? [] : channel.sends" :key="send.id" class="send">
            <button class="plain to" @click="selection.selectSends([send.id])">
                {{ session.channel(send.to)?.name ?? send.to }}
            </button>
            <span class="soft">{{ TAP_NAMES[send.tap] }}</span>
            <span class="figure">{{ send.on ? decibels(send.gain, true) : 'off' }}</span>
        </p>
        <div class="actions">
            <ActionMenu name="Send to" :items="targets" @choose="(to) => finder.addSends([...along], to)" />
            <button v-if="channel.kind !== 'main'" class="text-button" @click="finder.openForNewReturn(along)">
                To a new return …
            </button>
            <CopySends
                v-if="!many && channel.sends.length > 0"
                :sends="channel.sends.map((send) => send.id)"
                :from="channel"
                label="Copy all sends …"
            />
        </div>
    </section>
    <section v-if="channel.kind === 'cue' && !many">
        <h3>Mix for the performer</h3>
        <p class="hint">
            Every track is sent before its fader, at the amounts the faders have now. Afterwards the main mix changes
            nothing here.
        </p>
        <button class="pill wide" @click="session.edit({ type: 'copy-mix-to-cue', cue: channel.id })">
            Copy the main mix here
        </button>
    </section>
</template>

<style scoped>
.send {
    display: grid;
    grid-template-columns: 1fr auto 48px;
    gap: 8px;
    align-items: center;
    margin: 0;
    min-height: 26px;
}

.send + .send {
    border-top: 1px solid var(--contour);
}

.send .figure {
    text-align: right;
}

.to {
    overflow-wrap: anywhere;
}
</style>
