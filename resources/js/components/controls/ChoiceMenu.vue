<script setup lang="ts" generic="T extends string | number">
import { ref } from 'vue';

/** One choice out of a list; a long list is searched by typing. Once something is chosen the keys are the application's again. */
defineProps<{
    modelValue: T;
    label: string;
    items: { value: T; name: string; isOff?: boolean }[];
    id?: string;
}>();
const emit = defineEmits<{ 'update:modelValue': [value: T] }>();

const select = ref<{ blur: () => void }>();

/** From so many choices on, typing finds one faster than the eye. */
const MANY = 12;

function choose(value: T): void {
    emit('update:modelValue', value);
    select.value?.blur?.();
}
</script>

<template>
    <el-select
        :id="id"
        ref="select"
        class="choice-menu"
        size="small"
        :model-value="modelValue"
        :aria-label="label"
        :filterable="items.length > MANY"
        :persistent="false"
        :empty-values="[null, undefined]"
        :fit-input-width="false"
        @change="choose"
    >
        <el-option
            v-for="item in items"
            :key="item.value"
            :value="item.value"
            :label="item.name"
            :disabled="item.isOff"
        />
    </el-select>
</template>
