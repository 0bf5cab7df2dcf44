<script setup lang="ts">
import { computed, ref } from 'vue';
import type { AimFigure, Prediction, RemedyPlan } from '@/api/types';
import ChoiceMenu from '@/components/controls/ChoiceMenu.vue';
import { decibels, parseNumber } from '@/format';
import { rules } from '@/rules';
import { useHeadroom } from '@/stores/headroom';
import { useListening } from '@/stores/listening';
import { useSurvey } from '@/stores/survey';

/** What would bring the main to where it should be: each remedy computed, to hear and to apply as one step. */
const headroom = useHeadroom();
const survey = useSurvey();
const listening = useListening();
const open = ref<string | null>(null);
/** So many letters of changes are said in the row of a remedy, after the first. */
const LETTERS = 110;

const aims = computed(() => rules().aims);
const unit = computed(() => aims.value.find(({ figure }) => figure === headroom.aim.figure)?.unit ?? '');

const rows = computed(() =>
    rules().remedies.map(({ id, title }) => {
        const plan: RemedyPlan | null = headroom.plans[id] ?? null;
        const prediction = plan?.prediction ?? null;
        return {
            id,
            plan,
            prediction,
            name: prediction?.labels[0] ?? title,
            after: prediction?.after[headroom.aim.figure] ?? null,
            isIdle: plan?.status === 'done' && prediction === null,
            isChosen: headroom.chosen.includes(id),
        };
    }),
);
const WORDS = ['none', 'one', 'two', 'three', 'four', 'five', 'six', 'seven', 'eight', 'nine'];
const whole = computed(() => headroom.plan?.prediction ?? null);

function status(plan: RemedyPlan | null): string {
    if (plan === null || headroom.isStopped) {
        return plan === null ? '' : 'stopped';
    }
    if (plan.status === 'failed') {
        return plan.message ?? 'failed';
    }
    if (plan.status === 'stopped') {
        return 'stopped';
    }
    return plan.status === 'running' ? `finding out, ${Math.round(plan.progress * 100)} %` : 'waiting';
}

function setAim(event: Event): void {
    const input = event.target as HTMLInputElement;
    const level = parseNumber(input.value);
    if (typeof level === 'number') {
        headroom.aim = {
            ...headroom.aim,
            level: Math.max(rules().aimRange.lowest, Math.min(rules().aimRange.highest, level)),
        };
    }
    input.value = decibels(headroom.aim.level);
}

function setFigure(figure: AimFigure): void {
    headroom.aim = { figure, level: aims.value.find((one) => one.figure === figure)?.usual ?? -6 };
}

function setAmount(id: string, event: Event): void {
    const input = event.target as HTMLInputElement;
    const amount = parseNumber(input.value);
    headroom.setAmount(id, typeof amount === 'number' ? Math.min(rules().mostAmount, Math.abs(amount)) : null);
}

/** The first of what else changes; the rest stands in the details. */
function changes(prediction: Prediction): string {
    const said: string[] = [];
    for (const change of prediction.changes) {
        if (said.length > 0 && [...said, change].join(' ').length > LETTERS) {
            break;
        }
        said.push(change);
    }
    const rest = prediction.changes.length - said.length;
    return [...said, ...(rest > 0 ? [`And ${rest} more.`] : [])].join(' ') || 'nothing';
}

function curve(reductions: number[]): string {
    const most = Math.max(1, ...reductions);
    return `0,0 ${reductions.map((value, at) => `${((at / Math.max(1, reductions.length - 1)) * 600).toFixed(1)},${((value / most) * 40).toFixed(1)}`).join(' ')} 600,0`;
}
</script>

<template>
    <section class="remedies" aria-label="Remedies">
        <header>
            <h2>Remedies</h2>
            <label class="aim"
                ><span class="soft">aim:</span>
                <ChoiceMenu
                    label="Figure to aim for"
                    :model-value="headroom.aim.figure"
                    :items="aims.map((one) => ({ value: one.figure, name: one.label }))"
                    @update:model-value="setFigure"
                />
                <input
                    class="figure"
                    aria-label="Level to aim for"
                    :value="decibels(headroom.aim.level)"
                    @change="setAim"
                    @keydown.stop
                />
                <span class="soft">{{ unit }}</span></label
            >
            <label
                class="make-up"
                title="Raises the input of drives and lowers thresholds, so that they do what they did"
            >
                <input v-model="headroom.compensate" type="checkbox" /> compensate</label
            >
            <button v-if="headroom.isBusy" class="text-button" @click="headroom.stop()">Stop</button>
            <button v-else-if="headroom.isStopped" class="text-button" @click="headroom.ask()">Go on</button>
            <span class="fill" />
            <span v-if="headroom.chosen.length > 0" class="whole" data-whole>
                <span class="soft">{{ WORDS[headroom.chosen.length] ?? headroom.chosen.length }} chosen:</span>
                <span v-if="whole" class="figure"
                    ><span v-if="!whole.verified" title="Around the loudest moment; the whole length is being measured"
                        >≈ </span
                    >{{ decibels(whole.before[headroom.aim.figure], true) }} →
                    {{ decibels(whole.after[headroom.aim.figure], true) }}</span
                >
                <span v-else class="soft">{{ status(headroom.plan) }}</span>
            </span>
            <button
                v-if="headroom.chosen.length > 1"
                class="pill"
                :disabled="!whole"
                @click="headroom.plan && headroom.hear(headroom.plan)"
            >
                Hear
            </button>
            <button class="pill on" data-apply :disabled="!whole" @click="headroom.apply()">Apply, one step</button>
        </header>
        <p v-if="!headroom.isReady" class="hint wait">
            {{
                survey.state?.running
                    ? 'What each remedy does is found out as soon as the survey is through.'
                    : 'Remedies need a survey of the session.'
            }}
            <button
                v-if="survey.state && !survey.state.running && !survey.isCurrent"
                class="plain"
                @click="survey.start()"
            >
                Measure now
            </button>
        </p>
        <div v-else class="rows" role="table">
            <div class="row head" role="row">
                <span role="columnheader"></span><span role="columnheader"></span
                ><span role="columnheader">main after</span
                ><span role="columnheader" class="left">what else changes</span
                ><span role="columnheader">tone change</span><span role="columnheader"></span>
            </div>
            <template v-for="row in rows" :key="row.id">
                <div
                    class="row"
                    role="row"
                    :class="{ chosen: row.isChosen, idle: row.isIdle }"
                    :data-remedy="row.id"
                    :data-verified="row.prediction?.verified ?? false"
                >
                    <span role="cell"
                        ><input
                            type="checkbox"
                            :checked="row.isChosen"
                            :disabled="!row.prediction && !row.isChosen"
                            :aria-label="row.name"
                            @change="headroom.toggle(row.id)"
                    /></span>
                    <button
                        class="plain name"
                        :aria-expanded="open === row.id"
                        :disabled="row.isIdle"
                        @click="open = open === row.id ? null : row.id"
                    >
                        {{ row.name }}
                    </button>
                    <span
                        v-if="row.prediction"
                        role="cell"
                        class="figure after"
                        :class="{ short: !row.prediction.reached }"
                    >
                        <span
                            v-if="!row.prediction.verified"
                            class="soft"
                            title="Around the loudest moment; the whole length is being measured"
                            >≈ </span
                        >{{ decibels(row.after, true) }}</span
                    >
                    <span v-else role="cell"></span>
                    <span role="cell" class="changes soft" :title="row.prediction?.changes.join('\n')">{{
                        row.isIdle ? 'nothing to do here' : row.prediction ? changes(row.prediction) : status(row.plan)
                    }}</span>
                    <span role="cell" class="figure">{{
                        row.prediction?.verified
                            ? row.prediction.tone === null
                                ? 'none'
                                : `${decibels(row.prediction.tone)} dB`
                            : ''
                    }}</span>
                    <span role="cell"
                        ><button
                            v-if="row.plan && row.prediction"
                            class="pill hear"
                            :class="{ on: listening.compare?.kind === 'plan' && listening.compare.id === row.plan.id }"
                            title="Plays around the loudest moment, level matched: 1 as set, 2 with the remedy"
                            @click="headroom.hear(row.plan)"
                        >
                            Hear
                        </button></span
                    >
                </div>
                <div v-if="open === row.id && row.prediction" class="details">
                    <label v-if="row.plan?.hasAmount" class="amount"
                        >by
                        <input
                            class="figure"
                            :placeholder="'what it takes'"
                            :value="headroom.amounts[row.id] ?? ''"
                            :aria-label="`${row.name}, by how many dB`"
                            @change="setAmount(row.id, $event)"
                            @keydown.stop
                        />
                        dB</label
                    >
                    <p class="figure levels">
                        peak {{ decibels(row.prediction.before.peak, true) }} →
                        {{ decibels(row.prediction.after.peak, true) }} dBFS · true peak
                        {{ decibels(row.prediction.before['true-peak'], true) }} →
                        {{ decibels(row.prediction.after['true-peak'], true) }} dBTP · loudness
                        {{ decibels(row.prediction.before.loudness, true) }} →
                        {{ decibels(row.prediction.after.loudness, true) }} LUFS
                    </p>
                    <ul>
                        <li v-for="change in row.prediction.changes" :key="change">{{ change }}</li>
                    </ul>
                    <svg
                        v-if="row.prediction.reductions.length > 1"
                        viewBox="0 0 600 42"
                        preserveAspectRatio="none"
                        role="img"
                        :aria-label="`Gain reduction over time, up to ${decibels(Math.max(...row.prediction.reductions))} dB`"
                    >
                        <polygon :points="curve(row.prediction.reductions)" />
                    </svg>
                    <p v-if="!row.prediction.reached" class="soft">
                        Alone it does not reach the aim; choose another with it.
                    </p>
                </div>
            </template>
        </div>
    </section>
</template>

<style scoped>
.remedies {
    padding: 6px 16px 2px;
    border-top: 1px solid var(--contour);
}

header {
    display: flex;
    align-items: center;
    gap: 10px;
    min-height: 34px;
    white-space: nowrap;
}

h2 {
    margin: 0;
    font-size: 15px;
    font-weight: 600;
}

.aim .choice-menu {
    margin-left: 6px;
    width: 130px;
}

.aim input,
.amount input {
    padding: 2px 6px;
    border: 1px solid var(--contour);
    border-radius: 4px;
    background: var(--sheet);
}

.aim input {
    width: 58px;
    margin: 0 4px;
    text-align: right;
}

.amount input {
    width: 110px;
}

.fill {
    flex: 1;
}

header .pill {
    flex: none;
}

.whole {
    display: flex;
    gap: 6px;
}

.whole .figure {
    font-weight: 600;
}

.row {
    display: grid;
    grid-template-columns: 26px minmax(190px, 1fr) 74px minmax(160px, 2.2fr) 84px 62px;
    align-items: center;
    gap: 8px;
    min-height: 29px;
    border-bottom: 1px solid var(--contour);
    text-align: right;
}

.head {
    min-height: 22px;
    color: var(--soft);
}

.left,
.changes {
    text-align: left;
}

.chosen {
    background: var(--shoal-wash);
}

.name {
    text-align: left;
}

.name,
.changes {
    padding: 3px 0;
    line-height: 16px;
}

.name:hover:not(:disabled) {
    text-decoration: underline dotted;
}

.idle .name {
    color: var(--soft);
    cursor: default;
}

.after.short {
    color: var(--brass-text);
}

.hear {
    padding: 1px 12px;
}

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

.wait .plain {
    color: var(--deep);
    font-weight: 500;
}
</style>
