<script setup lang="ts">
import { computed } from 'vue';
import type { Branch, Channel, RowName, Split } from '@/api/types';
import { askName } from '@/askName';
import { useMetered } from '@/composables/useMetered';
import { decibels } from '@/format';
import { useCatalogue } from '@/stores/catalogue';
import { rules } from '@/rules';
import { useFinder } from '@/stores/finder';
import { useListening } from '@/stores/listening';
import { tell, tellRefusal } from '@/stores/notices';
import { useSelection } from '@/stores/selection';
import { useSession } from '@/stores/session';
import LetterSwitch from '@/components/controls/LetterSwitch.vue';
import FaderSlider from '@/components/controls/FaderSlider.vue';
import LyingSlider from '@/components/controls/LyingSlider.vue';
import PanSlider from '@/components/controls/PanSlider.vue';
import ActionMenu from '@/components/controls/ActionMenu.vue';
import MacrosSection from './MacrosSection.vue';
import SelectorSection from './SelectorSection.vue';
import ZonesSection from './ZonesSection.vue';

/** A split: what its branches get, each with its level, and what they add up to. */
const props = defineProps<{ channel: Channel; row: RowName; split: Split }>();

const session = useSession();
const listening = useListening();
const selection = useSelection();
const finder = useFinder();
const catalogue = useCatalogue();

const title = computed(
    () =>
        ({
            copies: 'Split',
            frequency: 'Split by frequency',
            'left-right': 'Left and right',
            'mid-side': 'Mid and side',
        })[props.split.by],
);
const facts = computed(() => session.state?.inserts[props.split.id]);
const rise = computed(() => facts.value?.rise ?? null);
const heard = computed(() => facts.value?.heard?.length ?? props.split.branches.length);
const comb = computed(() => session.state?.combs.find((entry) => entry.split === props.split.id));
const most = computed(() => rules().splits[props.split.by].most);
const fewest = computed(() => rules().splits[props.split.by].fewest);
const latency = computed(() => {
    const samples = facts.value?.latency ?? 0;
    return samples === 0
        ? 'no latency'
        : `${((samples / (session.document?.sampleRate ?? 48000)) * 1000).toFixed(1)} ms late${props.channel.aligned ? ', branches lined up' : ''}`;
});
const isCompared = computed(() => listening.compare?.kind === 'insert' && listening.compare.id === props.split.id);
useMetered(() => [props.channel.id]);
const into = computed(() => `${props.channel.id}:into:${props.split.id}`);
const after = computed(() => `${props.channel.id}:insert:${props.split.id}`);

function tapOf(branch: Branch): string {
    return `${props.channel.id}:branch:${branch.id}`;
}

function listen(tap: string): void {
    listening.listenAt(listening.listeningAt === tap ? null : tap);
}

function rename(branch: Branch, event: Event): void {
    const name = (event.target as HTMLInputElement).value.trim();
    if (name !== '' && name !== branch.name) {
        void session.edit({ type: 'rename-branch', branch: branch.id, name });
    }
}

function setCrossover(index: number, frequency: number | null, gesture: string): void {
    if (frequency === null) {
        return;
    }
    void session.edit({ type: 'move-crossover', split: props.split.id, index, frequency }, gesture);
}

function hertz(value: number | null): string {
    return value === null ? '' : value >= 1000 ? `${(value / 1000).toFixed(2)} kHz` : `${Math.round(value)} Hz`;
}

async function save(): Promise<void> {
    const name = await askName('Save split', 'Save', 'split; the finder (/) lists it');
    if (!name) {
        return;
    }
    try {
        await catalogue.saveSplit(name, props.split, props.channel);
        tell(`“${name}” is in the finder.`);
    } catch (error) {
        tellRefusal(error);
    }
}

function remove(): void {
    selection.insert = null;
    void session.edit({ type: 'remove-inserts', inserts: [props.split.id] });
}

function dissolve(keep: string): void {
    selection.insert = null;
    void session.edit({ type: 'dissolve-split', split: props.split.id, keep });
}
</script>

<template>
    <div class="inspector" :data-inspecting="split.id">
        <header>
            <h2>{{ title }}</h2>
            <span class="soft">{{ channel.name }}{{ row === 'postInserts' ? ', after the fader' : '' }}</span>
        </header>
        <div class="actions">
            <button
                class="text-button"
                @click="session.edit({ type: 'set-insert-on', inserts: [split.id], on: !split.on })"
            >
                {{ split.on ? 'Bypass' : 'Switch on' }}
            </button>
            <ActionMenu
                name="Dissolve"
                about="Takes the split apart and keeps one branch"
                :items="split.branches.map(({ id, name }) => ({ key: id, name: `Keep ${name}`, value: id }))"
                @choose="dissolve"
            />
            <button class="text-button" title="Keep it under a name, for any row" @click="save">Save …</button>
            <button class="text-button" @click="remove">Remove</button>
        </div>

        <p v-if="facts?.equal && rise !== null && Math.abs(rise) > 0.05" class="about" data-rise>
            <strong>{{ heard }} equal branches add {{ rise.toFixed(2).replace('-', '−') }} dB.</strong>
            <button class="plain fix" @click="session.edit({ type: 'keep-level', split: split.id })">
                Keep the level
            </button>
        </p>
        <p v-else-if="split.by === 'copies' && rise !== null && heard > 1 && rise > 0.05" class="hint">
            Where the branches carry the same, they add up to {{ decibels(rise, true) }} dB.
            <button class="plain fix" @click="session.edit({ type: 'keep-level', split: split.id })">
                Keep the level
            </button>
        </p>
        <p v-if="comb" class="about">
            Branches are not lined up: {{ comb.samples }} samples apart, equal sound cancels first at
            <span class="figure">{{ Math.round(comb.notch) }} Hz</span>.
            <button
                class="plain fix"
                @click="session.edit({ type: 'set-aligned', channels: [channel.id], aligned: true })"
            >
                Line up
            </button>
        </p>

        <div v-for="(crossover, index) in split.crossovers" :key="index" class="setting">
            <span>Crossover{{ split.crossovers.length > 1 ? ` ${index + 1}` : '' }}</span>
            <LyingSlider
                :model-value="crossover"
                :min="20"
                :max="20000"
                :default="[400, 2500, 6000][index] ?? 1000"
                :step="1"
                scale="logarithmic"
                :label="`Crossover ${index + 1}`"
                :text="hertz(crossover)"
                @change="(value, gesture) => setCrossover(index, value, gesture)"
            >
                <template #default="{ value }">{{ hertz(value) }}</template>
            </LyingSlider>
        </div>

        <MacrosSection :channel="channel" :within="split" />
        <SelectorSection :channel="channel" :split="split" />
        <ZonesSection v-if="facts?.notes" :channel="channel.id" :split="split" />

        <section v-for="branch in split.branches" :key="branch.id" class="branch" :data-branch-settings="branch.id">
            <div class="head">
                <input
                    class="title"
                    :value="branch.name"
                    aria-label="Name of the branch"
                    @keydown.enter="($event.target as HTMLInputElement).blur()"
                    @keydown.stop
                    @blur="rename(branch, $event)"
                />
                <span class="figure level">{{ decibels(listening.level(tapOf(branch))?.peak, true) }}</span>
                <LetterSwitch
                    class="small"
                    :is-on="branch.mute"
                    :label="`Mute ${branch.name}`"
                    @click="session.edit({ type: 'set-branch-mute', branches: [branch.id], mute: !branch.mute })"
                    >M</LetterSwitch
                >
                <LetterSwitch
                    class="small"
                    :is-on="branch.solo"
                    :label="`Solo ${branch.name}`"
                    @click="session.edit({ type: 'set-branch-solo', branches: [branch.id], solo: !branch.solo })"
                    >S</LetterSwitch
                >
                <LetterSwitch
                    class="small"
                    :is-on="branch.invert"
                    :label="`Polarity of ${branch.name}`"
                    title="Polarity"
                    @click="
                        session.edit({ type: 'set-branch-polarity', branches: [branch.id], invert: !branch.invert })
                    "
                    >ø</LetterSwitch
                >
            </div>
            <div class="setting">
                <span>Level</span>
                <FaderSlider
                    :gain="branch.gain"
                    :label="`Level of ${branch.name}`"
                    @change="
                        (gain, gesture) =>
                            session.edit({ type: 'set-branch-gain', branches: [branch.id], gain }, gesture)
                    "
                />
            </div>
            <div class="setting">
                <span>Pan</span>
                <PanSlider
                    :pan="branch.pan"
                    :label="`Pan of ${branch.name}`"
                    @change="
                        (pan, gesture) => session.edit({ type: 'set-branch-pan', branches: [branch.id], pan }, gesture)
                    "
                />
            </div>
            <div class="actions">
                <button class="text-button" @click="finder.openFor(channel.id, row, branch.inserts.length, branch.id)">
                    Add effect
                </button>
                <button
                    class="text-button"
                    :aria-pressed="listening.listeningAt === tapOf(branch)"
                    @click="listen(tapOf(branch))"
                >
                    {{ listening.listeningAt === tapOf(branch) ? 'Back to Main' : 'Listen' }}
                </button>
                <button
                    class="text-button"
                    title="A channel of its own that sounds the same"
                    @click="session.edit({ type: 'pull-out-branch', branch: branch.id })"
                >
                    Pull out
                </button>
                <button
                    class="text-button"
                    :disabled="split.branches.length <= fewest"
                    @click="session.edit({ type: 'remove-branch', branch: branch.id })"
                >
                    Remove
                </button>
            </div>
        </section>
        <button
            class="pill wide"
            :disabled="split.branches.length >= most"
            @click="session.edit({ type: 'add-branch', split: split.id })"
        >
            {{ split.by === 'frequency' ? 'Add a band' : 'Add a branch' }}
        </button>
        <div class="ears">
            <button class="pill" :class="{ on: listening.listeningAt === into }" @click="listen(into)">
                Listen before
            </button>
            <button class="pill" :class="{ on: listening.listeningAt === after }" @click="listen(after)">
                Listen after
            </button>
        </div>
        <button
            class="pill wide compare"
            :class="{ on: isCompared }"
            :aria-pressed="isCompared"
            @click="listening.startCompare(isCompared ? null : { kind: 'insert', id: split.id })"
        >
            {{ isCompared ? 'Comparing with bypass: 1 and 2 switch' : 'Compare with bypass' }}
        </button>
        <p class="hint">
            in <span class="figure">{{ decibels(listening.level(into)?.peak) }}</span> · out
            <span class="figure">{{ decibels(listening.level(after)?.peak) }}</span> · {{ latency }}
        </p>
    </div>
</template>

<style scoped>
.actions {
    display: flex;
    flex-wrap: wrap;
    align-items: center;
    margin: 0 -8px 4px;
}

.branch {
    margin-top: 10px;
    border-top: 1px solid var(--contour);
    padding-top: 6px;
}

.branch .setting {
    grid-template-columns: 48px 1fr;
    min-height: 26px;
}

.branch .actions .text-button {
    color: var(--soft);
    white-space: nowrap;
    padding: 2px 8px;
}

.head {
    display: flex;
    align-items: center;
    gap: 4px;
}

.title {
    flex: 1;
    min-width: 0;
    margin-left: -5px;
    padding: 1px 4px;
    border: 1px solid transparent;
    border-radius: 4px;
    background: none;
    font-weight: 600;
}

.title:hover,
.title:focus {
    border-color: var(--contour);
}

.level {
    margin-right: 6px;
    font-size: 12px;
}

.small {
    width: 21px;
    height: 21px;
}

.wide {
    width: 100%;
    margin: 10px 0;
}

.ears {
    display: flex;
    gap: 6px;
    margin-bottom: 6px;
}

.ears .pill {
    flex: 1;
}
</style>
