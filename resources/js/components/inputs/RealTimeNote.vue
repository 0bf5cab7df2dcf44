<script setup lang="ts">
import { computed } from 'vue';
import { duration } from '@/format';
import { useSession } from '@/stores/session';

/** Says of work that goes through hardware how long it takes: as long as it plays, once for each channel that is worked by itself. */
const props = defineProps<{ channels: string[]; seconds?: number; isTogether?: boolean }>();

const session = useSession();

const through = computed(() => props.channels.filter((id) => session.state?.hardware.channels.includes(id)));
const seconds = computed(
    () => (props.seconds ?? session.state?.hardware.seconds ?? 0) * (props.isTogether ? 1 : through.value.length),
);
const names = computed(() => through.value.map((id) => session.channel(id)?.name ?? id).join(', '));
</script>

<template>
    <p v-if="through.length > 0" class="hint" data-real-time>
        {{ names }} {{ through.length === 1 ? 'goes' : 'go' }} through hardware: this takes as long as it plays,
        {{ duration(seconds) }}.
    </p>
</template>
