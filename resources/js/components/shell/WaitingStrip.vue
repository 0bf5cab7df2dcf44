<script setup lang="ts">
import { workWaits } from '@/stores/work';
</script>

<template>
    <div v-if="workWaits" class="strip" data-work-waits role="status">
        <span class="mark" aria-hidden="true" />
        <span>{{ workWaits }}</span>
    </div>
</template>

<style scoped src="./strip.css"></style>

<style scoped>
.mark {
    width: 10px;
    height: 10px;
    flex: none;
    border: 2px solid var(--brass);
    border-radius: 50%;
}
</style>
