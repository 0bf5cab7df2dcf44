import { shallowRef, watch } from 'vue';
import { api } from '@/api/client';
import type { ParameterValue, Picture } from '@/api/types';
import { useSession } from '@/stores/session';

/** The picture the server draws of a processor's values; while it draws one, the newest values wait for the next. */
export function useProcessorPicture(processor: () => string, values: () => Record<string, ParameterValue>) {
    const session = useSession();
    const picture = shallowRef<Picture | null>(null);
    let drawing = false;
    let stale = false;

    async function draw(): Promise<void> {
        if (drawing) {
            stale = true;
            return;
        }
        drawing = true;
        do {
            stale = false;
            try {
                const answer = await api.post<{ picture: Picture | null }>(`processors/${processor()}/picture`, {
                    parameters: values(),
                    sampleRate: session.document?.sampleRate ?? 48000,
                    tempo: session.document?.tempo ?? 120,
                });
                picture.value = answer.picture;
            } catch {
                picture.value = null;
            }
        } while (stale);
        drawing = false;
    }

    watch([processor, () => JSON.stringify(values()), () => session.document?.tempo], draw, { immediate: true });

    return picture;
}
