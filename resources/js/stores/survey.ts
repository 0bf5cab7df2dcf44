import { defineStore } from 'pinia';
import { useTimeoutFn } from '@vueuse/core';
import { computed, ref, shallowRef, watch } from 'vue';
import { api } from '@/api/client';
import type { SurveyState } from '@/api/types';
import { tellRefusal } from './notices';
import { useSession } from './session';

/** Figures measured over the whole length; a moment after the last edit they are measured again. */
export const useSurvey = defineStore('survey', () => {
    const session = useSession();
    const state = shallowRef<SurveyState | null>(null);
    const isPlaying = ref(false);

    const stale = computed(() => new Set(state.value && !state.value.current ? state.value.stale : []));
    const soFar = computed(() => new Set(state.value?.soFar ?? []));
    const isCurrent = computed(() => state.value?.current ?? false);

    /** Channels whose row is on screen: their figures are measured first. */
    const inSight = new Set<string>();

    function setInSight(channel: string, isInSight: boolean): void {
        if (inSight.has(channel) === isInSight) {
            return;
        }
        if (isInSight) {
            inSight.add(channel);
        } else {
            inSight.delete(channel);
        }
        if (state.value?.running) {
            order.start();
        }
    }

    const wanted = () => ({
        first: (session.state?.document.channels ?? []).map(({ id }) => id).filter((id) => inSight.has(id)),
    });
    const order = useTimeoutFn(
        () => {
            if (state.value?.running) {
                void ask((path) => api.post(path, wanted())).catch(() => {
                    // They are measured all the same, in another order.
                });
            }
        },
        400,
        { immediate: false },
    );

    /** Figures of the session that is shown, at a path below its survey. */
    async function ask(question: (path: string) => Promise<SurveyState>): Promise<SurveyState | null> {
        const known = await session.ask((path) => question(`${path}/survey`));
        state.value = known ?? state.value;
        return known;
    }

    const look = () =>
        ask((path) => api.get(path)).catch(() => {
            // The next look tries again.
        });

    async function poll(): Promise<void> {
        try {
            const known = await ask((path) => api.get(path));
            if (known && !known.current && known.running === null && known.message === null && !known.stopped) {
                await ask((path) => api.post(path, wanted()));
            }
        } catch {
            // The server is away; the next edit or look tries again.
        }
        if (state.value?.running) {
            again(500);
        }
    }

    async function stop(): Promise<void> {
        await ask((path) => api.post(`${path}/stop`)).catch(tellRefusal);
    }

    async function start(): Promise<void> {
        await ask((path) => api.post(path, wanted())).catch(tellRefusal);
        again(500);
    }

    /** Whether the figure of a tap is older than the session. */
    function isStale(tap: string): boolean {
        return stale.value.has(tap);
    }

    /** Whether the figure of a tap is of what is measured so far. */
    function isSoFar(tap: string): boolean {
        return soFar.value.has(tap);
    }

    /** Milliseconds until the next look. */
    const pause = ref(0);
    // While the engine plays it has the machine to itself.
    const next = useTimeoutFn(() => (isPlaying.value ? again(1000) : void poll()), pause, { immediate: false });
    const soon = useTimeoutFn(() => void look(), 150, { immediate: false });

    function again(milliseconds: number): void {
        pause.value = milliseconds;
        next.start();
    }

    watch(
        // One by one: a list would be another each time, whatever it holds.
        [() => session.state?.id, () => session.state?.change],
        ([id], before) => {
            if (id !== before?.[0]) {
                state.value = null;
                again(0);
                return;
            }
            // Which figures the edit left as they were the server knows; it is asked at once, and to measure a moment later.
            if (state.value) {
                state.value = { ...state.value, current: false };
            }
            soon.start();
            again(900);
        },
    );

    return { state, isCurrent, isPlaying, isStale, isSoFar, setInSight, stop, start };
});
