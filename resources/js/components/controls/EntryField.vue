<script setup lang="ts">
import { onMounted, ref } from 'vue';
import { parseNumber } from '@/format';

/** A number that is typed: Enter takes it, Escape and a press elsewhere leave it. `-inf` is null. */
const text = defineModel<string | null>({ required: true });
const props = defineProps<{ label: string; isSelected?: boolean }>();
const emit = defineEmits<{ enter: [value: number | null]; close: [] }>();

const field = ref<HTMLInputElement>();

onMounted(() => {
    field.value?.focus();
    if (props.isSelected) {
        field.value?.select();
    }
});

/** What is no number changes nothing. */
function enter(): void {
    const value = text.value === null ? undefined : parseNumber(text.value);
    text.value = null;
    if (value !== undefined) {
        emit('enter', value);
    }
    emit('close');
}

function leave(): void {
    text.value = null;
    emit('close');
}
</script>

<template>
    <input
        ref="field"
        v-model="text"
        class="figure"
        :aria-label="label"
        @keydown.enter.stop="enter"
        @keydown.escape.stop="leave"
        @keydown.stop
        @pointerdown.stop
        @click.stop
        @blur="text = null"
    />
</template>
