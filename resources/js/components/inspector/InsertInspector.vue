<script setup lang="ts">
import { computed } from 'vue';
import { api } from '@/api/client';
import type { ProcessorInsert } from '@/api/types';
import { useBandListening } from '@/composables/useBandListening';
import { useMetered } from '@/composables/useMetered';
import { useInsertValues } from '@/composables/useInsertValues';
import { useProcessorPicture } from '@/composables/useProcessorPicture';
import { decibels } from '@/format';
import type { InsertLocation } from '@/inserts';
import { useFinder } from '@/stores/finder';
import { useListening } from '@/stores/listening';
import { tell, tellRefusal } from '@/stores/notices';
import { usePilot } from '@/stores/pilot';
import { useSelection } from '@/stores/selection';
import { newGesture } from '@/gesture';
import { useSession } from '@/stores/session';
import NotesSource from './NotesSource.vue';
import SidechainSource from './SidechainSource.vue';
import AdviceList from './AdviceList.vue';
import InsertMix from './InsertMix.vue';
import OrderStrip from '@/components/paths/OrderStrip.vue';
import ParameterControl from '@/components/controls/ParameterControl.vue';
import PresetMenu from './PresetMenu.vue';
import ProcessorPicture from './ProcessorPicture.vue';

const props = defineProps<{ location: InsertLocation; insert: ProcessorInsert }>();

const session = useSession();
const listening = useListening();
const finder = useFinder();
const selection = useSelection();
const pilot = usePilot();

const { spec, group, groups, shown, values, value, set, change, setHeld, focusGroup } = useInsertValues(
    () => props.insert,
);
const picture = useProcessorPicture(
    () => props.insert.processor,
    () => values.value,
);
const { band, isHeard, watched, range, toggle } = useBandListening(
    () => props.insert.id,
    () => shown.value,
    () => picture.value?.reading === 'response',
);
const channel = computed(() => props.location.channel);
const row = computed(() => props.location.row);
const before = computed(() => {
    const earlier = props.location.neighbours[props.location.index - 1];
    const start = props.location.split
        ? `into:${props.location.split.id}`
        : row.value === 'inserts'
          ? 'source'
          : 'pre-fader';
    return `${channel.value.id}:${earlier ? `insert:${earlier.id}` : start}`;
});
const after = computed(() => `${channel.value.id}:insert:${props.insert.id}`);
const selected = computed(() => selection.inserts.length);
useMetered(() => [channel.value.id]);
const levelIn = computed(() => listening.level(before.value));
const levelOut = computed(() => listening.level(after.value));
const load = computed(() => listening.loads[after.value]);
const isCompared = computed(() => listening.compare?.kind === 'insert' && listening.compare.id === props.insert.id);
const activeSide = computed(() => (props.insert.other ? 3 - props.insert.other.side : 1));
const isOtherCompared = computed(
    () => listening.compare?.kind === 'setting' && listening.compare.id === props.insert.id,
);
const advice = computed(() => pilot.of(channel.value.id).filter((one) => one.part === props.insert.id));

/** Hears the other setting against this one, at the same level. */
function compareOther(): void {
    const other = props.insert.other;
    listening.startCompare(
        other && !isOtherCompared.value
            ? { kind: 'setting', id: props.insert.id, parameters: other.parameters, label: `setting ${other.side}` }
            : null,
    );
}

const latency = computed(() => session.state?.inserts[props.insert.id]?.latency ?? 0);
const latencyText = computed(() =>
    latency.value === 0
        ? 'no latency'
        : `${((latency.value / (session.document?.sampleRate ?? 48000)) * 1000).toFixed(1)} ms late`,
);

/** Sets key and scale to what the channel's recordings are most likely in. */
async function estimateKey(): Promise<void> {
    try {
        const found = await api.get<{ key: string | null; scale?: string; lead?: number }>(
            `sessions/${session.state?.id}/channels/${channel.value.id}/musical-key`,
        );
        if (found.key === null || !found.scale) {
            tell('There is nothing on this channel a key could be found in.');
            return;
        }
        const gesture = newGesture();
        set('key', found.key, gesture);
        set('scale', found.scale, gesture);
        tell(
            (found.lead ?? 0) < 0.05
                ? 'The key is a close call: listen before you trust it.'
                : 'Key found in the recordings.',
        );
    } catch (error) {
        tellRefusal(error);
    }
}

function remove(): void {
    void session.edit({ type: 'remove-inserts', inserts: selection.takeInserts() });
}
</script>

<template>
    <div v-if="spec" class="inspector" :data-inspecting="insert.id">
        <header>
            <h2>{{ spec.name }}</h2>
            <span class="soft"
                >{{ channel.name }}{{ location.branch ? `, ${location.branch.name}` : '' }} ·
                {{ location.index + 1 }} of {{ location.neighbours.length
                }}{{ row === 'postInserts' ? ', after the fader' : '' }}</span
            >
        </header>
        <PresetMenu :insert="insert" :spec="spec" />
        <div class="actions">
            <button
                class="text-button"
                @click="session.edit({ type: 'set-insert-on', inserts: [insert.id], on: !insert.on })"
            >
                {{ insert.on ? 'Bypass' : 'Switch on' }}
            </button>
            <button class="text-button" @click="finder.openToReplace(insert.id)">Replace</button>
            <button
                class="text-button"
                :title="'The plain sound goes on beside it, in a branch of its own (W)'"
                @click="session.edit({ type: 'wrap-in-branch', inserts: [...selection.inserts] })"
            >
                {{ selected > 1 ? `Branch for ${selected}` : 'Branch' }}
            </button>
            <button class="text-button" @click="remove">Remove</button>
        </div>
        <ProcessorPicture
            v-if="picture"
            :picture="picture"
            :level-in="listening.isPlaying ? (levelIn?.peak ?? null) : null"
            :reduction="levelOut?.reduction ?? 0"
            :watched="watched"
            @set="setHeld"
            @focus="focusGroup"
        />
        <div v-if="groups.length > 1" class="groups" role="tablist" aria-label="Bands">
            <button
                v-for="name in groups"
                :key="name"
                class="plain"
                role="tab"
                :aria-selected="name === group"
                :class="{ on: name === group }"
                @click="group = name"
            >
                {{ name || 'General' }}
            </button>
        </div>
        <ParameterControl
            v-for="parameter in shown"
            :key="parameter.id"
            :spec="parameter"
            :value="value(parameter)"
            :locked="insert.locked?.includes(parameter.id) ?? false"
            :reach="session.state?.macros[location.channel.id]?.[`parameter:${insert.id}:${parameter.id}`]?.reach"
            @lock="(locked) => session.edit({ type: 'set-locked', insert: insert.id, parameter: parameter.id, locked })"
            @change="(next, gesture) => change(parameter, next, gesture)"
        />
        <p v-if="range" class="hint" data-band-range>
            In this band {{ decibels(range.quiet) }} to {{ decibels(range.loud) }} dBFS comes in: a range of
            {{ (range.loud - range.quiet).toFixed(1) }} dB
        </p>
        <button v-if="band" class="text-button" :aria-pressed="isHeard" data-band-listen @click="toggle">
            {{ isHeard ? 'Listening to this band alone: end' : 'Listen to this band alone' }}
        </button>
        <button v-if="insert.processor === 'pitch-correction'" class="text-button" @click="estimateKey">
            Find the key in the recordings
        </button>
        <NotesSource v-if="spec.followsNotes" :insert="insert" />
        <SidechainSource v-if="spec.takesSidechain" :channel="channel" :insert="insert" />
        <InsertMix :insert="insert" :usual="session.state?.inserts[insert.id]?.usualMix" />
        <AdviceList :advice="advice" />
        <OrderStrip :neighbours="location.neighbours" :insert="insert.id" />
        <p v-if="spec.levelDependent" class="about">Level-dependent: it sounds different when fed louder or softer.</p>
        <dl>
            <dt>in</dt>
            <dd class="figure">{{ levelIn ? decibels(levelIn.peak) : '·' }}</dd>
            <dt>out</dt>
            <dd class="figure">{{ levelOut ? decibels(levelOut.peak) : '·' }}</dd>
            <dt v-if="(levelOut?.reduction ?? 0) > 0.05">reduction</dt>
            <dd v-if="(levelOut?.reduction ?? 0) > 0.05" class="figure">
                {{ decibels(-(levelOut?.reduction ?? 0)) }} dB
            </dd>
            <dd class="soft cost">
                {{ latencyText
                }}<template v-if="load !== undefined"> · {{ (load * 100).toFixed(1) }} % of a core</template>
            </dd>
        </dl>
        <div class="settings" role="group" aria-label="Settings">
            <span>Setting</span>
            <button
                v-for="side in [1, 2]"
                :key="side"
                class="pill"
                :class="{ on: activeSide === side }"
                :aria-pressed="activeSide === side"
                :aria-label="`Setting ${side}`"
                :data-setting="side"
                @click="activeSide !== side && session.edit({ type: 'swap-settings', insert: insert.id })"
            >
                {{ side }}
            </button>
            <template v-if="insert.other">
                <button class="plain" :class="{ on: isOtherCompared }" @click="compareOther">compare</button>
                <button class="plain" @click="session.edit({ type: 'drop-other-setting', insert: insert.id })">
                    keep this one
                </button>
            </template>
            <span v-else class="hint">2 starts as a copy</span>
        </div>
        <button
            class="pill compare"
            :class="{ on: isCompared }"
            :aria-pressed="isCompared"
            @click="listening.startCompare(isCompared ? null : { kind: 'insert', id: insert.id })"
        >
            {{ isCompared ? 'Comparing with bypass: 1 and 2 switch' : 'Compare with bypass' }}
        </button>
    </div>
</template>

<style scoped>
.actions {
    display: flex;
    flex-wrap: wrap;
    white-space: nowrap;
    align-items: center;
    gap: 2px;
    margin: 2px -8px 8px;
}

.groups {
    display: flex;
    flex-wrap: wrap;
    gap: 2px 10px;
    margin-top: 8px;
    border-bottom: 1px solid var(--contour);
}

.groups button {
    padding: 3px 0;
    color: var(--soft);
}

.groups button.on {
    color: var(--ink);
    font-weight: 500;
    box-shadow: inset 0 -2px 0 var(--deep);
}

.parameter:first-of-type {
    margin-top: 8px;
}

dl {
    display: flex;
    flex-wrap: wrap;
    gap: 4px 6px;
    margin: 10px 0;
}

dt {
    color: var(--soft);
}

dd {
    margin: 0 6px 0 0;
    font-weight: 500;
}

.cost {
    margin-left: auto;
    font-weight: 400;
}

.settings {
    display: flex;
    gap: 6px;
    align-items: baseline;
    margin-bottom: 8px;
}

.settings .pill {
    padding: 2px 12px;
}

.settings .plain {
    color: var(--soft);
}

.settings .plain.on {
    color: var(--deep);
    font-weight: 500;
}

.compare {
    width: 100%;
}
</style>
