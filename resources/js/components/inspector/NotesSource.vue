<script setup lang="ts">
import { computed } from 'vue';
import type { ProcessorInsert } from '@/api/types';
import ChoiceMenu from '@/components/controls/ChoiceMenu.vue';
import { useCatalogue } from '@/stores/catalogue';
import { useSession } from '@/stores/session';

/** The note channel that steers an effect. */
const props = defineProps<{ insert: ProcessorInsert }>();

const session = useSession();

const catalogue = useCatalogue();
const needsNotes = computed(() => catalogue.specs.find(({ id }) => id === props.insert.processor)?.needsNotes ?? false);

const sources = computed(() => [
    { value: '', name: 'nothing' },
    ...session.channels.filter(({ kind }) => kind === 'note').map(({ id, name }) => ({ value: id, name })),
]);
</script>

<template>
    <div class="setting" data-notes-source>
        <span>Follows notes of</span>
        <ChoiceMenu
            label="Follows the notes of"
            :model-value="insert.notes ?? ''"
            :items="sources"
            @update:model-value="
                (channel) => session.edit({ type: 'set-insert-notes', insert: insert.id, notes: channel || null })
            "
        />
    </div>
    <p v-if="sources.length === 1 && needsNotes" class="hint">
        There is no note channel yet: add one below the tracks, on Paths.
    </p>
    <p v-else-if="!insert.notes && needsNotes" class="hint">Without notes it is silent, or stands still.</p>
</template>
