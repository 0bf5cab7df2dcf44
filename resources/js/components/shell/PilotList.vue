<script setup lang="ts">
import { computed, ref } from 'vue';
import type { Advice } from '@/api/types';
import { usePilot } from '@/stores/pilot';
import { useSession } from '@/stores/session';

/** What the Pilot noted: each in a sentence, with a fix where there is one, or left as it is. */
const session = useSession();
const pilot = usePilot();
const areDismissedShown = ref(false);

const headings: [Advice['severity'], string][] = [
    ['severe', 'Severe'],
    ['advice', 'Advice'],
    ['information', 'Good to know'],
];
const groups = computed(() =>
    headings
        .map(([severity, heading]) => ({
            severity,
            heading,
            advice: pilot.open.filter((one) => one.severity === severity),
        }))
        .filter((group) => group.advice.length > 0),
);

function name(one: Advice): string {
    return session.channel(one.channel)?.name ?? one.channel;
}
</script>

<template>
    <div class="inspector" data-pilot>
        <header>
            <h2>Pilot</h2>
            <button class="text-button" @click="pilot.isShown = false">Close</button>
        </header>
        <p v-if="groups.length === 0" class="hint">
            Nothing to note{{ pilot.dismissed.length > 0 ? ' besides what you left' : '' }}. The Pilot looks again after
            every edit.
        </p>
        <section v-for="group in groups" :key="group.severity" :class="group.severity">
            <h3>{{ group.heading }}</h3>
            <article v-for="one in group.advice" :key="one.id" class="note" :data-advice="one.id">
                <p>{{ one.text }}</p>
                <div class="acts">
                    <button v-if="one.fix" class="plain fix" @click="session.edit(one.fix.edit)">
                        {{ one.fix.label }}
                    </button>
                    <span class="acts">
                        <button class="plain" :title="`Show ${name(one)}`" @click="pilot.show(one)">Show</button>
                        <button
                            class="plain"
                            title="It is meant to be so; do not note it again"
                            @click="pilot.dismiss(one, true)"
                        >
                            Leave it
                        </button>
                    </span>
                </div>
            </article>
        </section>
        <template v-if="pilot.dismissed.length > 0">
            <button
                class="text-button more"
                :aria-expanded="areDismissedShown"
                @click="areDismissedShown = !areDismissedShown"
            >
                {{ pilot.dismissed.length }} left as {{ pilot.dismissed.length === 1 ? 'it is' : 'they are' }}
            </button>
            <article
                v-for="one in areDismissedShown ? pilot.dismissed : []"
                :key="one.id"
                class="note left"
                :data-advice="one.id"
            >
                <p>{{ one.text }}</p>
                <button class="plain" @click="pilot.dismiss(one, false)">Note it again</button>
            </article>
        </template>
    </div>
</template>

<style scoped>
.note {
    margin: 6px 0;
    padding: 6px 10px;
    border-left: 3px solid var(--contour);
    background: var(--paper);
}

.advice .note {
    border-left-color: var(--brass);
}

.severe .note {
    border-left: 6px solid var(--buoy);
}

.note p {
    margin: 0 0 4px;
}

/* What does not fit beside the fix goes below it as a whole. */
.acts {
    display: flex;
    flex-wrap: wrap;
    gap: 2px 12px;
}

span.acts {
    flex-wrap: nowrap;
}

.note .plain {
    color: var(--soft);
}

.note .plain:hover {
    color: var(--ink);
    text-decoration: underline dotted;
}

.note .fix {
    color: var(--deep);
}

.left p {
    color: var(--soft);
}

.more {
    margin: 8px 0 0 -8px;
    color: var(--soft);
}
</style>
