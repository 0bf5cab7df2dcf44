<script setup lang="ts">
import { computed, watch } from 'vue';
import { usePilot } from '@/stores/pilot';
import { useScreen } from '@/stores/screen';
import { useSelection } from '@/stores/selection';
import { useSession } from '@/stores/session';
import ChannelInspector from './ChannelInspector.vue';
import HeadroomInspector from './HeadroomInspector.vue';
import InsertInspector from './InsertInspector.vue';
import PilotList from './PilotList.vue';
import SendInspector from './SendInspector.vue';
import SessionInspector from './SessionInspector.vue';
import SplitInspector from './SplitInspector.vue';

/** What is selected: an insert, a split, sends, channels, or the session itself. */
const session = useSession();
const selection = useSelection();
const pilot = usePilot();
const screen = useScreen();

const place = computed(() => (selection.insert ? session.locate(selection.insert) : null));
// Whoever selects something wants to see it.
watch(
    () => [selection.insert, selection.sends, selection.channels],
    () => (pilot.isShown = false),
);

const sends = computed(() => selection.sends.flatMap((id) => session.send(id) ?? []));
const chosen = computed(() => selection.channels.filter((id) => session.channel(id)));
const channel = computed(() => (chosen.value[0] ? session.channel(chosen.value[0]) : undefined));
</script>

<template>
    <aside class="side" aria-label="Inspector">
        <PilotList v-if="pilot.isShown" />
        <HeadroomInspector v-else-if="screen.view === 'headroom'" />
        <SplitInspector
            v-else-if="place?.insert.type === 'split'"
            :key="place.insert.id"
            :channel="place.channel"
            :row="place.row"
            :split="place.insert"
        />
        <InsertInspector
            v-else-if="place && place.insert.type === 'processor'"
            :key="place.insert.id"
            :place="place"
            :insert="place.insert"
        />
        <SendInspector v-else-if="sends.length > 0" :sends="sends" />
        <ChannelInspector v-else-if="channel" :key="channel.id" :channel="channel" :along="chosen" />
        <SessionInspector v-else />
    </aside>
</template>

<style scoped>
.side {
    height: 100%;
    overflow: auto;
    scrollbar-width: thin;
    scrollbar-color: var(--contour) transparent;
    border-left: 1px solid var(--contour);
    background: var(--sheet);
}
</style>
