<script setup lang="ts">
import { useMacros } from '@/stores/macros';

/** Says that a macro is assigned, whatever is shown of its channel meanwhile. */
const macros = useMacros();
</script>

<template>
    <div v-if="macros.located" class="assign" role="status" data-assigning>
        <span
            ><strong>{{ macros.located.macro.name }}</strong> is assigned: move what it is to move on
            {{ macros.located.channel.name }}, to where it is to be at its end.</span
        >
        <button class="pill on" @click="macros.end()">Done</button>
    </div>
</template>

<style scoped>
.assign {
    display: flex;
    gap: 10px;
    align-items: center;
    margin-bottom: 8px;
    padding: 6px 28px 6px 13px;
    border-left: 3px solid var(--plum);
    background: var(--paper);
}
</style>
