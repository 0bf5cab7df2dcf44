import { beforeEach, describe, expect, it } from 'vitest';
import type { Channel, Macro } from '@/api/types';
import { channel, insert, number, settled, stateOf, world, type World } from '@/testing';
import { useMacros } from './macros';
import { useSelection } from './selection';
import { useSession } from './session';

const bite: Macro = {
    id: 'm1',
    name: 'Bite',
    switch: false,
    value: 0.25,
    moves: [{ target: 'mix:i1', from: 0.2, to: 1, curve: 0.5 }],
};
const drive = { id: 'drive', name: 'Drive', parameters: [number('amount', { default: 6, min: 0, max: 36 })] };
const send = { id: 'n1', to: 'plate', gain: -12, tap: 'post-fader', on: true, pan: 0 };

let made: World;

beforeEach(() => {
    const channels = [
        channel('bass', { inserts: [insert('i1', 'drive')], sends: [send], macros: [bite] } as Partial<Channel>),
        channel('cello', { inserts: [insert('i2', 'drive')] }),
    ];
    made = world(channels, [drive] as never);
    useSession().state = stateOf(channels);
    // As the server has it: the macro stands where it was turned to.
    made.after = (edit) => {
        const state = useSession().state!;
        const turned = edit.type === 'turn-macro' ? (edit as unknown as { value: number }).value : null;
        const document = {
            ...state.document,
            channels: state.document.channels.map((one) =>
                one.macros && turned !== null ? { ...one, macros: [{ ...one.macros[0]!, value: turned }] } : one,
            ),
        };
        return { ...state, change: state.change + 1, document };
    };
});

describe('assigning to a macro', () => {
    const assign = async () => {
        useMacros().assign(bite);
        await settled();
    };

    it('puts it at its end, takes what is moved on its channel, and puts it back', async () => {
        await assign();
        expect(useMacros().located?.channel.id).toBe('bass');
        const session = useSession();
        void session.edit({ type: 'set-parameter', insert: 'i1', parameter: 'amount', value: 20 });
        void session.edit({ type: 'set-send-gain', sends: ['n1'], gain: null });
        void session.edit({ type: 'set-insert-on', inserts: ['i1'], on: false });
        await settled();
        useMacros().end();
        await settled();
        const move = { type: 'set-macro-move', macro: 'm1', curve: 0 };
        expect(made.edits).toEqual([
            { type: 'turn-macro', macro: 'm1', value: 1 },
            { ...move, target: 'parameter:i1:amount', from: 6, to: 20 },
            { ...move, target: 'send:n1', from: -12, to: null },
            { ...move, target: 'on:i1', from: 1, to: 0 },
            { type: 'turn-macro', macro: 'm1', value: 0.25 },
        ]);
    });

    it('keeps where a move begins and its curve, and draws the steps of a movement together', async () => {
        await assign();
        const session = useSession();
        for (const mix of [0.4, 0.5, 0.6]) {
            void session.edit({ type: 'set-mix', insert: 'i1', mix }, 'one');
        }
        await settled();
        expect(made.edits.slice(1)).toEqual([
            { type: 'set-macro-move', macro: 'm1', target: 'mix:i1', from: 0.2, to: 0.4, curve: 0.5 },
            { type: 'set-macro-move', macro: 'm1', target: 'mix:i1', from: 0.2, to: 0.6, curve: 0.5 },
        ]);
    });

    it('leaves alone what is of another channel, or no control a macro moves', async () => {
        await assign();
        const edits = [
            { type: 'set-parameter', insert: 'i2', parameter: 'amount', value: 20 },
            { type: 'set-mix', insert: 'i2', mix: 0.5 },
            { type: 'set-fader', channels: ['bass'], gain: -3 },
            { type: 'set-parameter', insert: 'i1', parameter: 'shape', value: 'soft' },
        ] as const;
        for (const edit of edits) {
            void useSession().edit(edit as never);
        }
        await settled();
        expect(made.edits.slice(1)).toEqual(edits);
    });

    it('ends where another channel is shown, and moves by hand again', async () => {
        await assign();
        useSelection().selectChannel('cello', new MouseEvent('click'), ['bass', 'cello']);
        await settled();
        expect(useMacros().assigned).toBeNull();
        void useSession().edit({ type: 'set-mix', insert: 'i1', mix: 0.5 });
        await settled();
        expect(made.edits.slice(1)).toEqual([
            { type: 'turn-macro', macro: 'm1', value: 0.25 },
            { type: 'set-mix', insert: 'i1', mix: 0.5 },
        ]);
    });
});
