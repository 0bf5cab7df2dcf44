import { beforeEach, describe, expect, it, vi } from 'vitest';
import type { Channel } from '@/api/types';
import { channel, insert, number, settled, stateOf, world, type World } from '@/testing';
import { useControllers } from '@/stores/controllers';
import { useSession } from '@/stores/session';
import { Takeover } from './takeover';

const macro = { id: 'm1', name: 'Bite', switch: false, value: 0.5, moves: [] };
const send = { id: 'n1', to: 'plate', gain: -12, tap: 'post-fader', on: true, pan: 0 };
const drive = { id: 'drive', name: 'Drive', parameters: [number('amount', { default: 6, min: 0, max: 36 })] };

/** A controller as Web MIDI has it, which plays what a test says. */
function standIn(name = 'Faderbox') {
    const input = { name, state: 'connected', onmidimessage: null as ((event: { data: Uint8Array }) => void) | null };
    const midi = { inputs: new Map([['1', input]]), onstatechange: null as (() => void) | null };
    Object.assign(navigator, { requestMIDIAccess: () => Promise.resolve(midi) });
    return { input, midi, send: (...data: number[]) => input.onmidimessage?.({ data: new Uint8Array(data) }) };
}

let made: World;

beforeEach(() => {
    localStorage.clear();
    const channels = [
        channel('bass', {
            inserts: [insert('i1', 'drive')],
            sends: [send],
            macros: [macro],
            sounds: [
                { id: 'w1', name: 'Tone', fade: 30, chosen: 'k1', sounds: [{ id: 'k1', name: 'Clean', values: {} }] },
            ],
        } as unknown as Partial<Channel>),
    ];
    made = world(channels, [drive] as never);
    useSession().state = stateOf(channels);
});

async function learnt(edit: Parameters<ReturnType<typeof useSession>['edit']>[0], message: [number, number, number]) {
    const controller = standIn();
    await useControllers().connect();
    useControllers().learning = true;
    void useSession().edit(edit);
    controller.send(...message);
    await settled();
    made.edits.length = 0;
    return controller;
}

describe('a controller', () => {
    it('learns what is moved on the screen and then moves it', async () => {
        const controller = await learnt({ type: 'turn-macro', macro: 'm1', value: 0.5 }, [0xb2, 21, 60]);
        expect(useControllers().learning).toBe(false);
        expect(useControllers().mappings).toEqual([
            { port: 'Faderbox', message: 'knob', channel: 3, number: 21, target: 'macro:m1' },
        ]);
        expect(useControllers().nameFor('macro:m1')).toBe('Bite of Bass');
        controller.send(0xb2, 21, 64);
        // Another channel, another knob: nothing.
        controller.send(0xb0, 21, 100);
        controller.send(0xb2, 22, 100);
        await settled();
        expect(made.edits).toEqual([{ type: 'turn-macro', macro: 'm1', value: 0.504 }]);
    });

    it('takes a control over only where it stands, and along its travel', async () => {
        const controller = await learnt(
            { type: 'set-parameter', insert: 'i1', parameter: 'amount', value: 9 },
            [0xb0, 7, 1],
        );
        // The drive stands at 6 of 36: a sixth of the way, 21 of 127.
        controller.send(0xb0, 7, 100);
        await settled();
        expect(made.edits).toEqual([]);
        controller.send(0xb0, 7, 10);
        await settled();
        expect(made.edits).toEqual([{ type: 'set-parameter', insert: 'i1', parameter: 'amount', value: 2.8346 }]);
    });

    it('chooses sounds, turns switches over and plays by its keys', async () => {
        const controller = await learnt({ type: 'choose-sound', switch: 'w1', sound: 'k1' }, [0x90, 36, 100]);
        controller.send(0x90, 36, 90);
        controller.send(0x80, 36, 0);
        await settled();
        expect(made.edits).toEqual([{ type: 'choose-sound', switch: 'w1', sound: 'k1' }]);
        useControllers().learning = true;
        void useSession().edit({ type: 'set-insert-on', inserts: ['i1'], on: true });
        controller.send(0x90, 37, 100);
        await settled();
        made.edits.length = 0;
        controller.send(0x90, 37, 1);
        controller.send(0x90, 37, 0);
        await settled();
        expect(made.edits).toEqual([{ type: 'set-insert-on', inserts: ['i1'], on: false }]);
    });

    it('moves a send to silence at its end, and keeps what it learned for the session', async () => {
        const controller = await learnt({ type: 'set-send-gain', sends: ['n1'], gain: -12 }, [0xb0, 1, 5]);
        controller.send(0xb0, 1, 127);
        controller.send(0xb0, 1, 0);
        await settled();
        expect(made.edits.at(-1)).toEqual({ type: 'set-send-gain', sends: ['n1'], gain: null });
        expect(JSON.parse(localStorage.getItem(`hafen.controllers.${useSession().state?.id}`) ?? '[]')).toHaveLength(1);
        useControllers().forget(useControllers().mappings[0]!);
        controller.send(0xb0, 1, 64);
        await settled();
        expect(made.edits).toHaveLength(1);
    });

    it('says what is plugged in, and where the browser refuses', async () => {
        const { input, midi } = standIn();
        await useControllers().connect();
        expect([useControllers().access, useControllers().ports]).toEqual(['on', ['Faderbox']]);
        input.state = 'disconnected';
        midi.onstatechange?.();
        expect(useControllers().ports).toEqual([]);
        Object.assign(navigator, { requestMIDIAccess: vi.fn(() => Promise.reject(new Error('denied'))) });
        await useControllers().connect();
        expect(useControllers().access).toBe('refused');
        Object.assign(navigator, { requestMIDIAccess: undefined });
        await useControllers().connect();
        expect(useControllers().access).toBe('missing');
    });
});

describe('soft takeover', () => {
    it('waits until the knob comes to where the control stands, or passes it', () => {
        const takeover = new Takeover();
        expect([takeover.takes(0.1, 0.5), takeover.takes(0.3, 0.5), takeover.takes(0.7, 0.5)]).toEqual([
            false,
            false,
            true,
        ]);
        expect([takeover.takes(0.9, 0.7), takeover.takes(0.2, 0.9)]).toEqual([true, true]);
    });

    it('lets go when something else moves the control', () => {
        const takeover = new Takeover();
        expect([
            takeover.takes(0.5, 0.5),
            takeover.takes(0.6, 0.9),
            takeover.takes(0.7, 0.9),
            takeover.takes(0.95, 0.9),
        ]).toEqual([true, false, false, true]);
    });
});
