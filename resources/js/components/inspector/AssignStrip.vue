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
