<script setup lang="ts">
import { computed, ref, watch } from 'vue';
import type { HardwareLoop, ParameterSpec, ParameterValue } from '@/api/types';
import LyingSlider from '@/components/controls/LyingSlider.vue';
import ParameterControl from '@/components/controls/ParameterControl.vue';
import { decibels } from '@/format';
import { useHardware } from '@/stores/hardware';
import { useSession } from '@/stores/session';

/** A hardware loop: its delay, its levels, the knobs of its unit, and how they were noted. */
const props = defineProps<{ loop: HardwareLoop }>();

const session = useSession();
const hardware = useHardware();

const TRIMS = { sendTrim: 'Send level', returnTrim: 'Return level' } as const;

const unit = computed(() => hardware.unitOf(props.loop));
const delay = computed(() => hardware.delayOf(props.loop));
const found = computed(() => hardware.pinged[props.loop.id]);
const differing = computed(() => hardware.differing(props.loop));
const notes = ref('');
watch(
    () => props.loop.recall?.notes ?? '',
    (now) => (notes.value = now),
    { immediate: true },
);

function value(knob: ParameterSpec): ParameterValue {
    return unit.value?.positions[knob.id] ?? knob.default;
}

function turn(knob: ParameterSpec, to: ParameterValue): void {
    if (unit.value) {
        void hardware.set({ unit: unit.value.id, knobs: { [knob.id]: to } });
    }
}

function set(change: { sendTrim?: number; returnTrim?: number; tail?: number }, gesture: string): void {
    void session.edit({ type: 'set-loop', loop: props.loop.id, ...change }, gesture);
}

/** Turns the knobs to where they were noted. */
function recall(): void {
    if (unit.value && props.loop.recall) {
        void hardware.set({ unit: unit.value.id, knobs: props.loop.recall.knobs });
    }
}
</script>

<template>
    <section class="loop" :data-loop-settings="loop.id">
        <p class="delay">
            <span class="figure" :class="{ wrong: !delay.isRight }" data-loop-delay>{{ delay.text }}</span>
            <span class="hint"
                >{{ hardware.portsOf(loop)
                }}{{ loop.delay ? `, ${loop.delay.samples.toFixed(1)} samples, lined up` : '' }}</span
            >
        </p>
        <p v-if="found" class="hint" data-ping-result>
            It comes back at {{ decibels(found.level, true) }} dB{{ found.isInverted ? ', upside down' : ''
            }}{{ found.noise === null ? '' : `, its noise at ${decibels(found.noise)} dBFS` }}.
            <button
                v-if="Math.abs(found.level) >= 0.1"
                class="plain fix"
                data-set-level
                @click="hardware.applyPing(loop, 'level')"
            >
                Level it
            </button>
            <button v-if="found.isInverted" class="plain fix" @click="hardware.applyPing(loop, 'polarity')">
                Turn it over
            </button>
        </p>
        <div class="actions">
            <button class="text-button" data-ping :disabled="hardware.isPinging !== null" @click="hardware.ping(loop)">
                {{ hardware.isPinging === loop.id ? 'Pinging …' : loop.delay ? 'Ping again' : 'Ping' }}
            </button>
            <a class="text-button" target="_blank" :href="`/api/sessions/${session.state?.id}/recall`">Recall sheet</a>
        </div>
        <div v-for="(label, trim) in TRIMS" :key="trim" class="setting">
            <span>{{ label }}</span>
            <LyingSlider
                :model-value="loop[trim]"
                :min="-40"
                :max="40"
                :default="0"
                :step="0.5"
                :fine="0.1"
                :label="label"
                :text="decibels(loop[trim], true)"
                @change="(to, gesture) => to !== null && set({ [trim]: to }, gesture)"
            />
        </div>
        <template v-if="unit">
            <h3>{{ unit.name }}</h3>
            <ParameterControl
                v-for="knob in unit.knobs"
                :key="knob.id"
                class="knob"
                :spec="knob"
                :value="value(knob)"
                @change="(to) => turn(knob, to)"
            />
            <p class="hint" data-recall-state>
                {{
                    !loop.recall
                        ? 'Not noted with this session yet.'
                        : differing.length > 0
                          ? `Noted otherwise: ${differing.join(', ')}.`
                          : 'Stands as it was noted with this session.'
                }}
            </p>
            <div class="actions">
                <button
                    v-if="!loop.recall || differing.length > 0"
                    class="text-button"
                    data-note
                    @click="hardware.note(loop, notes)"
                >
                    Note how it stands
                </button>
                <button v-if="differing.length > 0" class="text-button" @click="recall">Turn back as noted</button>
            </div>
            <textarea
                v-model="notes"
                class="notes"
                rows="2"
                maxlength="4000"
                placeholder="Notes for the recall sheet"
                aria-label="Notes for the recall sheet"
                @keydown.stop
                @blur="notes !== (loop.recall?.notes ?? '') && hardware.note(loop, notes)"
            />
        </template>
        <p v-else class="hint">What unit hangs there is not known to Hafen: its sound comes back all the same.</p>
    </section>
</template>

<style scoped>
.loop {
    display: grid;
    gap: 6px;
}

.delay {
    display: flex;
    flex-wrap: wrap;
    align-items: baseline;
    gap: 2px 8px;
    margin: 0;
}

.delay .figure {
    font-size: 16px;
    font-weight: 600;
}

.delay .wrong {
    color: var(--brass-text);
}

.actions {
    display: flex;
    flex-wrap: wrap;
    gap: 4px 14px;
}

h3 {
    margin: 6px 0 0;
    font-size: 13px;
}

.knob :deep(.lock) {
    display: none;
}

.fix {
    color: var(--deep);
    font-weight: 600;
}

.notes {
    width: 100%;
    padding: 4px 6px;
    border: 1px solid var(--contour);
    border-radius: 4px;
    background: var(--paper);
    color: var(--ink);
    font: inherit;
    resize: vertical;
}
</style>
