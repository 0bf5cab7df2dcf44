<script setup lang="ts">
import { useMediaQuery } from '@vueuse/core';
import { computed, ref, watch } from 'vue';
import { filesOf } from '@/droppedFiles';
import { useImports } from '@/stores/imports';
import { useScreen } from '@/stores/screen';
import { useSelection } from '@/stores/selection';
import { useSession } from '@/stores/session';
import AutomationLane from '@/components/automation/AutomationLane.vue';
import NoteEditor from '@/components/notes/NoteEditor.vue';
import ChannelRow from '@/components/paths/ChannelRow.vue';
import PathTools from '@/components/paths/PathTools.vue';
import { useChipDrag } from '@/components/paths/chipDrag';
import { usePathColumns } from '@/composables/usePathColumns';
import { useRowDensity } from '@/composables/useRowDensity';

const session = useSession();
const selection = useSelection();
const imports = useImports();
const screen = useScreen();
const drag = useChipDrag();
const isOver = ref(false);
const density = useRowDensity();
const columns = usePathColumns(useMediaQuery('(min-width: 1500px)'));

const sections = computed(() =>
    [
        { name: 'Tracks', channels: session.tracks },
        { name: 'Groups', channels: session.groups },
        { name: 'Returns', channels: session.returns },
        { name: 'Cues', channels: session.cues },
        { name: 'Main', channels: session.main ? [session.main] : [] },
    ]
        .map((section) => ({ ...section, channels: section.channels.filter((channel) => screen.isShown(channel.id)) }))
        .filter((section) => section.channels.length > 0),
);
const order = computed(() => sections.value.flatMap((section) => section.channels.map((channel) => channel.id)));
const hidden = computed(() => session.channels.filter((channel) => channel.hidden));

async function dropFiles(event: DragEvent): Promise<void> {
    isOver.value = false;
    await imports.bring((await filesOf(event.dataTransfer)).files);
}

function pick(): void {
    document.getElementById('hafen-import')?.click();
}

async function add(kind: 'track' | 'note' | 'group' | 'return' | 'cue'): Promise<void> {
    const names = { track: 'Track', note: 'Notes', group: 'Group', return: 'Return', cue: 'Cue' };
    const count = session.channels.filter((channel) => channel.kind === kind).length;
    const known = new Set(session.channels.map((channel) => channel.id));
    await session.edit({ type: 'add-channel', kind, name: `${names[kind]} ${count + 1}`, width: 'stereo' });
    const added = session.channels.find((channel) => !known.has(channel.id));
    if (added) {
        selection.clear();
        selection.channels = [added.id];
        if (kind === 'note') {
            screen.toggleNotes(added.id);
        }
    }
}

watch(
    () => hidden.value.length,
    (count) => {
        if (count === 0) {
            screen.areHiddenShown = false;
        }
    },
);

function bringBack(channels: string[]): void {
    void session.edit({ type: 'set-hidden', channels, hidden: false });
}
</script>

<template>
    <main
        class="paths"
        :class="{ over: isOver }"
        :style="columns"
        aria-label="Paths"
        @click.self="selection.clear()"
        @dragover.prevent="isOver = true"
        @dragleave.self="isOver = false"
        @drop.prevent="dropFiles"
    >
        <section v-if="session.tracks.length === 0" class="empty">
            <h1>No tracks yet</h1>
            <p>Drop audio or MIDI files anywhere here, or choose them. Each becomes a track.</p>
            <button class="pill on" @click="pick">Import files</button>
            <button class="pill" @click="add('track')">Add an empty track</button>
        </section>
        <p v-for="entry in imports.running" :key="entry.name" class="importing hint">
            {{ entry.name }}: {{ entry.step }}
            <span class="figure">{{ entry.step === 'uploading' ? `${Math.round(entry.progress * 100)} %` : '…' }}</span>
        </p>
        <section v-for="section in sections" :key="section.name" :data-section="section.name">
            <h2>
                {{ section.name }}
                <PathTools v-if="section.name === sections[0]?.name" :order="order" />
                <button
                    v-if="section.name === sections[0]?.name && hidden.length > 0"
                    class="text-button"
                    :aria-pressed="screen.areHiddenShown"
                    @click="screen.areHiddenShown = !screen.areHiddenShown"
                >
                    {{ screen.areHiddenShown ? 'Hide again' : `${hidden.length} hidden` }}
                </button>
            </h2>
            <p
                v-if="section.name === sections[0]?.name && screen.areHiddenShown && hidden.length > 0"
                class="lost hint"
            >
                Hidden, and still heard:
                <button
                    v-for="channel in hidden"
                    :key="channel.id"
                    class="pill"
                    :title="`Show ${channel.name} again`"
                    @click="bringBack([channel.id])"
                >
                    {{ channel.name }}
                </button>
                <button class="text-button" @click="bringBack(hidden.map((channel) => channel.id))">Show all</button>
            </p>
            <template v-for="channel in section.channels" :key="channel.id">
                <ChannelRow :channel="channel" :order="order" :is-compact="density.isCompact.value" />
                <NoteEditor
                    v-if="channel.kind === 'note' && screen.openNotes.includes(channel.id)"
                    :channel="channel"
                />
                <AutomationLane
                    v-if="screen.lanes[channel.id]"
                    :channel="channel"
                    :target="screen.lanes[channel.id] ?? 'fader'"
                />
            </template>
        </section>
        <p v-if="sections.length === 0 && screen.wanted" class="adding">
            <PathTools :order="[]" /> No channel has “{{ screen.wanted }}” in its name.
        </p>
        <p v-else class="adding hint">
            Add a
            <button class="text-button" @click="add('track')">track</button>
            <button class="text-button" title="Notes for an instrument" @click="add('note')">note channel</button>
            <button class="text-button" @click="add('group')">group</button>
            <button class="text-button" @click="add('return')">return</button>
            <button class="text-button" @click="add('cue')">cue</button>
        </p>
        <div
            v-if="drag.state.value"
            class="ghost"
            :style="{ left: `${drag.state.value.x + 10}px`, top: `${drag.state.value.y + 8}px` }"
        >
            {{ drag.state.value.copy ? 'Copy: ' : '' }}{{ drag.state.value.label }}
        </div>
    </main>
</template>

<style scoped>
.paths {
    height: 100%;
    overflow: auto;
    padding-bottom: 24px;
    scrollbar-width: thin;
    scrollbar-color: var(--contour) transparent;
}

.paths.over {
    box-shadow: inset 0 0 0 3px var(--water);
}

section {
    min-width: 660px;
}

@media (min-width: 1500px) {
    .paths {
        --fader: 120px;
        --pan: 64px;
    }
}

h2 {
    display: flex;
    align-items: center;
    gap: 10px;
    margin: 0;
    padding: 4px 16px 0;
    font-size: 12px;
    font-weight: 400;
    color: var(--soft);
}

h2::after {
    flex: 1;
    height: 1px;
    background: var(--contour);
    content: '';
}

.empty {
    max-width: 520px;
    margin: 12vh auto 8vh;
    text-align: center;
}

.empty h1 {
    margin: 0 0 6px;
    font-size: 20px;
    font-weight: 600;
}

.empty .pill {
    margin: 8px 4px;
}

.adding {
    margin: 10px 16px 0;
}

.lost {
    display: flex;
    flex-wrap: wrap;
    align-items: center;
    gap: 4px 6px;
    margin: 2px 16px;
}

.lost .pill {
    padding: 1px 9px;
}

h2 .text-button {
    order: 2;
    padding: 0 6px;
    color: var(--brass-text);
}

.importing {
    margin: 0;
    padding: 6px 16px;
}

.ghost {
    position: fixed;
    z-index: 70;
    padding: 4px 10px;
    border: 1px solid var(--deep);
    border-radius: 5px;
    background: var(--sheet);
    box-shadow: 0 4px 14px rgb(0 0 0 / 18%);
    pointer-events: none;
}
</style>
