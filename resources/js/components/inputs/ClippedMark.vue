<script setup lang="ts">
import { computed } from 'vue';
import type { DocumentClip } from '@/api/types';

/** Says of recorded clips that the converter clipped: it is in the sound, and stays there. */
const props = defineProps<{ clips: Pick<DocumentClip, 'clipped'>[] }>();

const samples = computed(() => props.clips.reduce((sum, { clipped }) => sum + (clipped ?? 0), 0));
</script>

<template>
    <span v-if="samples > 0" class="mark" data-take-clipped :title="`${samples} samples were clipped as it came in`">
        <i aria-hidden="true" />clipped
    </span>
</template>

<style scoped>
.mark {
    margin-left: 6px;
    color: var(--buoy-text);
    font-weight: 600;
    white-space: nowrap;
}

i {
    display: inline-block;
    width: 9px;
    height: 9px;
    margin-right: 4px;
    background: var(--buoy);
}
</style>
