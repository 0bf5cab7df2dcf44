<script setup lang="ts">
import { computed, ref } from 'vue';
import { followPointer } from '@/composables/followPointer';
import { useListening } from '@/stores/listening';
import { useSession } from '@/stores/session';
import { useSurvey } from '@/stores/survey';

/** The main over the whole length, with the loop region, overs and the playhead. Click to go there, drag to loop. */
const session = useSession();
const survey = useSurvey();
const listening = useListening();
const area = ref<HTMLElement>();
const drawn = ref<{ start: number; end: number } | null>(null);

const BARS = 186;
const length = computed(() => Math.max(1, session.document?.length ?? 1));
const share = computed(() => listening.position / length.value);
const clips = computed(() => session.main?.output !== 'none');
const bars = computed(() => {
    const overview = survey.state?.result?.overview ?? [];
    const result: { x: number; height: number; over: boolean }[] = [];
    for (let i = 0; i < BARS && overview.length > 0; i++) {
        const from = Math.floor((i * overview.length) / BARS);
        const to = Math.max(from + 1, Math.floor(((i + 1) * overview.length) / BARS));
        const peak = Math.max(...overview.slice(from, to));
        result.push({ x: (i + 0.5) / BARS, height: Math.min(1, peak), over: peak > 1 });
    }
    return result;
});
const region = computed(
    () => drawn.value ?? (listening.loop && listening.loop.end > listening.loop.start ? listening.loop : null),
);

function grab(event: PointerEvent): void {
    const box = area.value?.getBoundingClientRect();
    if (!box || event.button !== 0) {
        return;
    }
    const at = (x: number) => Math.round(Math.min(1, Math.max(0, (x - box.left) / box.width)) * length.value);
    const start = at(event.clientX);
    const minimum = (session.document?.sampleRate ?? 48000) / 5;
    const move = (moved: PointerEvent) => {
        if (Math.abs(moved.clientX - event.clientX) > 4) {
            const now = at(moved.clientX);
            drawn.value = { start: Math.min(start, now), end: Math.max(start, now) };
        }
    };
    const end = () => {
        if (drawn.value && drawn.value.end - drawn.value.start >= minimum) {
            listening.setLoop(drawn.value);
        } else if (!drawn.value) {
            void listening.seek(start);
        }
        drawn.value = null;
    };
    followPointer(move, end);
}

function key(event: KeyboardEvent): void {
    const way = event.key === 'ArrowRight' ? 1 : event.key === 'ArrowLeft' ? -1 : 0;
    if (way !== 0) {
        event.preventDefault();
        void listening.seek(listening.position + way * (session.document?.sampleRate ?? 48000));
    }
}
</script>

<template>
    <div
        ref="area"
        class="overview"
        role="slider"
        tabindex="0"
        aria-label="Position"
        :aria-valuemin="0"
        :aria-valuemax="length"
        :aria-valuenow="Math.round(listening.position)"
        @pointerdown="grab"
        @keydown="key"
    >
        <svg viewBox="0 0 558 60" preserveAspectRatio="none" aria-hidden="true">
            <rect
                v-if="region"
                class="region"
                :class="{ idle: !listening.isLooping }"
                :x="(region.start / length) * 558"
                y="0"
                :width="((region.end - region.start) / length) * 558"
                height="60"
            />
            <line
                v-for="bar in bars"
                :key="bar.x"
                class="bar"
                :class="{ played: bar.x < share, over: bar.over && !clips, clip: bar.over && clips }"
                :x1="bar.x * 558"
                :x2="bar.x * 558"
                :y1="30 - Math.max(0.7, bar.height * 28)"
                :y2="30 + Math.max(0.7, bar.height * 28)"
            />
            <line class="head" :x1="share * 558" :x2="share * 558" y1="0" y2="60" />
        </svg>
        <span v-if="bars.length === 0" class="hint empty">{{
            session.document?.length ? 'The main is being measured …' : ''
        }}</span>
    </div>
</template>

<style scoped>
.overview {
    position: relative;
    flex: 1;
    height: 60px;
    min-width: 160px;
    cursor: pointer;
    touch-action: none;
}

svg {
    display: block;
    width: 100%;
    height: 100%;
}

.region {
    fill: var(--shoal-wash);
    stroke: var(--water);
    stroke-width: 1;
}

.region.idle {
    stroke-dasharray: 3 3;
}

.bar {
    stroke: var(--water);
    stroke-width: 2;
}

.bar.played {
    stroke: var(--deep);
}

.bar.over {
    stroke: var(--brass);
}

.bar.clip {
    stroke: var(--buoy);
}

.head {
    stroke: var(--ink);
    stroke-width: 1.5;
}

.empty {
    position: absolute;
    inset: 20px 0;
    text-align: center;
}
</style>
