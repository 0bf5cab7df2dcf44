import { useStorage, useTimeoutFn } from '@vueuse/core';
import { defineStore } from 'pinia';
import { computed, ref, shallowRef, watch } from 'vue';
import { api } from '@/api/client';
import type { Channel, FreezeBatch, FreezeFormat, MediaState } from '@/api/types';
import { tell, tellRefusal } from './notices';
import { useSession } from './session';

/** Channels that are being frozen, and how. */
export const useFreezes = defineStore('freezes', () => {
    const session = useSession();
    const batch = shallowRef<FreezeBatch | null>(null);
    /** What is kept after the end: as long as it is heard, or so many seconds. */
    const tail = ref<'auto' | number>('auto');
    const format = useStorage<FreezeFormat>('hafen.freeze-format', '32f');
    const next = useTimeoutFn(() => void look(), 400, { immediate: false });

    const isRunning = computed(() => batch.value?.status === 'running');
    const facts = (id: string) => session.state?.frozen[id];

    async function start(channels: string[]): Promise<void> {
        const wanted = { channels, tail: tail.value, format: format.value };
        try {
            await take(await session.ask((path) => api.post<FreezeBatch>(`${path}/freezes`, wanted)));
        } catch (error) {
            tellRefusal(error);
        }
    }

    async function look(): Promise<void> {
        if (batch.value) {
            // The server is away: the next look finds out.
            await take(await api.get<FreezeBatch>(`freezes/${batch.value.id}`).catch(() => batch.value));
        }
    }

    async function take(known: FreezeBatch | null): Promise<void> {
        batch.value = known;
        if (known?.status === 'running') {
            next.start();
            return;
        }
        if (known && known.message !== null) {
            tell(known.message, known.status === 'failed' ? 'warning' : 'info');
        }
        await session.refresh().catch(() => undefined);
    }

    async function stop(): Promise<void> {
        if (batch.value) {
            next.stop();
            await api.post<FreezeBatch>(`freezes/${batch.value.id}/stop`).then(take, tellRefusal);
        }
    }

    function unfreeze(channels: string[]): void {
        void session.edit({ type: 'unfreeze', channels });
    }

    /** Puts the frozen sound of a channel on a track of its own. */
    async function copyOut(channel: Channel): Promise<void> {
        if (!channel.frozen) {
            return;
        }
        try {
            const file = channel.frozen.file;
            const media = await api.get<MediaState>(`media/${file}?sampleRate=${session.document?.sampleRate}`);
            const width = media.channels === 1 ? 'mono' : 'stereo';
            await session.edit({
                type: 'add-channel',
                name: `${channel.name} frozen`,
                width,
                file: { file, length: media.length ?? 1, width },
            });
        } catch (error) {
            tellRefusal(error);
        }
    }

    // Begun in another window, or before a reload: it is shown here as well.
    watch(
        () => session.state?.id,
        async () => {
            next.stop();
            batch.value = null;
            const known = await session
                .ask((path) => api.get<{ running: FreezeBatch | null }>(`${path}/freezes`))
                .catch(() => null);
            if (known?.running) {
                await take(known.running);
            }
        },
        { immediate: true },
    );

    return { batch, tail, format, isRunning, facts, start, stop, unfreeze, copyOut };
});
