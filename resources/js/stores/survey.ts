import { defineStore } from 'pinia';
import { computed, ref, shallowRef, watch } from 'vue';
import { api } from '@/api/client';
import type { SurveyState } from '@/api/types';
import { useSession } from './session';

/** Figures measured over the whole length; a moment after the last edit they are measured again. */
export const useSurvey = defineStore('survey', () => {
    const session = useSession();
    const state = shallowRef<SurveyState | null>(null);
    const isPlaying = ref(false);
    let timer: number | undefined;

    const isCurrent = computed(() => state.value?.current ?? false);

    async function poll(): Promise<void> {
        const id = session.state?.id;
        if (id === undefined) {
            return;
        }
        try {
            state.value = await api.get<SurveyState>(`sessions/${id}/survey`);
            if (!state.value.current && state.value.running === null && state.value.message === null) {
                state.value = await api.post<SurveyState>(`sessions/${id}/survey`);
            }
        } catch {
            // The server is away; the next edit or look tries again.
        }
        if (state.value?.running !== null && state.value?.running !== undefined) {
            again(500);
        }
    }

    function again(milliseconds: number): void {
        window.clearTimeout(timer);
        // While the engine plays it has the machine to itself.
        timer = window.setTimeout(() => (isPlaying.value ? again(1000) : void poll()), milliseconds);
    }

    watch(
        () => [session.state?.id, session.state?.change],
        ([id], before) => {
            if (id !== before?.[0]) {
                state.value = null;
                again(0);
                return;
            }
            if (state.value) {
                state.value = { ...state.value, current: false };
            }
            again(900);
        },
    );

    return { state, isCurrent, isPlaying };
});
