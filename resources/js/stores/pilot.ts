import { defineStore } from 'pinia';
import { computed, ref, watch } from 'vue';
import { api } from '@/api/client';
import type { PilotNote, SessionState } from '@/api/types';
import { tellRefusal } from './notices';
import { useScreen } from './screen';
import { useSelection } from './selection';
import { useSession } from './session';
import { useSurvey } from './survey';

/** The pilot notes of the session: those that are open, those that were left, and whether the list is shown. */
export const usePilot = defineStore('pilot', () => {
    const session = useSession();
    const selection = useSelection();
    const screen = useScreen();
    const survey = useSurvey();
    const isShown = ref(false);

    const notes = computed(() => session.state?.pilot ?? []);
    const open = computed(() => notes.value.filter((note) => !note.left));
    const left = computed(() => notes.value.filter((note) => note.left));
    /** What asks for a decision. */
    const count = computed(() => open.value.filter((note) => note.severity !== 'information').length);
    const isSevere = computed(() => open.value.some((note) => note.severity === 'severe'));

    function of(channel: string): PilotNote[] {
        return open.value.filter((note) => note.channel === channel && note.severity !== 'information');
    }

    /** Takes the person to what a note is about; the list steps aside. */
    function show(note: PilotNote): void {
        isShown.value = false;
        selection.clear();
        selection.channels = [note.channel];
        if (note.part !== null && session.place(note.part)) {
            screen.view = 'paths';
            selection.selectInsert(note.channel, note.part);
        } else if (note.part !== null && session.send(note.part)) {
            selection.selectSends([note.part]);
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
                const known = await api.get<{ change: number; pilot: PilotNote[] }>(`sessions/${before.id}/notes`);
                if (session.state?.id === before.id && session.state.change === known.change) {
                    session.state = { ...session.state, pilot: known.pilot };
                }
            } catch {
                // The next answer of the server brings them.
            }
        },
    );

    async function leave(note: PilotNote, isLeft: boolean): Promise<void> {
        if (!session.state) {
            return;
        }
        try {
            session.state = await api.put<SessionState>(`sessions/${session.state.id}/notes`, {
                note: note.id,
                left: isLeft,
            });
        } catch (error) {
            tellRefusal(error);
        }
    }

    return { isShown, open, left, count, isSevere, of, show, leave };
});
