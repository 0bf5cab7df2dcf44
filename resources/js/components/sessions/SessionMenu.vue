<script setup lang="ts">
import { ref } from 'vue';
import { api } from '@/api/client';
import type { DiscardedSession } from '@/api/types';
import { askName } from '@/askName';
import NewSession from './NewSession.vue';
import StorageDialog from './StorageDialog.vue';
import { tell, tellRefusal } from '@/stores/notices';
import { useSession } from '@/stores/session';

/** The sessions there are: open, make, copy, rename, delete and bring back, download and open with their files. */
const session = useSession();
const isStorageOpen = ref(false);
const isNewOpen = ref(false);
const discarded = ref<DiscardedSession[]>([]);

async function look(isOpen: boolean): Promise<void> {
    if (isOpen) {
        await session.list().catch(tellRefusal);
        discarded.value = await api.get<DiscardedSession[]>('sessions/discarded').catch(() => []);
    }
}

async function rename(): Promise<void> {
    const name = await askName('Rename', 'Rename', 'session', session.document?.name ?? '');
    if (name) {
        await session.edit({ type: 'rename-session', name });
        await session.list();
    }
}

async function copy(): Promise<void> {
    const name = await askName('Copy', 'Copy', 'session', `${session.document?.name ?? ''} copy`);
    if (name) {
        await session.copy(name).catch(tellRefusal);
    }
}

async function discard(): Promise<void> {
    const name = session.document?.name ?? '';
    try {
        await session.discard();
        tell(`${name} is deleted. For a day the menu of sessions brings it back.`);
    } catch (error) {
        tellRefusal(error);
    }
}

function download(): void {
    const link = document.createElement('a');
    link.href = `/api/sessions/${session.state?.id}/bundle`;
    link.download = '';
    link.click();
}

async function restore(id: number): Promise<void> {
    try {
        await session.restore(id);
    } catch (error) {
        tellRefusal(error);
    }
}
</script>

<template>
    <el-dropdown trigger="click" max-height="560px" @command="(run: () => void) => run()" @visible-change="look">
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
                <el-dropdown-item divided :command="() => (isNewOpen = true)">New or open …</el-dropdown-item>
                <el-dropdown-item :command="copy">Copy …</el-dropdown-item>
                <el-dropdown-item :command="rename">Rename …</el-dropdown-item>
                <el-dropdown-item :command="download">Download with its files</el-dropdown-item>
                <el-dropdown-item :command="discard">Delete</el-dropdown-item>
                <el-dropdown-item
                    v-for="(entry, index) in discarded"
                    :key="`gone-${entry.id}`"
                    :divided="index === 0"
                    :command="() => restore(entry.id)"
                    >Bring back {{ entry.name }}</el-dropdown-item
                >
                <el-dropdown-item divided :command="() => (isStorageOpen = true)">Storage …</el-dropdown-item>
            </el-dropdown-menu>
        </template>
    </el-dropdown>
    <NewSession v-model="isNewOpen" />
    <StorageDialog v-model="isStorageOpen" />
</template>

<style scoped>
.name {
    max-width: 240px;
    max-height: 40px;
    overflow: hidden;
    line-height: 18px;
    overflow-wrap: anywhere;
    color: var(--ink);
}
</style>
