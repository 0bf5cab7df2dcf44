<script setup lang="ts">
import { computed, watch } from 'vue';
import { isProcessor } from '@/inserts';
import { usePilot } from '@/stores/pilot';
import { useScreen } from '@/stores/screen';
import { useSelection } from '@/stores/selection';
import { useSession } from '@/stores/session';
import AssignStrip from './AssignStrip.vue';
import LearnStrip from './LearnStrip.vue';
import ChannelInspector from './ChannelInspector.vue';
import LoadInspector from './LoadInspector.vue';
import HeadroomInspector from './HeadroomInspector.vue';
import HardwareInspector from './HardwareInspector.vue';
import InsertInspector from './InsertInspector.vue';
import PilotList from '@/components/shell/PilotList.vue';
import SendInspector from './SendInspector.vue';
import SessionInspector from './SessionInspector.vue';
import SplitInspector from './SplitInspector.vue';

/** What is selected: an insert, a split, sends, channels, or the session itself. */
const session = useSession();
const selection = useSelection();
const pilot = usePilot();
const screen = useScreen();

const location = computed(() => (selection.insert ? session.locate(selection.insert) : null));
// Whoever selects something wants to see it.
watch(
    () => [selection.insert, selection.sends, selection.channels],
    () => (pilot.isShown = false),
);

defineProps<{ isFolded: boolean }>();
const emit = defineEmits<{ fold: []; unfold: [] }>();
const fold = () => emit('fold');
const unfold = () => emit('unfold');

const sends = computed(() => selection.sends.flatMap((id) => session.send(id) ?? []));
const chosen = computed(() => selection.channels.filter((id) => session.channel(id)));
const channel = computed(() => (chosen.value[0] ? session.channel(chosen.value[0]) : undefined));
</script>

<template>
    <aside v-if="isFolded" class="side folded" aria-label="Inspector, folded">
        <button class="plain unfold" title="Unfold the inspector (I)" aria-label="Unfold the inspector" @click="unfold">
            ‹
        </button>
    </aside>
    <aside v-else class="side" aria-label="Inspector">
        <button
            class="plain fold"
            title="Fold the inspector away (I)"
            aria-label="Fold the inspector away"
            @click="fold"
        >
            ›
        </button>
        <AssignStrip />
        <LearnStrip />
        <PilotList v-if="pilot.isShown" />
        <HeadroomInspector v-else-if="screen.view === 'headroom'" />
        <LoadInspector v-else-if="screen.view === 'load'" />
        <SplitInspector
            v-else-if="location?.insert.type === 'split'"
            :key="location.insert.id"
            :channel="location.channel"
            :row="location.row"
            :split="location.insert"
        />
        <InsertInspector
            v-else-if="location && isProcessor(location.insert)"
            :key="location.insert.id"
            :location="location"
            :insert="location.insert"
        />
        <HardwareInspector
            v-else-if="location && location.insert.type === 'hardware'"
            :key="location.insert.id"
            :location="location"
            :insert="location.insert"
        />
        <SendInspector v-else-if="sends.length > 0" :sends="sends" />
        <ChannelInspector v-else-if="channel" :key="channel.id" :channel="channel" :along="chosen" />
        <SessionInspector v-else />
    </aside>
</template>

<style scoped>
.side {
    position: relative;
    height: 100%;
    overflow: auto;
    scrollbar-gutter: stable;
    scrollbar-width: thin;
    scrollbar-color: var(--contour) transparent;
    border-left: 1px solid var(--contour);
    background: var(--sheet);
}
.folded {
    overflow: hidden;
    scrollbar-gutter: auto;
}

.unfold {
    width: 100%;
    height: 100%;
    color: var(--soft);
}

.unfold:hover {
    background: var(--shoal-wash);
    color: var(--ink);
}

.fold {
    position: absolute;
    top: 2px;
    right: 2px;
    z-index: 1;
    width: 18px;
    height: 18px;
    border-radius: 4px;
    color: var(--soft);
}

.fold:hover {
    background: var(--shoal-wash);
    color: var(--ink);
}
</style>
