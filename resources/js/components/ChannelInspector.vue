<script setup lang="ts">
import { ElMessageBox } from 'element-plus';
import { computed, ref, shallowRef, watch } from 'vue';
import { api } from '@/api/client';
import type { Channel, Insert, MediaState, TapName } from '@/api/types';
import { clock, decibels, TAP_NAMES } from '@/format';
import { useFinder } from '@/stores/finder';
import { useImports } from '@/stores/imports';
import { useListening } from '@/stores/listening';
import { useScreen } from '@/stores/screen';
import { useSelection } from '@/stores/selection';
import { useShelf } from '@/stores/shelf';
import { useSession } from '@/stores/session';
import { groupChannels } from '@/moves';
import { useSurvey } from '@/stores/survey';
import BoxSweep from './BoxSweep.vue';
import CopySends from './CopySends.vue';
import SplitMenu from './SplitMenu.vue';

const props = defineProps<{ channel: Channel; along: string[] }>();

const session = useSession();
const shelf = useShelf();
const listening = useListening();
const imports = useImports();
const finder = useFinder();
const selection = useSelection();
const survey = useSurvey();
const screen = useScreen();
const media = shallowRef<MediaState | null>(null);
const name = ref(props.channel.name);
const field = ref<HTMLInputElement>();

const isMain = computed(() => props.channel.kind === 'main');
const isTrack = computed(() => props.channel.kind === 'track');
const canSend = computed(() => props.channel.kind !== 'cue');
const kindName = { track: 'Track', note: 'Note', group: 'Group', return: 'Return', cue: 'Cue', main: 'Main' };
const clip = computed(() => (props.channel.source.type === 'clips' ? (props.channel.source.clips[0] ?? null) : null));
const tapped = computed(() => (props.channel.source.type === 'tap' ? props.channel.source : null));
const rate = computed(() => session.document?.sampleRate ?? 48000);
const many = computed(() => props.along.length > 1);
const order = computed(() => session.channels.filter((other) => other.kind === props.channel.kind));
const place = computed(() => order.value.findIndex((other) => other.id === props.channel.id));
const load = computed(() => listening.loads[props.channel.id]);
const latency = computed(() => session.state?.latency.channels[props.channel.id] ?? 0);
const isCompared = computed(() => listening.compare?.kind === 'row' && listening.compare.id === props.channel.id);
const wave = computed(() => {
    const points = media.value?.overview ?? [];
    const top = points.map((peak, i) => `${(i / Math.max(1, points.length - 1)) * 276},${28 - Math.min(1, peak) * 27}`);
    const bottom = points.map(
        (peak, i) => `${(i / Math.max(1, points.length - 1)) * 276},${28 + Math.min(1, peak) * 27}`,
    );
    return [...top, ...bottom.reverse()].join(' ');
});
const stages = computed(() => {
    const id = props.channel.id;
    const label = (insert: string) => session.state?.inserts[insert]?.label ?? insert;
    const rows = (inserts: Insert[], within = ''): { key: string; name: string }[] =>
        inserts.flatMap((insert) => [
            ...(insert.type === 'split'
                ? insert.branches.flatMap((branch) => [
                      ...rows(branch.inserts, `${branch.name}: `),
                      { key: `${id}:branch:${branch.id}`, name: `${within}${branch.name}` },
                  ])
                : []),
            { key: `${id}:insert:${insert.id}`, name: `${within}${label(insert.id)}` },
        ]);
    return [
        { key: `${id}:source`, name: 'Source' },
        ...rows(props.channel.inserts),
        { key: `${id}:pre-fader`, name: 'Before fader' },
        ...rows(props.channel.postInserts),
        { key: `${id}:post-fader`, name: 'After fader' },
    ].map((stage) => ({ ...stage, level: listening.level(stage.key) }));
});

watch(
    () => clip.value?.file,
    async (file) => {
        media.value = null;
        if (file) {
            media.value = await api.get<MediaState>(`media/${file}?sampleRate=${rate.value}`).catch(() => null);
        }
    },
    { immediate: true },
);
watch([() => props.channel.id, () => props.channel.name], () => (name.value = props.channel.name));

function rename(): void {
    const wanted = name.value.trim();
    if (wanted !== '' && wanted !== props.channel.name) {
        void session.edit({ type: 'rename-channel', channel: props.channel.id, name: wanted });
    } else {
        name.value = props.channel.name;
    }
    field.value?.blur();
}

function replaceFile(event: Event): void {
    const input = event.target as HTMLInputElement;
    void imports.bring([...(input.files ?? [])], props.channel.id);
    input.value = '';
}

const taps: Record<TapName, string> = TAP_NAMES;
const tappable = computed(() => session.channels.filter((other) => other.id !== props.channel.id));
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
const comb = computed(() => session.state?.combs.find((entry) => entry.channel === props.channel.id && !entry.split));
const feeders = computed(
    () =>
        session.channels.filter(
            (other) => other.output === props.channel.id || other.sends.some((send) => send.to === props.channel.id),
        ).length,
);
const free = computed(() =>
    [...session.returns, ...session.groups, ...session.cues].filter(
        (bus) => bus.id !== props.channel.id && !props.channel.sends.some((send) => send.to === bus.id),
    ),
);

function setSource(channel: string, tap: TapName): void {
    void session.edit({
        type: 'set-source',
        channel: props.channel.id,
        source: channel === '' ? { type: 'clips' } : { type: 'tap', channel, tap },
    });
}

function addSend(event: Event): void {
    const select = event.target as HTMLSelectElement;
    const to = select.value;
    select.value = '';
    void finder.addSends([...props.along], to);
}

async function group(): Promise<void> {
    await groupChannels(props.along);
}

function move(way: 1 | -1): void {
    const neighbour = order.value[place.value + way];
    if (neighbour) {
        const to = session.channels.findIndex((other) => other.id === neighbour.id);
        void session.edit({ type: 'move-channel', channel: props.channel.id, to });
    }
}

function remove(): void {
    void session.edit({ type: 'remove-channels', channels: props.along.filter((id) => id !== session.main?.id) });
    selection.clear();
}

/** Keeps the whole row, with its splits, under a name. */
async function saveRow(): Promise<void> {
    try {
        const { value } = await ElMessageBox.prompt('Name of the row', 'Save row', {
            confirmButtonText: 'Save',
            cancelButtonText: 'Cancel',
            inputPattern: /\S/,
            inputErrorMessage: 'A row needs a name.',
        });
        await shelf.saveRow(value.trim(), 'Own', props.channel.inserts);
    } catch {
        // Cancelled.
    }
}
</script>

<template>
    <div class="inspector">
        <header v-if="many">
            <h2>{{ along.length }} channels</h2>
            <span class="soft">moves keep their relation</span>
        </header>
        <header v-else>
            <input
                ref="field"
                v-model="name"
                class="title"
                aria-label="Name of the channel"
                @keydown.enter="rename"
                @keydown.stop
                @blur="rename"
            />
            <span class="soft kind">{{
                isMain ? 'Main' : `${kindName[channel.kind]} ${place + 1} · ${channel.width}`
            }}</span>
        </header>

        <template v-if="isTrack && !many">
            <svg
                v-if="media?.overview"
                class="wave"
                viewBox="0 0 276 56"
                preserveAspectRatio="none"
                role="img"
                aria-label="Waveform"
            >
                <polygon :points="wave" />
            </svg>
            <p v-if="clip" class="hint">
                {{ media?.name ?? '…' }} · {{ clock(clip.length, rate)
                }}<template v-if="media?.sampleRate">
                    · {{ media.sampleRate / 1000 }} kHz, {{ media.channels === 1 ? 'mono' : 'stereo' }}</template
                >
            </p>
            <p v-else-if="!tapped" class="hint">
                No file on this track yet. Drop one on its row, choose one, or take another channel's sound.
            </p>
            <div v-if="!clip" class="setting">
                <label for="tap-channel">Sound from</label>
                <span class="pair">
                    <select
                        id="tap-channel"
                        :value="tapped?.channel ?? ''"
                        @change="setSource(($event.target as HTMLSelectElement).value, tapped?.tap ?? 'source')"
                    >
                        <option value="">a file</option>
                        <option
                            v-for="other in tappable"
                            :key="other.id"
                            :value="other.id"
                            :disabled="session.closesLoop(other.id, channel.id)"
                        >
                            {{ other.name }}
                        </option>
                    </select>
                    <select
                        v-if="tapped"
                        aria-label="Tap"
                        :value="tapped.tap"
                        @change="setSource(tapped.channel, ($event.target as HTMLSelectElement).value as TapName)"
                    >
                        <option v-for="(text, tap) in taps" :key="tap" :value="tap">{{ text }}</option>
                    </select>
                </span>
            </div>
            <label v-if="!tapped" class="text-button file"
                >{{ clip ? 'Replace file' : 'Choose a file'
                }}<input type="file" accept="audio/*,.wav,.bwf,.rf64" @change="replaceFile"
            /></label>
        </template>

        <p v-if="!many && feeders > 0" class="hint feeders">
            {{ feeders }} {{ feeders === 1 ? 'channel feeds' : 'channels feed' }} {{ channel.name }}
        </p>
        <p v-if="comb" class="about">
            Not lined up: {{ Math.abs(comb.samples) }} samples {{ comb.samples > 0 ? 'late' : 'early' }} at
            {{ comb.where }}. Equal sound cancels first at <span class="figure">{{ Math.round(comb.notch) }} Hz</span>.
            <button
                class="plain fix"
                @click="session.edit({ type: 'set-aligned', channels: [channel.id], aligned: true })"
            >
                Line up
            </button>
        </p>
        <div class="switches">
            <button
                class="toggle"
                :aria-pressed="channel.trim.invert"
                :class="{ on: channel.trim.invert }"
                @click="session.edit({ type: 'set-polarity', channels: along, invert: !channel.trim.invert })"
            >
                Polarity inverted
            </button>
            <button
                v-if="!isMain && channel.kind !== 'cue'"
                class="toggle"
                :aria-pressed="channel.soloSafe"
                :class="{ on: channel.soloSafe }"
                @click="session.edit({ type: 'set-solo-safe', channels: along, soloSafe: !channel.soloSafe })"
            >
                Solo-safe
            </button>
            <button
                class="toggle"
                :aria-pressed="!channel.insertsOn"
                :class="{ on: !channel.insertsOn }"
                @click="session.edit({ type: 'set-row', channels: along, on: !channel.insertsOn })"
            >
                Row bypassed
            </button>
            <button
                v-if="!isMain"
                class="toggle"
                :aria-pressed="!channel.aligned"
                :class="{ on: !channel.aligned }"
                title="Without alignment it comes as late as its own processors make it"
                @click="session.edit({ type: 'set-aligned', channels: along, aligned: !channel.aligned })"
            >
                Alignment off
            </button>
            <button
                v-if="!isMain"
                class="toggle"
                :aria-pressed="channel.hidden"
                :class="{ on: channel.hidden }"
                title="Not shown, still heard"
                @click="session.edit({ type: 'set-hidden', channels: along, hidden: !channel.hidden })"
            >
                Hidden
            </button>
        </div>
        <div class="actions">
            <button class="text-button" @click="finder.openForSelection()">Add effect</button>
            <button v-if="channel.inserts.length > 0" class="text-button" @click="saveRow">Save row …</button>
            <button class="text-button" @click="finder.openFor(channel.id, 'postInserts', channel.postInserts.length)">
                Add after fader
            </button>
            <SplitMenu v-if="!many" :channel="channel" />
            <button
                class="text-button"
                title="A"
                :aria-expanded="screen.lanes[channel.id] !== undefined"
                @click="along.forEach((id) => screen.toggleLane(id))"
            >
                Automation
            </button>
            <template v-if="!isMain">
                <button v-if="channel.kind !== 'cue'" class="text-button" title="G" @click="group">Group</button>
                <button
                    v-if="!many"
                    class="text-button"
                    :disabled="place === 0"
                    title="Move up"
                    aria-label="Move up"
                    @click="move(-1)"
                >
                    ↑
                </button>
                <button
                    v-if="!many"
                    class="text-button"
                    :disabled="place === order.length - 1"
                    title="Move down"
                    aria-label="Move down"
                    @click="move(1)"
                >
                    ↓
                </button>
                <button class="text-button" @click="remove">Remove</button>
            </template>
        </div>

        <BoxSweep v-if="!many" :key="channel.id" :channel="channel" />

        <template v-if="canSend">
            <h3>Sends</h3>
            <p v-for="send in many ? [] : channel.sends" :key="send.id" class="send">
                <button class="plain" @click="selection.selectSends([send.id])">
                    {{ session.channel(send.to)?.name ?? send.to }}
                </button>
                <span class="soft">{{ taps[send.tap] }}</span>
                <span class="figure">{{ send.on ? decibels(send.gain, true) : 'off' }}</span>
            </p>
            <div class="actions">
                <select v-if="free.length > 0" class="choose" aria-label="Send to" @change="addSend">
                    <option value="">Send to …</option>
                    <option
                        v-for="bus in free"
                        :key="bus.id"
                        :value="bus.id"
                        :disabled="session.closesLoop(channel.id, bus.id)"
                    >
                        {{ bus.name }}{{ session.closesLoop(channel.id, bus.id) ? ' (would loop)' : '' }}
                    </option>
                </select>
                <button v-if="!isMain" class="text-button" @click="finder.openForNewReturn(along)">
                    To a new return …
                </button>
                <CopySends
                    v-if="!many && channel.sends.length > 0"
                    :sends="channel.sends.map((send) => send.id)"
                    :from="channel"
                    label="Copy all sends …"
                />
            </div>
        </template>
        <template v-if="channel.kind === 'cue' && !many">
            <h3>Mix for the performer</h3>
            <p class="hint">
                Every track is sent before its fader, at the amounts the faders have now. Afterwards the main mix
                changes nothing here.
            </p>
            <button class="pill wide" @click="session.edit({ type: 'copy-mix-to-cue', cue: channel.id })">
                Copy the main mix here
            </button>
        </template>
        <button
            v-if="!many && channel.kind !== 'track'"
            class="pill wide"
            @click="
                listening.listenAt(
                    listening.listeningAt === `${channel.id}:post-fader` ? null : `${channel.id}:post-fader`,
                )
            "
        >
            {{
                listening.listeningAt === `${channel.id}:post-fader` && !isMain
                    ? 'Back to Main'
                    : `Listen to ${channel.name}`
            }}
        </button>

        <template v-if="!many">
            <table>
                <thead>
                    <tr>
                        <th>stage</th>
                        <th>peak dBFS</th>
                        <th>RMS</th>
                        <th>over</th>
                    </tr>
                </thead>
                <tbody>
                    <tr v-for="stage in stages" :key="stage.key">
                        <td>{{ stage.name }}</td>
                        <td class="figure">{{ stage.level ? decibels(stage.level.peak, true) : '·' }}</td>
                        <td class="figure">{{ stage.level ? decibels(stage.level.rms, true) : '·' }}</td>
                        <td class="figure">{{ stage.level?.overs || '' }}</td>
                    </tr>
                </tbody>
            </table>
            <p v-if="isMain && measured" class="loudness" data-loudness>
                <span class="figure">{{ decibels(measured.loudness) }}</span> LUFS · range
                <span class="figure">{{ (measured.loudnessRange ?? 0).toFixed(1) }}</span> LU · true peak
                <span class="figure">{{ decibels(measured.truePeak, true) }}</span> dBTP
            </p>
            <section v-if="isMain && filling.length > 0" class="filling" data-filling>
                <h3>
                    What fills it at
                    <button
                        class="plain fix figure"
                        title="Go there"
                        @click="listening.seek(measured?.loudest?.position ?? 0)"
                    >
                        {{ clock(measured?.loudest?.position ?? 0, rate) }}</button
                    >, <span class="figure">{{ decibels(measured?.loudest?.level, true) }}</span> dBFS before its
                    inserts
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
                    <span class="figure"
                        >{{ part.share < 0 ? '−' : '' }}{{ Math.round(Math.abs(part.share) * 100) }} %</span
                    >
                </button>
            </section>
            <p class="hint">
                {{
                    latency === 0
                        ? 'no latency'
                        : `${((latency / rate) * 1000).toFixed(1)} ms latency, ${channel.aligned ? 'lined up with the others' : 'not lined up'}`
                }}<template v-if="load !== undefined"> · {{ (load * 100).toFixed(1) }} % of a core</template>
            </p>
            <button
                v-if="channel.inserts.length + channel.postInserts.length > 0"
                class="pill compare"
                :class="{ on: isCompared }"
                :aria-pressed="isCompared"
                @click="listening.startCompare(isCompared ? null : { kind: 'row', id: channel.id })"
            >
                {{ isCompared ? 'Comparing with the row bypassed' : 'Compare with the row bypassed' }}
            </button>
        </template>
    </div>
</template>

<style scoped>
.title {
    margin: 0;
    font-size: 15px;
    font-weight: 600;
}

.title {
    flex: 1;
    min-width: 0;
    margin-left: -5px;
    padding: 1px 4px;
    border: 1px solid transparent;
    border-radius: 4px;
    background: none;
}

.title:hover,
.title:focus {
    border-color: var(--contour);
}

.kind {
    white-space: nowrap;
}

.wave {
    display: block;
    width: 100%;
    height: 56px;
    border-bottom: 1px solid var(--contour);
}

.wave polygon {
    fill: var(--water);
}

.file {
    display: inline-block;
    margin-left: -8px;
    cursor: pointer;
    color: var(--deep);
}

.file input {
    position: absolute;
    width: 1px;
    height: 1px;
    opacity: 0;
}

.switches {
    display: flex;
    flex-wrap: wrap;
    gap: 6px;
    margin: 10px 0 6px;
}

.actions {
    display: flex;
    flex-wrap: wrap;
    margin: 0 -8px 8px;
}

table {
    width: 100%;
    border-collapse: collapse;
}

th {
    padding: 2px 0 2px 8px;
    white-space: nowrap;
    font-size: 12px;
    font-weight: 400;
    color: var(--soft);
    text-align: right;
}

th:first-child,
td:first-child {
    padding-left: 0;
    text-align: left;
}

td {
    padding: 3px 0;
    border-top: 1px solid var(--contour);
    text-align: right;
}

.compare,
.wide {
    width: 100%;
}

.wide {
    margin: 4px 0 10px;
}

.loudness {
    margin: 8px 0 0;
}

.filling h3 .fix {
    color: var(--deep);
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
    overflow: hidden;
    text-overflow: ellipsis;
    white-space: nowrap;
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

.feeders {
    margin: 0;
}

.pair {
    display: flex;
    gap: 4px;
    min-width: 0;
}

.send {
    display: grid;
    grid-template-columns: 1fr auto 52px;
    gap: 8px;
    margin: 0;
    padding: 3px 0;
    border-top: 1px solid var(--contour);
}

.send .figure {
    text-align: right;
}

.choose {
    width: 96px;
    margin: 2px 0 2px 8px;
    border: 1px solid var(--contour);
    border-radius: 4px;
    background: var(--sheet);
}
</style>
