<script setup lang="ts">
import { useIntersectionObserver } from '@vueuse/core';
import { computed, onScopeDispose, ref, useTemplateRef, watchEffect } from 'vue';
import type { Channel } from '@/api/types';
import { laneFaderAt, laneOf } from '@/automation';
import { setSilence } from '@/moves';
import { useMetered } from '@/composables/useMetered';
import { useHardware } from '@/stores/hardware';
import { useImports } from '@/stores/imports';
import { useListening } from '@/stores/listening';
import { useScreen } from '@/stores/screen';
import { useSelection } from '@/stores/selection';
import { useSession } from '@/stores/session';
import { useSurvey } from '@/stores/survey';
import ChannelHeading from './ChannelHeading.vue';
import InsertRow from './InsertRow.vue';
import FaderSlider from '@/components/controls/FaderSlider.vue';
import LetterSwitch from '@/components/controls/LetterSwitch.vue';
import PanSlider from '@/components/controls/PanSlider.vue';
import OutputMenu from '@/components/inspector/OutputMenu.vue';
import PathLine from './PathLine.vue';
import SendLines from './SendLines.vue';
import TapStation from './TapStation.vue';
import TrimField from '@/components/controls/TrimField.vue';

/** One channel as a path from left to right; compact, everything stands on one line. */
const props = defineProps<{ channel: Channel; order: string[]; isCompact?: boolean }>();

const session = useSession();
const selection = useSelection();
const imports = useImports();
const listening = useListening();
const survey = useSurvey();
const hardware = useHardware();
const screen = useScreen();
const isOver = ref(false);
const row = useTemplateRef<HTMLElement>('row');
const isInSight = ref(true);
useIntersectionObserver(row, (entries) => (isInSight.value = entries.some((entry) => entry.isIntersecting)), {
    rootMargin: '60px',
});

const id = computed(() => props.channel.id);
const isSelected = computed(() => selection.channels.includes(id.value));
useMetered(() => (isInSight.value ? [id.value] : []));
watchEffect(() => survey.setInSight(id.value, isInSight.value));
onScopeDispose(() => survey.setInSight(id.value, false));
const isAudible = computed(() => session.state?.audible[id.value] ?? true);
const hasSource = computed(
    () =>
        !('clips' in props.channel.source) ||
        props.channel.source.clips.length > 0 ||
        hardware.heard.includes(id.value),
);
const sourceTap = computed(() => `${id.value}:source`);
const preFaderTap = computed(() => `${id.value}:pre-fader`);
const postFaderTap = computed(() => `${id.value}:post-fader`);
const endsAtInterface = computed(() => session.endsAtInterface(props.channel));

const faderLane = computed(() => laneOf(props.channel, 'fader'));
/** Where the fader stands: an automated one at the playhead. */
const fader = computed(() =>
    faderLane.value ? laneFaderAt(faderLane.value.points, listening.position) : props.channel.fader,
);

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

function setPan(pan: number, gesture: string): void {
    void session.edit({ type: 'set-pan', channels: selection.along(id.value), pan }, gesture);
}

function toggle(what: 'mute' | 'solo'): void {
    setSilence(what, selection.along(id.value), !props.channel[what]);
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
</script>

<template>
    <div
        ref="row"
        class="path"
        :class="{
            selected: isSelected,
            silent: !isAudible,
            over: isOver,
            aside: screen.isAside(id),
            cue: channel.kind === 'cue',
            hidden: channel.hidden,
            off: channel.off,
            compact: isCompact,
        }"
        :data-channel-row="id"
        @click="selection.selectChannel(id, $event, order)"
        @dragover.prevent="isOver = true"
        @dragleave="isOver = false"
        @drop.prevent.stop="dropFiles"
    >
        <ChannelHeading :channel="channel" :order="order" />
        <span class="switches">
            <LetterSwitch
                class="switch"
                :is-on="channel.mute"
                :label="`Mute ${channel.name}`"
                title="Mute (M)"
                @click.stop="toggle('mute')"
                >M</LetterSwitch
            >
            <LetterSwitch
                v-if="channel.kind !== 'cue'"
                class="switch solo"
                :is-on="channel.solo"
                :label="`Solo ${channel.name}`"
                title="Solo (S)"
                @click.stop="toggle('solo')"
                >S</LetterSwitch
            >
        </span>
        <span class="cell source">
            <PathLine :tap="sourceTap" :wide="session.isStereo(sourceTap)" :silent="!hasSource" />
            <svg
                v-if="hardware.inputOf(channel)"
                class="from-edge"
                :class="{ heard: hardware.heard.includes(id) }"
                viewBox="0 0 10 14"
                role="img"
                :aria-label="`Takes ${hardware.portName(hardware.inputOf(channel)?.input ?? '')}`"
            >
                <path d="M1 1l7 6-7 6" />
            </svg>
            <TapStation :tap="sourceTap" :name="`${channel.name}, source`" />
            <TrimField class="trim" :channel="channel" />
        </span>
        <InsertRow
            class="line-row"
            :channel="channel"
            row="inserts"
            :inserts="channel.inserts"
            :start="sourceTap"
            :is-compact="isCompact"
        />
        <span class="cell">
            <PathLine :tap="preFaderTap" :wide="session.isStereo(preFaderTap)" />
            <TapStation :tap="preFaderTap" :name="`${channel.name}, before the fader`" />
        </span>
        <span class="cell fader">
            <FaderSlider
                :gain="fader"
                :label="`Fader of ${channel.name}`"
                unit=""
                :dim="!isAudible"
                @change="setFader"
            />
        </span>
        <span class="cell pan">
            <PanSlider :pan="channel.pan" :label="`Pan of ${channel.name}`" centre="C" dim @change="setPan" />
        </span>
        <InsertRow
            v-if="channel.postInserts.length > 0"
            class="line-row post"
            :channel="channel"
            row="postInserts"
            :inserts="channel.postInserts"
            :start="preFaderTap"
            :silent="!isAudible"
            :is-compact="isCompact"
        />
        <span class="cell last" :class="{ bare: channel.postInserts.length === 0 }">
            <PathLine :tap="postFaderTap" :wide="session.isStereo(postFaderTap)" :silent="!isAudible" />
            <TapStation
                :tap="postFaderTap"
                :name="`${channel.name}, after the fader`"
                :fixed-point="endsAtInterface && channel.output !== 'none'"
            />
        </span>
        <SendLines :channel="channel" :is-compact="isCompact" />
        <OutputMenu :channel="channel" />
    </div>
</template>

<style scoped>
/* Every row has the same columns; those of names, sends and outputs are as wide as what stands in them. */
.path {
    --row-height: 50px;
    --axis: 29px;
    --ground: var(--paper);

    display: grid;
    grid-template-columns:
        var(--names, 96px) 22px 37px minmax(90px, 1fr) 34px minmax(58px, var(--fader, 58px)) minmax(
            32px,
            var(--pan, 32px)
        )
        auto 37px var(--sends, 104px) var(--outputs, 46px);
    align-items: start;
    min-height: var(--row-height);
    padding: 0 4px 2px 14px;
    transition: opacity 120ms;

    /* Rows that are scrolled away are not drawn while their figures move; what leans over the edge of a row still shows. */
    content-visibility: auto;
    contain-intrinsic-block-size: auto var(--row-height);
    overflow-clip-margin: 60px;
}

.path.compact {
    --row-height: 30px;
    --axis: 19px;

    padding-bottom: 0;
}

.path.aside {
    opacity: 0.25;
}

.path.off > :not(:first-child) {
    opacity: 0.45;
}

.path.off :deep(.heading .name) {
    text-decoration: line-through;
}

.path.hidden :deep(.name) {
    font-style: italic;
}

.path.selected {
    --ground: var(--shoal-wash);

    background: var(--ground);
}

.path.over {
    outline: 2px dashed var(--deep);
    outline-offset: -3px;
}

.cue :deep(.heading .name) {
    color: var(--plum);
}

.silent :deep(.heading .name) {
    color: var(--soft);
}

.switches {
    display: flex;
    flex-direction: column;
    gap: 1px;
    align-items: flex-start;
    justify-content: center;
    height: var(--row-height);
    padding-top: calc(2 * var(--axis) - var(--row-height));
}

.compact .switches {
    flex-direction: row;
    align-items: center;
    justify-content: flex-start;
    gap: 2px;
}

.switch.solo.on {
    background: var(--brass);
    border-color: var(--brass);
    color: var(--paper);
}

.cell {
    position: relative;
    height: var(--row-height);
}

.from-edge {
    position: absolute;
    top: calc(var(--axis) - 7px);
    left: -2px;
    width: 10px;
    height: 14px;
    fill: none;
    stroke: var(--soft);
    stroke-width: 1.6;
    pointer-events: none;
}

.from-edge.heard {
    stroke: var(--plum);
    stroke-width: 2.4;
}

.source .trim {
    position: absolute;
    bottom: -1px;
    left: 50%;
    margin-left: -20px;
}

/* Compact: the trim stands beside its source instead of below it. */
.compact {
    grid-template-columns:
        var(--names, 96px) 40px 70px minmax(90px, 1fr) 34px minmax(58px, var(--fader, 58px)) minmax(
            32px,
            var(--pan, 32px)
        )
        auto 37px calc(var(--sends, 104px) + 18px) var(--outputs, 46px);
}

.compact .source :deep(.station) {
    width: 36px;
    margin-left: 34px;
}

.compact .from-edge {
    left: 31px;
}

.compact .source .trim {
    top: 12px;
    bottom: auto;
    left: 0;
    margin: 0;
    width: 34px;
    background: var(--ground);
}

.line-row {
    padding-top: calc(var(--axis) - 21px);
    min-height: var(--row-height);
}

.compact .line-row {
    padding-top: calc(var(--axis) - 12px);
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
    left: 9px;
    right: 9px;
    top: calc(var(--axis) - 10px);
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

.compact .fader :deep(.knob) {
    top: 4px;
    width: 12px;
    height: 12px;
    margin-left: -6px;
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
    right: 6px;
    width: 52px;
    font-size: 12px;
}

.compact .fader :deep(.text),
.compact .pan :deep(.text) {
    top: -3px;
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
    grid-column: 8 / span 2;
    justify-self: stretch;
}
</style>
