<script setup lang="ts">
import { dismiss, notices, type Notice } from '@/stores/notices';

function act(notice: Notice): void {
    dismiss(notice.id);
    notice.action?.run();
}
</script>

<template>
    <div class="strip" role="status" aria-live="polite">
        <el-alert
            v-for="notice in notices"
            :key="notice.id"
            class="notice"
            :data-notice="notice.kind"
            :title="notice.title ? `${notice.title}: ${notice.message}` : notice.message"
            :type="notice.kind"
            show-icon
            @close="dismiss(notice.id)"
        >
            <button v-if="notice.action" class="plain fix" @click="act(notice)">{{ notice.action.label }}</button>
        </el-alert>
    </div>
</template>

<style scoped>
.strip {
    background: var(--sheet);
}

.notice {
    border-top: 1px solid var(--contour);
    border-radius: 0;
    --el-alert-padding: 6px 16px;
    --el-alert-title-font-size: 14px;
    --el-alert-bg-color: var(--sheet);
}

.notice :deep(.el-alert__title) {
    color: var(--ink);
}
</style>
