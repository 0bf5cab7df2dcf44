import type { RowControls } from '@/api/edits';
import type { Branch, Channel, Insert, ProcessorInsert, RowName, Split } from '@/api/types';

/** Where an insert stands: on a row, or in a branch of a split. */
export interface InsertLocation {
    channel: Channel;
    row: RowName;
    index: number;
    insert: Insert;
    /** The row or branch it stands in, itself included. */
    neighbours: Insert[];
    branch: Branch | null;
    split: Split | null;
}

/** Whether an insert is a processor: an effect, an instrument or a note effect. */
export function isProcessor(insert: Insert | null | undefined): insert is ProcessorInsert {
    return Boolean(insert && 'processor' in insert);
}

/** Every insert of a row, a split before what is in its branches. */
export function allInserts(row: Insert[]): Insert[] {
    return row.flatMap((insert) => [
        insert,
        ...(insert.type === 'split' ? insert.branches.flatMap((branch) => allInserts(branch.inserts)) : []),
    ]);
}

export function findInsert(channels: Channel[], id: string): InsertLocation | null {
    for (const channel of channels) {
        for (const row of ['inserts', 'postInserts'] as const) {
            const location = findIn(channel, row, channel[row], id, null, null);
            if (location) {
                return location;
            }
        }
    }
    return null;
}

function findIn(
    channel: Channel,
    row: RowName,
    neighbours: Insert[],
    id: string,
    branch: Branch | null,
    split: Split | null,
): InsertLocation | null {
    for (const [index, insert] of neighbours.entries()) {
        if (insert.id === id) {
            return { channel, row, index, insert, neighbours, branch, split };
        }
        for (const inner of insert.type === 'split' ? insert.branches : []) {
            const location = findIn(channel, row, inner.inserts, id, inner, insert as Split);
            if (location) {
                return location;
            }
        }
    }
    return null;
}

/** The macros and sound switches of a channel, as far as they move some of its inserts: for inserts that are kept outside it. */
export function controlsOf(channel: Channel, inserts: Insert[]): RowControls {
    const own = new Set(
        allInserts(inserts).flatMap((insert) =>
            insert.type === 'split' ? [insert.id, ...insert.branches.map(({ id }) => id)] : [insert.id],
        ),
    );
    const isOwn = (target: string) => own.has(target.split(':')[1] ?? '');
    const macros = (channel.macros ?? [])
        .map((macro) => ({ ...macro, moves: macro.moves.filter(({ target }) => isOwn(target)) }))
        .filter(({ moves }) => moves.length > 0);
    const sounds = (channel.sounds ?? [])
        .map((of) => ({
            ...of,
            sounds: of.sounds.map((sound) => ({
                ...sound,
                values: Object.fromEntries(Object.entries(sound.values).filter(([target]) => isOwn(target))),
            })),
        }))
        .filter((of) => of.sounds.some(({ values }) => Object.keys(values).length > 0));
    return controlsIn({ macros, sounds });
}

/** The macros and sound switches a stored row or split brings. */
export function controlsIn({ macros = [], sounds = [] }: RowControls): RowControls {
    return { ...(macros.length > 0 ? { macros } : {}), ...(sounds.length > 0 ? { sounds } : {}) };
}
