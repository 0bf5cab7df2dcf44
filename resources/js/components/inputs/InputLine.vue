<script setup lang="ts">
import { computed, ref } from 'vue';
import PortName from './PortName.vue';
import ChoiceMenu from '@/components/controls/ChoiceMenu.vue';
import LyingSlider from '@/components/controls/LyingSlider.vue';
import { decibels } from '@/format';
import { portNumbers } from '@/ports';
import { useHardware } from '@/stores/hardware';
import { useImports } from '@/stores/imports';
import { useMicrophones } from '@/stores/microphones';
import { useSelection } from '@/stores/selection';
import { useSession } from '@/stores/session';

/** One input of the interface: its name, what is plugged in, its level with the clip mark, its gain, and the tracks that take it. */
const props = defineProps<{ port: number }>();

const session = useSession();
const selection = useSelection();
const hardware = useHardware();
const microphones = useMicrophones();
const imports = useImports();
const files = ref<HTMLInputElement>();

const LOWEST = -60;
const NEW = '+';

const input = computed(() => hardware.state?.inputs[props.port - 1]);
/** The unit that comes back here. */
const unit = computed(() => hardware.state?.units.find((one) => portNumbers(one.return).includes(props.port))?.name);
/** Cables are told apart by the output they come from. */
const plugs = computed(() =>
    (hardware.state?.plugs ?? [])
        .filter(({ id }) => id !== 'unit' || input.value?.plug === id)
        .flatMap(({ id, label }) =>
            id === 'cable'
                ? (hardware.state?.outputs ?? []).map((_, i) => ({
                      value: `cable:${i + 1}`,
                      name: `cable from output ${i + 1}`,
                  }))
                : id === 'file'
                  ? [
                        ...(input.value?.plug === id ? [{ value: id, name: input.value.fileName ?? label }] : []),
                        { value: NEW, name: `${input.value?.plug === id ? 'another' : 'a'} file …` },
                    ]
                  : [{ value: id, name: id === 'unit' && unit.value ? `from the ${unit.value}` : label }],
        ),
);
const plug = computed(() =>
    input.value?.plug === 'cable' ? `cable:${input.value.output}` : (input.value?.plug ?? ''),
);
const microphone = computed(() => (input.value?.plug === 'microphone' ? microphones.stateOf(props.port) : null));
const late = computed(() => hardware.lateness[props.port]);
const loops = computed(() => hardware.loops.filter((loop) => portNumbers(loop.return).includes(props.port)));
const healthy = computed(() => hardware.state?.healthy);
const marks = computed(() => (healthy.value ? [healthy.value.lowestPeak, healthy.value.highestPeak] : []));
const level = computed(() => hardware.levels[props.port]);
const share = (value: number | null | undefined) =>
    value === null || value === undefined ? 0 : Math.min(1, Math.max(0, (value - LOWEST) / -LOWEST));
const advice = computed(() => hardware.advice[props.port]);
const clipped = computed(() => hardware.clipped[props.port] ?? 0);
const takers = computed(() =>
    hardware.tracks.filter((channel) => portNumbers(hardware.inputOf(channel)?.input).includes(props.port)),
);
const free = computed(() => [
    { value: '', name: 'to a track …' },
    { value: NEW, name: 'a new track' },
    ...session.channels
        .filter((channel) => channel.kind === 'track' && 'clips' in channel.source && !takers.value.includes(channel))
        .map(({ id, name: label }) => ({ value: id, name: label })),
]);

/** A file of one's own is played again and again. */
async function plugFile(event: Event): Promise<void> {
    const [file] = (event.target as HTMLInputElement).files ?? [];
    const id = file ? await imports.keep(file) : null;
    if (id) {
        microphones.close(props.port);
        await hardware.set({ input: props.port, plug: 'file', file: id });
    }
}

function setPlug(value: string): void {
    if (value === NEW) {
        files.value?.click();
        return;
    }
    const [id = '', output] = value.split(':');
    void microphones.plug(props.port, id, output ? Number(output) : undefined);
}

async function lead(to: string): Promise<void> {
    const known = session.channels.map(({ id }) => id);
    let channel = to;
    if (to === NEW) {
        await session.edit({
            type: 'add-channel',
            name: input.value?.name ?? `Input ${props.port}`,
            width: 'mono',
        });
        channel = session.channels.find(({ id }) => !known.includes(id))?.id ?? '';
    }
    if (channel !== '') {
        await session.edit({ type: 'set-input', channel, input: `in:${props.port}` });
        selection.selectChannel(channel, new MouseEvent('click'), [channel]);
    }
}
</script>

<template>
    <div v-if="input" class="line" :data-input-port="port">
        <PortName :port="port" :name="input.name" way="input" :is-idle="input.plug === 'nothing'" />
        <ChoiceMenu
            class="plug"
            :label="`What is plugged into input ${port}`"
            :model-value="plug"
            :items="plugs"
            @update:model-value="setPlug"
        />
        <span class="level" aria-hidden="true">
            <span
                class="average"
                :style="{ width: `${100 * share(level?.[1])}%` }"
                :class="{ hot: (level?.[0] ?? -99) > (healthy?.highestPeak ?? 0) }"
            />
            <span v-if="level && level[0] !== null" class="peak" :style="{ left: `${100 * share(level[0])}%` }" />
            <span v-for="mark in marks" :key="mark" class="tick" :style="{ left: `${100 * share(mark)}%` }" />
        </span>
        <span class="figure number" :data-peak="level?.[0] ?? ''">{{ level ? decibels(level[0]) : '·' }}</span>
        <span class="figure number soft">{{ level ? decibels(level[1]) : '·' }}</span>
        <LyingSlider
            v-if="hardware.state"
            class="gain"
            :model-value="input.gain"
            :min="hardware.state.gains.lowest"
            :max="hardware.state.gains.highest"
            :default="0"
            :step="1"
            :fine="0.1"
            :label="`Gain of input ${port}`"
            :text="decibels(input.gain, true)"
            @change="(gain) => gain !== null && hardware.set({ input: port, gain })"
        />
        <span class="leads">
            <button
                v-if="clipped > 0"
                class="plain clipped"
                :title="`${clipped} samples were clipped: it is in what was recorded. Press to clear the mark.`"
                :data-clipped="port"
                @click="hardware.set({ clear: port })"
            >
                <i aria-hidden="true" />clipped
            </button>
            <button
                v-for="channel in takers"
                :key="channel.id"
                class="plain taker"
                :class="{ live: hardware.heard.includes(channel.id) }"
                :title="`${channel.name} takes it${hardware.heard.includes(channel.id) ? ', and it is heard' : ''}`"
                @click="selection.selectChannel(channel.id, $event, [channel.id])"
            >
                {{ channel.name }}
            </button>
            <span v-for="loop in loops" :key="loop.id" class="hint">loop {{ loop.name }}</span>
            <ChoiceMenu
                v-if="loops.length === 0"
                class="to"
                :label="`Track that takes input ${port}`"
                :model-value="''"
                :items="free"
                @update:model-value="lead"
            />
        </span>
        <input
            ref="files"
            class="files"
            type="file"
            accept="audio/*"
            tabindex="-1"
            :aria-label="`File for input ${port}`"
            @change="plugFile"
        />
        <p v-if="microphone" class="advice" :data-microphone="microphone">
            <template v-if="microphone === 'on'">
                Open here{{ late === undefined ? '' : `, ${Math.round(late * 1000)} ms until it is in the engine` }}.
                <button class="plain fix" @click="microphones.close(port)">Close it</button>
            </template>
            <template v-else-if="microphone === 'asking'"
                >The browser asks whether it may use the microphone …</template
            >
            <template v-else-if="microphone === 'away'">Hafen does not answer; it waits.</template>
            <template v-else>
                {{ late === undefined ? 'Not open in this window.' : 'Open in another window.' }}
                <button class="plain fix" @click="microphones.open(port)">Open it here</button>
            </template>
        </p>
        <p v-if="advice" class="advice" :data-advice="port">
            {{ advice.text }}
            <button v-if="advice.change !== 0" class="plain fix" @click="hardware.follow(port)">
                Set {{ decibels(advice.gain, true) }} dB
            </button>
        </p>
    </div>
</template>

<style scoped>
.line {
    display: contents;
}

.files {
    display: none;
}

.advice {
    grid-column: 2 / -1;
    margin: -4px 0 2px 4px;
    color: var(--soft);
}

.level {
    position: relative;
    height: 6px;
    background: var(--contour);
}

.average {
    position: absolute;
    inset: 0 auto 0 0;
    background: var(--water);
}

.average.hot {
    background: var(--brass);
}

.peak {
    position: absolute;
    top: -4px;
    width: 2px;
    height: 14px;
    background: var(--ink);
}

.tick {
    position: absolute;
    top: -5px;
    width: 1px;
    height: 16px;
    background: var(--soft);
    opacity: 0.45;
}

.number {
    text-align: right;
}

.leads {
    display: flex;
    flex-wrap: wrap;
    align-items: center;
    gap: 2px 6px;
    min-width: 0;
    padding-left: 8px;
}

.clipped {
    color: var(--buoy-text);
    font-weight: 600;
}

.clipped i {
    display: inline-block;
    width: 9px;
    height: 9px;
    margin-right: 5px;
    background: var(--buoy);
}

.taker {
    font-weight: 600;
    text-decoration: underline;
    text-decoration-color: var(--contour);
    text-underline-offset: 3px;
}

.taker.live {
    color: var(--plum);
    text-decoration-color: var(--plum);
}

.to {
    width: 98px;
}
</style>
