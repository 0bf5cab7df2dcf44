<script setup lang="ts">
import { computed, ref, watch } from 'vue';
import { api } from '@/api/client';
import type { Channel } from '@/api/types';
import LyingSlider from '@/components/controls/LyingSlider.vue';
import QrCode from '@/components/controls/QrCode.vue';
import { decibels } from '@/format';
import { faderTravel } from '@/scales';
import { useListening } from '@/stores/listening';
import { tell, tellRefusal } from '@/stores/notices';
import { useSession } from '@/stores/session';

/** Who hears a cue: their tracks, how they set it for themselves, and the page they do it on. And the cue for one's own ears. */
const props = defineProps<{ channel: Channel }>();

const session = useSession();
const listening = useListening();

const tap = computed(() => `${props.channel.id}:post-fader`);
const isHeard = computed(() => listening.listeningAt === tap.value);
const feeding = computed(() => session.channels.filter(({ sends }) => sends.some(({ to }) => to === props.channel.id)));
const own = computed(() => props.channel.performer?.tracks ?? []);
const parts = computed(() => session.state?.performers[props.channel.id] ?? []);

const page = ref<{ path: string; url: string | null } | null>(null);
watch(
    () => props.channel.id,
    () => (page.value = null),
);
const address = computed(() => (page.value ? (page.value.url ?? `${location.origin}${page.value.path}`) : ''));

function listen(beside: boolean): void {
    const isSame = isHeard.value && listening.beside === beside;
    listening.listenAt(isSame ? null : tap.value, beside);
}

function setOwn(id: string): void {
    const tracks = own.value.includes(id) ? own.value.filter((one) => one !== id) : [...own.value, id];
    void session.edit({ type: 'set-performer', cue: props.channel.id, tracks });
}

function setGain(part: 'me' | 'band', gain: number | null, gesture: string): void {
    void session.edit({ type: 'set-performer-gain', cue: props.channel.id, part, gain }, gesture);
}

const pagePath = () => `sessions/${session.state?.id}/cues/${props.channel.id}/page`;

async function openPage(): Promise<void> {
    try {
        page.value = await api.post(pagePath());
    } catch (error) {
        tellRefusal(error);
    }
}

async function closePage(): Promise<void> {
    try {
        await api.delete(pagePath());
        page.value = null;
        tell('The page is closed. Who has its address can set nothing any more.');
    } catch (error) {
        tellRefusal(error);
    }
}
</script>

<template>
    <section data-cue>
        <div class="line">
            <button
                class="pill"
                :class="{ on: isHeard && !listening.beside }"
                :aria-pressed="isHeard && !listening.beside"
                @click="listen(false)"
            >
                Listen
            </button>
            <button
                class="pill"
                :class="{ on: isHeard && listening.beside }"
                :aria-pressed="isHeard && listening.beside"
                title="The main on the left ear, this cue on the right one"
                @click="listen(true)"
            >
                Beside the main
            </button>
        </div>
        <h3>Performer</h3>
        <p v-if="feeding.length === 0" class="hint">Nothing is sent here yet.</p>
        <template v-else>
            <div class="line" role="group" aria-label="Their own tracks">
                <span class="hint">own tracks</span>
                <button
                    v-for="{ id, name } in feeding"
                    :key="id"
                    class="pill"
                    :class="{ on: own.includes(id) }"
                    :aria-pressed="own.includes(id)"
                    @click="setOwn(id)"
                >
                    {{ name }}
                </button>
            </div>
            <div v-for="{ part, name, gain } in parts" :key="part" class="setting" :data-performer="part">
                <span
                    :title="`What the performer puts on top of the sends${part === 'me' ? ' of their own tracks' : ''}`"
                    >{{ name }}</span
                >
                <LyingSlider
                    :model-value="gain ?? null"
                    :min="faderTravel().min"
                    :max="faderTravel().max"
                    :default="0"
                    :step="1"
                    :fine="0.1"
                    scale="fader"
                    :label="`${name}, on top of the sends`"
                    :text="`${decibels(gain, true)} dB`"
                    @change="(to, gesture) => setGain(part, to, gesture)"
                />
            </div>
        </template>
        <button v-if="!page" class="text-button" data-open-page @click="openPage">Page for the performer …</button>
        <div v-else class="page">
            <QrCode :text="address" :label="`Address of the page, ${address}`" />
            <a class="address figure" :href="address" target="_blank" rel="noreferrer" data-page-address>{{
                address
            }}</a>
            <p v-if="!page.url" class="hint">
                Other devices do not reach this machine: start Hafen with <code>bin/demo --performers</code> for that.
            </p>
            <p v-else class="hint">Who knows this address sets these faders of this cue, and nothing else.</p>
            <div class="line">
                <button class="text-button" @click="page = null">Hide</button>
                <button
                    class="text-button"
                    title="The address is no longer good; the next one is another"
                    @click="closePage"
                >
                    Close the page
                </button>
            </div>
        </div>
    </section>
</template>

<style scoped>
.line {
    display: flex;
    flex-wrap: wrap;
    gap: 6px;
    align-items: center;
    margin: 6px 0;
}

.page {
    display: grid;
    gap: 6px;
    margin-top: 6px;
}

.address {
    overflow-wrap: anywhere;
    color: var(--deep);
    font-size: 12px;
}

p {
    margin: 0;
}
</style>
