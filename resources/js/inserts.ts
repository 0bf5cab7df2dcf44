import type { Branch, Channel, Insert, RowName, Split } from '@/api/types';

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
