<script setup lang="ts">
import { useIntervalFn } from '@vueuse/core';
import { onMounted, ref, shallowRef } from 'vue';
import { api, Refused } from '@/api/client';
import type { PerformerMix } from '@/api/types';
import TallSlider from '@/components/controls/TallSlider.vue';
import { decibels } from '@/format';
import { setFaderScale } from '@/scales';

/** The page of whoever hears a cue: their own few faders, and nothing else. */
const address = `cues/${location.pathname.split('/').pop()}`;

/** Milliseconds between two looks at what the desk changed. */
const LOOK_EVERY = 2000;

const mix = shallowRef<PerformerMix | null>(null);
/** Why nothing can be set. */
const trouble = ref('');
/** What is on its way, by fader: of several moves the last is what counts. */
const waiting = new Map<string, { gain: number | null; gesture: string }>();
let isSending = false;

function show(found: PerformerMix): void {
    setFaderScale(found.scale);
    mix.value = found;
    trouble.value = '';
    document.title = found.cue;
}

function say(error: unknown): void {
    const isClosed = error instanceof Refused && error.status === 404;
    mix.value = isClosed ? null : mix.value;
    trouble.value =
        error instanceof Refused && !error.isAway ? error.message : 'The desk does not answer. Trying again …';
}

async function look(): Promise<void> {
    if (isSending || waiting.size > 0 || document.hidden) {
        return;
    }
    try {
        const found = await api.get<PerformerMix>(address);
        // A move made meanwhile is newer than this answer.
        if (!isSending) {
            show(found);
        }
    } catch (error) {
        say(error);
    }
}

async function send(): Promise<void> {
    if (isSending) {
        return;
    }
    isSending = true;
    for (const [fader, move] of waiting) {
        waiting.delete(fader);
        try {
            const found = await api.put<PerformerMix>(address, { fader, ...move });
            if (waiting.size === 0) {
                show(found);
            }
        } catch (error) {
            say(error);
        }
    }
    isSending = false;
}

function set(fader: string, gain: number | null, gesture: string): void {
    waiting.set(fader, { gain, gesture });
    void send();
}

function text(fader: PerformerMix['faders'][number]): string {
    const isOff = fader.gain === null || (fader.id === 'click' && fader.gain <= fader.lowest);
    return isOff ? 'off' : decibels(fader.gain, true);
}

useIntervalFn(() => void look(), LOOK_EVERY);
onMounted(() => void look());
</script>

<template>
    <main class="page" :data-ready="mix !== null || trouble !== ''">
        <header v-if="mix">
            <h1>{{ mix.cue }}</h1>
            <p>{{ mix.session }}<template v-if="mix.isMuted"> · muted at the desk</template></p>
        </header>
        <p v-if="trouble" class="trouble" role="alert">{{ trouble }}</p>
        <div v-if="mix" class="faders" role="group" aria-label="Headphones">
            <div v-for="fader in mix.faders" :key="fader.id" class="place" :data-fader="fader.id">
                <h2>{{ fader.label }}</h2>
                <p class="whose">{{ fader.id === 'me' ? mix.tracks.join(', ') : '' }}</p>
                <TallSlider
                    class="fader"
                    :model-value="fader.gain"
                    :min="fader.lowest"
                    :max="fader.highest"
                    :default="fader.id === 'click' ? -12 : 0"
                    :step="1"
                    :fine="0.1"
                    :scale="fader.id === 'click' ? 'linear' : 'fader'"
                    :label="fader.label"
                    :text="text(fader)"
                    @change="(gain, gesture) => set(fader.id, gain, gesture)"
                />
            </div>
        </div>
    </main>
</template>

<style scoped>
.page {
    display: flex;
    flex-direction: column;
    gap: 12px;
    height: 100dvh;
    padding: 16px;
}

h1 {
    margin: 0;
    font-size: 22px;
    overflow-wrap: anywhere;
}

h2 {
    margin: 0;
    font-size: 17px;
}

p {
    margin: 0;
    color: var(--soft);
    font-size: 14px;
}

.trouble {
    color: var(--buoy-text);
    font-size: 16px;
}

.faders {
    display: grid;
    flex: 1;
    grid-auto-columns: minmax(0, 180px);
    grid-auto-flow: column;
    grid-template-rows: auto minmax(20px, auto) 1fr;
    gap: 4px 12px;
    min-height: 0;
}

/* All faders begin at one height, however long the names above one of them are. */
.place {
    display: grid;
    grid-row: span 3;
    grid-template-rows: subgrid;
    min-height: 0;
}

.whose {
    overflow-wrap: anywhere;
}

.place .fader {
    height: auto;
    min-height: 120px;
}
</style>
