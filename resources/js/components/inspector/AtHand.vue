<script setup lang="ts">
import { computed } from 'vue';
import { useStorage } from '@vueuse/core';
import type { Channel } from '@/api/types';
import ChoiceMenu from '@/components/controls/ChoiceMenu.vue';
import TallSlider from '@/components/controls/TallSlider.vue';
import { decibels } from '@/format';
import { allInserts } from '@/inserts';
import { portNumbers } from '@/ports';
import { faderTravel } from '@/scales';
import { useHardware } from '@/stores/hardware';
import { useSession } from '@/stores/session';

/** Two large controls for whoever plays: the level in, and how much of an effect. Each can be any level, send or mix of the channel. */
const props = defineProps<{ channel: Channel }>();

const session = useSession();
const hardware = useHardware();

interface Control {
    id: string;
    name: string;
    value: number | null;
    min: number;
    max: number;
    default: number;
    scale: 'linear' | 'fader';
    text: string;
    set: (value: number | null, gesture: string) => void;
}

/** What was chosen, by channel. */
const chosen = useStorage<Record<string, [string, string]>>('hafen.at-hand', {});

const controls = computed((): Control[] => {
    const { channel } = props;
    const port = portNumbers(hardware.inputOf(channel)?.input)[0] ?? 0;
    const gain = hardware.state?.inputs[port - 1]?.gain;
    const { gains } = hardware.state ?? {};
    const level = (value: number | null) => `${decibels(value, true)} dB`;
    return [
        ...(gain !== undefined && gains
            ? [
                  {
                      id: 'gain',
                      name: 'Gain of the input',
                      value: gain,
                      min: gains.lowest,
                      max: gains.highest,
                      default: 0,
                      scale: 'linear' as const,
                      text: level(gain),
                      set: (to: number | null) => to !== null && void hardware.set({ input: port, gain: to }),
                  },
              ]
            : []),
        {
            id: 'trim',
            name: 'Level in',
            value: channel.trim.gain,
            min: -24,
            max: 24,
            default: 0,
            scale: 'linear',
            text: level(channel.trim.gain),
            set: (to, gesture) =>
                void session.edit({ type: 'set-trim', channels: [channel.id], gain: to ?? -24 }, gesture),
        },
        ...channel.sends.map(
            (send): Control => ({
                id: send.id,
                name: session.channel(send.to)?.name ?? send.to,
                value: send.gain,
                min: faderTravel().min,
                max: faderTravel().max,
                default: 0,
                scale: 'fader',
                text: level(send.gain),
                set: (to, gesture) => void session.edit({ type: 'set-send-gain', sends: [send.id], gain: to }, gesture),
            }),
        ),
        ...allInserts([...channel.inserts, ...channel.postInserts]).flatMap((insert): Control[] =>
            insert.type === 'split'
                ? []
                : [
                      {
                          id: insert.id,
                          name: `Mix of ${session.state?.inserts[insert.id]?.chip?.name ?? session.state?.inserts[insert.id]?.label ?? insert.id}`,
                          value: Math.round(insert.mix * 1000) / 10,
                          min: 0,
                          max: 100,
                          default: 100,
                          scale: 'linear',
                          text: `${Math.round(insert.mix * 100)} %`,
                          set: (to, gesture) =>
                              void session.edit({ type: 'set-mix', insert: insert.id, mix: (to ?? 0) / 100 }, gesture),
                      },
                  ],
        ),
    ];
});
const choices = computed(() => controls.value.map(({ id, name }) => ({ value: id, name })));
/** The level in, and the first send or mix, where nothing else was chosen. */
const shown = computed(() => {
    const wanted = chosen.value[props.channel.id] ?? [];
    const usual = ['trim', controls.value.find(({ id }) => id !== 'gain' && id !== 'trim')?.id ?? 'gain'];
    return [0, 1].flatMap(
        (i) => controls.value.find(({ id }) => id === (wanted[i] ?? usual[i])) ?? controls.value[i] ?? [],
    );
});

function choose(place: number, id: string): void {
    const next: [string, string] = [shown.value[0]?.id ?? '', shown.value[1]?.id ?? ''];
    next[place] = id;
    chosen.value = { ...chosen.value, [props.channel.id]: next };
}
</script>

<template>
    <div class="hand" role="group" aria-label="At hand">
        <div v-for="(control, place) in shown" :key="place" class="place" :data-at-hand="control.id">
            <ChoiceMenu
                :label="`Control ${place + 1} at hand`"
                :model-value="control.id"
                :items="choices"
                @update:model-value="(id) => choose(place, id)"
            />
            <TallSlider
                :model-value="control.value"
                :min="control.min"
                :max="control.max"
                :default="control.default"
                :step="1"
                :fine="0.1"
                :scale="control.scale"
                :label="control.name"
                :text="control.text"
                @change="(value, gesture) => control.set(value, gesture)"
            />
        </div>
    </div>
</template>

<style scoped>
.hand {
    display: grid;
    grid-template-columns: 1fr 1fr;
    gap: 4px 10px;
    margin: 8px 0;
}

.place {
    display: grid;
    grid-row: span 2;
    grid-template-rows: subgrid;
    min-width: 0;
}

/* What is at hand is read whole, however long the name of a send is. */
.place :deep(.el-select__wrapper) {
    height: 100%;
}

.place :deep(.el-select__placeholder) {
    position: static;
    line-height: 16px;
    overflow-wrap: anywhere;
    white-space: normal;
    transform: none;
}
</style>
