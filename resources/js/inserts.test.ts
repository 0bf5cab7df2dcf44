import { describe, expect, it } from 'vitest';
import type { Branch, Channel, Insert, ProcessorInsert, Split } from '@/api/types';
import { allInserts, findInsert } from './inserts';

function processor(id: string): ProcessorInsert {
    return { type: 'processor', id, processor: 'trim', on: true, mix: 1, parameters: {} };
}

function branch(id: string, inserts: Insert[], more: Partial<Branch> = {}): Branch {
    return { id, name: id, gain: 0, pan: 0, mute: false, solo: false, invert: false, inserts, ...more };
}

function split(id: string, branches: Branch[]): Split {
    return { type: 'split', id, on: true, by: 'copies', crossovers: [], branches };
}

function channel(id: string, inserts: Insert[], postInserts: Insert[] = []): Channel {
    return {
        id,
        kind: 'track',
        name: id,
        width: 'stereo',
        source: { type: 'clips', clips: [] },
        trim: { gain: 0, invert: false },
        insertsOn: true,
        inserts,
        fader: 0,
        pan: 0,
        mute: false,
        solo: false,
        soloSafe: false,
        postInserts,
        sends: [],
        output: 'main',
        aligned: true,
        hidden: false,
    };
}

const inner = split('s2', [branch('b3', [processor('i4')]), branch('b4', [])]);
const outer = split('s1', [branch('b1', [processor('i2')]), branch('b2', [processor('i3'), inner])]);
const drum = channel('drum', [processor('i1'), outer], [processor('i5')]);

describe('inserts of a row', () => {
    it('come in order, a split before what is in it', () => {
        expect(allInserts([...drum.inserts, ...drum.postInserts]).map((insert) => insert.id)).toEqual([
            'i1',
            's1',
            'i2',
            'i3',
            's2',
            'i4',
            'i5',
        ]);
    });

    it('are found to any depth, with what they stand in', () => {
        const place = findInsert([channel('cello', []), drum], 'i4');
        expect(place?.channel.id).toBe('drum');
        expect(place?.branch?.id).toBe('b3');
        expect(place?.split?.id).toBe('s2');
        expect(place?.neighbours).toHaveLength(1);
        const nested = findInsert([drum], 's2');
        expect([nested?.index, nested?.branch?.id, nested?.split?.id]).toEqual([1, 'b2', 's1']);
        const plain = findInsert([drum], 'i5');
        expect([plain?.row, plain?.branch]).toEqual(['postInserts', null]);
        expect(findInsert([drum], 'i9')).toBeNull();
    });
});
