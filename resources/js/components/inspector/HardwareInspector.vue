<script setup lang="ts">
import { computed } from 'vue';
import type { HardwareInsert } from '@/api/types';
import LoopSettings from '@/components/inputs/LoopSettings.vue';
import { useMetered } from '@/composables/useMetered';
import { duration } from '@/format';
import type { InsertLocation } from '@/inserts';
import { useListening } from '@/stores/listening';
import { useSelection } from '@/stores/selection';
import { useSession } from '@/stores/session';
import InsertMix from './InsertMix.vue';

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
    void session.edit({ type: 'remove-inserts', inserts: selection.takeInserts() });
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
        <InsertMix :insert="insert" />
        <LoopSettings :loop="loop" />
        <p class="hint" data-real-time>
            Freezing, printing and rendering through it takes as long as it plays: {{ duration(seconds) }}.
        </p>
    </div>
</template>
