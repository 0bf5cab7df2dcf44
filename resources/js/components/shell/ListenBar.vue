<script setup lang="ts">
import { computed } from 'vue';
import { bar, clock, decibels, TAP_NAMES } from '@/format';
import { allInserts } from '@/inserts';
import { useListening } from '@/stores/listening';
import { useSession } from '@/stores/session';
import MainOverview from '@/components/levels/MainOverview.vue';

const session = useSession();
const listening = useListening();

const rate = computed(() => session.document?.sampleRate ?? 48000);
const where = computed(() => {
    const [channel = '', ...stage] = listening.listeningAt.split(':');
    const name = session.channel(channel)?.name ?? channel;
    if (stage[0] === 'insert') {
        return `${name}, after ${session.state?.inserts[stage[1] ?? '']?.label ?? 'an insert'}`;
    }
    if (stage[0] === 'into') {
        return `${name}, before the split`;
    }
    if (stage[0] === 'branch') {
        const branches = allInserts([
            ...(session.channel(channel)?.inserts ?? []),
            ...(session.channel(channel)?.postInserts ?? []),
        ]).flatMap((insert) => (insert.type === 'split' ? insert.branches : []));
        return `${name}, ${branches.find((branch) => branch.id === stage[1])?.name ?? 'a branch'}`;
    }
    const names: Record<string, string> = TAP_NAMES;
    return `${name}, ${names[stage[0] ?? ''] ?? ''}`;
});
const other = computed(() => {
    const compare = listening.compare;
    if (compare?.kind === 'setting') {
        return compare.label;
    }
    return compare?.kind === 'plan' ? 'with remedy' : 'bypassed';
});
const about = computed(() => {
    const compare = listening.compare;
    if (!compare) {
        return '';
    }
    if (compare.kind === 'plan') {
        return compare.label;
    }
    return compare.kind === 'row'
        ? `row of ${session.channel(compare.id)?.name ?? ''}`
        : (session.state?.inserts[compare.id]?.label ?? '');
});
</script>

<template>
    <footer class="listen" :data-playing="listening.isPlaying" :data-waiting="listening.isWaiting">
        <button
            class="pill play"
            :class="{ on: !listening.isPlaying }"
            :aria-label="listening.isPlaying ? 'Stop' : 'Play'"
            title="Space"
            @click="listening.toggle()"
        >
            {{ listening.isPlaying ? '■ Stop' : '▶ Play' }}
        </button>
        <button
            class="pill"
            :class="{ looping: listening.isLooping }"
            :aria-pressed="listening.isLooping"
            title="L; drag over the picture of the main to choose where"
            @click="listening.toggleLoop()"
        >
            Loop
        </button>
        <div class="time">
            <span class="figure clock" data-clock>{{ clock(listening.position, rate) }}</span>
            <span class="hint">{{
                listening.isWaiting ? 'catching up …' : bar(listening.position, rate, session.document?.tempo ?? 120)
            }}</span>
        </div>
        <MainOverview />
        <div class="where">
            <span class="hint">listening at</span>
            <strong :class="{ elsewhere: listening.tap !== null }" data-listening-at>{{
                listening.beside ? `Main left, ${where.split(',')[0]} right` : where
            }}</strong>
            <button v-if="listening.tap !== null" class="plain back" @click="listening.listenAt(null)">
                back to Main
            </button>
            <div v-if="listening.compare" class="sides" role="group" :aria-label="`Compare ${about}`">
                <button
                    class="pill"
                    :class="{ on: listening.side === 1 }"
                    :aria-pressed="listening.side === 1"
                    title="1"
                    @click="listening.chooseSide(1)"
                >
                    1 as set
                </button>
                <button
                    class="pill"
                    :class="{ on: listening.side === 2 }"
                    :aria-pressed="listening.side === 2"
                    title="2"
                    @click="listening.chooseSide(2)"
                >
                    2 {{ other }}
                </button>
                <button class="plain close" aria-label="End the compare" @click="listening.startCompare(null)">
                    ×
                </button>
                <span v-if="listening.isPlaying && listening.side === 2" class="hint match"
                    >matched {{ decibels(listening.matchGain, true) }} dB</span
                >
            </div>
        </div>
    </footer>
</template>

<style scoped>
.listen {
    display: flex;
    align-items: center;
    gap: 12px;
    height: 100%;
    padding: 0 16px;
    border-top: 1px solid var(--contour);
    background: var(--sheet);
}

.play {
    min-width: 84px;
    padding: 8px 16px;
}

.looping {
    border-color: var(--deep);
    background: var(--shoal-wash);
}

.time {
    display: flex;
    flex-direction: column;
    width: 124px;
    margin-left: 8px;
}

.clock {
    font-size: 19px;
}

.where {
    position: relative;
    display: flex;
    flex-direction: column;
    align-items: flex-end;
    width: 232px;
    text-align: right;
}

.where strong {
    max-width: 232px;
    font-weight: 600;
    line-height: 15px;
    overflow-wrap: anywhere;
}

.elsewhere {
    color: var(--plum);
}

.back {
    color: var(--plum);
    text-decoration: underline;
}

.sides {
    display: flex;
    align-items: center;
    gap: 4px;
    margin-top: 3px;
}

.sides .pill {
    padding: 2px 10px;
}

.close {
    padding: 0 4px;
    font-size: 16px;
    color: var(--soft);
}

.match {
    position: absolute;
    right: 100%;
    bottom: 4px;
    padding-right: 10px;
    white-space: nowrap;
}
</style>
