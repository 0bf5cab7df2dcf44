<script setup lang="ts">
import { computed } from 'vue';
import type { HardwareInsert } from '@/api/types';
import LyingSlider from '@/components/controls/LyingSlider.vue';
import LoopSettings from '@/components/inputs/LoopSettings.vue';
import { useMetered } from '@/composables/useMetered';
import { duration } from '@/format';
import type { InsertLocation } from '@/inserts';
import { useListening } from '@/stores/listening';
import { useSelection } from '@/stores/selection';
import { useSession } from '@/stores/session';

/** A hardware loop where it stands in a row. */
const props = defineProps<{ location: InsertLocation; insert: HardwareInsert }>();

const session = useSession();
const listening = useListening();
const selection = useSelection();

const channel = computed(() => props.location.channel);
const loop = computed(() => session.document?.loops?.find(({ id }) => id === props.insert.loop));
const isCompared = computed(() => listening.compare?.kind === 'insert' && listening.compare.id === props.insert.id);
const seconds = computed(() => session.state?.hardware.seconds ?? 0);
useMetered(() => [channel.value.id]);

function remove(): void {
    const inserts = [...selection.inserts];
    selection.insert = null;
    void session.edit({ type: 'remove-inserts', inserts });
}
</script>

<template>
    <div v-if="loop" class="inspector" :data-inspecting="insert.id">
        <header>
            <h2>{{ loop.name }}</h2>
            <span class="soft"
                >hardware, {{ channel.name }}{{ location.branch ? `, ${location.branch.name}` : '' }} ·
                {{ location.index + 1 }} of {{ location.neighbours.length }}</span
            >
        </header>
        <div class="actions">
            <button
                class="text-button"
                @click="session.edit({ type: 'set-insert-on', inserts: [insert.id], on: !insert.on })"
            >
                {{ insert.on ? 'Bypass' : 'Switch on' }}
            </button>
            <button
                class="text-button"
                :aria-pressed="isCompared"
                @click="listening.startCompare(isCompared ? null : { kind: 'insert', id: insert.id })"
            >
                {{ isCompared ? 'End compare' : 'Compare' }}
            </button>
            <button class="text-button" @click="remove">Remove</button>
        </div>
        <div class="mix" data-parameter="mix">
            <span>Mix</span>
            <LyingSlider
                :model-value="Math.round(insert.mix * 1000) / 10"
                :min="0"
                :max="100"
                :default="100"
                :step="1"
                :fine="0.1"
                label="Mix"
                :text="`${Math.round(insert.mix * 100)} %`"
                @change="
                    (mix, gesture) =>
                        mix !== null && session.edit({ type: 'set-mix', insert: insert.id, mix: mix / 100 }, gesture)
                "
            />
        </div>
        <LoopSettings :loop="loop" />
        <p class="hint" data-real-time>
            Freezing, printing and rendering through it takes as long as it plays: {{ duration(seconds) }}.
        </p>
    </div>
</template>

<style scoped>
.inspector {
    display: grid;
    gap: 10px;
    padding: 14px 16px;
}

header {
    display: flex;
    flex-wrap: wrap;
    align-items: baseline;
    justify-content: space-between;
    gap: 2px 8px;
    padding-right: 20px;
}

h2 {
    margin: 0;
    font-size: 16px;
}

.soft {
    color: var(--soft);
}

.actions {
    display: flex;
    flex-wrap: wrap;
    gap: 4px 14px;
}

.mix {
    display: grid;
    grid-template-columns: 104px 1fr;
    align-items: center;
    gap: 8px;
}
</style>
