<script setup lang="ts">
import { computed, ref } from 'vue';
import type { Unit } from '@/api/types';
import ChoiceMenu from '@/components/controls/ChoiceMenu.vue';
import LoopSettings from './LoopSettings.vue';
import { useHardware } from '@/stores/hardware';
import { useSelection } from '@/stores/selection';
import { newGesture } from '@/gesture';
import { useSession } from '@/stores/session';

/** The hardware loops of the session, each a line that leaves the chart and comes back, and the units that have none. */
const session = useSession();
const hardware = useHardware();
const selection = useSelection();

const OTHER = 'other';
const opened = ref<string | null>(null);
const isAdding = ref(false);
const name = ref('');
const send = ref('hw:3');
const back = ref('in:4');

/** Units that no loop goes through yet, and that are plugged in. */
const free = computed(() =>
    (hardware.state?.units ?? []).filter(
        (unit) => unit.send && unit.return && !hardware.loops.some((loop) => loop.unit === unit.id),
    ),
);
const unplugged = computed(() => (hardware.state?.units ?? []).filter((unit) => !unit.send || !unit.return));
const sends = computed(() => ports('hw', hardware.state?.outputs.length ?? 0));
const backs = computed(() =>
    ports('in', hardware.state?.inputs.length ?? 0).filter(
        ({ value }) => value.includes('-') === send.value.includes('-'),
    ),
);

function ports(way: string, count: number): { value: string; name: string }[] {
    const word = way === 'hw' ? 'output' : 'input';
    const single = Array.from({ length: count }, (_, i) => ({ value: `${way}:${i + 1}`, name: `${word} ${i + 1}` }));
    const pairs = Array.from({ length: Math.max(0, count - 1) }, (_, i) => ({
        value: `${way}:${i + 1}-${i + 2}`,
        name: `${word}s ${i + 1}–${i + 2}`,
    }));
    return [...single, ...pairs];
}

/** Defines a loop, and pings it at once. */
async function add(wanted: { name: string; send: string; return: string; unit?: string }): Promise<void> {
    const known = hardware.loops.map(({ id }) => id);
    // One step of undo.
    const gesture = newGesture();
    await session.edit({ type: 'add-loop', ...wanted }, gesture);
    const loop = hardware.loops.find(({ id }) => !known.includes(id));
    if (loop) {
        isAdding.value = false;
        opened.value = loop.id;
        await hardware.ping(loop, gesture);
        if (wanted.unit) {
            hardware.note(hardware.loops.find(({ id }) => id === loop.id) ?? loop, '', gesture);
        }
    }
}

function through(unit: Unit): void {
    void add({ name: unit.name, send: unit.send ?? '', return: unit.return ?? '', unit: unit.id });
}

function define(): void {
    if (name.value.trim() !== '') {
        void add({ name: name.value.trim(), send: send.value, return: back.value });
    }
}

function chooseSend(to: string): void {
    send.value = to;
    if (to.includes('-') !== back.value.includes('-')) {
        back.value = backs.value[0]?.value ?? back.value;
    }
}

function choosePort(unit: Unit, way: 'send' | 'return', to: string): void {
    void hardware.set({ unit: unit.id, [way]: to === OTHER ? null : to });
}

function portsFor(unit: Unit, way: 'hw' | 'in'): { value: string; name: string }[] {
    const count = way === 'hw' ? (hardware.state?.outputs.length ?? 0) : (hardware.state?.inputs.length ?? 0);
    return [
        { value: OTHER, name: 'not plugged in' },
        ...ports(way, count).filter(({ value }) => value.includes('-') === unit.isStereo),
    ];
}
</script>

<template>
    <section class="loops" aria-label="Hardware loops">
        <div v-for="loop in hardware.loops" :key="loop.id" class="entry" :data-loop-entry="loop.id">
            <div class="line">
                <span class="figure port">{{ hardware.portsOf(loop).split(', ')[0] }}</span>
                <svg viewBox="0 0 40 44" aria-hidden="true"><path d="M0 8C26 8 8 34 40 34" /></svg>
                <button
                    class="plain unit"
                    :aria-expanded="opened === loop.id"
                    @click="opened = opened === loop.id ? null : loop.id"
                >
                    <b>{{ loop.name }}</b>
                    <span class="hint" :class="{ wrong: !hardware.delayOf(loop).isRight }">{{
                        hardware.delayOf(loop).text
                    }}</span>
                </button>
                <svg viewBox="0 0 40 44" aria-hidden="true"><path d="M0 34C32 34 14 8 40 8" /></svg>
                <span class="figure port">{{ hardware.portsOf(loop).split(', ')[1] }}</span>
                <span class="to">
                    <button
                        v-for="channel in hardware.placesOf(loop)"
                        :key="channel.id"
                        class="plain place"
                        @click="selection.selectChannel(channel.id, $event, [channel.id])"
                    >
                        {{ channel.name }}
                    </button>
                    <span v-if="hardware.placesOf(loop).length === 0" class="hint">free, to be added on Paths</span>
                </span>
                <button
                    v-if="hardware.placesOf(loop).length === 0"
                    class="text-button"
                    :aria-label="`Remove the loop ${loop.name}`"
                    @click="session.edit({ type: 'remove-loop', loop: loop.id })"
                >
                    Remove
                </button>
            </div>
            <LoopSettings v-if="opened === loop.id" class="settings" :loop="loop" />
        </div>
        <div class="adding">
            <button
                v-for="unit in free"
                :key="unit.id"
                class="text-button"
                :data-add-loop="unit.id"
                @click="through(unit)"
            >
                + Loop through {{ unit.name }}
            </button>
            <button class="text-button" data-add-loop="other" @click="isAdding = !isAdding">
                + Loop through something else …
            </button>
        </div>
        <form v-if="isAdding" class="form" @submit.prevent="define">
            <input
                v-model="name"
                class="field"
                placeholder="Name of the unit"
                aria-label="Name of the unit"
                maxlength="120"
                @keydown.stop
            />
            <ChoiceMenu label="Goes out at" :model-value="send" :items="sends" @update:model-value="chooseSend" />
            <ChoiceMenu
                label="Comes back at"
                :model-value="back"
                :items="backs"
                @update:model-value="(to) => (back = to)"
            />
            <button class="text-button" type="submit">Define and ping</button>
        </form>
        <div v-for="unit in unplugged" :key="unit.id" class="rack" :data-unit="unit.id">
            <span
                ><b>{{ unit.name }}</b> <span class="hint">{{ unit.purpose }}</span></span
            >
            <ChoiceMenu
                :label="`Output that feeds the ${unit.name}`"
                :model-value="unit.send ?? OTHER"
                :items="portsFor(unit, 'hw')"
                @update:model-value="(to) => choosePort(unit, 'send', to)"
            />
            <ChoiceMenu
                :label="`Input the ${unit.name} comes back on`"
                :model-value="unit.return ?? OTHER"
                :items="portsFor(unit, 'in')"
                @update:model-value="(to) => choosePort(unit, 'return', to)"
            />
        </div>
    </section>
</template>

<style scoped>
.loops {
    display: grid;
    gap: 8px;
}

.line {
    display: flex;
    flex-wrap: wrap;
    align-items: flex-end;
    gap: 0 4px;
}

.line svg {
    width: 34px;
    height: 40px;
    fill: none;
}

.line path {
    stroke: var(--plum);
    stroke-width: 2;
    stroke-dasharray: 5 3;
}

.port {
    align-self: flex-start;
    white-space: nowrap;
}

.unit {
    display: grid;
    padding: 3px 12px 4px;
    border: 1.5px solid var(--plum);
    border-radius: 5px;
    background: var(--sheet);
    text-align: left;
    white-space: nowrap;
}

.wrong {
    color: var(--brass-text);
}

.to {
    display: flex;
    flex-wrap: wrap;
    gap: 2px 8px;
    align-self: flex-start;
    margin-left: 10px;
}

.place {
    font-weight: 600;
    text-decoration: underline;
    text-decoration-color: var(--contour);
    text-underline-offset: 3px;
}

.settings {
    max-width: 420px;
    margin: 8px 0 4px 38px;
}

.adding {
    display: flex;
    flex-wrap: wrap;
    gap: 4px 16px;
}

.form {
    display: grid;
    grid-template-columns: minmax(120px, 1fr) 118px 118px auto;
    gap: 8px;
    align-items: center;
}

.field {
    min-width: 0;
    padding: 3px 6px;
    border: 1px solid var(--contour);
    border-radius: 4px;
    background: var(--paper);
    color: var(--ink);
    font: inherit;
}

.rack {
    display: grid;
    grid-template-columns: minmax(140px, 1fr) 128px 128px;
    gap: 8px;
    align-items: center;
}
</style>
