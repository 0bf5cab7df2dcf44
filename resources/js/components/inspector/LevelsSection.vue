<script setup lang="ts">
import { computed } from 'vue';
import type { Channel, Insert } from '@/api/types';
import { useMetered } from '@/composables/useMetered';
import { clock, decibels } from '@/format';
import { useListening } from '@/stores/listening';
import { useSelection } from '@/stores/selection';
import { useSession } from '@/stores/session';
import { useSurvey } from '@/stores/survey';

/** What a channel carries at every stage; of the main also its loudness and who fills it at its loudest. */
const props = defineProps<{ channel: Channel }>();

const session = useSession();
const listening = useListening();
const selection = useSelection();
const survey = useSurvey();

useMetered(() => [props.channel.id]);
const isMain = computed(() => props.channel.kind === 'main');
const rate = computed(() => session.document?.sampleRate ?? 48000);
const load = computed(() => listening.loads[props.channel.id]);
const latency = computed(() => session.state?.latency.channels[props.channel.id] ?? 0);
const isCompared = computed(() => listening.compare?.kind === 'row' && listening.compare.id === props.channel.id);
const after = computed(() => `${props.channel.id}:post-fader`);
const isHeard = computed(() => listening.listeningAt === after.value);
const stages = computed(() => {
    const id = props.channel.id;
    const label = (insert: string) => session.state?.inserts[insert]?.label ?? insert;
    const rows = (inserts: Insert[], within = ''): { tap: string; name: string }[] =>
        inserts.flatMap((insert) => [
            ...(insert.type === 'split'
                ? insert.branches.flatMap((branch) => [
                      ...rows(branch.inserts, `${branch.name}: `),
                      { tap: `${id}:branch:${branch.id}`, name: `${within}${branch.name}` },
                  ])
                : []),
            { tap: `${id}:insert:${insert.id}`, name: `${within}${label(insert.id)}` },
        ]);
    return [
        { tap: `${id}:source`, name: 'Source' },
        ...rows(props.channel.inserts),
        { tap: `${id}:pre-fader`, name: 'Before fader' },
        ...rows(props.channel.postInserts),
        { tap: after.value, name: 'After fader' },
    ].map((stage) => {
        const level = listening.level(stage.tap);
        return {
            ...stage,
            peak: level ? decibels(level.peak, true) : '·',
            rms: level ? decibels(level.rms, true) : '·',
            overs: level?.overs ? String(level.overs) : '',
        };
    });
});
const measured = computed(() => {
    const result = survey.state?.result;
    return result?.loudness === undefined || result.loudness === null ? null : result;
});
/** Who brings how much of the main's loudest moment; the smallest parts are left out. */
const filling = computed(() =>
    Object.entries(measured.value?.loudest?.shares ?? {})
        .map(([channel, share]) => ({ id: channel, name: session.channel(channel)?.name ?? channel, share }))
        .sort((one, two) => two.share - one.share)
        .filter((part) => Math.abs(part.share) >= 0.005)
        .slice(0, 12),
);
</script>

<template>
    <section>
        <h3>Levels</h3>
        <table class="stages">
            <thead>
                <tr>
                    <th scope="col">stage</th>
                    <th scope="col">peak</th>
                    <th scope="col">RMS</th>
                    <th scope="col">over</th>
                </tr>
            </thead>
            <tbody>
                <tr v-for="stage in stages" :key="stage.tap">
                    <th scope="row">{{ stage.name }}</th>
                    <td class="figure">{{ stage.peak }}</td>
                    <td class="figure">{{ stage.rms }}</td>
                    <td class="figure">{{ stage.overs }}</td>
                </tr>
            </tbody>
        </table>
        <p v-if="isMain && measured" class="loudness" data-loudness>
            <span class="figure">{{ decibels(measured.loudness) }}</span> LUFS · range
            <span class="figure">{{ (measured.loudnessRange ?? 0).toFixed(1) }}</span> LU · true peak
            <span class="figure">{{ decibels(measured.truePeak, true) }}</span> dBTP
        </p>
        <p class="hint">
            {{
                latency === 0
                    ? 'no latency'
                    : `${((latency / rate) * 1000).toFixed(1)} ms latency, ${channel.aligned ? 'lined up with the others' : 'not lined up'}`
            }}<template v-if="load !== undefined"> · {{ (load * 100).toFixed(1) }} % of a core</template>
        </p>
        <button v-if="channel.kind !== 'track'" class="pill wide" @click="listening.listenAt(isHeard ? null : after)">
            {{ isHeard && !isMain ? 'Back to Main' : `Listen to ${channel.name}` }}
        </button>
        <button
            v-if="channel.inserts.length + channel.postInserts.length > 0"
            class="pill wide compare"
            :class="{ on: isCompared }"
            :aria-pressed="isCompared"
            @click="listening.startCompare(isCompared ? null : { kind: 'row', id: channel.id })"
        >
            {{ isCompared ? 'Comparing with the row bypassed' : 'Compare with the row bypassed' }}
        </button>
    </section>
    <section v-if="isMain && filling.length > 0" class="filling" data-filling>
        <h3>
            What fills it at
            <button class="plain fix figure" title="Go there" @click="listening.seek(measured?.loudest?.position ?? 0)">
                {{ clock(measured?.loudest?.position ?? 0, rate) }}</button
            >, <span class="figure">{{ decibels(measured?.loudest?.level, true) }}</span> dBFS before its inserts
        </h3>
        <button
            v-for="part in filling"
            :key="part.id"
            class="part plain"
            :class="{ against: part.share < 0 }"
            :title="
                part.share < 0
                    ? `${part.name} works against the peak`
                    : `${part.name} brings ${Math.round(part.share * 100)} % of the peak`
            "
            @click="selection.selectChannel(part.id, $event, [part.id])"
        >
            <span class="who">{{ part.name }}</span>
            <span class="scale"><i :style="{ width: `${Math.min(1, Math.abs(part.share)) * 100}%` }" /></span>
            <span class="figure">{{ part.share < 0 ? '−' : '' }}{{ Math.round(Math.abs(part.share) * 100) }} %</span>
        </button>
    </section>
</template>

<style scoped>
.stages {
    width: 100%;
    table-layout: fixed;
    border-collapse: collapse;
    font-size: 13px;
    line-height: 18px;
}

.stages th,
.stages td {
    width: 52px;
    padding: 2px 0;
    font-weight: 400;
    text-align: right;
    border-bottom: 1px solid var(--contour);
}

.stages thead th {
    font-size: 12px;
    color: var(--soft);
}

.stages th:first-child {
    width: auto;
    text-align: left;
    overflow-wrap: anywhere;
}

.loudness {
    margin: 8px 0 0;
}

.part {
    display: grid;
    grid-template-columns: 104px 1fr 44px;
    gap: 8px;
    align-items: center;
    width: 100%;
    padding: 2px 0;
}

.part .who {
    overflow-wrap: anywhere;
}

.part .figure {
    text-align: right;
}

.scale {
    height: 6px;
    background: var(--paper);
}

.scale i {
    display: block;
    height: 100%;
    background: var(--brass);
}

.against .scale i {
    background: repeating-linear-gradient(-45deg, var(--water) 0 3px, transparent 3px 5px);
}

.against {
    color: var(--soft);
}
</style>
