import { useTimeoutFn } from '@vueuse/core';
import { defineStore } from 'pinia';
import { computed, ref, shallowRef, watch } from 'vue';
import { api } from '@/api/client';
import type { ChannelLoad, FewestBy, FreezePlan, LoadState } from '@/api/types';
import { isProcessor } from '@/inserts';
import { useListening } from './listening';
import { tellRefusal } from './notices';
import { useScreen } from './screen';
import { useSession } from './session';

/** What the session takes of the machine: live while it plays, otherwise measured by itself; and what would bring it down. */
export const useLoad = defineStore('load', () => {
    const session = useSession();
    const listening = useListening();
    const screen = useScreen();
    const state = shallowRef<LoadState | null>(null);
    const plan = shallowRef<FreezePlan | null>(null);
    /** Load that is wanted, 1 is a core. */
    const target = ref(0.6);
    const by = ref<FewestBy>('channels');
    /** What the plan that was made last was to bring, and the state of the session it was made on. */
    const predicted = ref<{ load: number; change: number } | null>(null);
    const next = useTimeoutFn(() => void look(), 500, { immediate: false });
    const replan = useTimeoutFn(() => void findPlan(), 120, { immediate: false });

    const measured = computed(() => state.value?.load ?? null);
    const isMeasuring = computed(() => ['waiting', 'running'].includes(state.value?.status ?? ''));
    const isLive = computed(() => listening.isPlaying && Object.keys(listening.loads).length > 0);

    /** Of every channel, the heaviest first. */
    const channels = computed<ChannelLoad[]>(() => {
        const known = measured.value?.channels ?? [];
        const all = isLive.value ? session.channels.map((channel) => live(channel.id, known)) : known;
        return [...all].sort((one, other) => other.total - one.total);
    });
    /** What the plan brought, once that is measured. */
    const outcome = computed(() =>
        predicted.value && measured.value && (state.value?.change ?? 0) > predicted.value.change
            ? { predicted: predicted.value.load, measured: measured.value.total }
            : null,
    );
    /** Live in several processes, what all of them take: the channels add up to it. */
    const total = computed(() =>
        !isLive.value
            ? (measured.value?.total ?? null)
            : listening.processes > 1
              ? channels.value.reduce((sum, channel) => sum + channel.total, 0)
              : listening.load,
    );

    function live(id: string, known: ChannelLoad[]): ChannelLoad {
        const about = known.find((one) => one.id === id);
        const prefix = `${id}:insert:`;
        const inserts = Object.fromEntries(
            Object.entries(listening.loads)
                .filter(([key]) => key.startsWith(prefix) && isEffect(key.slice(prefix.length)))
                .map(([key, load]) => [key.slice(prefix.length), load]),
        );
        const all = listening.loads[id] ?? 0;
        const reading = listening.loads[`${id}:reading`] ?? 0;
        const effects = Object.values(inserts).reduce((sum, load) => sum + load, 0);
        return {
            id,
            total: all,
            reading,
            own: Math.max(0, all - reading - effects),
            inserts,
            saving: about?.saving ?? null,
            seconds: about?.seconds ?? null,
        };
    }

    const isEffect = (insert: string): boolean => isProcessor(session.locate(insert)?.insert);

    async function look(): Promise<void> {
        state.value =
            (await session.ask((path) => api.get<LoadState>(`${path}/load`)).catch(() => null)) ?? state.value;
        if (isMeasuring.value) {
            next.start();
        } else if (state.value?.status === 'none' && screen.view === 'load') {
            await measure();
        } else {
            await findPlan();
        }
    }

    async function measure(again = false): Promise<void> {
        try {
            state.value = (await session.ask((path) => api.post<LoadState>(`${path}/load`, { again }))) ?? state.value;
            next.start();
        } catch (error) {
            tellRefusal(error);
        }
    }

    async function findPlan(): Promise<void> {
        if (measured.value) {
            const wanted = { target: target.value, by: by.value };
            const answer = await session
                .ask((path) => api.post<{ plan: FreezePlan | null }>(`${path}/load/plan`, wanted))
                .catch(() => null);
            plan.value = answer?.plan ?? null;
        }
    }

    watch([target, by], () => replan.start());
    watch(
        [() => session.state?.id, () => session.state?.change, () => screen.view],
        ([id], before) => {
            if (id !== before?.[0]) {
                predicted.value = null;
            }
            state.value = id === before?.[0] ? state.value : null;
            if (screen.view === 'load') {
                next.start();
            }
        },
        { immediate: true },
    );

    return { state, channels, total, measured, isLive, isMeasuring, plan, target, by, predicted, outcome, measure };
});
