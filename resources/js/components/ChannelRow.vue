<script setup lang="ts">
import { computed, nextTick, ref } from 'vue';
import type { Channel } from '@/api/types';
import { decibels, parseNumber } from '@/format';
import { laneFaderAt, laneOf } from '@/automation';
import { useCatalogue } from '@/stores/catalogue';
import { useImports } from '@/stores/imports';
import { useListening } from '@/stores/listening';
import { usePilot } from '@/stores/pilot';
import { useScreen } from '@/stores/screen';
import { useSelection } from '@/stores/selection';
import { newGesture, useSession } from '@/stores/session';
import InsertRow from './InsertRow.vue';
import LyingSlider from './LyingSlider.vue';
import PathLine from './PathLine.vue';
import SendLines from './SendLines.vue';
import { usePathPointing } from './pathPointing';
import TapStation from './TapStation.vue';

/** One channel as a path from left to right. */
const props = defineProps<{ channel: Channel; order: string[] }>();

const session = useSession();
const selection = useSelection();
const catalogue = useCatalogue();
const imports = useImports();
const listening = useListening();
const screen = useScreen();
const pilot = usePilot();
const isOver = ref(false);
const trimText = ref<string | null>(null);
const trimField = ref<HTMLInputElement>();

const id = computed(() => props.channel.id);
const isMain = computed(() => props.channel.kind === 'main');
const isSelected = computed(() => selection.channels.includes(id.value));
const isAudible = computed(() => session.state?.audible[id.value] ?? true);
const hasSource = computed(() => props.channel.source.type !== 'clips' || props.channel.source.clips.length > 0);
const lastBeforeFader = computed(() => `${id.value}:pre-fader`);

const isWideAtFader = computed(
    () =>
        props.channel.width === 'stereo' ||
        (props.channel.insertsOn && props.channel.inserts.some((insert) => catalogue.widens(insert))),
);
const targets = computed(() => {
    const busses = [...session.groups, ...session.returns, ...(session.main ? [session.main] : [])];
    return busses
        .filter((bus) => bus.id !== id.value)
        .map((bus) => ({ id: bus.id, name: bus.name, isLoop: session.closesLoop(id.value, bus.id) }));
});
const endsAtInterface = computed(() => isMain.value || props.channel.kind === 'cue');
const output = computed(() => {
    if (props.channel.output.startsWith('hw:')) {
        return props.channel.output.replace(':', ' ').replace('-', '–');
    }
    return props.channel.output === 'none'
        ? 'nowhere'
        : (session.channel(props.channel.output)?.name ?? props.channel.output);
});
const members = computed(() =>
    props.channel.kind === 'group' ? session.channels.filter((other) => other.output === id.value).length : 0,
);
const isFolded = computed(() => screen.isGroupFolded(id.value));
const notes = computed(() => pilot.of(id.value));
const comb = computed(() => session.state?.combs.find((entry) => entry.channel === id.value));

const faderLane = computed(() => laneOf(props.channel, 'fader'));
/** Where the fader stands: an automated one at the playhead. */
const fader = computed(() =>
    faderLane.value ? laneFaderAt(faderLane.value.points, listening.position) : props.channel.fader,
);

function setOutput(output: string): void {
    void session.edit({
        type: 'set-output',
        channels: endsAtInterface.value ? [id.value] : selection.along(id.value),
        output,
    });
}

const point = usePathPointing(() => id.value);

function setFader(gain: number | null, gesture: string): void {
    const along = selection.along(id.value);
    if ((along.length > 1 || faderLane.value) && gain !== null && fader.value !== null) {
        const by = gain - lastFader(gesture);
        lastSent = { gesture, gain };
        if (Math.abs(by) > 1e-6) {
            void session.edit({ type: 'move-faders', channels: along, by: Number(by.toFixed(4)) }, gesture);
        }
        return;
    }
    void session.edit({ type: 'set-fader', channels: [id.value], gain }, gesture);
}

let lastSent: { gesture: string; gain: number } | null = null;
function lastFader(gesture: string): number {
    return lastSent?.gesture === gesture ? lastSent.gain : (fader.value ?? 0);
}

function setPan(pan: number | null, gesture: string): void {
    void session.edit({ type: 'set-pan', channels: selection.along(id.value), pan: (pan ?? 0) / 100 }, gesture);
}

function toggle(what: 'mute' | 'solo'): void {
    void session.edit({ type: `set-${what}`, channels: selection.along(id.value), [what]: !props.channel[what] });
}

async function typeTrim(): Promise<void> {
    trimText.value = props.channel.trim.gain === null ? '-inf' : String(props.channel.trim.gain);
    await nextTick();
    trimField.value?.select();
}

function trimTyped(): void {
    const gain = trimText.value === null ? undefined : parseNumber(trimText.value);
    trimText.value = null;
    if (gain !== undefined) {
        void session.edit({ type: 'set-trim', channels: selection.along(id.value), gain });
    }
}

let trimGesture = '';
let trimMoved = 0;
function nudgeTrim(by: number): void {
    if (Date.now() - trimMoved > 700) {
        trimGesture = newGesture();
    }
    trimMoved = Date.now();
    void session.edit({ type: 'move-trims', channels: selection.along(id.value), by }, trimGesture);
}

function trimKey(event: KeyboardEvent): void {
    if (
        event.key === 'ArrowUp' ||
        event.key === 'ArrowRight' ||
        event.key === 'ArrowDown' ||
        event.key === 'ArrowLeft'
    ) {
        event.preventDefault();
        event.stopPropagation();
        const size = event.shiftKey ? 0.1 : 0.5;
        nudgeTrim(event.key === 'ArrowUp' || event.key === 'ArrowRight' ? size : -size);
    }
}

function trimWheel(event: WheelEvent): void {
    nudgeTrim((event.deltaY < 0 ? 1 : -1) * (event.shiftKey ? 0.1 : 0.5));
}

function dropFiles(event: DragEvent): void {
    isOver.value = false;
    const files = [...(event.dataTransfer?.files ?? [])];
    if (files.length > 0 && props.channel.kind === 'track') {
        void imports.bring(files.slice(0, 1), id.value);
        void imports.bring(files.slice(1));
    } else {
        void imports.bring(files);
    }
}

function panText(pan: number): string {
    const size = Math.round(Math.abs(pan) * 100);
    return size === 0 ? 'C' : `${pan < 0 ? 'L' : 'R'}${size}`;
}
</script>

<template>
    <div
        class="path"
        :class="{
            selected: isSelected,
            silent: !isAudible,
            over: isOver,
            aside: screen.isAside(id),
            cue: channel.kind === 'cue',
            hidden: channel.hidden,
        }"
        :data-channel-row="id"
        @click="selection.selectChannel(id, $event, order)"
        @dragover.prevent="isOver = true"
        @dragleave="isOver = false"
        @drop.prevent.stop="dropFiles"
    >
        <span class="heading">
            <button
                v-if="members > 0"
                class="fold plain"
                :aria-expanded="!isFolded"
                :aria-label="`${isFolded ? 'Unfold' : 'Fold'} ${channel.name}`"
                :title="isFolded ? `Show its ${members} channels` : `Fold its ${members} channels away`"
                @click.stop="screen.toggleGroup(id)"
            >
                {{ isFolded ? '▸' : '▾' }}
            </button>
            <button
                class="name plain"
                :title="`${channel.name}: stay here to see its path`"
                @click.stop="selection.selectChannel(id, $event, order)"
                @pointerenter="point(true)"
                @pointerleave="point(false)"
                @focus="point(($event.target as HTMLElement).matches(':focus-visible'))"
                @blur="point(false)"
            >
                {{ channel.name }}
            </button>
            <span v-if="isFolded" class="count hint">{{ members }}</span>
            <button
                v-if="notes.length > 0"
                class="noted plain"
                :class="{ severe: notes.some((note) => note.severity === 'severe') }"
                :aria-label="`${notes.length} pilot ${notes.length === 1 ? 'note' : 'notes'} on ${channel.name}`"
                :title="notes.map((note) => note.text).join('\n')"
                @click.stop="pilot.isShown = true"
            >
                {{ notes.length }}
            </button>
            <button
                v-if="channel.automation?.length"
                class="rides plain"
                :aria-label="`Automation of ${channel.name}`"
                :aria-expanded="screen.lanes[id] !== undefined"
                :title="`Automated: ${channel.automation.length} ${channel.automation.length === 1 ? 'lane' : 'lanes'}. Press to see`"
                @click.stop="screen.toggleLane(id)"
            >
                ∿
            </button>
            <span
                v-if="comb"
                class="comb"
                :title="`Not lined up: ${Math.abs(comb.samples)} samples ${comb.samples > 0 ? 'late' : 'early'} at ${comb.where}. Equal sound cancels at ${Math.round(comb.notch)} Hz first.`"
                >⋎ {{ comb.notch >= 1000 ? `${(comb.notch / 1000).toFixed(1)}k` : Math.round(comb.notch) }}</span
            >
        </span>
        <span class="switches">
            <button
                class="switch"
                :class="{ on: channel.mute }"
                :aria-pressed="channel.mute"
                :aria-label="`Mute ${channel.name}`"
                title="Mute (M)"
                @click.stop="toggle('mute')"
            >
                M
            </button>
            <button
                v-if="channel.kind !== 'cue'"
                class="switch solo"
                :class="{ on: channel.solo }"
                :aria-pressed="channel.solo"
                :aria-label="`Solo ${channel.name}`"
                title="Solo (S)"
                @click.stop="toggle('solo')"
            >
                S
            </button>
        </span>
        <span class="cell">
            <PathLine :tap="`${id}:source`" :wide="channel.width === 'stereo'" :silent="!hasSource" />
            <input
                v-if="trimText !== null"
                ref="trimField"
                v-model="trimText"
                class="trim figure"
                :aria-label="`Trim of ${channel.name}, exact`"
                @keydown.enter.stop="trimTyped"
                @keydown.escape.stop="trimText = null"
                @keydown.stop
                @blur="trimText = null"
                @click.stop
            />
            <button
                v-else
                class="trim plain figure"
                :class="{ inverted: channel.trim.invert }"
                :aria-label="`Trim of ${channel.name} ${decibels(channel.trim.gain)} dB${channel.trim.invert ? ', polarity inverted' : ''}`"
                :title="`Trim ${decibels(channel.trim.gain)} dB${channel.trim.invert ? ', polarity inverted' : ''}: wheel or arrows move it, press to type`"
                @click.stop="typeTrim"
                @keydown="trimKey"
                @wheel.prevent="trimWheel"
            >
                <span v-if="channel.trim.invert" aria-hidden="true">ø</span>{{ decibels(channel.trim.gain) }}
            </button>
        </span>
        <span class="cell">
            <PathLine :tap="`${id}:source`" :wide="channel.width === 'stereo'" />
            <TapStation :tap="`${id}:source`" :name="`${channel.name}, source`" />
        </span>
        <InsertRow
            class="line-row"
            :channel="channel"
            row="inserts"
            :inserts="channel.inserts"
            :start="`${id}:source`"
            :wide="channel.width === 'stereo'"
        />
        <span class="cell">
            <PathLine :tap="lastBeforeFader" :wide="isWideAtFader" />
            <TapStation :tap="lastBeforeFader" :name="`${channel.name}, before the fader`" />
        </span>
        <span class="cell fader">
            <LyingSlider
                :model-value="fader"
                :min="-60"
                :max="12"
                :default="0"
                :step="0.5"
                :fine="0.1"
                scale="fader"
                :label="`Fader of ${channel.name}`"
                :text="`${decibels(fader)} dB`"
                :dim="!isAudible"
                @change="setFader"
            >
                <template #default="{ value }">{{ decibels(value, true) }}</template>
            </LyingSlider>
        </span>
        <span class="cell pan">
            <LyingSlider
                :model-value="Math.round(channel.pan * 100)"
                :min="-100"
                :max="100"
                :default="0"
                :step="5"
                :fine="1"
                centred
                dim
                :label="`Pan of ${channel.name}`"
                :text="panText(channel.pan)"
                @change="setPan"
            >
                <template #default="{ value }">{{ panText((value ?? 0) / 100) }}</template>
            </LyingSlider>
        </span>
        <InsertRow
            v-if="channel.postInserts.length > 0"
            class="line-row post"
            :channel="channel"
            row="postInserts"
            :inserts="channel.postInserts"
            :start="`${id}:pre-fader`"
            wide
            :silent="!isAudible"
        />
        <span class="cell last" :class="{ bare: channel.postInserts.length === 0 }">
            <PathLine :tap="`${id}:post-fader`" :wide="true" :silent="!isAudible" />
            <TapStation
                :tap="`${id}:post-fader`"
                :name="`${channel.name}, after the fader`"
                :fixed-point="endsAtInterface && channel.output !== 'none'"
            />
        </span>
        <SendLines class="sends" :channel="channel" />
        <span class="output" :class="{ figure: endsAtInterface }">
            <span class="shown" aria-hidden="true">{{ endsAtInterface ? output : `→ ${output}` }}</span>
            <select
                :value="channel.output"
                :aria-label="`Output of ${channel.name}`"
                :title="`Output: ${output}`"
                @change="setOutput(($event.target as HTMLSelectElement).value)"
                @click.stop
                @keydown.stop
            >
                <template v-if="endsAtInterface">
                    <option v-for="pair in session.state?.outputPairs" :key="pair" :value="pair">
                        {{ pair.replace(':', ' ').replace('-', '–') }}
                    </option>
                </template>
                <template v-else>
                    <option v-for="target in targets" :key="target.id" :value="target.id" :disabled="target.isLoop">
                        {{ target.name }}{{ target.isLoop ? ' (would loop)' : '' }}
                    </option>
                </template>
                <option value="none">nowhere</option>
            </select>
        </span>
    </div>
</template>

<style scoped>
.path {
    --line-height: 50px;
    --ground: var(--paper);

    display: grid;
    grid-template-columns: 102px 44px 45px 38px minmax(110px, 1fr) 38px 78px 44px auto 40px 94px 60px;
    align-items: start;
    min-height: 50px;
    padding: 0 10px 0 16px;
    transition: opacity 120ms;
}

@media (max-width: 1180px) {
    .path {
        grid-template-columns: 90px 44px 44px 36px minmax(110px, 1fr) 36px 58px 40px auto 38px 84px 54px;
        padding-left: 10px;
    }
}

.path.aside {
    opacity: 0.25;
}

.path.hidden .name {
    font-style: italic;
}

.heading {
    display: flex;
    align-items: center;
    gap: 4px;
    min-width: 0;
    height: 50px;
    padding: 8px 5px 0 0;
}

.fold {
    flex: none;
    width: 14px;
    color: var(--soft);
}

.noted {
    flex: none;
    width: 16px;
    height: 16px;
    border-radius: 8px 8px 8px 2px;
    background: var(--brass);
    color: var(--paper);
    font-size: 12px;
    font-weight: 600;
    line-height: 16px;
    text-align: center;
}

.noted.severe {
    border-radius: 2px;
    background: var(--buoy);
}

.rides {
    flex: none;
    color: var(--deep);
    font-weight: 600;
}

.comb {
    flex: none;
    font-size: 12px;
    color: var(--brass-text);
}

.path.selected {
    --ground: var(--shoal-wash);

    background: var(--ground);
}

.path.over {
    outline: 2px dashed var(--deep);
    outline-offset: -3px;
}

.name {
    overflow: hidden;
    font-weight: 600;
    text-overflow: ellipsis;
    white-space: nowrap;
}

.cue .name {
    color: var(--plum);
}

.silent .name {
    color: var(--soft);
}

.switches {
    display: flex;
    gap: 3px;
    align-items: center;
    height: 50px;
    padding-top: 8px;
}

.switch {
    width: 20px;
    height: 20px;
    padding: 0;
    border: 1px solid var(--contour);
    border-radius: 50%;
    background: var(--sheet);
    font-size: 12px;
    line-height: 1;
}

.switch.on {
    background: var(--ink);
    border-color: var(--ink);
    color: var(--paper);
}

.switch.solo.on {
    background: var(--brass);
    border-color: var(--brass);
    color: var(--paper);
}

.cell {
    position: relative;
    height: 50px;
}

.line-row {
    padding-top: 8px;
    overflow: auto hidden;
    scrollbar-width: thin;
}

.trim {
    position: relative;
    top: calc(50% - 6px);
    width: 44px;
    height: 21px;
    padding: 0 4px;
    border: 1px solid var(--contour);
    border-radius: 3px;
    background: var(--sheet);
    font-size: 12px;
    text-align: right;
    white-space: nowrap;
}

.trim.inverted {
    border-color: var(--brass);
}

.fader :deep(.slider),
.pan :deep(.slider) {
    display: block;
    height: 100%;
    padding: 0 4px;
}

.fader :deep(.bar),
.pan :deep(.bar) {
    position: absolute;
    left: 8px;
    right: 8px;
    top: calc(50% - 6px);
    min-width: 0;
}

.fader :deep(.rail),
.fader :deep(.filled) {
    top: 7px;
    height: 6px;
    border-radius: 3px;
}

.fader :deep(.filled) {
    background: var(--water);
}

.fader :deep(.knob) {
    top: 2px;
    width: 16px;
    height: 16px;
    margin-left: -8px;
    border-color: var(--ink);
}

.pan :deep(.knob) {
    top: 5px;
    width: 10px;
    height: 10px;
    margin-left: -5px;
    border-color: var(--soft);
}

.pan :deep(.rail),
.pan :deep(.filled) {
    top: 9px;
    height: 2px;
}

.fader :deep(.text),
.pan :deep(.text),
.fader :deep(.entry),
.pan :deep(.entry) {
    position: absolute;
    top: 1px;
    right: 8px;
    width: 52px;
    font-size: 12px;
}

.pan :deep(.text),
.pan :deep(.entry) {
    right: 0;
    left: 0;
    width: auto;
    text-align: center;
}

.post {
    max-width: 200px;
}

.last.bare {
    grid-column: 9 / span 2;
    justify-self: stretch;
}

.sends {
    min-width: 0;
}

.output {
    position: relative;
    height: 50px;
    padding: 8px 0 0 4px;
    line-height: 42px;
    color: var(--soft);
}

.shown {
    display: block;
    overflow: hidden;
    text-overflow: ellipsis;
    white-space: nowrap;
}

.output select {
    position: absolute;
    inset: 8px 0 0;
    width: 100%;
    opacity: 0;
    cursor: pointer;
}

.output:focus-within .shown {
    outline: 2px solid var(--deep);
    outline-offset: -8px;
    border-radius: 10px;
}

.output:hover .shown {
    color: var(--ink);
    text-decoration: underline dotted;
    text-underline-offset: 3px;
}
</style>
