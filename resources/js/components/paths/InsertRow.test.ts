import { afterEach, describe, expect, it } from 'vitest';
import type { VueWrapper } from '@vue/test-utils';
import type { Channel, Advice, ProcessorInsert, SessionState } from '@/api/types';
import { useFinder } from '@/stores/finder';
import { useSelection } from '@/stores/selection';
import { useSession } from '@/stores/session';
import { channel, insert, processor, settled, shown, world, type World } from '@/testing';
import InsertRow from './InsertRow.vue';

let row: VueWrapper;
let made: World;

const SPECS = [
    processor('gate', 'Dynamics', { levelDependent: true }),
    processor('drive', 'Colour', { levelDependent: true }),
    processor('hall', 'Space', { widens: true }),
];

function open(inserts: ProcessorInsert[], more: Partial<SessionState> = {}, of: Partial<Channel> = {}): void {
    made = world([channel('bass', { inserts, ...of })], SPECS, more);
    const bass = useSession().channel('bass') as Channel;
    row = shown(InsertRow, {
        channel: bass,
        row: 'inserts',
        inserts,
        start: 'bass:source',
        wide: bass.width === 'stereo',
    });
}

afterEach(() => row.unmount());

const note = (part: string, at: number): Advice =>
    ({
        id: `ambience-into-drive:bass:${part}`,
        check: 'ambience-into-drive',
        severity: 'advice',
        channel: 'bass',
        part,
        text: 'Hall on Bass runs into Drive.',
        dismissed: false,
        fix: {
            label: 'Put it after',
            edit: { type: 'move-insert', insert: part, channel: 'bass', row: 'inserts', at },
        },
    }) as Advice;

describe('a row of inserts', () => {
    it('draws what each is for, in the order of the sound, and whether it works', () => {
        open([insert('i1', 'gate'), insert('i2', 'drive', { on: false }), insert('i3', 'hall')]);
        const lamps = row.findAll('[data-role]');
        expect(lamps.map((lamp) => lamp.attributes('data-role'))).toEqual(['Dynamics', 'Colour', 'Space']);
        expect(lamps.map((lamp) => lamp.classes('off'))).toEqual([false, true, false]);
        expect(row.find('[data-insert=i2]').attributes('title')).toContain('Drive (colour), bypassed');
    });

    it('shows where one side becomes two, as the server says', () => {
        open([insert('i1', 'gate'), insert('i2', 'hall'), insert('i3', 'hall')], {
            stereo: {
                'bass:source': false,
                'bass:insert:i1': false,
                'bass:insert:i2': true,
                'bass:insert:i3': true,
            },
        });
        expect(
            row
                .findAll('[data-widens]')
                .map((fork) => fork.element.closest('[data-insert]')?.getAttribute('data-insert')),
        ).toEqual(['i2']);
        expect(row.findAll('.between .line').map((line) => line.classes('wide'))).toEqual([false, false, true]);
    });

    it('shows the short name and the main figure of each, and how wet it is', () => {
        open([insert('i1', 'gate'), insert('i2', 'hall', { mix: 0.25 })], {
            inserts: {
                i1: { label: 'Gate −45', latency: 0, chip: { name: 'Gate', figure: '−45 dB' } },
                i2: { label: 'Hall 2.4 s', latency: 0, chip: { name: 'Hall', figure: '2.4 s' } },
            },
        });
        expect(row.find('[data-insert=i1] .name').text().replace(/\s+/g, ' ')).toBe('Gate−45 dB');
        expect(row.find('[data-insert=i2] .name').text().replace(/\s+/g, ' ')).toBe('Hall2.4 s 25%');
    });

    it('offers a better order where the insert would go, and makes it only when asked', async () => {
        open([insert('i1', 'hall'), insert('i2', 'drive')], { pilot: [note('i1', 2)] });
        const offer = row.find('[data-order-offer]');
        expect(offer.attributes('title')).toContain('Hall on Bass runs into Drive.');
        expect(row.find('.rest').element.contains(offer.element)).toBe(true);
        expect(made.edits).toEqual([]);
        await offer.trigger('click');
        await settled();
        expect(made.edits).toEqual([{ type: 'move-insert', insert: 'i1', channel: 'bass', row: 'inserts', at: 2 }]);
    });

    it('offers nothing that was left alone, is about another row, or is no move', () => {
        const elsewhere = note('i1', 0);
        elsewhere.fix!.edit = { type: 'move-insert', insert: 'i1', channel: 'bass', row: 'postInserts', at: 0 };
        const other = note('i1', 0);
        other.fix!.edit = { type: 'set-mix', insert: 'i1', mix: 1 };
        open([insert('i1', 'hall'), insert('i2', 'drive')], {
            pilot: [{ ...note('i1', 2), dismissed: true }, elsewhere, other],
        });
        expect(row.findAll('[data-order-offer]')).toHaveLength(0);
        expect(row.findAll('.noted')).toHaveLength(1);
    });

    it('bypasses by its lamp, selects by its name, and opens the finder at its end', async () => {
        open([insert('i1', 'gate'), insert('i2', 'drive')]);
        await row.find('[data-insert=i1] .lamp').trigger('click');
        await settled();
        expect(made.edits).toEqual([{ type: 'set-insert-on', inserts: ['i1'], on: false }]);
        await row.find('[data-insert=i2] .name').trigger('click');
        expect(useSelection().insert).toBe('i2');
        await row.find('.add').trigger('click');
        expect(useFinder().request).toMatchObject({ channels: ['bass'], row: 'inserts', at: 2, branch: null });
    });

    it('is all off while the row is bypassed, whatever each insert is', () => {
        open([insert('i1', 'gate')], {}, { insertsOn: false });
        expect(row.find('[data-insert=i1]').classes()).toContain('off');
        expect(row.find('[data-role]').classes()).toContain('off');
    });
});
