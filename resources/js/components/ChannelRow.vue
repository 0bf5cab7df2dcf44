<script setup lang="ts">
import { computed, nextTick, ref } from 'vue';
import type { Channel } from '@/api/types';
import { decibels, parseNumber } from '@/format';
import { useCatalogue } from '@/stores/catalogue';
import { useImports } from '@/stores/imports';
import { useSelection } from '@/stores/selection';
import { newGesture, useSession } from '@/stores/session';
import InsertRow from './InsertRow.vue';
import LyingSlider from './LyingSlider.vue';
import PathLine from './PathLine.vue';
import TapStation from './TapStation.vue';

/** One channel as a path from left to right. */
const props = defineProps<{ channel: Channel; order: string[] }>();

const session = useSession();
const selection = useSelection();
const catalogue = useCatalogue();
const imports = useImports();
const isOver = ref(false);
const trimText = ref<string | null>(null);
const trimField = ref<HTMLInputElement>();

const id = computed(() => props.channel.id);
const isMain = computed(() => props.channel.kind === 'main');
const isSelected = computed(() => selection.channels.includes(id.value));
const isAudible = computed(() => session.state?.audible[id.value] ?? true);
const hasSource = computed(
    () => isMain.value || ('clips' in props.channel.source && props.channel.source.clips.length > 0),
);
const lastBeforeFader = computed(() => `${id.value}:pre-fader`);

/** After how many inserts of the row the sound has two sides. */
function wideFrom(row: 'inserts' | 'postInserts', already: boolean): number {
    if (already) {
        return 0;
    }
    const index = props.channel[row].findIndex(
        (insert) => catalogue.byId[insert.processor]?.widens && insert.on && insert.mix > 0,
    );
    return index < 0 || !props.channel.insertsOn ? Infinity : index + 1;
}
const wideInserts = computed(() => wideFrom('inserts', props.channel.width === 'stereo'));
const isWideAtFader = computed(() => wideInserts.value <= props.channel.inserts.length);

const output = computed(() => {
    if (isMain.value) {
        return props.channel.output.replace(':', ' ').replace('-', '–');
    }
    return props.channel.output === 'none'
        ? 'nowhere'
        : (session.channel(props.channel.output)?.name ?? props.channel.output);
});

function setFader(gain: number | null, gesture: string): void {
    const along = selection.along(id.value);
    if (along.length > 1 && gain !== null && props.channel.fader !== null) {
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
    return lastSent?.gesture === gesture ? lastSent.gain : (props.channel.fader ?? 0);
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
    if (files.length > 0 && !isMain.value) {
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
        :class="{ selected: isSelected, silent: !isAudible, over: isOver }"
        :data-channel-row="id"
        @click="selection.selectChannel(id, $event, order)"
        @dragover.prevent="isOver = true"
        @dragleave="isOver = false"
        @drop.prevent.stop="dropFiles"
    >
        <button class="name plain" :title="channel.name" @click.stop="selection.selectChannel(id, $event, order)">
            {{ channel.name }}
        </button>
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
        <InsertRow :channel="channel" row="inserts" :start="`${id}:source`" :wide-from="wideInserts" />
        <span class="cell">
            <PathLine :tap="lastBeforeFader" :wide="isWideAtFader" />
            <TapStation :tap="lastBeforeFader" :name="`${channel.name}, before the fader`" />
        </span>
        <span class="cell fader">
            <LyingSlider
                :model-value="channel.fader"
                :min="-60"
                :max="12"
                :default="0"
                :step="0.5"
                :fine="0.1"
                scale="fader"
                :label="`Fader of ${channel.name}`"
                :text="`${decibels(channel.fader)} dB`"
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
            class="post"
            :channel="channel"
            row="postInserts"
            :start="`${id}:pre-fader`"
            :wide-from="0"
            :silent="!isAudible"
        />
        <span class="cell last" :class="{ bare: channel.postInserts.length === 0 }">
            <PathLine :tap="`${id}:post-fader`" :wide="true" :silent="!isAudible" />
            <TapStation
                :tap="`${id}:post-fader`"
                :name="`${channel.name}, after the fader`"
                :fixed-point="isMain && channel.output !== 'none'"
            />
        </span>
        <span class="output" :class="{ figure: isMain }">{{ isMain ? output : `→ ${output}` }}</span>
    </div>
</template>

<style scoped>
.path {
    display: grid;
    grid-template-columns: 102px 46px 46px 42px minmax(110px, 1fr) 44px 96px 56px auto 48px 50px;
    align-items: center;
    height: 50px;
    padding: 0 12px 0 16px;
}

.path.selected {
    background: var(--shoal-wash);
}

.path.selected :deep(.mark),
.path.selected :deep(.add) {
    background-color: var(--shoal-wash);
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
    padding-top: 8px;
}

.silent .name {
    color: var(--soft);
}

.switches {
    display: flex;
    gap: 3px;
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
    height: 100%;
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

.output {
    padding-top: 8px;
    overflow: hidden;
    color: var(--soft);
    text-overflow: ellipsis;
    white-space: nowrap;
}
</style>
