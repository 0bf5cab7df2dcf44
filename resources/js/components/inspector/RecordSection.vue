<script setup lang="ts">
import { computed, ref } from 'vue';
import type { Channel } from '@/api/types';
import CountIn from './CountIn.vue';
import ChoiceMenu from '@/components/controls/ChoiceMenu.vue';
import { TAP_NAMES } from '@/format';
import { useListening } from '@/stores/listening';
import { useSession } from '@/stores/session';

/** Records onto a track while it plays: any tap of any channel, or what is heard, with all that is moved meanwhile. */
const props = defineProps<{ channel: Channel }>();

const session = useSession();
const listening = useListening();

const HEARD = 'heard';
const tap = ref(HEARD);
const taps = computed(() => [
    { value: HEARD, name: 'what I hear' },
    ...[...session.channels]
        .sort((one, other) => Number(other.kind === 'main') - Number(one.kind === 'main'))
        .flatMap((one) =>
            Object.entries(TAP_NAMES).map(([stage, name]) => ({
                value: `${one.id}:${stage}`,
                name: `${one.name}, ${name}`,
            })),
        ),
]);
const isHere = computed(() => listening.recording?.some(({ channel }) => channel === props.channel.id) ?? false);
const canRecord = computed(
    () =>
        props.channel.source.type !== 'tap' &&
        props.channel.kind === 'track' &&
        !props.channel.frozen &&
        !props.channel.off,
);
/** Which level is in it. */
const about = computed(() => {
    if (tap.value === HEARD) {
        return 'The sound you listen to, with solos.';
    }
    const stage = tap.value.split(':')[1];
    return stage === 'source'
        ? 'Before the inserts: clip gain and trim are in it, the fader is not.'
        : stage === 'pre-fader'
          ? 'After the inserts: the fader is not in it.'
          : 'After the fader: fader and pan are in it.';
});

function toggle(): void {
    if (isHere.value) {
        listening.stopRecording();
    } else {
        void listening.record({ channel: props.channel.id, tap: tap.value });
    }
}
</script>

<template>
    <section v-if="canRecord" data-record>
        <h3>Record</h3>
        <div class="setting">
            <span>From</span>
            <ChoiceMenu v-model="tap" label="What is recorded" data-record-tap :items="taps" />
        </div>
        <p class="hint">{{ about }}</p>
        <CountIn v-if="channel.source.type !== 'input'" />
        <button
            class="text-button"
            :disabled="listening.recording !== null && !isHere"
            :title="
                listening.isPlaying
                    ? 'From here on, while it plays (R)'
                    : 'Plays from where it stands, or the loop, and records (R)'
            "
            @click="toggle"
        >
            {{ isHere ? 'Stop recording' : 'Record' }}
        </button>
    </section>
</template>

<style scoped>
.text-button {
    margin-left: -8px;
}
</style>
