import { defineStore } from 'pinia';
import { useTimeoutFn } from '@vueuse/core';
import { computed, ref, shallowRef, watch } from 'vue';
import { api } from '@/api/client';
import type { Aim, LoudMoment, RemedyPlan, Stage, SurveyState, TapLevel } from '@/api/types';
import { rules } from '@/rules';
import { useListening } from './listening';
import { tellRefusal } from './notices';
import { useScreen } from './screen';
import { useSession } from './session';
import { useSurvey } from './survey';

/** Levels along the paths, what fills the main, and what remedies would do about it. */
export const useHeadroom = defineStore('headroom', () => {
    const session = useSession();
    const survey = useSurvey();
    const screen = useScreen();
    const listening = useListening();
    /** The range the figures are of; null is all of the session. */
    const region = ref<{ from: number; to: number } | null>(null);
    const regional = shallowRef<SurveyState | null>(null);
    const lookAtRegionAgain = useTimeoutFn(() => void lookAtRegion(), 600, { immediate: false });
    const figures = computed(() => (region.value ? regional.value : survey.state));
    // Before the main is measured for the first time nothing is known of headroom.
    const result = computed(() => {
        const known = figures.value?.result ?? null;
        return known && known.overview.length > 0 ? known : null;
    });

    /** What a tap carries: live while playing, otherwise over the range. */
    function level(tap: string): TapLevel | null {
        return listening.isPlaying ? listening.level(tap) : (result.value?.taps[tap] ?? null);
    }

    async function lookAtRegion(): Promise<void> {
        lookAtRegionAgain.stop();
        const about = region.value;
        if (!about || session.state === null) {
            return;
        }
        try {
            const path = `sessions/${session.state.id}/survey`;
            const known = await api.get<SurveyState>(`${path}?from=${about.from}&to=${about.to}`);
            const isIdle = !known.current && known.running === null && known.message === null && !known.stopped;
            const next = isIdle && !listening.isPlaying ? await api.post<SurveyState>(path, about) : known;
            if (region.value === about) {
                regional.value = next;
            }
        } catch (error) {
            tellRefusal(error);
            return;
        }
        if (region.value === about && !regional.value?.current && screen.view === 'headroom') {
            lookAtRegionAgain.start();
        }
    }

    function measureOnly(range: { from: number; to: number } | null): void {
        region.value = range;
        regional.value = null;
        void lookAtRegion();
    }

    const paths = shallowRef<Record<string, Stage[]>>({});
    const aim = ref<Aim>({ figure: 'peak', level: -6 });
    const compensate = ref(false);
    const chosen = ref<string[]>([]);
    const amounts = ref<Record<string, number>>({});
    const plans = shallowRef<Record<string, RemedyPlan>>({});
    const together = shallowRef<RemedyPlan | null>(null);
    /** The remedy whose details are open. */
    const opened = ref<string | null>(null);
    const isReady = ref(false);
    const isStopped = ref(false);
    const moment = shallowRef<LoudMoment | null>(null);
    const isLookingForMoment = ref(false);
    const lookAgain = useTimeoutFn(() => void look(), 700, { immediate: false });
    let asked = 0;

    const isBusy = computed(
        () =>
            !isStopped.value &&
            [...Object.values(plans.value), together.value].some(
                (plan) => plan !== null && ['waiting', 'running'].includes(plan.status),
            ),
    );
    /** What Apply would do: the chosen remedies as a whole. */
    const plan = computed(() =>
        chosen.value.length === 1 ? (plans.value[chosen.value[0] ?? ''] ?? null) : together.value,
    );

    async function loadPaths(): Promise<void> {
        const known = await session.ask((path) => api.get<{ paths: Record<string, Stage[]> }>(`${path}/stages`));
        paths.value = known?.paths ?? paths.value;
    }

    function choice(remedies: string[], isWanted: boolean): Record<string, unknown> {
        const set = Object.fromEntries(Object.entries(amounts.value).filter(([id]) => remedies.includes(id)));
        return {
            remedies,
            compensate: compensate.value,
            ...(Object.keys(set).length > 0 ? { amounts: set } : {}),
            ...(isWanted ? { prove: true } : {}),
        };
    }

    /** Proved over the whole length is what is chosen, opened or heard; of the rest it is enough to know about what it would do. */
    function isWanted(remedy: string): boolean {
        const heard = listening.compare?.kind === 'plan' ? listening.compare.id : null;
        const isAlone = chosen.value.length === 1 && chosen.value[0] === remedy;
        return isAlone || opened.value === remedy || (heard !== null && plans.value[remedy]?.id === heard);
    }

    async function look(again = false): Promise<void> {
        lookAgain.stop();
        const id = session.state?.id;
        if (id === undefined || screen.view !== 'headroom' || isStopped.value) {
            return;
        }
        const number = ++asked;
        const several = chosen.value.length > 1 ? [choice(chosen.value, true)] : [];
        try {
            const known = await api.post<{ ready: boolean; plans: (RemedyPlan | null)[] }>(`sessions/${id}/plans`, {
                aim: aim.value,
                plans: [...rules().remedies.map(({ id: remedy }) => choice([remedy], isWanted(remedy))), ...several],
                ...(again ? { again } : {}),
            });
            // An answer that was overtaken says nothing any more.
            if (number !== asked) {
                return;
            }
            isReady.value = known.ready;
            if (known.ready) {
                plans.value = Object.fromEntries(
                    rules().remedies.flatMap(({ id: remedy }, at) =>
                        known.plans[at] ? [[remedy, known.plans[at]]] : [],
                    ),
                );
                together.value = several.length > 0 ? (known.plans[rules().remedies.length] ?? null) : null;
            }
        } catch (error) {
            tellRefusal(error);
            return;
        }
        if (isBusy.value || !isReady.value) {
            lookAgain.start();
        }
    }

    function ask(): void {
        isStopped.value = false;
        void look(true);
    }

    async function stop(): Promise<void> {
        isStopped.value = true;
        await api.post(`sessions/${session.state?.id}/plans/stop`).catch(tellRefusal);
    }

    function toggle(remedy: string): void {
        chosen.value = chosen.value.includes(remedy)
            ? chosen.value.filter((id) => id !== remedy)
            : [...chosen.value, remedy];
        together.value = null;
    }

    /** Takes a remedy by so many dB, or by what it takes. */
    function setAmount(remedy: string, amount: number | null): void {
        const others = Object.fromEntries(Object.entries(amounts.value).filter(([id]) => id !== remedy));
        amounts.value = amount === null ? others : { ...others, [remedy]: amount };
    }

    function hear(about: RemedyPlan): void {
        const at = survey.state?.result?.loudest?.position ?? 0;
        listening.hear({ kind: 'plan', id: about.id, label: about.prediction?.labels.join(', ') ?? '' }, at);
    }

    async function apply(): Promise<void> {
        const prediction = plan.value?.prediction;
        if (!prediction) {
            return;
        }
        await session.edit({
            type: 'several',
            label: prediction.labels.join(', ').slice(0, 190),
            edits: prediction.edits,
        });
        chosen.value = [];
        amounts.value = {};
    }

    /** Finds who fills the main at a place. */
    async function lookAt(position: number | null): Promise<void> {
        if (position === null) {
            moment.value = null;
            return;
        }
        isLookingForMoment.value = true;
        try {
            const known = await session.ask((path) =>
                api.get<{ moment: LoudMoment | null }>(`${path}/moment?at=${Math.round(position)}`),
            );
            if (known) {
                moment.value = known.moment;
            }
        } catch (error) {
            tellRefusal(error);
        }
        isLookingForMoment.value = false;
    }

    // In any view: what was chosen and found belongs to its session.
    watch(
        () => session.state?.id,
        () => {
            chosen.value = [];
            opened.value = null;
            amounts.value = {};
            region.value = null;
            regional.value = null;
            paths.value = {};
        },
    );
    watch(
        [() => session.state?.id, () => session.state?.change, () => screen.view],
        () => {
            if (screen.view !== 'headroom') {
                return;
            }
            void lookAtRegion();
            plans.value = {};
            together.value = null;
            moment.value = null;
            isReady.value = false;
            void loadPaths().catch(() => undefined);
            ask();
        },
        { immediate: true },
    );
    watch([aim, chosen, amounts, compensate], ask, { deep: true });
    watch([opened, () => listening.compare], () => void look());

    return {
        region,
        figures,
        result,
        level,
        measureOnly,
        paths,
        aim,
        compensate,
        chosen,
        amounts,
        opened,
        isWanted,
        plans,
        plan,
        isReady,
        isBusy,
        isStopped,
        moment,
        isLookingForMoment,
        ask,
        stop,
        toggle,
        setAmount,
        hear,
        apply,
        lookAt,
    };
});
