<script setup lang="ts">
import { computed } from 'vue';
import ChoiceMenu from '@/components/controls/ChoiceMenu.vue';
import { wholePercent } from '@/format';
import { useFreezes } from '@/stores/freezes';
import { useLoad } from '@/stores/load';
import { useSession } from '@/stores/session';

/** All together against what a core can give, with a mark to drag, and the freezes it takes to get there. */
const session = useSession();
const load = useLoad();
const freezes = useFreezes();

const WAYS: { value: 'channels' | 'time'; name: string }[] = [
    { value: 'channels', name: 'fewest channels' },
    { value: 'time', name: 'least time' },
];
/** Right end of the bar; a core stands at 1. */
const end = computed(() => Math.max(1.2, 1.05 * (load.total ?? 0)));
const after = computed(() => (load.isLive ? null : (load.plan?.after ?? null)));
const at = (share: number) => `${(Math.min(share, end.value) / end.value) * 100}%`;
const names = (ids: string[]) => {
    const all = ids.map((id) => session.channel(id)?.name ?? id);
    return all.length > 4 ? `${all.slice(0, 3).join(', ')} and ${all.length - 3} more` : all.join(', ');
};
const sentence = computed(() => {
    const plan = load.plan;
    if (!load.measured || !plan) {
        return load.isMeasuring
            ? 'Measuring what everything takes …'
            : (load.state?.message ?? 'Not measured as it is now.');
    }
    if (plan.channels.length === 0) {
        return plan.isReached
            ? `It takes ${wholePercent(plan.before)}: that is there already.`
            : `Nothing more can be frozen. What takes most: ${names(plan.remaining)}. Switch effects off there.`;
    }
    const work = `${wholePercent(plan.before)} → ${wholePercent(plan.after)}, about ${Math.max(1, Math.round(plan.seconds))} s of work`;
    return plan.isReached
        ? `Freeze ${names(plan.channels)}: ${work}.`
        : `Freezing does not get there. Freeze ${names(plan.channels)}: ${work}. Then ${names(plan.remaining)} take most: switch effects off there.`;
});
const outcome = computed(() =>
    load.outcome && !freezes.isRunning
        ? `Predicted ${wholePercent(load.outcome.predicted)}, measured ${wholePercent(load.outcome.measured)}.`
        : '',
);

async function make(): Promise<void> {
    if (load.plan) {
        load.predicted = { load: load.plan.after, change: session.state?.change ?? 0 };
        await freezes.start(load.plan.channels);
    }
}

function setTarget(event: Event): void {
    load.target = Number((event.target as HTMLInputElement).value) / 100;
}
</script>

<template>
    <section class="plan" data-load-plan>
        <span class="title">All together</span>
        <div class="scale">
            <div class="bar">
                <span class="now" :style="{ width: at(after ?? load.total ?? 0) }" />
                <span
                    v-if="after !== null && after < (load.total ?? 0)"
                    class="saved"
                    :style="{ left: at(after), width: at((load.total ?? 0) - after) }"
                />
            </div>
            <span v-if="load.total !== null" class="figure total" :style="{ left: at(load.total) }">{{
                wholePercent(load.total)
            }}</span>
            <span class="machine" :style="{ left: at(1) }"><span>one core</span></span>
            <input
                class="target"
                type="range"
                min="1"
                step="1"
                :max="Math.round(end * 100)"
                :value="Math.round(load.target * 100)"
                aria-label="Load to get to, in per cent of a core"
                @input="setTarget"
            />
            <span class="mark" :style="{ left: at(load.target) }" aria-hidden="true" />
            <span class="wish" :style="{ left: at(load.target) }">get me to {{ wholePercent(load.target) }}</span>
        </div>
        <p class="sentence" data-plan-sentence>
            {{ sentence }} <span class="soft">{{ outcome }}</span>
        </p>
        <ChoiceMenu v-model="load.by" class="by" label="What the plan takes the least of" :items="WAYS" />
        <button
            class="pill on make"
            :disabled="!load.plan || load.plan.channels.length === 0 || freezes.isRunning"
            @click="make"
        >
            Freeze, one step
        </button>
    </section>
</template>

<style scoped>
.plan {
    display: grid;
    grid-template-columns: 160px minmax(0, 1fr) auto auto;
    gap: 6px 14px;
    align-items: center;
    padding: 12px 16px;
    border-top: 1px solid var(--contour);
}

.title {
    font-weight: 600;
    align-self: start;
    margin-top: 4px;
}

.scale {
    position: relative;
    grid-column: 2 / -1;
    height: 56px;
}

.bar {
    position: relative;
    height: 22px;
    border: 1px solid var(--contour);
    border-radius: 3px;
}

.now,
.saved {
    position: absolute;
    top: 0;
    bottom: 0;
    left: 0;
    background: var(--water);
}

.saved {
    background: var(--hatch);
}

.total {
    position: absolute;
    top: 2px;
    padding-left: 8px;
    font-weight: 600;
}

.machine {
    position: absolute;
    top: -4px;
    height: 34px;
    border-left: 2px solid var(--buoy);
}

.machine span {
    position: absolute;
    top: 36px;
    transform: translateX(-50%);
    color: var(--soft);
    white-space: nowrap;
}

.target {
    position: absolute;
    inset: -6px 0 auto;
    width: 100%;
    height: 34px;
    margin: 0;
    opacity: 0;
    cursor: ew-resize;
}

.mark {
    position: absolute;
    top: -8px;
    width: 0;
    height: 40px;
    border-left: 2px solid var(--ink);
    pointer-events: none;
}

.mark::before {
    content: '';
    position: absolute;
    top: -6px;
    left: -8px;
    width: 14px;
    height: 14px;
    border: 2px solid var(--ink);
    border-radius: 50%;
    background: var(--sheet);
}

.target:focus-visible + .mark::before {
    outline: 2px solid var(--deep);
    outline-offset: 2px;
}

.wish {
    position: absolute;
    top: 34px;
    transform: translateX(-50%);
    font-weight: 600;
    white-space: nowrap;
}

.sentence {
    grid-column: 1 / span 2;
    margin: 0;
}

.by {
    width: 140px;
}
</style>
