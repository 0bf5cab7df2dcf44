<script setup lang="ts">
import { onMounted, ref } from 'vue';
import { NUMBERS, type Spelling } from '@/format';

/** A value that is typed: Enter takes it, Escape and a press elsewhere leave it. A number, where nothing else is said; `-inf` is null. */
const text = defineModel<string | null>({ required: true });
const props = withDefaults(defineProps<{ label: string; isSelected?: boolean; spelling?: Spelling }>(), {
    spelling: () => NUMBERS,
});
const emit = defineEmits<{ enter: [value: number | null]; close: [] }>();

const field = ref<HTMLInputElement>();

onMounted(() => {
    field.value?.focus();
    if (props.isSelected) {
        field.value?.select();
    }
});

/** What cannot be read changes nothing. */
function enter(): void {
    const value = text.value === null ? undefined : props.spelling.read(text.value);
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
