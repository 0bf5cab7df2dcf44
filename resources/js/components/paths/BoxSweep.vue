<script setup lang="ts">
import { useIntervalFn } from '@vueuse/core';
import { computed, onUnmounted, ref } from 'vue';
import type { Channel } from '@/api/types';
import { plain } from '@/format';
import { rules } from '@/rules';
import { useListening } from '@/stores/listening';
import { tell } from '@/stores/notices';
import { useSession } from '@/stores/session';
import LyingSlider from '@/components/controls/LyingSlider.vue';

/** A narrow boost that moves while one listens; where it is worst, one press makes a cut of it. */
const props = defineProps<{ channel: Channel }>();

const session = useSession();
const listening = useListening();

const limits = rules().sweep;
/** Seconds the boost takes from one end to the other by itself. */
const TRAVEL = 9;
/** Milliseconds between two moves: the engine glides between them. */
const EVERY = 120;

const frequency = ref(limits.from);
const depth = ref(limits.usualDepth);
const isMoving = ref(false);
let direction = 1;
const clock = useIntervalFn(step, EVERY, { immediate: false });

const isOn = computed(
    () => listening.sweep !== null && 'channel' in listening.sweep && listening.sweep.channel === props.channel.id,
);

function put(hertz: number): void {
    frequency.value = Math.max(limits.lowest, Math.min(limits.highest, hertz));
    if (isOn.value) {
        listening.sweepAt({ channel: props.channel.id, frequency: frequency.value });
    }
}

function step(): void {
    if (!isMoving.value || !listening.isPlaying) {
        return;
    }
    const share = (EVERY / 1000 / TRAVEL) * direction;
    const next = frequency.value * (limits.to / limits.from) ** share;
    if (next > limits.to || next < limits.from) {
        direction = -direction;
    }
    put(Math.max(limits.from, Math.min(limits.to, next)));
}

function start(): void {
    frequency.value = limits.from;
    isMoving.value = true;
    direction = 1;
    listening.sweepAt({ channel: props.channel.id, frequency: limits.from });
    if (!listening.isPlaying) {
        listening.toggle();
    }
    clock.resume();
}

function end(): void {
    clock.pause();
    isMoving.value = false;
    if (isOn.value) {
        listening.sweepAt(null);
    }
}

/** By hand: it stays where it is put. */
function take(value: number | null): void {
    isMoving.value = false;
    put(value ?? limits.from);
}

async function cut(): Promise<void> {
    const hertz = Math.round(frequency.value);
    end();
    await session.edit({
        type: 'cut-frequency',
        channel: props.channel.id,
        frequency: hertz,
        depth: depth.value,
    });
    tell(`${props.channel.name} is cut by ${depth.value} dB at ${hertz} Hz.`);
}

onUnmounted(end);
</script>

<template>
    <section class="sweep" data-sweep>
        <button v-if="!isOn" class="pill" data-sweep-start @click="start">Sweep for boxiness</button>
        <template v-else>
            <div class="line">
                <LyingSlider
                    :model-value="frequency"
                    :min="limits.lowest"
                    :max="limits.highest"
                    :default="400"
                    :step="10"
                    scale="logarithmic"
                    label="Where the boost is"
                    :text="plain(frequency, 'Hz', 1)"
                    @change="take"
                />
                <button class="pill" :aria-pressed="isMoving" @click="isMoving = !isMoving">
                    {{ isMoving ? 'Hold' : 'Move on' }}
                </button>
            </div>
            <p class="hint">A narrow boost of 10 dB, only for your ears. Hold it where it sounds worst.</p>
            <div class="line">
                <button class="pill on" data-sweep-cut @click="cut">Cut here by {{ depth }} dB</button>
                <span class="depths" role="radiogroup" aria-label="Depth of the cut">
                    <button
                        v-for="choice in limits.depths"
                        :key="choice"
                        class="plain"
                        role="radio"
                        :aria-checked="depth === choice"
                        @click="depth = choice"
                    >
                        {{ choice }}
                    </button>
                </span>
                <button class="plain soft" @click="end">leave it</button>
            </div>
        </template>
    </section>
</template>

<style scoped>
.sweep {
    margin-top: 14px;
}

.line {
    display: flex;
    align-items: center;
    gap: 10px;
    min-height: 30px;
}

.line :first-child {
    flex: 1;
}

.depths {
    display: flex;
    gap: 8px;
}

.depths [aria-checked='true'] {
    font-weight: 600;
    color: var(--deep);
    text-decoration: underline;
}

.hint {
    margin: 2px 0 6px;
}
</style>
