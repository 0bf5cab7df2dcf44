<script setup lang="ts">
import { computed } from 'vue';
import { useSelection } from '@/stores/selection';
import { useSession } from '@/stores/session';
import ChannelInspector from './ChannelInspector.vue';
import InsertInspector from './InsertInspector.vue';
import SessionInspector from './SessionInspector.vue';

/** What is selected: an insert, channels, or the session itself. */
const session = useSession();
const selection = useSelection();

const place = computed(() => (selection.insert ? session.place(selection.insert) : null));
const chosen = computed(() => selection.channels.filter((id) => session.channel(id)));
const channel = computed(() => (chosen.value[0] ? session.channel(chosen.value[0]) : undefined));
</script>

<template>
    <aside class="side" aria-label="Inspector">
        <InsertInspector v-if="place" :key="place.insert.id" v-bind="place" />
        <ChannelInspector v-else-if="channel" :key="channel.id" :channel="channel" :along="chosen" />
        <SessionInspector v-else />
    </aside>
</template>

<style scoped>
.side {
    height: 100%;
    overflow: auto;
    border-left: 1px solid var(--contour);
    background: var(--sheet);
}
</style>
