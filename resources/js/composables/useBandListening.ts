import { computed, onUnmounted, watch } from 'vue';
import type { ParameterSpec } from '@/api/types';
import { useListening } from '@/stores/listening';

/** The band of an equaliser whose controls are shown: it can be heard alone, and says how loud what comes in is there. */
export function useBandListening(insert: () => string, shown: () => ParameterSpec[], hasResponse: () => boolean) {
    const listening = useListening();

    const band = computed(() => {
        const quality = shown().find((parameter) => parameter.id.endsWith('-q'));
        return quality ? quality.id.slice(0, -2) : null;
    });
    const isHeard = computed(
        () => listening.sweep !== null && 'insert' in listening.sweep && listening.sweep.insert === insert(),
    );
    // A response is shown with the sound it works on.
    const watched = computed(() => (listening.watched?.insert === insert() ? listening.watched : null));
    const range = computed(() => {
        const [, quiet, loud] = (band.value ? watched.value?.bands[band.value] : undefined) ?? [];
        return quiet === null || quiet === undefined || loud === null || loud === undefined ? null : { quiet, loud };
    });

    function toggle(): void {
        listening.sweepAt(isHeard.value || !band.value ? null : { insert: insert(), band: band.value });
    }

    watch([band, insert], ([now], [, before]) => {
        const heard = listening.sweep;
        if (heard && 'insert' in heard && heard.insert === before) {
            listening.sweepAt(now && before === insert() ? { insert: insert(), band: now } : null);
        }
    });
    watch(
        [insert, hasResponse] as const,
        ([watchedInsert, isResponse]) => listening.watchInsert(isResponse ? watchedInsert : null),
        { immediate: true },
    );
    onUnmounted(() => {
        if (isHeard.value) {
            listening.sweepAt(null);
        }
        listening.watchInsert(null);
    });

    return { band, isHeard, watched, range, toggle };
}
