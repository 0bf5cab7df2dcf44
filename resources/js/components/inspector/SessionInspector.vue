<script setup lang="ts">
import { ref, watch } from 'vue';
import { api } from '@/api/client';
import type { Revision } from '@/api/types';
import { clock } from '@/format';
import { useSession } from '@/stores/session';
import LyingSlider from '@/components/controls/LyingSlider.vue';
import ControllersSection from './ControllersSection.vue';

const session = useSession();
const revisions = ref<Revision[]>([]);

watch(
    [() => session.state?.id, () => session.state?.change],
    async () => {
        if (session.state) {
            revisions.value = await api.get<Revision[]>(`sessions/${session.state.id}/revisions`).catch(() => []);
        }
    },
    { immediate: true },
);

function time(at: string): string {
    return new Date(at).toLocaleTimeString('en-GB', { hour: '2-digit', minute: '2-digit' });
}
</script>

<template>
    <div v-if="session.document" class="inspector">
        <header>
            <h2>{{ session.document.name }}</h2>
            <span class="soft figure"
                >{{ session.document.sampleRate / 1000 }} kHz ·
                {{ clock(session.document.length, session.document.sampleRate) }}</span
            >
        </header>
        <div class="tempo">
            <span>Tempo</span>
            <LyingSlider
                :model-value="session.document.tempo"
                :min="40"
                :max="240"
                :default="120"
                :step="1"
                :fine="0.1"
                label="Tempo"
                :text="`${session.document.tempo} BPM`"
                @change="(tempo, gesture) => tempo !== null && session.edit({ type: 'set-tempo', tempo }, gesture)"
            >
                <template #default="{ value }">{{ value }} BPM</template>
            </LyingSlider>
        </div>
        <p class="hint">
            Main comes
            {{ (((session.state?.latency.session ?? 0) / session.document.sampleRate) * 1000).toFixed(1) }} ms after its
            sources; renders are trimmed by as much.
        </p>
        <ControllersSection />
        <h3>Revisions</h3>
        <ol>
            <li v-for="revision in revisions" :key="revision.id" :class="{ current: revision.current }">
                <button
                    class="plain"
                    :disabled="revision.current"
                    :title="revision.current ? 'You are here' : 'Go back to this revision'"
                    @click="session.goTo(revision.id)"
                >
                    <span class="label">{{ revision.label }}</span
                    ><span class="figure at">{{ time(revision.at) }}</span>
                </button>
            </li>
        </ol>
    </div>
</template>

<style scoped>
h3 {
    margin: 14px 0 4px;
    font-size: 12px;
    font-weight: 400;
    color: var(--soft);
}

.tempo {
    display: grid;
    grid-template-columns: 52px 1fr;
    align-items: center;
    margin-top: 8px;
}

ol {
    margin: 0 -8px;
    padding: 0;
    list-style: none;
}

li button {
    display: flex;
    justify-content: space-between;
    gap: 10px;
    width: 100%;
    padding: 4px 8px;
    border-top: 1px solid var(--contour);
}

li button:hover:not(:disabled) {
    background: var(--shoal-wash);
}

li.current {
    box-shadow: inset 3px 0 0 var(--deep);
}

.label {
    overflow-wrap: anywhere;
    text-align: left;
    line-height: 17px;
}

.at {
    color: var(--soft);
}
</style>
