<script setup lang="ts">
import { computed, ref, watch } from 'vue';
import AllPathsDiagram from '@/components/levels/AllPathsDiagram.vue';
import LevelDiagram from '@/components/levels/LevelDiagram.vue';
import RemedyList from '@/components/headroom/RemedyList.vue';
import ChoiceMenu from '@/components/controls/ChoiceMenu.vue';
import { useMetered } from '@/composables/useMetered';
import { clock } from '@/format';
import { useHeadroom } from '@/stores/headroom';
import { useListening } from '@/stores/listening';
import { useSelection } from '@/stores/selection';
import { useSession } from '@/stores/session';
import { useSurvey } from '@/stores/survey';

/** Where level is gained and lost on the way to the main, and what would bring it down. */
const session = useSession();
const survey = useSurvey();
const headroom = useHeadroom();
const listening = useListening();
const selection = useSelection();

const ALL = '';
const path = ref(ALL);

const chosen = computed(() => (headroom.paths[path.value] ? path.value : ALL));
useMetered(() => (chosen.value === ALL ? 'all' : (headroom.paths[chosen.value] ?? []).map(({ channel }) => channel)));
const rate = computed(() => session.document?.sampleRate ?? 48000);
const choices = computed(() => [
    { value: ALL, name: 'All paths' },
    ...session.channels.map(({ id, name }) => ({ value: id, name })),
]);
const title = computed(() => {
    const channel = session.channel(chosen.value);
    if (!channel) {
        return 'All paths';
    }
    const ends = [...new Set((headroom.paths[chosen.value] ?? []).map((stage) => stage.channel))].map(
        (id) => session.channel(id)?.name ?? id,
    );
    return ends.join(' → ');
});
const state = computed(() => {
    const known = headroom.figures;
    if (listening.isPlaying) {
        return known?.running
            ? `live · measuring ${Math.round(known.running.progress * 100)} %: playing comes first`
            : 'live · band from average to peak';
    }
    if (known?.running) {
        const left = known.running.secondsLeft;
        const time = left === null ? '' : `, about ${Math.max(1, Math.round(left))} s left`;
        return `measuring ${Math.round(known.running.progress * 100)} %${time}`;
    }
    if (known?.stopped && !known.current) {
        return 'the survey was stopped; some figures may be older than the session';
    }
    if (known?.message) {
        return known.message;
    }
    const result = known?.result;
    return result
        ? `surveyed ${clock(result.from, rate.value).slice(0, 5)} to ${clock(result.to, rate.value).slice(0, 5)} · band from average to peak`
        : 'not measured yet';
});

function toggleRegion(): void {
    const { loop } = listening;
    headroom.measureOnly(
        headroom.region === null && loop ? { from: Math.round(loop.start), to: Math.round(loop.end) } : null,
    );
}

// What was selected on another view is what is asked about here.
watch(
    () => selection.channels[0],
    (id) => {
        if (id !== undefined && headroom.paths[id]) {
            path.value = id;
        }
    },
);
watch(
    () => Object.keys(headroom.paths).length,
    () => {
        const selected = selection.channels[0];
        if (path.value === ALL && selected !== undefined && headroom.paths[selected]) {
            path.value = selected;
        }
    },
    { immediate: true },
);
</script>

<template>
    <main class="headroom" data-view="headroom">
        <header>
            <h1>{{ title }}</h1>
            <ChoiceMenu v-model="path" label="Path" :items="choices" data-path-choice />
            <label v-if="listening.loop || headroom.region" class="region"
                ><input type="checkbox" :checked="headroom.region !== null" @change="toggleRegion" /> only the
                loop</label
            >
            <span class="hint" data-survey-state>{{ state }}</span>
            <button v-if="survey.state?.running" class="text-button" @click="survey.stop()">Stop</button>
            <button v-else-if="!survey.isCurrent && survey.state" class="text-button" @click="survey.start()">
                Measure
            </button>
        </header>
        <AllPathsDiagram v-if="chosen === ALL" @choose="path = $event" />
        <LevelDiagram v-else :channel="chosen" />
        <RemedyList />
    </main>
</template>

<style scoped>
.headroom {
    display: flex;
    flex-direction: column;
    min-width: 0;
    overflow: auto;
    scrollbar-width: thin;
    scrollbar-color: var(--contour) transparent;
}

header {
    display: flex;
    align-items: center;
    gap: 14px;
    flex-wrap: wrap;
    gap: 2px 14px;
    padding: 10px 16px 0;
}

h1 {
    margin: 0;
    font-size: 15px;
    font-weight: 600;
}

.choice-menu {
    width: 170px;
}
</style>
