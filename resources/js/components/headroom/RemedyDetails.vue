<script setup lang="ts">
import type { Prediction, RemedyPlan } from '@/api/types';
import { decibels, parseNumber } from '@/format';
import { rules } from '@/rules';
import { useHeadroom } from '@/stores/headroom';

/** All that is known of what a remedy would do, and by how much it is to do it. */
const props = defineProps<{ id: string; name: string; plan: RemedyPlan; prediction: Prediction }>();

const headroom = useHeadroom();

function setAmount(event: Event): void {
    const input = event.target as HTMLInputElement;
    const amount = parseNumber(input.value);
    headroom.setAmount(props.id, typeof amount === 'number' ? Math.min(rules().mostAmount, Math.abs(amount)) : null);
}

function curve(reductions: number[]): string {
    const most = Math.max(1, ...reductions);
    return `0,0 ${reductions.map((value, at) => `${((at / Math.max(1, reductions.length - 1)) * 600).toFixed(1)},${((value / most) * 40).toFixed(1)}`).join(' ')} 600,0`;
}
</script>

<template>
    <div class="details">
        <label v-if="plan.hasAmount" class="amount"
            >by
            <input
                class="figure"
                :placeholder="'what it takes'"
                :value="headroom.amounts[id] ?? ''"
                :aria-label="`${name}, by how many dB`"
                @change="setAmount"
                @keydown.stop
            />
            dB</label
        >
        <p class="figure levels">
            peak {{ decibels(prediction.before.peak, true) }} → {{ decibels(prediction.after.peak, true) }} dBFS · true
            peak {{ decibels(prediction.before['true-peak'], true) }} →
            {{ decibels(prediction.after['true-peak'], true) }} dBTP · loudness
            {{ decibels(prediction.before.loudness, true) }} → {{ decibels(prediction.after.loudness, true) }} LUFS
        </p>
        <ul>
            <li v-for="change in prediction.changes" :key="change">{{ change }}</li>
        </ul>
        <svg
            v-if="prediction.reductions.length > 1"
            viewBox="0 0 600 42"
            preserveAspectRatio="none"
            role="img"
            :aria-label="`Gain reduction over time, up to ${decibels(Math.max(...prediction.reductions))} dB`"
        >
            <polygon :points="curve(prediction.reductions)" />
        </svg>
        <p v-if="!prediction.reached" class="soft">Alone it does not reach the aim; choose another with it.</p>
    </div>
</template>

<style scoped>
.details {
    padding: 6px 12px 10px 34px;
    border-bottom: 1px solid var(--contour);
    background: var(--sheet);
}

.details p,
.details ul {
    margin: 4px 0;
}

.details ul {
    padding-left: 16px;
}

.details svg {
    width: 100%;
    height: 42px;
    border-top: 1px solid var(--contour);
}

.details polygon {
    fill: var(--water);
}

.levels {
    font-size: 12px;
}

.amount input {
    width: 110px;
    padding: 2px 6px;
    border: 1px solid var(--contour);
    border-radius: 4px;
    background: var(--sheet);
}
</style>
