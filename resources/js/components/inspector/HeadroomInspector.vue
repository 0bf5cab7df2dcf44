<script setup lang="ts">
import { computed } from 'vue';
import { clock, decibels } from '@/format';
import { useHeadroom } from '@/stores/headroom';
import { useListening } from '@/stores/listening';
import { useSelection } from '@/stores/selection';
import { useSession } from '@/stores/session';

/** Who fills the main: at its loudest moment or any other, and over the whole length by band. */
const session = useSession();
const headroom = useHeadroom();
const listening = useListening();
const selection = useSelection();

const result = computed(() => headroom.result);
const rate = computed(() => session.document?.sampleRate ?? 48000);
const moment = computed(() => headroom.moment ?? result.value?.loudest ?? null);
const main = computed(() => session.main);
const out = computed(() => result.value?.taps[`${main.value?.id}:post-fader`] ?? null);
const figures = computed(() => (main.value ? result.value?.channels[main.value.id] : undefined));

const rows = computed(() => {
    const about = moment.value;
    if (!about) {
        return [];
    }
    const most = Math.max(0.01, ...Object.values(about.shares).map(Math.abs));
    // The largest first: an object's keys that look like numbers lose the order they came in.
    const largestFirst = Object.entries(about.shares).sort(([, one], [, two]) => two - one);
    return largestFirst.map(([id, share]) => ({
        id,
        name: session.channel(id)?.name ?? id,
        share,
        length: (Math.abs(share) / most) * 30,
        energy: result.value?.energy[id] ?? null,
        relief: result.value?.relief[id] ?? null,
    }));
});
const most = computed(() =>
    rows.value.reduce<(typeof rows.value)[number] | null>(
        (best, row) => (row.relief && row.relief.lowered > (best?.relief?.lowered ?? 0.05) ? row : best),
        null,
    ),
);
const inside = computed(() => {
    const taps = Object.entries(result.value?.taps ?? {});
    return taps.reduce(
        (sum, [key, tap]) => (key === `${main.value?.id}:post-fader` ? sum : Math.max(sum, tap.overs)),
        0,
    );
});
const goesOut = computed(() => main.value?.output !== 'none');
const percent = (share: number | undefined) =>
    share === undefined ? '' : `${share < -0.005 ? '−' : ''}${Math.round(Math.abs(share) * 100)}`;
</script>

<template>
    <div class="inspector" data-moment>
        <header>
            <h2>{{ headroom.moment ? 'A moment' : headroom.region ? 'Loudest in the loop' : 'The loudest moment' }}</h2>
            <button v-if="headroom.moment" class="text-button" @click="headroom.lookAt(null)">the loudest</button>
        </header>
        <template v-if="moment">
            <p class="hint where">
                <button class="plain figure" title="Go there" data-moment-at @click="listening.seek(moment.position)">
                    {{ clock(moment.position, rate) }}
                </button>
                · {{ main?.name }} {{ decibels(moment.level, true) }} dBFS at its source
            </p>
            <table>
                <thead>
                    <tr>
                        <th class="unit">in %</th>
                        <th colspan="2" title="Signed part of this sample; all add up to it">peak</th>
                        <th title="Share of the energy below 100 Hz, over the whole length">below<br />100 Hz</th>
                        <th title="Share of the energy from 200 to 500 Hz, over the whole length">
                            200 to<br />500 Hz
                        </th>
                        <th title="Share of the energy above 500 Hz, over the whole length">above<br />500 Hz</th>
                        <th title="Share of all energy, over the whole length">all</th>
                    </tr>
                </thead>
                <tbody>
                    <tr v-for="row in rows" :key="row.id" :data-share="row.id">
                        <td>
                            <button class="plain name" :title="row.name" @click="selection.channels = [row.id]">
                                {{ row.name }}
                            </button>
                        </td>
                        <td class="bar">
                            <svg viewBox="-6 0 36 10" aria-hidden="true">
                                <line x1="0" x2="0" y1="0" y2="10" />
                                <rect
                                    :x="row.share < 0 ? -Math.min(6, row.length) : 0"
                                    y="1"
                                    :width="row.share < 0 ? Math.min(6, row.length) : row.length"
                                    height="8"
                                    :class="{ against: row.share < 0 }"
                                />
                            </svg>
                        </td>
                        <td class="figure">{{ percent(row.share) }}</td>
                        <td class="figure">{{ percent(row.energy?.low) }}</td>
                        <td class="figure">{{ percent(row.energy?.mud) }}</td>
                        <td class="figure">{{ percent(row.energy?.above) }}</td>
                        <td class="figure">{{ percent(row.energy?.all) }}</td>
                    </tr>
                </tbody>
            </table>
            <p v-if="most && most.relief" class="hint" data-offender>
                {{ most.name }} frees most: 6 dB lower, the peak falls by {{ decibels(most.relief.lowered) }} dB;
                silent, by {{ decibels(most.relief.silent) }}.
            </p>
            <button
                class="plain look"
                :disabled="headroom.isLookingForMoment"
                @click="headroom.lookAt(listening.position)"
            >
                {{
                    headroom.isLookingForMoment
                        ? 'Looking …'
                        : `Who fills it at ${clock(listening.position, rate)}, where the playhead is?`
                }}
            </button>
        </template>
        <p v-else class="hint">{{ headroom.figures?.running ? 'Measuring …' : 'Nothing reaches the main yet.' }}</p>
        <dl v-if="listening.loudness" data-live-loudness>
            <div>
                <dt>momentary now</dt>
                <dd class="figure">{{ decibels(listening.loudness.momentary, true) }} LUFS</dd>
            </div>
            <div>
                <dt>short-term now</dt>
                <dd class="figure">{{ decibels(listening.loudness.shortTerm, true) }} LUFS</dd>
            </div>
        </dl>
        <dl v-if="out">
            <div>
                <dt>sample peak</dt>
                <dd class="figure" :class="{ clips: out.overs > 0 && goesOut, over: out.overs > 0 && !goesOut }">
                    {{ decibels(out.peak, true) }} dBFS
                </dd>
            </div>
            <div>
                <dt>true peak</dt>
                <dd class="figure" :class="{ clips: (result?.truePeak ?? -1) > 0 }">
                    {{ decibels(result?.truePeak, true) }} dBTP
                </dd>
            </div>
            <div>
                <dt>average</dt>
                <dd class="figure">{{ decibels(out.rms, true) }} dBFS</dd>
            </div>
            <div>
                <dt>crest factor</dt>
                <dd class="figure">
                    {{ out.peak === null || out.rms === null ? '·' : decibels(out.peak - out.rms) }} dB
                </dd>
            </div>
            <div>
                <dt>loudness</dt>
                <dd class="figure">{{ decibels(result?.loudness, true) }} LUFS</dd>
            </div>
            <div>
                <dt>loudness range</dt>
                <dd class="figure">{{ decibels(result?.loudnessRange) }} LU</dd>
            </div>
            <div>
                <dt>highest short-term</dt>
                <dd class="figure">{{ decibels(result?.shortTerm, true) }} LUFS</dd>
            </div>
            <div>
                <dt>highest momentary</dt>
                <dd class="figure">{{ decibels(result?.momentary, true) }} LUFS</dd>
            </div>
            <div>
                <dt>correlation</dt>
                <dd class="figure">
                    {{
                        figures?.correlation === null || figures?.correlation === undefined
                            ? '·'
                            : figures.correlation.toFixed(2).replace('-', '−')
                    }}
                </dd>
            </div>
            <div>
                <dt>{{ goesOut ? 'would clip' : 'over' }}</dt>
                <dd class="figure" :class="{ clips: out.overs > 0 && goesOut }">
                    {{ result?.samplesOver ?? 0 }} <small>samples</small>
                </dd>
            </div>
            <div v-if="inside > 0">
                <dt>over inside</dt>
                <dd class="figure over">{{ inside }} <small>harmless</small></dd>
            </div>
        </dl>
    </div>
</template>

<style scoped>
.where {
    margin: 0 0 8px;
}

table {
    width: 100%;
    border-collapse: collapse;
}

th {
    padding: 2px 0 2px 6px;
    font-size: 12px;
    font-weight: 400;
    line-height: 14px;
    white-space: nowrap;
    color: var(--soft);
    text-align: right;
}

td {
    height: 25px;
    padding: 0 0 0 5px;
    border-top: 1px solid var(--contour);
    text-align: right;
    white-space: nowrap;
    font-size: 12px;
}

td:first-child {
    padding: 0;
    text-align: left;
    overflow-wrap: anywhere;
    font-size: 13px;
}

.unit {
    padding-left: 0;
    text-align: left;
}

.name {
    display: block;
    width: 100%;
    line-height: 15px;
    overflow-wrap: anywhere;
}

.name:hover {
    text-decoration: underline dotted;
}

.bar {
    width: 36px;
}

.bar svg {
    display: block;
    width: 36px;
    height: 10px;
}

.bar line {
    stroke: var(--contour);
}

.bar rect {
    fill: var(--deep);
}

.bar .against {
    fill: var(--plum);
}

.look {
    margin: 6px 0 0;
    color: var(--deep);
}

dl {
    display: grid;
    grid-template-columns: 1fr 1fr;
    gap: 9px 12px;
    margin: 16px 0 0;
    padding-top: 12px;
    border-top: 1px solid var(--contour);
}

dt {
    color: var(--soft);
}

dd {
    margin: 0;
    font-size: 15px;
    font-weight: 500;
}

dd small {
    font-family: 'IBM Plex Sans', sans-serif;
    font-size: 12px;
    font-weight: 400;
}

.clips {
    color: var(--buoy-text);
}

.over {
    color: var(--brass-text);
}

@media (max-width: 1180px) {
    th:last-child,
    td:last-child {
        display: none;
    }
}
</style>
