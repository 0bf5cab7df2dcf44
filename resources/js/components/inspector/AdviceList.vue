<script setup lang="ts">
import { computed } from 'vue';
import type { Advice } from '@/api/types';
import { useSession } from '@/stores/session';

/** What the Pilot advises about what is inspected; the same advice about several things is one line and one step. */
const props = defineProps<{ advice: Advice[] }>();

const session = useSession();

const lines = computed(() => {
    const alike: { first: Advice; all: Advice[] }[] = [];
    for (const one of props.advice) {
        const known = alike.find(({ first }) => first.check === one.check && first.fix?.label === one.fix?.label);
        if (known) {
            known.all.push(one);
        } else {
            alike.push({ first: one, all: [one] });
        }
    }
    return alike;
});

function fix(all: Advice[]): void {
    const edits = all.flatMap((one) => one.fix?.edit ?? []);
    const [first] = edits;
    if (first) {
        const label = all[0]?.fix?.label ?? '';
        void session.edit(edits.length === 1 ? first : { type: 'several', label, edits });
    }
}
</script>

<template>
    <p v-for="{ first, all } in lines" :key="first.id" class="about" :data-advice="first.check">
        {{ first.text }} <template v-if="all.length > 1">The same for {{ all.length - 1 }} more.</template>
        <button v-if="first.fix" class="plain fix" @click="fix(all)">{{ first.fix.label }}</button>
    </p>
</template>
