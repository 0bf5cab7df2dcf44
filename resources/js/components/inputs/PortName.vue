<script setup lang="ts">
import { ref, watch } from 'vue';
import { useHardware } from '@/stores/hardware';

/** The number of a port and its name, which can be changed. */
const props = defineProps<{ port: number; name: string; way: 'input' | 'output'; isIdle: boolean }>();

const hardware = useHardware();
const typed = ref('');

watch(
    () => props.name,
    (now) => (typed.value = now),
    { immediate: true },
);

function rename(): void {
    const wanted = typed.value.trim();
    if (wanted !== '' && wanted !== props.name) {
        const name = { name: wanted };
        void hardware.set(props.way === 'input' ? { input: props.port, ...name } : { output: props.port, ...name });
    } else {
        typed.value = props.name;
    }
}
</script>

<template>
    <span class="port figure" :class="{ idle: isIdle }">{{ port }}</span>
    <input
        v-model="typed"
        class="name"
        :aria-label="`Name of ${way} ${port}`"
        maxlength="40"
        @keydown.enter="($event.target as HTMLElement).blur()"
        @keydown.stop
        @blur="rename"
    />
</template>

<style scoped>
.port {
    display: grid;
    place-items: center;
    height: 24px;
    border: 1.5px solid var(--plum);
    border-radius: 4px;
    background: var(--sheet);
}

.port.idle {
    border-color: var(--contour);
    color: var(--soft);
}

.name {
    width: 100%;
    min-width: 0;
    padding: 2px 4px;
    border: 1px solid transparent;
    border-radius: 4px;
    background: none;
    font-weight: 600;
}

.name:hover,
.name:focus {
    border-color: var(--contour);
    background: var(--sheet);
}
</style>
