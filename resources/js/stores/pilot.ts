import { defineStore } from 'pinia';
import { computed, ref, watch } from 'vue';
import { api } from '@/api/client';
import type { Advice, SessionState } from '@/api/types';
import { tellRefusal } from './notices';
import { useScreen } from './screen';
import { useSelection } from './selection';
import { useSession } from './session';
import { useSurvey } from './survey';

/** The Pilot's advice on the session: what is open, those that were dismissed, and whether the list is shown. */
export const usePilot = defineStore('pilot', () => {
    const session = useSession();
    const selection = useSelection();
    const screen = useScreen();
    const survey = useSurvey();
    const isShown = ref(false);

    const all = computed(() => session.state?.pilot ?? []);
    const open = computed(() => all.value.filter((advice) => !advice.dismissed));
    const dismissed = computed(() => all.value.filter((advice) => advice.dismissed));
    /** What asks for a decision. */
    const count = computed(() => open.value.filter((advice) => advice.severity !== 'information').length);
    const isSevere = computed(() => open.value.some((advice) => advice.severity === 'severe'));

    function of(channel: string): Advice[] {
        return open.value.filter((advice) => advice.channel === channel && advice.severity !== 'information');
    }

    /** Takes the person to what a piece of advice is about; the list steps aside. */
    function show(advice: Advice): void {
        isShown.value = false;
        selection.clear();
        selection.channels = [advice.channel];
        if (advice.part !== null && session.locate(advice.part)) {
            screen.view = 'paths';
            selection.selectInsert(advice.channel, advice.part);
        } else if (advice.part !== null && session.send(advice.part)) {
            selection.selectSends([advice.part]);
        }
    }

    // What needs the sound is noted once that is measured.
    watch(
        () => survey.isCurrent,
        async (isCurrent) => {
            const before = session.state;
            if (!isCurrent || !before) {
                return;
            }
            try {
                const known = await api.get<{ change: number; pilot: Advice[] }>(`sessions/${before.id}/advice`);
                if (session.state?.id === before.id && session.state.change === known.change) {
                    session.state = { ...session.state, pilot: known.pilot };
                }
            } catch {
                // The next answer of the server brings them.
            }
        },
    );

    async function dismiss(advice: Advice, isDismissed: boolean): Promise<void> {
        if (!session.state) {
            return;
        }
        try {
            const known = await api.put<SessionState>(`sessions/${session.state.id}/advice`, {
                advice: advice.id,
                dismissed: isDismissed,
            });
            session.takeIfShown(known);
        } catch (error) {
            tellRefusal(error);
        }
    }

    return { isShown, open, dismissed, count, isSevere, of, show, dismiss };
});
