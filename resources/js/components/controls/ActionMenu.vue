<script setup lang="ts" generic="T">
/** A menu of things to do, as an action that opens a list; what stands on it can be given instead of its name. */
defineProps<{ name: string; about?: string; items: { key: string; name: string; isOff?: boolean; value: T }[] }>();
const emit = defineEmits<{ choose: [value: T] }>();
</script>

<template>
    <el-dropdown
        trigger="click"
        :persistent="false"
        max-height="60vh"
        :disabled="items.length === 0"
        @command="(value: T) => emit('choose', value)"
    >
        <button class="text-button menu" :disabled="items.length === 0" :title="about" :aria-label="name">
            <slot>{{ name }} <span aria-hidden="true">▾</span></slot>
        </button>
        <template #dropdown>
            <el-dropdown-menu>
                <el-dropdown-item v-for="item in items" :key="item.key" :disabled="item.isOff" :command="item.value">
                    {{ item.name }}
                </el-dropdown-item>
            </el-dropdown-menu>
        </template>
    </el-dropdown>
</template>

<style scoped>
.el-dropdown {
    font-size: inherit;
    line-height: inherit;
}

.menu {
    width: 100%;
    text-align: left;
    white-space: nowrap;
}
</style>
