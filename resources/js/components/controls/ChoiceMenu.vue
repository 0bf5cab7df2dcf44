<script setup lang="ts" generic="T extends string | number">
/** One choice out of a list; a long list is searched by typing. */
defineProps<{
    modelValue: T;
    label: string;
    items: { value: T; name: string; isOff?: boolean }[];
    id?: string;
}>();
defineEmits<{ 'update:modelValue': [value: T] }>();

/** From so many choices on, typing finds one faster than the eye. */
const MANY = 12;
</script>

<template>
    <el-select
        :id="id"
        class="choice-menu"
        size="small"
        :model-value="modelValue"
        :aria-label="label"
        :filterable="items.length > MANY"
        :persistent="false"
        :fit-input-width="false"
        @change="(value: T) => $emit('update:modelValue', value)"
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
