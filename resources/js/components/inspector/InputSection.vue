<script setup lang="ts">
import { computed } from 'vue';
import type { Channel } from '@/api/types';
import ChoiceMenu from '@/components/controls/ChoiceMenu.vue';
import LyingSlider from '@/components/controls/LyingSlider.vue';
import SwitchRow from '@/components/controls/SwitchRow.vue';
import { decibels } from '@/format';
import { portNumbers } from '@/ports';
import AtHand from './AtHand.vue';
import CountIn from './CountIn.vue';
import { useHardware } from '@/stores/hardware';
import { useListening } from '@/stores/listening';
import { useSession } from '@/stores/session';

/** The input a track takes: when it is heard, how late, how loud, and the take. */
const props = defineProps<{ channel: Channel }>();

const session = useSession();
const hardware = useHardware();
const listening = useListening();

const MONITORS = [
    { id: 'off', name: 'off', about: 'The clips are heard, the input is not' },
    { id: 'armed', name: 'armed', about: 'The input is heard while the track is armed' },
    { id: 'always', name: 'always', about: 'The input is heard, the clips are not' },
] as const;

const source = computed(() => hardware.inputOf(props.channel));
const canTake = computed(() => props.channel.kind === 'track' && props.channel.source.type !== 'tap');
const inputs = computed(() => [
    { value: '', name: 'none' },
    ...(session.state?.inputs ?? []).map((port) => ({ value: port, name: hardware.portName(port) })),
]);
const ports = computed(() => portNumbers(source.value?.input));
const port = computed(() => hardware.state?.inputs[(ports.value[0] ?? 0) - 1]);
const monitor = computed(() => source.value?.monitor ?? 'armed');
const empty = computed(() => hardware.emptyInputs(props.channel.id));
const isArmed = computed(() => hardware.armed.includes(props.channel.id));
const isHeard = computed(() => hardware.heard.includes(props.channel.id));
const rate = computed(() => session.document?.sampleRate ?? 48000);
const parts = computed(() => hardware.delay(props.channel.id));
const total = computed(() => parts.value.reduce((sum, { samples }) => sum + samples, 0));
const milliseconds = (samples: number) => `${((samples / rate.value) * 1000).toFixed(1)} ms`;
const delays = computed(() =>
    (session.state?.live[props.channel.id]?.quick ?? []).map(({ delay }) => ({
        value: delay,
        name: `over ${delay} ms`,
    })),
);
/** What quick monitoring leaves out, or would, and what that saves. */
const leaves = computed(() => {
    const most = hardware.quick ?? hardware.state?.usualQuick;
    const sleeping = session.state?.live[props.channel.id]?.quick.find(({ delay }) => delay === most)?.sleeping ?? [];
    if (sleeping.length === 0) {
        return hardware.quick === null ? '' : 'Nothing here is so late: all of it is heard.';
    }
    const saved = sleeping.reduce((sum, id) => sum + (session.state?.inserts[id]?.latency ?? 0), 0);
    const names = sleeping.map((id) => session.state?.inserts[id]?.label ?? id).join(', ');
    return `${hardware.quick === null ? 'Would leave' : 'Leaves'} out ${names}: ${milliseconds(saved)} sooner.`;
});
const isRecording = computed(() => listening.recording?.some(({ channel }) => channel === props.channel.id) ?? false);
const takes = computed(() => props.channel.versions?.length ?? 0);
const hasClips = computed(() => 'clips' in props.channel.source && props.channel.source.clips.length > 0);

function setInput(input: string, heard = monitor.value): void {
    void session.edit({
        type: 'set-input',
        channel: props.channel.id,
        input: input === '' ? null : input,
        ...(input === '' ? {} : { monitor: heard }),
    });
    if (input === '') {
        hardware.arm(props.channel.id, false);
    }
}

function setGain(gain: number | null): void {
    for (const number of gain === null ? [] : ports.value) {
        void hardware.set({ input: number, gain: gain! });
    }
}

/** Records all tracks that are armed; this one by itself where it is not. */
function take(): void {
    if (isRecording.value) {
        listening.stopRecording();
        return;
    }
    const tracks = isArmed.value ? hardware.armed : [props.channel.id];
    void listening.record(...tracks.map((channel) => ({ channel, tap: 'input' })));
}
</script>

<template>
    <section v-if="canTake" data-input>
        <h3>Input</h3>
        <div class="setting">
            <span>Takes</span>
            <ChoiceMenu
                label="Input of the interface"
                data-input-port
                :model-value="source?.input ?? ''"
                :items="inputs"
                @update:model-value="setInput"
            />
        </div>
        <p v-if="empty.length > 0" class="empty" role="status" data-empty-input>
            Nothing is plugged into input {{ empty.join(' and ') }}: it is silent.
        </p>
        <template v-if="source">
            <div class="setting">
                <span>Heard</span>
                <span class="pills" role="radiogroup" aria-label="When the input is heard">
                    <button
                        v-for="one in MONITORS"
                        :key="one.id"
                        class="pill small"
                        role="radio"
                        :class="{ on: monitor === one.id }"
                        :aria-checked="monitor === one.id"
                        :title="one.about"
                        :data-monitor="one.id"
                        @click="setInput(source.input, one.id)"
                    >
                        {{ one.name }}
                    </button>
                </span>
            </div>
            <div class="setting">
                <span>Gain of the input</span>
                <LyingSlider
                    v-if="port && hardware.state"
                    :model-value="port.gain"
                    :min="hardware.state.gains.lowest"
                    :max="hardware.state.gains.highest"
                    :default="0"
                    :step="1"
                    :fine="0.1"
                    label="Gain of the input"
                    :text="`${decibels(port.gain, true)} dB`"
                    @change="setGain"
                />
            </div>
            <p class="delay" :aria-label="`Delay until it is heard: ${milliseconds(total)}`" data-delay>
                <span
                    v-for="part in parts"
                    :key="part.name"
                    class="part"
                    :class="{ converter: part.name === 'in' || part.name === 'out' }"
                    :style="{ flexGrow: part.samples }"
                    :title="`${part.name}: ${milliseconds(part.samples)}, ${part.samples} samples`"
                />
            </p>
            <p class="hint parts">
                <span v-for="part in parts" :key="part.name">{{ part.name }} {{ milliseconds(part.samples) }}</span>
            </p>
            <p class="hint">
                <span class="figure strong" data-delay-total>{{ milliseconds(total) }}</span>
                at the headphone output, {{ total }} samples
            </p>
            <p v-if="isHeard && listening.lead !== null" class="hint later" data-browser-delay>
                in this browser {{ Math.round(listening.lead * 1000) }} ms later
            </p>
            <SwitchRow
                name="Quick monitoring"
                :on="hardware.quick !== null"
                about="Leaves inserts out that alone make it late; they are there when the clips play"
                data-quick
                @change="hardware.quick = hardware.quick === null ? (hardware.state?.usualQuick ?? null) : null"
            />
            <div v-if="hardware.quick !== null" class="setting">
                <span>Without inserts</span>
                <ChoiceMenu
                    label="Delay an insert may make"
                    :model-value="hardware.quick"
                    :items="delays"
                    @update:model-value="(delay) => (hardware.quick = delay)"
                />
            </div>
            <p v-if="leaves" class="hint" data-quick-leaves>{{ leaves }}</p>
            <h3>At hand</h3>
            <AtHand :channel="channel" />
            <div class="takes">
                <button
                    class="pill"
                    :class="{ armed: isArmed }"
                    :aria-pressed="isArmed"
                    :title="isArmed ? 'Armed: R or the button beside records it' : 'Arm it'"
                    data-arm
                    @click="hardware.arm(channel.id, !isArmed)"
                >
                    {{ isArmed ? 'Armed' : 'Arm' }}
                </button>
                <button
                    class="pill take"
                    :class="{ running: isRecording }"
                    :disabled="listening.recording !== null && !isRecording"
                    title="Records what comes in, dry, from where it stands (R)"
                    data-take
                    @click="take"
                >
                    {{ isRecording ? '■ Stop the take' : `● Take ${takes + (hasClips ? 2 : 1)}` }}
                </button>
            </div>
            <CountIn />
            <p class="hint">Recorded dry: effects stay changeable.</p>
        </template>
    </section>
</template>

<style scoped>
.pills {
    display: flex;
    gap: 4px;
}

.pill.small {
    padding: 1px 9px;
    font-size: 12px;
}

.empty {
    margin: 2px 0 4px;
    color: var(--buoy-text);
}

.delay {
    display: flex;
    gap: 1px;
    height: 12px;
    margin: 8px 0 4px;
}

.part {
    min-width: 3px;
    background: var(--deep);
}

.part.converter {
    background: var(--plum);
}

.parts {
    display: flex;
    flex-wrap: wrap;
    gap: 2px 10px;
}

.strong {
    color: var(--ink);
    font-weight: 600;
}

.later {
    color: var(--brass-text);
}

.takes {
    display: flex;
    gap: 8px;
    margin: 10px 0 4px;
}

.armed {
    border-color: var(--buoy);
    color: var(--buoy-text);
    font-weight: 600;
}

.take {
    flex: 1;
    border-color: var(--buoy);
    background: var(--buoy);
    color: var(--on-deep);
    font-weight: 600;
}

.take.running {
    background: none;
    color: var(--buoy-text);
}
</style>
