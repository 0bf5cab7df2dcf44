<script setup lang="ts">
import { useControllers } from '@/stores/controllers';

/** Says what a controller learns, whatever is shown meanwhile. */
const controllers = useControllers();
</script>

<template>
    <div v-if="controllers.learning !== false" class="assign" role="status" data-learning>
        <span v-if="controllers.learning === true">Move the control a controller is to move.</span>
        <span v-else
            ><strong>{{ controllers.nameFor(controllers.learning) }}</strong
            >: now move a knob or press a key of the controller.</span
        >
        <button class="pill on" @click="controllers.learning = false">Leave it</button>
    </div>
</template>
