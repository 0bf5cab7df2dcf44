<script setup lang="ts">
import { computed } from 'vue';
import ChoiceMenu from '@/components/controls/ChoiceMenu.vue';
import InputLine from '@/components/inputs/InputLine.vue';
import LoopList from '@/components/inputs/LoopList.vue';
import PortName from '@/components/inputs/PortName.vue';
import { decibels } from '@/format';
import { portNumbers } from '@/ports';
import { useHardware } from '@/stores/hardware';
import { useListening } from '@/stores/listening';
import { useSelection } from '@/stores/selection';
import { useSession } from '@/stores/session';

/** What comes in and goes out by port, at which level, and where it leads. */
const session = useSession();
const hardware = useHardware();
const listening = useListening();
const selection = useSelection();

/** Between which a healthy level peaks. */
const marks = computed(() => {
    const healthy = hardware.state?.healthy;
    return healthy ? [healthy.lowestPeak, healthy.highestPeak] : [];
});
const rate = computed(() => session.document?.sampleRate ?? 48000);
const buffer = computed(() => hardware.state?.buffer ?? 128);
const buffers = computed(() =>
    (hardware.state?.buffers ?? []).map((samples) => ({ value: samples, name: `${samples} samples` })),
);
const each = computed(() => ((buffer.value / rate.value) * 1000).toFixed(1));
/** Channels that end at the interface, with the ports they go to. */
const going = computed(() =>
    [...session.channels]
        .filter((channel) => channel.output.startsWith('hw:'))
        .map((channel) => ({ channel, ports: portNumbers(channel.output) })),
);
const outputs = computed(() =>
    (hardware.state?.outputs ?? []).map((name, i) => ({
        port: i + 1,
        name,
        from: going.value.find(({ ports }) => ports.includes(i + 1)),
    })),
);

/** The loop or the unit an output feeds. */
function loopAt(port: number): string | undefined {
    const feeds = (ports: string | null) => portNumbers(ports).includes(port);
    return (
        hardware.loops.find((loop) => feeds(loop.send))?.name ??
        hardware.state?.units.find((unit) => feeds(unit.send))?.name
    );
}

function isHeard(channel: string, besideMain: boolean): boolean {
    return listening.listeningAt === `${channel}:post-fader` && listening.beside === besideMain;
}

function hear(channel: string, besideMain: boolean): void {
    const isOther = !isHeard(channel, besideMain);
    listening.listenAt(isOther ? `${channel}:post-fader` : null, isOther && besideMain);
}

function level(channel: string): string {
    const known = listening.level(`${channel}:post-fader`);
    return known ? decibels(known.peak) : '·';
}
</script>

<template>
    <main class="inputs" data-view="inputs" aria-label="Inputs">
        <header v-if="hardware.state">
            <h1>{{ hardware.state.name }}</h1>
            <span class="hint">
                {{ hardware.state.inputs.length }} in, {{ hardware.state.outputs.length }} out · {{ rate / 1000 }} kHz
            </span>
            <ChoiceMenu
                class="buffer"
                label="Buffer of the interface"
                :model-value="buffer"
                :items="buffers"
                @update:model-value="hardware.setBuffer"
            />
            <span class="hint" data-buffer>= {{ each }} ms each way</span>
            <span class="fill" />
            <span v-if="hardware.passage" class="hint listening" role="status">play the loudest passage …</span>
            <button
                class="text-button find"
                data-find-level
                :aria-pressed="hardware.passage !== null"
                @click="hardware.passage ? hardware.endPassage() : hardware.findLevels()"
            >
                {{ hardware.passage ? 'It is over' : 'Find the level …' }}
            </button>
        </header>
        <div class="scroll">
            <h2>Coming in</h2>
            <div class="coming">
                <span class="hint head" /><span class="hint head" /><span class="hint head" />
                <span class="hint head scale" aria-hidden="true">
                    <span v-for="mark in marks" :key="mark" :style="{ left: `${100 + (100 * mark) / 60}%` }">{{
                        decibels(mark).split('.')[0]
                    }}</span>
                </span>
                <span class="hint head number">peak</span>
                <span class="hint head number">average</span>
                <span class="hint head">gain, dB</span>
                <span class="hint head to">leads to</span>
                <InputLine v-for="(_, i) in hardware.state?.inputs ?? []" :key="i" :port="i + 1" />
            </div>
            <div class="halves">
                <div>
                    <h2>Going out</h2>
                    <div class="going">
                        <template v-for="{ port, name, from } in outputs" :key="port">
                            <PortName :port="port" :name="name" way="output" :is-idle="!from" />
                            <template v-if="from">
                                <button
                                    class="plain from"
                                    @click="selection.selectChannel(from.channel.id, $event, [from.channel.id])"
                                >
                                    {{ from.channel.name }}, {{ from.ports[0] === port ? 'left' : 'right' }}
                                </button>
                                <span class="figure number">{{ level(from.channel.id) }}</span>
                                <!-- Of a pair: hear it at the first of its ports, and beside the main at the second. -->
                                <button
                                    v-if="from.channel.id !== session.main?.id || from.ports[0] === port"
                                    class="text-button hear"
                                    :aria-pressed="isHeard(from.channel.id, from.ports[0] !== port)"
                                    :title="
                                        from.ports[0] === port
                                            ? undefined
                                            : 'The main on the left ear, this on the right one'
                                    "
                                    @click="hear(from.channel.id, from.ports[0] !== port)"
                                >
                                    {{ from.ports[0] === port ? 'listen' : 'beside main' }}
                                </button>
                                <span v-else />
                            </template>
                            <span v-else class="hint wide">{{
                                loopAt(port) ? `to the ${loopAt(port)}` : 'nothing'
                            }}</span>
                        </template>
                    </div>
                </div>
                <div>
                    <h2>Loops through hardware</h2>
                    <LoopList />
                </div>
            </div>
        </div>
    </main>
</template>

<style scoped>
.inputs {
    display: flex;
    flex-direction: column;
    min-width: 0;
    min-height: 0;
}

header {
    display: flex;
    align-items: center;
    gap: 12px;
    padding: 10px 16px 4px;
}

.fill {
    flex: 1;
}

.find {
    color: var(--deep);
    font-weight: 600;
    white-space: nowrap;
}

.listening {
    color: var(--brass-text);
}

h1 {
    margin: 0;
    font-size: 16px;
    white-space: nowrap;
}

.buffer {
    width: 118px;
}

.scroll {
    flex: 1;
    min-height: 0;
    overflow: auto;
    padding: 0 16px 16px;
    scrollbar-width: thin;
}

h2 {
    display: flex;
    align-items: center;
    gap: 8px;
    margin: 10px 0 6px;
    color: var(--soft);
    font-size: 12px;
    font-weight: 400;
}

h2::after {
    flex: 1;
    height: 1px;
    background: var(--contour);
    content: '';
}

.coming {
    display: grid;
    grid-template-columns: 28px minmax(84px, 130px) 172px minmax(90px, 1.2fr) 46px 56px 118px minmax(140px, 1fr);
    align-items: center;
    gap: 7px 10px;
}

.head {
    align-self: end;
    white-space: nowrap;
}

.to {
    padding-left: 8px;
}

/* The level gives way first. */
@media (max-width: 1180px) {
    .coming {
        grid-template-columns: 26px minmax(64px, 1fr) 160px minmax(44px, 1fr) 44px 50px 118px 114px;
        column-gap: 6px;
    }

    .scale {
        visibility: hidden;
    }
}

.scale {
    position: relative;
    height: 15px;
}

.scale span {
    position: absolute;
    transform: translateX(-50%);
}

.number {
    text-align: right;
}

.halves {
    display: grid;
    grid-template-columns: minmax(360px, 1fr) minmax(420px, 1.1fr);
    gap: 0 24px;
}

@media (max-width: 1180px) {
    .halves {
        grid-template-columns: 1fr;
    }
}

.going {
    display: grid;
    grid-template-columns: 28px minmax(80px, 150px) minmax(90px, 1fr) 46px auto;
    align-items: center;
    gap: 6px 10px;
}

.from {
    font-weight: 600;
}

.wide {
    grid-column: span 3;
}

.hear {
    white-space: nowrap;
}

.hear[aria-pressed='true'] {
    color: var(--plum);
    font-weight: 600;
}
</style>
