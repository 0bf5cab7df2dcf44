<script setup lang="ts">
import { computed } from 'vue';
import type { Channel, Send, TapName } from '@/api/types';
import { useMetered } from '@/composables/useMetered';
import { decibels } from '@/format';
import { useFinder } from '@/stores/finder';
import { useListening } from '@/stores/listening';
import { usePilot } from '@/stores/pilot';
import { useScreen } from '@/stores/screen';
import { useSelection } from '@/stores/selection';
import { useSession } from '@/stores/session';
import CopySends from '@/components/sends/CopySends.vue';
import AdviceList from './AdviceList.vue';
import FaderSlider from '@/components/controls/FaderSlider.vue';
import PanSlider from '@/components/controls/PanSlider.vue';

/** The send being changed, or several at once. */
const props = defineProps<{ sends: { channel: Channel; send: Send }[] }>();

const session = useSession();
const listening = useListening();
const pilot = usePilot();
const selection = useSelection();
const screen = useScreen();
const finder = useFinder();

const first = computed(() => props.sends[0]!);
const one = computed(() => props.sends.length === 1);
const ids = computed(() => props.sends.map((entry) => entry.send.id));
const target = computed(() => {
    const to = first.value.send.to;
    return props.sends.every((entry) => entry.send.to === to) ? (session.channel(to) ?? null) : null;
});
const taps: [TapName, string][] = [
    ['source', 'source'],
    ['pre-fader', 'before'],
    ['post-fader', 'after'],
];
const advice = computed(() => [
    ...props.sends.flatMap(({ channel, send }) => pilot.of(channel.id).filter((one) => one.part === send.id)),
    ...(target.value ? pilot.of(target.value.id).filter((one) => one.check === 'return-not-wet') : []),
]);
const feeders = computed(() => {
    const id = target.value?.id;
    return session.channels.filter((channel) => channel.sends.some((send) => send.to === id)).length;
});
useMetered(() => (target.value ? [target.value.id] : []));
const arrives = computed(() => listening.level(`${target.value?.id}:source`)?.peak);
const leaves = computed(() => listening.level(`${target.value?.id}:post-fader`)?.peak);
const isHeard = computed(() => listening.listeningAt === `${target.value?.id}:post-fader`);

function setGain(gain: number | null, gesture: string): void {
    if (one.value) {
        void session.edit({ type: 'set-send-gain', sends: ids.value, gain }, gesture);
        return;
    }
    // Several keep their relation.
    const now = first.value.send.gain;
    if (gain !== null && now !== null) {
        const from = lastSent?.gesture === gesture ? lastSent.gain : now;
        lastSent = { gesture, gain };
        const by = Number((gain - from).toFixed(4));
        if (by !== 0) {
            void session.edit({ type: 'move-sends', sends: ids.value, by }, gesture);
        }
    }
}
let lastSent: { gesture: string; gain: number } | null = null;

function setTap(tap: TapName): void {
    void session.edit({ type: 'set-send-tap', sends: ids.value, tap });
}

function remove(): void {
    const sends = ids.value;
    selection.selectSends([]);
    void session.edit({ type: 'remove-sends', sends });
}

function inspect(): void {
    if (target.value) {
        selection.clear();
        selection.channels = [target.value.id];
    }
}
</script>

<template>
    <div class="inspector" data-inspecting-sends>
        <header>
            <h2 v-if="one">{{ first.channel.name }} → {{ target?.name }}</h2>
            <h2 v-else>{{ sends.length }} sends{{ target ? ` → ${target.name}` : '' }}</h2>
        </header>
        <p class="soft which">{{ one ? 'the send being changed' : 'changed together, keeping their relation' }}</p>
        <div class="setting">
            <span>Amount</span>
            <FaderSlider
                :gain="first.send.gain"
                :default="one ? 0 : (first.send.gain ?? 0)"
                label="Amount"
                @change="setGain"
            />
        </div>
        <div class="setting">
            <span>Pan</span>
            <PanSlider
                :pan="first.send.pan"
                label="Pan"
                @change="(pan, gesture) => session.edit({ type: 'set-send-pan', sends: ids, pan }, gesture)"
            />
        </div>
        <div class="setting">
            <span>Tap</span>
            <span class="taps" role="group" aria-label="Tap">
                <button
                    v-for="[tap, name] in taps"
                    :key="tap"
                    class="toggle"
                    :class="{ on: sends.every((entry) => entry.send.tap === tap) }"
                    :aria-pressed="sends.every((entry) => entry.send.tap === tap)"
                    @click="setTap(tap)"
                >
                    {{ name }}
                </button>
            </span>
        </div>
        <div class="actions">
            <button class="text-button" @click="session.edit({ type: 'set-send-on', sends: ids, on: !first.send.on })">
                {{ first.send.on ? 'Switch off' : 'Switch on' }}
            </button>
            <CopySends v-if="one" :sends="ids" :from="first.channel" label="Copy to …" />
            <button class="text-button" @click="remove">Remove</button>
        </div>
        <AdviceList :advice="advice" />
        <template v-if="target">
            <h3>
                <button class="plain to" @click="inspect">{{ target.name }}</button>
            </h3>
            <p class="soft which">
                {{ feeders }} {{ feeders === 1 ? 'channel sends' : 'channels send' }} here · arrives
                <span class="figure">{{ decibels(arrives) }}</span
                >, leaves <span class="figure">{{ decibels(leaves) }}</span>
            </p>
            <div class="chips">
                <button
                    v-for="insert in target.inserts"
                    :key="insert.id"
                    class="chip plain"
                    :class="{ off: !insert.on }"
                    @click="selection.selectInsert(target.id, insert.id)"
                >
                    {{ session.state?.inserts[insert.id]?.label }}
                </button>
                <button
                    class="text-button"
                    :aria-label="`Add an effect to ${target.name}`"
                    @click="finder.openFor(target.id, 'inserts', target.inserts.length)"
                >
                    +
                </button>
            </div>
            <button
                class="pill"
                :class="{ on: isHeard }"
                @click="listening.listenAt(isHeard ? null : `${target.id}:post-fader`)"
            >
                {{ isHeard ? 'Back to Main' : `Listen to ${target.name}` }}
            </button>
            <button v-if="screen.view !== 'sends'" class="pill" @click="screen.view = 'sends'">All sends</button>
        </template>
    </div>
</template>

<style scoped>
.which {
    margin: -4px 0 8px;
}

.taps {
    display: flex;
    justify-content: flex-end;
    gap: 3px;
}

.taps .toggle {
    padding: 2px 6px;
}

.actions {
    display: flex;
    flex-wrap: wrap;
    margin: 4px -8px 0;
}

.to {
    font-size: 15px;
    font-weight: 600;
    color: var(--ink);
}

h3 + .which {
    margin-top: 0;
}

.chips {
    display: flex;
    flex-wrap: wrap;
    gap: 6px;
    margin: 8px 0 12px;
}

.chip {
    padding: 2px 8px;
    border: 1px solid var(--deep);
    border-radius: 5px;
}

.chip.off {
    border-color: var(--contour);
    color: var(--soft);
    text-decoration: line-through;
}

.pill {
    margin-right: 6px;
}
</style>
