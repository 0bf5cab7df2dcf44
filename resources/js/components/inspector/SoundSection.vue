<script setup lang="ts">
import { computed, shallowRef, watch } from 'vue';
import { api } from '@/api/client';
import type { Channel, MediaState, TapName } from '@/api/types';
import { channelChoices, TAP_CHOICES } from '@/choices';
import ChoiceMenu from '@/components/controls/ChoiceMenu.vue';
import { clock } from '@/format';
import { useImports } from '@/stores/imports';
import { useSession } from '@/stores/session';
import SwitchRow from '@/components/controls/SwitchRow.vue';
import ClippedMark from '@/components/inputs/ClippedMark.vue';
import VersionList from './VersionList.vue';
import { useSelection } from '@/stores/selection';

/** Where the sound of a channel comes from: its file, or another channel's tap; and its polarity. */
const props = defineProps<{ channel: Channel; along: string[] }>();

const session = useSession();
const imports = useImports();
const selection = useSelection();
const media = shallowRef<MediaState | null>(null);

const many = computed(() => props.along.length > 1);
const isTrack = computed(() => props.channel.kind === 'track');
const clip = computed(() =>
    'clips' in props.channel.source && props.channel.source.type !== 'notes'
        ? (props.channel.source.clips[0] ?? null)
        : null,
);
const tapped = computed(() => (props.channel.source.type === 'tap' ? props.channel.source : null));
const rate = computed(() => session.document?.sampleRate ?? 48000);
const wave = computed(() => {
    const points = media.value?.overview ?? [];
    const across = (i: number) => (i / Math.max(1, points.length - 1)) * 276;
    const top = points.map((peak, i) => `${across(i)},${28 - Math.min(1, peak) * 27}`);
    const bottom = points.map((peak, i) => `${across(i)},${28 + Math.min(1, peak) * 27}`);
    return [...top, ...bottom.reverse()].join(' ');
});
const sources = computed(() => [{ value: '', name: 'a file' }, ...channelChoices(session.tapTargets(props.channel))]);
const feeders = computed(
    () =>
        session.channels.filter(
            (other) => other.output === props.channel.id || other.sends.some((send) => send.to === props.channel.id),
        ).length,
);

const PRINT_TAPS = {
    source: 'dry',
    'pre-fader': 'through its inserts',
    'post-fader': 'through its fader',
    main: 'through the main',
};
const printed = computed(() => {
    const from = clip.value?.printedFrom;
    const channel = from ? session.channel(from.channel) : undefined;
    return from && channel && channel.id !== props.channel.id
        ? {
              ids: [channel.id, ...(from.with ?? [])].filter((id) => session.channel(id)),
              name: from.with?.length ? `${channel.name} and ${from.with.length} more` : channel.name,
              tap: channel.kind === 'main' ? 'as it was heard' : PRINT_TAPS[from.tap],
          }
        : null;
});

/** Brings what was printed back: heard, switched on and shown, with the print muted. */
function goBack(): void {
    const source = printed.value;
    if (!source) {
        return;
    }
    const channels = source.ids;
    selection.clear();
    selection.channels = channels;
    void session.edit({
        type: 'several',
        label: `Back to ${source.name}`,
        edits: [
            { type: 'set-off', channels, off: false },
            { type: 'set-hidden', channels, hidden: false },
            { type: 'set-mute', channels, mute: false },
            { type: 'set-mute', channels: [props.channel.id], mute: true },
        ],
    });
}

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

function replaceFile(event: Event): void {
    const input = event.target as HTMLInputElement;
    void imports.bring([...(input.files ?? [])], props.channel.id);
    input.value = '';
}

function setSource(channel: string, tap: TapName): void {
    void session.edit({
        type: 'set-source',
        channel: props.channel.id,
        source: channel === '' ? { type: 'clips' } : { type: 'tap', channel, tap },
    });
}
</script>

<template>
    <section>
        <h3>Sound</h3>
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
                ><ClippedMark :clips="[clip]" />
            </p>
            <p v-else-if="!tapped" class="hint">
                {{
                    channel.source.type === 'input'
                        ? 'Nothing is recorded on this track yet.'
                        : "No file on this track yet. Drop one on its row, choose one, or take another channel's sound."
                }}
            </p>
            <p v-if="printed" class="hint" data-printed-from>
                Made from {{ printed.name }}, {{ printed.tap }}.
                <button v-if="!printed.ids.includes(session.main?.id ?? '')" class="plain fix" @click="goBack">
                    Back to it
                </button>
            </p>
            <div v-if="!clip" class="setting">
                <label for="tap-channel">From</label>
                <ChoiceMenu
                    id="tap-channel"
                    data-tap-channel
                    label="From"
                    :model-value="tapped?.channel ?? ''"
                    :items="sources"
                    @update:model-value="(channel) => setSource(channel, tapped?.tap ?? 'source')"
                />
            </div>
            <div v-if="tapped" class="setting">
                <span>At</span>
                <ChoiceMenu
                    label="Tap"
                    :model-value="tapped.tap"
                    :items="TAP_CHOICES"
                    @update:model-value="(tap) => tapped && setSource(tapped.channel, tap)"
                />
            </div>
            <VersionList v-if="clip || channel.versions" :channel="channel" />
            <label v-if="!tapped" class="text-button file"
                >{{ clip ? 'Replace file …' : 'Choose a file …'
                }}<input type="file" accept="audio/*,.wav,.bwf,.rf64" @change="replaceFile"
            /></label>
        </template>
        <p v-if="!many && feeders > 0" class="hint feeders">
            {{ feeders }} {{ feeders === 1 ? 'channel feeds' : 'channels feed' }} {{ channel.name }}
        </p>
        <SwitchRow
            name="Polarity inverted"
            :on="channel.trim.invert"
            @change="session.edit({ type: 'set-polarity', channels: along, invert: !channel.trim.invert })"
        />
    </section>
</template>

<style scoped>
.wave {
    display: block;
    width: 100%;
    height: 48px;
    border-bottom: 1px solid var(--contour);
}

.wave polygon {
    fill: var(--water);
}

.hint {
    margin: 4px 0;
}

.file {
    display: inline-block;
    margin-left: -8px;
    cursor: pointer;
}

.file input {
    position: absolute;
    width: 1px;
    height: 1px;
    opacity: 0;
}
</style>
