import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import type { VueWrapper } from '@vue/test-utils';
import { defineComponent, h } from 'vue';
import type { Channel, Advice } from '@/api/types';
import { useKeys } from './useKeys';
import { useFinder } from '@/stores/finder';
import { useListening } from '@/stores/listening';
import { useScreen } from '@/stores/screen';
import { useSelection } from '@/stores/selection';
import { useSession } from '@/stores/session';
import { channel, insert, processor, settled, shown, world, type World } from '@/testing';

let page: VueWrapper;
let made: World;
let sheets = 0;
let folds = 0;

beforeEach(() => {
    made = world(
        [
            channel('bass', { inserts: [insert('i1', 'gate'), insert('i2', 'drive'), insert('i3', 'hall')] }),
            channel('cello', { mute: true, inserts: [insert('i4', 'gate')] }),
            channel('drum', { hidden: true } as Partial<Channel>),
            channel('choir'),
        ],
        [processor('gate', 'Dynamics'), processor('drive', 'Colour'), processor('hall', 'Space')],
        { pilot: [] as Advice[] },
    );
    sheets = 0;
    folds = 0;
    page = shown(
        defineComponent(() => {
            useKeys({ showKeys: () => sheets++, foldInspector: () => folds++ });
            return () => h('div', [h('input'), h('select'), h('button')]);
        }),
        {},
    );
});

afterEach(() => page.unmount());

async function press(key: string, more: KeyboardEventInit = {}, on: Element = document.body): Promise<KeyboardEvent> {
    const event = new KeyboardEvent('keydown', { key, bubbles: true, cancelable: true, ...more });
    on.dispatchEvent(event);
    await settled();
    return event;
}

describe('the keys', () => {
    it('mute and solo all that is selected, as the first of them is', async () => {
        useSelection().channels = ['cello', 'bass'];
        await press('m');
        await press('S');
        expect(made.edits).toEqual([
            { type: 'set-mute', channels: ['cello', 'bass'], mute: false },
            { type: 'set-solo', channels: ['cello', 'bass'], solo: true },
        ]);
    });

    it('walk over channels that are shown, and extend with Shift', async () => {
        const selection = useSelection();
        await press('ArrowDown');
        expect(selection.channels).toEqual(['bass']);
        await press('ArrowDown', { shiftKey: true });
        await press('ArrowDown', { shiftKey: true });
        // The hidden one is passed over.
        expect(selection.channels).toEqual(['bass', 'cello', 'choir']);
        await press('ArrowUp');
        expect(selection.channels).toEqual(['cello']);
        await press('ArrowUp');
        await press('ArrowUp');
        await press('ArrowUp');
        expect(selection.channels).toEqual(['bass']);
    });

    it('walk along a row, and with Alt move the insert within it', async () => {
        const selection = useSelection();
        selection.channels = ['bass'];
        await press('ArrowRight');
        await press('ArrowRight');
        expect(selection.insert).toBe('i2');
        await press('ArrowRight', { altKey: true });
        await press('ArrowLeft', { altKey: true });
        expect(made.edits).toEqual([
            { type: 'move-insert', insert: 'i2', channel: 'bass', row: 'inserts', at: 3 },
            { type: 'move-insert', insert: 'i2', channel: 'bass', row: 'inserts', at: 0 },
        ]);
        selection.selectInsert('bass', 'i1');
        await press('ArrowLeft', { altKey: true });
        expect(made.edits).toHaveLength(2);
        await press('ArrowLeft');
        expect(selection.insert).toBeNull();
    });

    it('bypass, wrap and remove the inserts that are selected', async () => {
        const selection = useSelection();
        selection.selectInsert('bass', 'i1');
        selection.selectInsert('bass', 'i3', { ctrlKey: true, metaKey: false, shiftKey: false });
        await press('e');
        await press('w');
        await press('Delete');
        expect(made.edits).toEqual([
            { type: 'set-insert-on', inserts: ['i1', 'i3'], on: false },
            { type: 'wrap-in-branch', inserts: ['i1', 'i3'] },
            { type: 'remove-inserts', inserts: ['i1', 'i3'] },
        ]);
        expect(selection.inserts).toEqual([]);
    });

    it('remove channels but never the main', async () => {
        useSelection().channels = ['choir', 'main'];
        await press('Backspace');
        expect(made.edits).toEqual([{ type: 'remove-channels', channels: ['choir'] }]);
        useSelection().channels = ['main'];
        await press('Delete');
        expect(made.edits).toHaveLength(1);
    });

    it('copy inserts in the order of the row, and paste them on whatever is selected', async () => {
        const selection = useSelection();
        selection.selectInsert('bass', 'i3');
        selection.selectInsert('bass', 'i1', { ctrlKey: true, metaKey: false, shiftKey: false });
        await press('c', { ctrlKey: true });
        expect(useScreen().copiedInserts.map((one) => one.id)).toEqual(['i1', 'i3']);
        selection.clear();
        selection.channels = ['choir', 'cello'];
        await press('v', { ctrlKey: true });
        selection.clear();
        selection.selectInsert('cello', 'i4');
        await press('v', { metaKey: true });
        expect(made.edits.map((edit) => [edit.type, edit.channel, edit.at])).toEqual([
            ['paste-inserts', 'choir', undefined],
            ['paste-inserts', 'cello', undefined],
            ['paste-inserts', 'cello', 1],
        ]);
    });

    it('leave copying alone where nothing is selected', async () => {
        const event = await press('c', { ctrlKey: true });
        expect(event.defaultPrevented).toBe(false);
        expect((await press('v', { ctrlKey: true })).defaultPrevented).toBe(false);
    });

    it('are letters where somebody types', async () => {
        useSelection().channels = ['bass'];
        for (const css of ['input', 'select']) {
            const event = await press('m', {}, page.find(css).element);
            expect(event.defaultPrevented).toBe(false);
        }
        await press('z', { ctrlKey: true }, page.find('input').element);
        expect(made.edits).toEqual([]);
        expect(made.asked.filter(([method]) => method === 'POST')).toEqual([]);
        await press('m', {}, page.find('button').element);
        expect(made.edits).toHaveLength(1);
    });

    it('wait while the finder is open, but undo does not', async () => {
        useSelection().channels = ['bass'];
        await press('/');
        expect(useFinder().request?.channels).toEqual(['bass']);
        await press('m');
        expect(made.edits).toEqual([]);
        const { state } = useSession();
        made.answers['POST sessions/1/undo'] = made.answers['POST sessions/1/redo'] = state;
        await press('z', { ctrlKey: true });
        await press('Z', { ctrlKey: true, shiftKey: true });
        expect(made.asked.filter(([method]) => method === 'POST').map(([, path]) => path)).toEqual([
            'sessions/1/undo',
            'sessions/1/redo',
        ]);
    });

    it('play, loop and choose a side', async () => {
        const listening = useListening();
        const toggle = vi.spyOn(listening, 'toggle').mockImplementation(() => undefined);
        await press(' ');
        await press('l');
        expect(listening.isLooping).toBe(true);
        expect(listening.loop).toEqual({ start: 0, end: 480000 });
        await press('2');
        expect(listening.side).toBe(1);
        listening.startCompare({ kind: 'insert', id: 'i1' });
        await press('2');
        expect(listening.side).toBe(2);
        expect(toggle.mock.calls.length).toBeLessThanOrEqual(1);
    });

    it('show the sheet, select all tracks, and clear', async () => {
        await press('?');
        expect(sheets).toBe(1);
        await press('a', { ctrlKey: true });
        expect(useSelection().channels).toEqual(['bass', 'cello', 'drum', 'choir']);
        await press('Escape');
        expect(useSelection().channels).toEqual([]);
    });
});
