import { computed, ref, shallowRef } from 'vue';
import type { Edit } from '@/api/edits';
import type { Channel, NoteClip, NoteRow } from '@/api/types';
import { rules } from '@/rules';
import { useScreen } from '@/stores/screen';
import { useSession } from '@/stores/session';

/** A note as the editor has it: in ticks of the session. */
export interface PlacedNote {
    clip: string;
    at: number;
    length: number;
    key: number;
    velocity: number;
}

/** Quarter notes in the bars the editor shows. */
export const BEATS = 4;

export const nameOf = (note: Pick<PlacedNote, 'at' | 'key'>) => `${note.at}:${note.key}`;

/** The notes of a channel, those that are chosen, and what can be done with them. */
export function useNoteEdits(channel: () => Channel) {
    const session = useSession();
    const screen = useScreen();
    const perBeat = rules().ticksPerBeat;
    const bar = BEATS * perBeat;

    const chosen = ref<string[]>([]);
    /** As they are drawn while they are dragged. */
    const held = shallowRef<PlacedNote[] | null>(null);
    const clips = computed<NoteClip[]>(() => {
        const source = channel().source;
        return source.type === 'notes' ? source.clips : [];
    });
    const notes = computed<PlacedNote[]>(
        () =>
            held.value ??
            clips.value.flatMap(({ id, start, notes: own }) =>
                own.map(([at, length, key, velocity]) => ({ clip: id, at: start + at, length, key, velocity })),
            ),
    );
    const picked = computed(() => notes.value.filter((note) => chosen.value.includes(nameOf(note))));

    /** Puts all notes as one step; clips grow by whole bars where a note reaches beyond them. */
    async function put(next: PlacedNote[], gesture: string | null = null): Promise<void> {
        const edits = clips.value.flatMap((clip) => {
            const own = next.filter((note) => note.clip === clip.id);
            const rows: NoteRow[] = own.map(({ at, length, key, velocity }) => [
                Math.max(0, at - clip.start),
                length,
                key,
                velocity,
            ]);
            const end = Math.max(clip.length, ...rows.map(([at, length]) => at + length));
            const grown: Edit[] =
                end > clip.length
                    ? [
                          {
                              type: 'move-note-clip',
                              channel: channel().id,
                              clip: clip.id,
                              start: clip.start,
                              length: Math.ceil(end / bar) * bar,
                          },
                      ]
                    : [];
            const set: Edit = { type: 'set-notes', channel: channel().id, clip: clip.id, notes: rows };
            return [...grown, ...(isSame(rows, clip.notes) ? [] : [set])];
        });
        if (edits.length > 0) {
            await session.edit(
                edits.length === 1 ? edits[0]! : { type: 'several', label: `Notes of ${channel().name}`, edits },
                gesture,
            );
        }
    }

    function isSame(rows: NoteRow[], before: NoteRow[]): boolean {
        return rows.length === before.length && rows.every((row, i) => row.every((part, p) => part === before[i]![p]));
    }

    /** Adds notes and movements of controllers where they lie, as one step; whether it was made. */
    async function add(added: Omit<PlacedNote, 'clip'>[], controls: [number, number, number][] = []): Promise<boolean> {
        const isMade = await session.edit({
            type: 'add-notes',
            channel: channel().id,
            notes: added.map(({ at, length, key, velocity }): NoteRow => [at, length, key, velocity]),
            controls,
        });
        chosen.value = added.map(nameOf);
        return isMade;
    }

    /** The notes with the chosen ones changed; they stay chosen where they go. */
    function changed(of: PlacedNote[], which: string[], change: (note: PlacedNote) => PlacedNote): PlacedNote[] {
        const names: string[] = [];
        const next = of.map((note) => {
            if (!which.includes(nameOf(note))) {
                return note;
            }
            const to = change(note);
            names.push(nameOf(to));
            return to;
        });
        chosen.value = names;
        return next;
    }

    function moved(of: PlacedNote[], which: string[], ticks: number, keys: number): PlacedNote[] {
        const moving = of.filter((note) => which.includes(nameOf(note)));
        const back = Math.min(...moving.map((note) => note.at - (clipOf(note)?.start ?? 0)));
        const up = Math.min(keys, 127 - Math.max(...moving.map((note) => note.key)));
        const by = Math.max(up, -Math.min(...moving.map((note) => note.key)));
        return changed(of, which, (note) => ({ ...note, at: note.at + Math.max(ticks, -back), key: note.key + by }));
    }

    const clipOf = (note: PlacedNote) => clips.value.find(({ id }) => id === note.clip);

    function remove(): void {
        const gone = chosen.value;
        chosen.value = [];
        void put(notes.value.filter((note) => !gone.includes(nameOf(note))));
    }

    /** The server moves notes to the grid; those that are chosen, or all. */
    async function quantise(grid: number): Promise<void> {
        const which = chosen.value;
        const edits: Edit[] = clips.value.flatMap((clip) => {
            const places = clip.notes.flatMap(([at, , key], place) =>
                which.length === 0 || which.includes(`${clip.start + at}:${key}`) ? [place] : [],
            );
            const edit: Edit = { type: 'quantise-notes', channel: channel().id, clip: clip.id, grid, notes: places };
            return places.length > 0 ? [edit] : [];
        });
        chosen.value = [];
        if (edits.length > 0) {
            await session.edit(edits.length === 1 ? edits[0]! : { type: 'several', label: 'Quantise notes', edits });
        }
    }

    function copy(): void {
        const first = Math.min(...picked.value.map(({ at }) => at));
        screen.copiedNotes = picked.value.map((note) => ({ ...note, at: note.at - first }));
    }

    async function paste(at: number): Promise<void> {
        if (screen.copiedNotes.length > 0) {
            await add(screen.copiedNotes.map((note) => ({ ...note, at: at + note.at })));
        }
    }

    return {
        perBeat,
        bar,
        clips,
        notes,
        chosen,
        picked,
        held,
        put,
        add,
        changed,
        moved,
        remove,
        quantise,
        copy,
        paste,
    };
}
