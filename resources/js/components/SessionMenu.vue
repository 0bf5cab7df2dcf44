<script setup lang="ts">
import { ElMessageBox } from 'element-plus';
import { ref } from 'vue';
import StorageDialog from '@/components/StorageDialog.vue';
import { tellRefusal } from '@/stores/notices';
import { useSession } from '@/stores/session';

const session = useSession();
const isStorageOpen = ref(false);

async function ask(title: string, value: string): Promise<string | null> {
    try {
        const answer = await ElMessageBox.prompt('Name of the session', title, {
            confirmButtonText: title,
            cancelButtonText: 'Cancel',
            inputValue: value,
            inputPattern: /\S/,
            inputErrorMessage: 'A session needs a name.',
        });
        return answer.value.trim();
    } catch {
        return null;
    }
}

async function create(): Promise<void> {
    const name = await ask('New session', '');
    if (name) {
        await session.create(name).catch(tellRefusal);
    }
}

async function rename(): Promise<void> {
    const name = await ask('Rename', session.document?.name ?? '');
    if (name) {
        await session.edit({ type: 'rename-session', name });
        await session.list();
    }
}
</script>

<template>
    <el-dropdown
        trigger="click"
        @command="(run: () => void) => run()"
        @visible-change="(open: boolean) => open && session.list()"
    >
        <button class="plain name" aria-label="Sessions">
            {{ session.document?.name ?? '…' }} <span aria-hidden="true">▾</span>
        </button>
        <template #dropdown>
            <el-dropdown-menu>
                <el-dropdown-item
                    v-for="entry in session.all"
                    :key="entry.id"
                    :disabled="entry.id === session.state?.id"
                    :command="() => session.open(entry.id)"
                    >{{ entry.name }}</el-dropdown-item
                >
                <el-dropdown-item divided :command="create">New session …</el-dropdown-item>
                <el-dropdown-item :command="rename">Rename …</el-dropdown-item>
                <el-dropdown-item :command="() => (isStorageOpen = true)">Storage …</el-dropdown-item>
            </el-dropdown-menu>
        </template>
    </el-dropdown>
    <StorageDialog v-model="isStorageOpen" />
</template>

<style scoped>
.name {
    max-width: 190px;
    overflow: hidden;
    text-overflow: ellipsis;
    white-space: nowrap;
    color: var(--ink);
}
</style>
