import { defineStore } from 'pinia';
import { computed, ref } from 'vue';
import { api } from '@/api/client';
import type { StorageContents, StoredMedia } from '@/api/types';
import { tellRefusal } from './notices';

/** What lies on the disk, and its removal. */
export const useStorage = defineStore('storage', () => {
    const contents = ref<StorageContents | null>(null);
    const isBusy = ref(false);

    const unused = computed<StoredMedia[]>(
        () => contents.value?.media.filter((media) => media.usedBy.length === 0 && media.status !== 'preparing') ?? [],
    );
    const sum = (entries: { bytes: number }[]) => entries.reduce((bytes, entry) => bytes + entry.bytes, 0);
    /** The kinds of what lies there, with their sizes. */
    const parts = computed(() => {
        const now = contents.value;
        return now === null
            ? []
            : [
                  { name: 'Recordings', bytes: sum(now.media) },
                  { name: 'Renders', bytes: sum(now.renders) },
                  { name: 'Captured audio', bytes: now.captured },
                  { name: 'Sessions', bytes: sum(now.sessions) },
              ];
    });

    /** Every answer is what is there then. */
    async function take(answer: Promise<StorageContents>): Promise<void> {
        isBusy.value = true;
        try {
            contents.value = await answer;
        } catch (error) {
            tellRefusal(error);
        } finally {
            isBusy.value = false;
        }
    }

    return {
        contents,
        isBusy,
        unused,
        parts,
        sum,
        load: () => take(api.get<StorageContents>('storage')),
        remove: (what: string) => take(api.delete<StorageContents>(what)),
        thin: (session: number) => take(api.post<StorageContents>(`sessions/${session}/thin`)),
    };
});
