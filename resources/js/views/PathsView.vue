<script setup lang="ts">
import { computed, ref } from 'vue';
import { useImports } from '@/stores/imports';
import { useSelection } from '@/stores/selection';
import { useSession } from '@/stores/session';
import ChannelRow from '@/components/ChannelRow.vue';
import { useChipDrag } from '@/components/chipDrag';

const session = useSession();
const selection = useSelection();
const imports = useImports();
const drag = useChipDrag();
const isOver = ref(false);

const order = computed(() => session.channels.map((channel) => channel.id));

function dropFiles(event: DragEvent): void {
    isOver.value = false;
    void imports.bring([...(event.dataTransfer?.files ?? [])]);
}

function pick(): void {
    document.getElementById('hafen-import')?.click();
}

function addEmpty(): void {
    void session.edit({ type: 'add-channel', name: `Track ${session.tracks.length + 1}`, width: 'stereo' });
}
</script>

<template>
    <main
        class="paths"
        :class="{ over: isOver }"
        aria-label="Paths"
        @click.self="selection.clear()"
        @dragover.prevent="isOver = true"
        @dragleave.self="isOver = false"
        @drop.prevent="dropFiles"
    >
        <section v-if="session.tracks.length > 0">
            <h2>Tracks</h2>
            <ChannelRow v-for="channel in session.tracks" :key="channel.id" :channel="channel" :order="order" />
        </section>
        <section v-else class="empty">
            <h1>No tracks yet</h1>
            <p>Drop audio files anywhere here, or choose them. Each becomes a track.</p>
            <button class="pill on" @click="pick">Import files</button>
            <button class="pill" @click="addEmpty">Add an empty track</button>
        </section>
        <p v-for="entry in imports.running" :key="entry.name" class="importing hint">
            {{ entry.name }}: {{ entry.step }}
            <span class="figure">{{ entry.step === 'uploading' ? `${Math.round(entry.progress * 100)} %` : '…' }}</span>
        </p>
        <section v-if="session.main">
            <h2>Main</h2>
            <ChannelRow :channel="session.main" :order="order" />
        </section>
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
}

.paths.over {
    box-shadow: inset 0 0 0 3px var(--water);
}

section {
    min-width: 736px;
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
