<script setup lang="ts">
import { computed, ref, watch } from 'vue';
import { api } from '@/api/client';
import type { RenderState } from '@/api/types';
import ChoiceMenu from '@/components/controls/ChoiceMenu.vue';
import RealTimeNote from '@/components/inputs/RealTimeNote.vue';
import FormatChoice from './FormatChoice.vue';
import RangeChoice from './RangeChoice.vue';
import { clock, decibels } from '@/format';
import { rules } from '@/rules';
import { useListening } from '@/stores/listening';
import { tellRefusal } from '@/stores/notices';
import { useScreen } from '@/stores/screen';
import { useSession } from '@/stores/session';
import { useSurvey } from '@/stores/survey';

/** Writes the mix, or any tap of it, to a file. */
const open = defineModel<boolean>({ required: true });

const session = useSession();
const survey = useSurvey();
const listening = useListening();
const screen = useScreen();
const format = ref<'16' | '24' | '32f'>('24');
const tap = ref('');
const isLoopOnly = ref(false);
const tail = ref(2);
const name = ref('');
const render = ref<RenderState | null>(null);
const started = ref(0);

const rate = computed(() => session.document?.sampleRate ?? 48000);
const isRunning = computed(
    () => render.value !== null && ['waiting', 'running', 'stopping'].includes(render.value.status),
);
const taps = computed(() => [
    { value: '', name: 'Main, after fader' },
    ...session.channels.flatMap((channel) => [
        { value: `${channel.id}:source`, name: `${channel.name}, source` },
        { value: `${channel.id}:pre-fader`, name: `${channel.name}, before fader` },
        { value: `${channel.id}:post-fader`, name: `${channel.name}, after fader` },
    ]),
]);
const key = computed(() => tap.value || `${session.main?.id}:post-fader`);
/** Of the range and the tail. */
const seconds = computed(() => {
    const region = isLoopOnly.value ? listening.loop : null;
    return (region ? region.end - region.start : (session.document?.length ?? 0)) / rate.value + tail.value;
});
const level = computed(() => survey.state?.result?.taps[key.value] ?? null);
const formats = computed(() => rules().formats);
const wouldClip = computed(
    () =>
        !formats.value.find((one) => one.id === format.value)?.isFloat &&
        (survey.state?.result?.clips ?? []).includes(key.value),
);
const left = computed(() => {
    const progress = render.value?.progress ?? 0;
    if (progress < 0.02) {
        return '';
    }
    const seconds = ((Date.now() - started.value) / 1000) * (1 / progress - 1);
    return `about ${Math.max(1, Math.round(seconds))} s left`;
});

watch(open, (isOpen) => {
    if (isOpen) {
        name.value = session.document?.name ?? '';
        if (!isRunning.value) {
            render.value = null;
        }
    }
});

async function start(clip = false): Promise<void> {
    const state = session.state;
    if (!state) {
        return;
    }
    const region = isLoopOnly.value && listening.loop ? { from: listening.loop.start, to: listening.loop.end } : {};
    listening.stop();
    started.value = Date.now();
    try {
        render.value = await api.post<RenderState>(`sessions/${state.id}/renders`, {
            format: format.value,
            tap: tap.value || null,
            tail: tail.value,
            name: name.value.trim() || state.document.name,
            ...(clip ? { clip } : {}),
            ...region,
        });
        await follow(render.value.id);
    } catch (error) {
        tellRefusal(error);
    }
}

function useFloat(): void {
    format.value = '32f';
    void start();
}

function findRemedy(): void {
    screen.view = 'headroom';
    open.value = false;
}

function goTo(position: number): void {
    void listening.seek(position);
    open.value = false;
}

async function follow(id: string): Promise<void> {
    while (isRunning.value) {
        await new Promise((resolve) => setTimeout(resolve, 350));
        render.value = await api.get<RenderState>(`renders/${id}`);
    }
}

async function stop(): Promise<void> {
    if (render.value) {
        await api.post(`renders/${render.value.id}/stop`).catch(tellRefusal);
    }
}
</script>

<template>
    <el-dialog v-model="open" title="Render to a file" width="520px" class="render" :close-on-click-modal="false">
        <div v-if="render === null" class="form">
            <label for="render-name">Name</label>
            <input id="render-name" v-model="name" maxlength="120" @keydown.stop />
            <label for="render-tap">From</label>
            <ChoiceMenu id="render-tap" v-model="tap" label="From" :items="taps" />
            <span>Format</span>
            <FormatChoice v-model="format" name="format" />
            <span>Range</span>
            <RangeChoice v-model="isLoopOnly" name="range" />
            <label for="render-tail">Tail</label>
            <span
                ><input
                    id="render-tail"
                    v-model.number="tail"
                    class="short figure"
                    type="number"
                    min="0"
                    max="600"
                    step="0.5"
                    @keydown.stop
                />
                s after the end</span
            >
        </div>
        <RealTimeNote v-if="render === null" :channels="[key.split(':')[0] ?? '']" :seconds="seconds" />
        <p v-if="render === null && wouldClip" class="warning" data-would-clip>
            As it is this render would clip, and be stopped: {{ level?.overs }} samples lie up to
            {{ decibels(level?.peak, true) }} dB above full scale. 32-bit float keeps them; or turn the main down by
            {{ decibels(level?.peak) }} dB.
            <button class="plain fix" @click="format = '32f'">Use 32-bit float</button>
        </p>
        <div v-if="render && isRunning" class="running">
            <el-progress :percentage="Math.round(render.progress * 100)" :show-text="false" />
            <p>
                <span class="figure">{{ Math.round(render.progress * 100) }} %</span>
                <span class="soft">
                    {{
                        render.status === 'waiting'
                            ? 'waiting for a worker'
                            : render.status === 'stopping'
                              ? 'stopping'
                              : left
                    }}</span
                >
            </p>
        </div>
        <div v-else-if="render" class="finished" :data-render="render.status">
            <template v-if="render.status === 'done' && render.result">
                <p>
                    {{ render.name }}.wav · {{ clock(render.result.frames, rate) }} · peak
                    <span class="figure">{{ decibels(render.result.peak, true) }} dBFS</span>
                </p>
                <p v-if="render.result.clipped > 0" class="warning">
                    {{ render.result.clipped }} samples clipped, the first near
                    {{ clock(render.result.firstClip ?? 0, rate) }}. A render in 32-bit float keeps them.
                </p>
                <p v-for="fault in render.result.faults" :key="fault" class="warning">
                    {{ session.channel(fault)?.name ?? fault }} put out something that is not a sound and was silenced.
                </p>
                <a class="pill on" :href="`/api/renders/${render.id}/file`" download>Save the file</a>
            </template>
            <template v-else-if="render.clips">
                <p class="warning">{{ render.message }}</p>
                <ul v-if="render.clips.places.length > 0" class="places">
                    <li v-for="place in render.clips.places" :key="place.from">
                        <button class="plain figure" title="Go there" @click="goTo(place.from)">
                            {{ clock(place.from, rate) }}
                        </button>
                        · {{ place.samples }} {{ place.samples === 1 ? 'sample' : 'samples' }}, up to
                        {{ decibels(place.peak, true) }} dBFS
                    </li>
                    <li v-if="render.clips.morePlaces > 0" class="soft">
                        and {{ render.clips.morePlaces }} more places
                    </li>
                </ul>
                <p v-else-if="render.clips.first !== null">The first at {{ clock(render.clips.first, rate) }}.</p>
                <div class="ways">
                    <button class="pill on" data-find-remedy @click="findRemedy">Find a remedy</button>
                    <button class="pill" data-use-float @click="useFloat">As 32-bit float, which keeps it</button>
                    <button class="plain soft" data-clip-anyway @click="start(true)">clip it anyway</button>
                </div>
            </template>
            <p v-else>{{ render.message }}</p>
        </div>
        <template #footer>
            <button v-if="isRunning" class="pill" @click="stop">Stop</button>
            <button v-else-if="render" class="pill" @click="render = null">Render again</button>
            <button v-else class="pill on" @click="start()">Render</button>
        </template>
    </el-dialog>
</template>

<style scoped src="./dialog.css"></style>

<style scoped>
.short {
    width: 80px;
}

.warning {
    margin: 14px 0 0;
    padding: 7px 12px;
    border-left: 3px solid var(--buoy);
    background: var(--paper);
}

.fix {
    color: var(--deep);
    font-weight: 500;
}

ul.places {
    margin: 8px 0;
    padding-left: 16px;
}

.ways {
    display: flex;
    white-space: nowrap;
    align-items: center;
    gap: 12px;
    margin-top: 14px;
}

a.pill {
    display: inline-block;
    text-decoration: none;
}

.finished p {
    margin: 0 0 12px;
}
</style>
