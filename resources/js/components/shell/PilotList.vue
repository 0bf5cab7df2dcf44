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
            notes: pilot.open.filter((note) => note.severity === severity),
        }))
        .filter((group) => group.notes.length > 0),
);

function name(note: Advice): string {
    return session.channel(note.channel)?.name ?? note.channel;
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
            <article v-for="note in group.notes" :key="note.id" class="note" :data-note="note.id">
                <p>{{ note.text }}</p>
                <button v-if="note.fix" class="plain fix" @click="session.edit(note.fix.edit)">
                    {{ note.fix.label }}
                </button>
                <button class="plain" :title="`Show ${name(note)}`" @click="pilot.show(note)">Show</button>
                <button
                    class="plain"
                    title="It is meant to be so; do not note it again"
                    @click="pilot.dismiss(note, true)"
                >
                    Leave it
                </button>
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
                v-for="note in areDismissedShown ? pilot.dismissed : []"
                :key="note.id"
                class="note left"
                :data-note="note.id"
            >
                <p>{{ note.text }}</p>
                <button class="plain" @click="pilot.dismiss(note, false)">Note it again</button>
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

.note .plain {
    margin-right: 14px;
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
