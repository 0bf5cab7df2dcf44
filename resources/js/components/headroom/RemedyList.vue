<script setup lang="ts">
import { computed } from 'vue';
import type { Prediction, RemedyPlan } from '@/api/types';
import { decibels } from '@/format';
import { rules } from '@/rules';
import { useHeadroom } from '@/stores/headroom';
import { useListening } from '@/stores/listening';
import { useSurvey } from '@/stores/survey';
import AimFields from './AimFields.vue';
import RemedyDetails from './RemedyDetails.vue';

/** What would bring the main to where it should be: each remedy computed, to hear and to apply as one step. */
const headroom = useHeadroom();
const survey = useSurvey();
const listening = useListening();
/** So many letters of changes are said in the row of a remedy, after the first. */
const LETTERS = 110;

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
    const progress = plan.status === 'running' ? `finding out, ${Math.round(plan.progress * 100)} %` : 'waiting';
    return listening.isPlaying ? `${progress}; playing comes first` : progress;
}

/** What a figure is worth that is not of the whole length. */
function about(remedy: string): string {
    return headroom.isWanted(remedy)
        ? 'Around the loudest moment; the whole length is being measured'
        : 'Around the loudest moment. Choose, open or hear it, and the whole length is measured.';
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
</script>

<template>
    <section class="remedies" aria-label="Remedies">
        <header>
            <h2>Remedies</h2>
            <AimFields />
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
                        :aria-expanded="headroom.opened === row.id"
                        :disabled="row.isIdle"
                        @click="headroom.opened = headroom.opened === row.id ? null : row.id"
                    >
                        {{ row.name }}
                    </button>
                    <span
                        v-if="row.prediction"
                        role="cell"
                        class="figure after"
                        :class="{ short: !row.prediction.reached }"
                    >
                        <span v-if="!row.prediction.verified" class="soft" :title="about(row.id)">≈ </span
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
                <RemedyDetails
                    v-if="headroom.opened === row.id && row.plan && row.prediction"
                    :id="row.id"
                    :name="row.name"
                    :plan="row.plan"
                    :prediction="row.prediction"
                />
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

.wait .plain {
    color: var(--deep);
    font-weight: 500;
}
</style>
