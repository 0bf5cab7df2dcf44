<script setup lang="ts">
import { computed, ref, shallowRef, watch } from 'vue';
import { api } from '@/api/client';
import type { Channel, MediaState } from '@/api/types';
import { clock, decibels } from '@/format';
import { useFinder } from '@/stores/finder';
import { useImports } from '@/stores/imports';
import { useListening } from '@/stores/listening';
import { useSelection } from '@/stores/selection';
import { useSession } from '@/stores/session';

const props = defineProps<{ channel: Channel; along: string[] }>();

const session = useSession();
const listening = useListening();
const imports = useImports();
const finder = useFinder();
const selection = useSelection();
const media = shallowRef<MediaState | null>(null);
const name = ref(props.channel.name);
const field = ref<HTMLInputElement>();

const isTrack = computed(() => props.channel.kind !== 'main');
const clip = computed(() => ('clips' in props.channel.source ? (props.channel.source.clips[0] ?? null) : null));
const rate = computed(() => session.document?.sampleRate ?? 48000);
const many = computed(() => props.along.length > 1);
const place = computed(() => session.tracks.findIndex((track) => track.id === props.channel.id));
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
    return [
        { key: `${id}:source`, name: 'Source' },
        ...props.channel.inserts.map((insert) => ({ key: `${id}:insert:${insert.id}`, name: label(insert.id) })),
        { key: `${id}:pre-fader`, name: 'Before fader' },
        ...props.channel.postInserts.map((insert) => ({ key: `${id}:insert:${insert.id}`, name: label(insert.id) })),
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
watch(
    () => [props.channel.id, props.channel.name],
    () => (name.value = props.channel.name),
);

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

function remove(): void {
    void session.edit({ type: 'remove-channels', channels: props.along.filter((id) => id !== session.main?.id) });
    selection.clear();
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
            <span class="soft kind">{{ isTrack ? `Track ${place + 1} · ${channel.width}` : 'Main' }}</span>
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
            <p v-else class="hint">No file on this track yet. Drop one on its row, or choose one.</p>
            <label class="text-button file"
                >{{ clip ? 'Replace file' : 'Choose a file'
                }}<input type="file" accept="audio/*,.wav,.bwf,.rf64" @change="replaceFile"
            /></label>
        </template>

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
                v-if="isTrack"
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
        </div>
        <div class="actions">
            <button class="text-button" @click="finder.openForSelection()">Add effect</button>
            <button class="text-button" @click="finder.openFor(channel.id, 'postInserts', channel.postInserts.length)">
                Add after fader
            </button>
            <template v-if="isTrack">
                <button
                    v-if="!many"
                    class="text-button"
                    :disabled="place === 0"
                    title="Move the track up"
                    aria-label="Move the track up"
                    @click="session.edit({ type: 'move-channel', channel: channel.id, to: place - 1 })"
                >
                    ↑
                </button>
                <button
                    v-if="!many"
                    class="text-button"
                    :disabled="place === session.tracks.length - 1"
                    title="Move the track down"
                    aria-label="Move the track down"
                    @click="session.edit({ type: 'move-channel', channel: channel.id, to: place + 1 })"
                >
                    ↓
                </button>
                <button class="text-button" @click="remove">Remove</button>
            </template>
        </div>

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
            <p class="hint">
                {{
                    latency === 0
                        ? 'no latency'
                        : `${((latency / rate) * 1000).toFixed(1)} ms latency, lined up with the others`
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

.toggle {
    padding: 2px 9px;
    border: 1px solid var(--contour);
    border-radius: 999px;
    background: none;
}

.toggle.on {
    background: var(--ink);
    border-color: var(--ink);
    color: var(--paper);
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
    padding: 2px 0;
    font-size: 12px;
    font-weight: 400;
    color: var(--soft);
    text-align: right;
}

th:first-child,
td:first-child {
    text-align: left;
}

td {
    padding: 3px 0;
    border-top: 1px solid var(--contour);
    text-align: right;
}

.compare {
    width: 100%;
}
</style>
