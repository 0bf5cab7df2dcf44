import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import type { VueWrapper } from '@vue/test-utils';
import type { Channel, Preset, RowPreset, SessionState } from '@/api/types';
import { useFinder } from '@/stores/finder';
import { useSelection } from '@/stores/selection';
import { useSession } from '@/stores/session';
import { useShelf } from '@/stores/shelf';
import { channel, insert, processor, settled, shown, stateOf, world, type World } from '@/testing';
import QuickFinder from './QuickFinder.vue';

let finder: VueWrapper;
let made: World;

const warm: Preset = { id: null, processor: 'drive', name: 'Bass, warm', use: 'Bass', parameters: { gain: 3 } };
const twoWays = { id: 7, name: 'Bass row', use: 'Own', inserts: [insert('i1', 'drive')] } as unknown as RowPreset;

beforeEach(() => {
    made = world(
        [channel('bass', { inserts: [insert('i1', 'echo')] }), channel('cello'), channel('drum')],
        [
            processor('compressor', 'Dynamics', { synonyms: ['squeeze'], levelDependent: true, cost: 0.5 }),
            processor('drive', 'Colour', { synonyms: ['saturation'], levelDependent: true }),
            processor('echo', 'Space', { synonyms: ['delay'], widens: true, wetOnly: true }),
            processor('hall', 'Space', { synonyms: ['reverb'] }),
        ],
    );
    const shelf = useShelf();
    shelf.presets = [warm];
    shelf.rows = [twoWays];
    finder = shown(QuickFinder, {});
});

afterEach(() => finder.unmount());

async function open(...channels: string[]): Promise<void> {
    useSelection().channels = channels;
    useFinder().openForSelection();
    await settled();
}

async function type(text: string): Promise<void> {
    await finder.find('.finder > .head input').setValue(text);
}

async function press(key: string, more: Record<string, unknown> = {}): Promise<void> {
    await finder.find('.finder').trigger('keydown', { key, ...more });
    await settled();
}

const entries = () => finder.findAll('.entries [role=option]').map((one) => one.find('.name').text());
const chosen = () => finder.find('.entries .chosen .name').text();

describe('the quick finder', () => {
    it('finds by part of a name, by what it is also called, and presets beside effects', async () => {
        await open('bass');
        await type('dela');
        expect(entries()).toEqual(['Echo']);
        await type('bass');
        expect(entries()).toEqual(['Bass, warm', 'Bass row']);
        await type('kazoo');
        expect(finder.find('.none').text()).toContain('Nothing here is called that');
    });

    it('adds to all selected channels in one edit, by keys alone', async () => {
        await open('bass', 'cello', 'drum');
        expect(finder.find('.hint').text()).toBe('on Bass, Cello, Drum');
        await type('squeeze');
        await press('Enter');
        expect(made.edits).toEqual([
            { type: 'add-insert', channels: ['bass', 'cello', 'drum'], processor: 'compressor', row: 'inserts' },
        ]);
        expect(finder.find('.finder').exists()).toBe(false);
    });

    it('walks the list and stays within it', async () => {
        await open('bass');
        await type('s');
        const all = entries();
        await press('ArrowUp');
        expect(chosen()).toBe(all[0]);
        for (let i = 0; i < all.length + 3; i++) {
            await press('ArrowDown');
        }
        expect(chosen()).toBe(all[all.length - 1]);
    });

    it('goes for a new return and back, and sends from every channel', async () => {
        await open('bass', 'cello');
        await type('hall');
        await press('Enter', { ctrlKey: true });
        expect(finder.find('.hint').text()).toBe('on a new return, sent to from Bass, Cello');
        await press('Enter', { ctrlKey: true });
        expect(finder.find('.hint').text()).toBe('on Bass, Cello');
        await press('Enter', { ctrlKey: true });
        await press('Enter');
        expect(made.edits).toEqual([{ type: 'send-to-new-return', channels: ['bass', 'cello'], processor: 'hall' }]);
    });

    it('sends to a return there is, found by its name or by what is on it', async () => {
        useSession().state = stateOf(
            [
                channel('bass', { sends: [{ id: 'n1', to: 'room' }] } as Partial<Channel>),
                channel('cello'),
                channel('room', { kind: 'return', inserts: [insert('i5', 'hall')] } as Partial<Channel>),
                channel('loop', { kind: 'return', inserts: [insert('i6', 'hall')] } as Partial<Channel>),
            ],
            { loops: { cello: ['loop'] } } as Partial<SessionState>,
        );
        await open('bass', 'cello');
        await type('reverb');
        expect(entries()).toEqual(['Hall', 'Send to Room']);
        await press('ArrowDown');
        await press('Enter');
        // The bass goes there already, and to the other return the cello would come back to itself.
        expect(made.edits).toEqual([{ type: 'add-send', channels: ['cello'], to: 'room' }]);
        await open('bass');
        await finder.find('[data-shelf=sends]').trigger('click');
        expect(entries()).toEqual(['Send to Loop']);
    });

    it('puts a preset down with its name', async () => {
        await open('cello');
        await type('bass warm');
        await press('Enter');
        expect(made.edits[0]).toMatchObject({
            type: 'add-insert',
            processor: 'drive',
            parameters: { gain: 3 },
            preset: 'Bass, warm',
        });
    });

    it('replaces in place, offers no rows or splits there, and sets the preset on what came', async () => {
        useFinder().openToReplace('i1');
        await settled();
        expect(finder.find('.target').exists()).toBe(false);
        await type('bass');
        expect(entries()).toEqual(['Bass, warm']);
        made.after = (edit) =>
            edit.type === 'replace-insert'
                ? stateOf([channel('bass', { inserts: [insert('i9', 'drive')] }), channel('cello'), channel('drum')])
                : (useSession().state ?? stateOf([]));
        await press('Enter');
        expect(made.edits).toEqual([
            { type: 'replace-insert', insert: 'i1', processor: 'drive' },
            { type: 'set-parameters', insert: 'i9', parameters: { gain: 3 }, preset: 'Bass, warm' },
        ]);
        expect(useSelection().insert).toBe('i9');
    });

    it('puts a row down on every channel', async () => {
        await open('cello', 'drum');
        await type('bass row');
        await press('Enter');
        expect(made.edits.map((edit) => [edit.type, edit.channel])).toEqual([
            ['paste-inserts', 'cello'],
            ['paste-inserts', 'drum'],
        ]);
    });

    it('walks the shelves by Tab and shows what stands there', async () => {
        await open('bass');
        await press('Tab', { shiftKey: true });
        expect(finder.find('[data-shelf=rows].on').exists()).toBe(true);
        expect(entries()).toContain('Bass row');
        await press('Tab');
        await finder.find('[data-shelf=Space]').trigger('click');
        expect(entries()).toEqual(['Echo', 'Hall']);
        await finder.find('[data-shelf=favourites]').trigger('click');
        expect(finder.find('.none').text()).toContain('F2 on an effect');
    });

    it('says what costs, what depends on the level, and what makes two sides of one', async () => {
        await open('bass');
        await type('echo');
        expect(finder.find('.entries .facts').text()).toContain('1→2');
        await type('compressor');
        expect(finder.find('.entries .facts').text()).toMatch(/level\s*0.5 %/);
    });

    it('keeps favourites and folders on the server', async () => {
        made.answers['PUT folders'] = { favourites: ['hall'], folders: [{ name: 'Rooms', processors: ['hall'] }] };
        await open('bass');
        await type('hall');
        await press('F2');
        expect(made.asked).toContainEqual(['PUT', 'folders', { folder: null, processor: 'hall', in: true }]);
        await press('F4');
        const picker = finder.find('.picker');
        await picker.find('input').setValue('Rooms');
        expect(picker.findAll('li').map((one) => one.text())).toEqual(['◆Rooms']);
        await picker.find('input').setValue('Halls');
        await picker.find('input').trigger('input');
        await picker.trigger('keydown', { key: 'Enter' });
        await settled();
        expect(made.asked).toContainEqual(['PUT', 'folders', { folder: 'Halls', processor: 'hall', in: true }]);
        await picker.trigger('keydown', { key: 'Escape' });
        expect(finder.find('.picker').exists()).toBe(false);
        expect(finder.find('.finder').exists()).toBe(true);
        await finder.find('[data-shelf="folder:Rooms"]').trigger('click');
        await type('');
        expect(entries()).toEqual(['Hall']);
    });

    it('closes on Escape and begins anew', async () => {
        await open('bass');
        await type('hall');
        await press('Escape');
        expect(finder.find('.finder').exists()).toBe(false);
        expect(made.edits).toEqual([]);
        await open('bass');
        expect((finder.find('.finder > .head input').element as HTMLInputElement).value).toBe('');
    });
});
