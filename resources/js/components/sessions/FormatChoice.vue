<script setup lang="ts">
import { rules } from '@/rules';

/** The format of a file. */
const format = defineModel<'16' | '24' | '32f'>({ required: true });
defineProps<{ name: string }>();
</script>

<template>
    <div class="choices" role="radiogroup" aria-label="Format">
        <label v-for="choice in rules().formats" :key="choice.id">
            <input v-model="format" type="radio" :name="name" :value="choice.id" /> {{ choice.label }}
        </label>
    </div>
</template>

<style scoped src="./dialog.css"></style>
