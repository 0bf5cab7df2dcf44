<script setup lang="ts">
/** A round switch with one letter: mute, solo, polarity. */
defineProps<{ isOn: boolean; label: string }>();
</script>

<template>
    <button class="letter" :class="{ on: isOn }" :aria-pressed="isOn" :aria-label="label"><slot /></button>
</template>

<style scoped>
.letter {
    width: 18px;
    height: 18px;
    padding: 0;
    border: 1px solid var(--contour);
    border-radius: 50%;
    background: var(--sheet);
    font-size: 12px;
    line-height: 1;
}

.letter.on {
    background: var(--ink);
    border-color: var(--ink);
    color: var(--paper);
}
</style>
