<script setup lang="ts">
import { useListening } from '@/stores/listening';

/** All of the session, or the loop alone. */
const isLoopOnly = defineModel<boolean>({ required: true });
defineProps<{ name: string }>();

const listening = useListening();
</script>

<template>
    <div class="choices">
        <label><input v-model="isLoopOnly" type="radio" :name="name" :value="false" /> All</label>
        <label
            ><input v-model="isLoopOnly" type="radio" :name="name" :value="true" :disabled="!listening.loop" /> Loop
            region</label
        >
    </div>
</template>

<style scoped src="./dialog.css"></style>
