import { useStorage, useTimeoutFn } from '@vueuse/core';
import { defineStore } from 'pinia';
import { computed, ref, shallowRef, watch } from 'vue';
import { api } from '@/api/client';
import type { Channel, FreezeFormat, MediaState, PrintBatch, PrintWish } from '@/api/types';
import { tell, tellRefusal } from './notices';
import { useSession } from './session';

/** Channels that are being frozen or printed, and how. */
export const useFreezes = defineStore('freezes', () => {
    const session = useSession();
    const batch = shallowRef<PrintBatch | null>(null);
    /** What is kept after the end: as long as it is heard, or so many seconds. */
    const tail = ref<'auto' | number>('auto');
    const format = useStorage<FreezeFormat>('hafen.freeze-format', '32f');
    const next = useTimeoutFn(() => void look(), 400, { immediate: false });

    const isRunning = computed(() => batch.value?.status === 'running');
    const facts = (id: string) => session.state?.frozen[id];

    async function start(channels: string[]): Promise<void> {
        const wanted = { channels, tail: tail.value, format: format.value };
        try {
            await take(await session.ask((path) => api.post<PrintBatch>(`${path}/freezes`, wanted)));
        } catch (error) {
            tellRefusal(error);
        }
    }

    /** Prints channels; true once that has begun. */
    async function print(wish: PrintWish): Promise<boolean> {
        try {
            await take(await session.ask((path) => api.post<PrintBatch>(`${path}/prints`, wish)));
            return true;
        } catch (error) {
            tellRefusal(error);
            return false;
        }
    }

    async function look(): Promise<void> {
        if (batch.value) {
            // The server is away: the next look finds out.
            await take(await api.get<PrintBatch>(`batches/${batch.value.id}`).catch(() => batch.value));
        }
    }

    async function take(known: PrintBatch | null): Promise<void> {
        batch.value = known;
        if (known?.status === 'running') {
            next.start();
            return;
        }
        const clipped = known?.channels.filter((one) => one.clipped > 0) ?? [];
        if (clipped.length > 0) {
            const lost = clipped.map((one) => `${one.clipped} samples of ${one.name}`).join(', ');
            tell(`${lost} lie above full scale and were cut. Print to 32-bit float to keep them.`, 'warning');
        }
        if (known?.kind === 'files' && known.status === 'done') {
            tell('The files are ready.', 'warning', '', {
                label: 'Save the files',
                run: () => window.location.assign(`/api/batches/${known.id}/file`),
            });
        }
        if (known && known.message !== null) {
            tell(known.message, known.status === 'failed' ? 'warning' : 'info');
        }
        await session.refresh().catch(() => undefined);
    }

    async function stop(): Promise<void> {
        if (batch.value) {
            next.stop();
            await api.post<PrintBatch>(`batches/${batch.value.id}/stop`).then(take, tellRefusal);
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
                .ask((path) => api.get<{ running: PrintBatch | null }>(`${path}/batches`))
                .catch(() => null);
            if (known?.running) {
                await take(known.running);
            }
        },
        { immediate: true },
    );

    return { batch, tail, format, isRunning, facts, start, print, stop, unfreeze, copyOut };
});
