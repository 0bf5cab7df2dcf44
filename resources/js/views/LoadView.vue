<script setup lang="ts">
import { computed } from 'vue';
import type { ChannelLoad } from '@/api/types';
import LoadBar from '@/components/load/LoadBar.vue';
import LoadPlan from '@/components/load/LoadPlan.vue';
import { percent, size } from '@/format';
import { useFreezes } from '@/stores/freezes';
import { useListening } from '@/stores/listening';
import { useLoad } from '@/stores/load';
import { useSelection } from '@/stores/selection';
import { useSession } from '@/stores/session';

/** What every channel and its effects take of the machine, the heaviest first, and what freezing gives back. */
const session = useSession();
const load = useLoad();
const listening = useListening();
const freezes = useFreezes();
const selection = useSelection();

/** Right end of the scale: the next of these above the heaviest channel. */
const ENDS = [0.02, 0.05, 0.1, 0.2, 0.3, 0.5, 1, 2, 4];
const most = computed(() => {
    const heaviest = 1.12 * (load.channels[0]?.total ?? 0);
    return ENDS.find((end) => end >= heaviest) ?? heaviest;
});
const steps = computed(() => [0, 1, 2, 3, 4, 5].map((step) => (step / 5) * most.value));
const order = computed(() => load.channels.map((one) => one.id));
const planned = computed(() => (load.isLive ? [] : (load.plan?.channels ?? [])));
const state = computed(() => {
    if (load.isLive) {
        return 'now, while it plays';
    }
    if (load.isMeasuring) {
        return 'measuring …';
    }
    return load.measured ? `measured over ${Math.round(load.measured.seconds)} s of sound` : '';
});

const first = computed(() => (listening.isPlaying ? ' Playing comes first.' : ''));

/** What stands at the end of a channel's line. */
function saving(one: ChannelLoad): string {
    const facts = freezes.facts(one.id);
    if (facts) {
        return facts.stale ? 'frozen, stale' : facts.playable ? 'frozen' : 'frozen, file is gone';
    }
    const channel = session.channel(one.id);
    if (!channel || one.saving === null || one.seconds === null) {
        return channel && session.canBeFrozen(channel) && one.total < 1e-6 ? 'sleeps: all it feeds is frozen' : '';
    }
    return one.saving < 0.0005 ? '' : `${percent(one.saving)} back in ${Math.max(1, Math.round(one.seconds))} s`;
}
</script>

<template>
    <main class="load" data-view="load">
        <header>
            <h1>Load</h1>
            <span class="hint" data-load-state>{{ state }}</span>
            <button v-if="!load.isMeasuring" class="text-button" @click="load.measure(true)">Measure again</button>
            <span class="fill" />
            <span v-if="load.measured" class="hint">memory {{ size(load.measured.memory) }}</span>
        </header>
        <p v-if="load.channels.length === 0" class="hint empty">
            {{ load.isMeasuring ? `Measuring what everything takes …${first}` : 'Nothing is measured yet.' }}
        </p>
        <div class="scroll">
            <div class="channels">
                <div class="grid" aria-hidden="true">
                    <span v-for="step in steps" :key="step" :style="{ left: `${(step / most) * 100}%` }" />
                </div>
                <button
                    v-for="one in load.channels"
                    :key="one.id"
                    class="plain channel"
                    :class="{ selected: selection.channels.includes(one.id) }"
                    :data-load-channel="one.id"
                    @click="selection.selectChannel(one.id, $event, order)"
                >
                    <span class="name">{{ session.channel(one.id)?.name ?? one.id }}</span>
                    <LoadBar
                        :load="one"
                        :most="most"
                        :is-planned="planned.includes(one.id)"
                        :is-frozen="freezes.facts(one.id) !== undefined"
                    />
                    <span class="saving" :class="{ planned: planned.includes(one.id) }">{{ saving(one) }}</span>
                </button>
            </div>
        </div>
        <div class="axis" aria-hidden="true">
            <div>
                <span v-for="step in steps" :key="step" class="figure" :style="{ left: `${(step / most) * 100}%` }"
                    >{{ Math.round(step * 1000) / 10 }} %</span
                >
            </div>
        </div>
        <LoadPlan />
    </main>
</template>

<style scoped>
.load {
    --names: 160px;
    --savings: 150px;

    display: flex;
    flex-direction: column;
    min-width: 0;
    min-height: 0;
}

header {
    display: flex;
    align-items: baseline;
    gap: 14px;
    padding: 10px 16px 6px;
}

h1 {
    margin: 0;
    font-size: 15px;
    font-weight: 600;
}

.fill {
    flex: 1;
}

.empty {
    padding: 0 16px;
}

.scroll {
    flex: 1;
    min-height: 0;
    overflow-y: scroll;
    scrollbar-width: thin;
    scrollbar-color: var(--contour) transparent;
}

.channels {
    position: relative;
    min-height: 100%;
}

.grid,
.axis div {
    position: absolute;
    top: 0;
    right: calc(var(--savings) + 82px);
    bottom: 0;
    left: calc(var(--names) + 24px);
    pointer-events: none;
}

.axis {
    position: relative;
    height: 20px;
    overflow-y: scroll;
    scrollbar-width: thin;
    scrollbar-color: transparent transparent;
}

.axis span {
    position: absolute;
    transform: translateX(-50%);
    color: var(--soft);
    font-size: 12px;
    white-space: nowrap;
}

.grid span {
    position: absolute;
    top: 0;
    bottom: 0;
    border-left: 1px solid var(--contour);
}

.channel {
    position: relative;
    display: grid;
    grid-template-columns: var(--names) minmax(0, 1fr) var(--savings);
    gap: 8px;
    align-items: center;
    width: 100%;
    min-height: 30px;
    padding: 2px 16px;
    border-radius: 0;
}

/* The figure at the end of a bar has room beside the scale. */
.channel :deep(.bar) {
    padding-right: 58px;
}

.channel:hover,
.channel.selected {
    background: var(--shoal-wash);
}

.name {
    font-weight: 600;
    overflow-wrap: anywhere;
}

.saving {
    color: var(--soft);
    text-align: right;
}

.saving.planned {
    color: var(--deep);
    font-weight: 600;
}
</style>
