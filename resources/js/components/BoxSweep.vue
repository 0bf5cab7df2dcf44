<script setup lang="ts">
import { computed, onUnmounted, ref } from 'vue';
import type { Channel } from '@/api/types';
import { plain } from '@/format';
import { useListening } from '@/stores/listening';
import { tell } from '@/stores/notices';
import { useSession } from '@/stores/session';
import LyingSlider from './LyingSlider.vue';

/** A narrow boost that moves while one listens; where it is worst, one press makes a cut of it. */
const props = defineProps<{ channel: Channel }>();

const session = useSession();
const listening = useListening();

const FROM = 180;
const TO = 560;
/** Seconds the boost takes from one end to the other by itself. */
const TRAVEL = 9;
/** Milliseconds between two moves: the engine glides between them. */
const EVERY = 120;

const frequency = ref(FROM);
const depth = ref(4);
const isMoving = ref(false);
let direction = 1;
let timer: number | undefined;

const isOn = computed(
    () => listening.sweep !== null && 'channel' in listening.sweep && listening.sweep.channel === props.channel.id,
);

function put(hertz: number): void {
    frequency.value = Math.max(60, Math.min(4000, hertz));
    if (isOn.value) {
        listening.sweepAt({ channel: props.channel.id, frequency: frequency.value });
    }
}

function step(): void {
    if (!isMoving.value || !listening.isPlaying) {
        return;
    }
    const share = (EVERY / 1000 / TRAVEL) * direction;
    const next = frequency.value * (TO / FROM) ** share;
    if (next > TO || next < FROM) {
        direction = -direction;
    }
    put(Math.max(FROM, Math.min(TO, next)));
}

function start(): void {
    frequency.value = FROM;
    isMoving.value = true;
    direction = 1;
    listening.sweepAt({ channel: props.channel.id, frequency: FROM });
    if (!listening.isPlaying) {
        listening.toggle();
    }
    timer = window.setInterval(step, EVERY);
}

function end(): void {
    window.clearInterval(timer);
    isMoving.value = false;
    if (isOn.value) {
        listening.sweepAt(null);
    }
}

/** By hand: it stays where it is put. */
function take(value: number | null): void {
    isMoving.value = false;
    put(value ?? FROM);
}

async function cut(): Promise<void> {
    const hertz = Math.round(frequency.value);
    end();
    await session.edit({
        type: 'add-insert',
        channels: [props.channel.id],
        processor: 'parametric-eq',
        parameters: { 'bell-2-frequency': hertz, 'bell-2-gain': -depth.value, 'bell-2-q': 1.4 },
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
                    :min="60"
                    :max="4000"
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
                        v-for="choice in [3, 4, 5, 6]"
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
