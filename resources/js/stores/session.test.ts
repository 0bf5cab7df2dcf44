import { beforeEach, describe, expect, it, vi } from 'vitest';
import { api, Refused } from '@/api/client';
import type { SentEdit } from '@/testing';
import type { SessionState } from '@/api/types';
import { channel, insert, settled, stateOf, world } from '@/testing';
import { newGesture } from '@/gesture';
import { useSession } from './session';

type Answer = (value: SessionState) => void;

/** Edits as the server got them, each with the state it was made on; answered by hand. */
let sent: { base: number; edit: SentEdit; gesture: string | null; answer: Answer; refuse: (error: Error) => void }[];

beforeEach(() => {
    world([channel('bass', { inserts: [insert('i1', 'drive')] })], []);
    sent = [];
    vi.spyOn(api, 'post').mockImplementation(
        (_path: string, body?: unknown) =>
            new Promise((resolve, reject) => {
                const { base, edit, gesture } = body as { base: number; edit: SentEdit; gesture?: string };
                sent.push({ base, edit, gesture: gesture ?? null, answer: resolve as Answer, refuse: reject });
            }),
    );
});

const at = (change: number): SessionState => ({ ...stateOf([channel('bass')]), change });

describe('edits', () => {
    it('go one after the other, each on the state the one before it left', async () => {
        const session = useSession();
        void session.edit({ type: 'set-fader', channels: ['bass'], gain: -3 });
        void session.edit({ type: 'set-mute', channels: ['bass'], mute: true });
        await settled();
        expect(sent.map((one) => [one.edit.type, one.base])).toEqual([['set-fader', 1]]);
        sent[0]?.answer(at(2));
        await settled();
        expect(sent.map((one) => [one.edit.type, one.base])).toEqual([
            ['set-fader', 1],
            ['set-mute', 2],
        ]);
        sent[1]?.answer(at(3));
        await settled();
        expect(session.state?.change).toBe(3);
    });

    it('of one movement are drawn together while the server is busy, and all are told', async () => {
        const session = useSession();
        const gesture = newGesture();
        const told: number[] = [];
        for (const gain of [-1, -2, -3, -4]) {
            void session.edit({ type: 'set-fader', channels: ['bass'], gain }, gesture).then(() => told.push(gain));
        }
        await settled();
        sent[0]?.answer(at(2));
        await settled();
        sent[1]?.answer(at(3));
        await settled();
        expect(sent.map((one) => one.edit.gain)).toEqual([-1, -4]);
        expect(told.sort()).toEqual([-1, -2, -3, -4]);
    });

    it('of one movement that move two controls are all made', async () => {
        const session = useSession();
        const gesture = newGesture();
        void session.edit({ type: 'set-mute', channels: ['bass'], mute: false });
        void session.edit({ type: 'set-parameter', insert: 'i1', parameter: 'key', value: 'd' }, gesture);
        void session.edit({ type: 'set-parameter', insert: 'i1', parameter: 'scale', value: 'minor' }, gesture);
        void session.edit({ type: 'move-faders', channels: ['bass'], by: -1 }, gesture);
        void session.edit({ type: 'move-faders', channels: ['bass'], by: -2 }, gesture);
        void session.edit({ type: 'move-faders', channels: ['cello'], by: -2 }, gesture);
        for (let i = 0; i < 5; i++) {
            await settled();
            sent[i]?.answer(at(2 + i));
        }
        await settled();
        expect(sent.map((one) => one.edit.parameter ?? one.edit.by ?? one.edit.type)).toEqual([
            'set-mute',
            'key',
            'scale',
            -3,
            -2,
        ]);
    });

    it('of two movements are kept apart', async () => {
        const session = useSession();
        void session.edit({ type: 'set-fader', channels: ['bass'], gain: -1 }, newGesture());
        void session.edit({ type: 'set-fader', channels: ['bass'], gain: -2 }, newGesture());
        void session.edit({ type: 'set-fader', channels: ['bass'], gain: -3 }, newGesture());
        for (let i = 0; i < 3; i++) {
            await settled();
            sent[i]?.answer(at(2 + i));
        }
        await settled();
        expect(sent.map((one) => one.edit.gain)).toEqual([-1, -2, -3]);
    });

    it('that are refused leave the state as it is, and the next one goes on', async () => {
        const session = useSession();
        const get = vi.spyOn(api, 'get').mockResolvedValue(at(7) as never);
        void session.edit({ type: 'set-output', channels: ['bass'], output: 'bass' });
        void session.edit({ type: 'set-mute', channels: ['bass'], mute: true });
        await settled();
        sent[0]?.refuse(new Refused(409, 'channels/bass', 'Somebody changed this.'));
        await settled();
        // Another window was faster: the newest state is fetched, and what waits is made on it.
        expect(get).toHaveBeenCalledWith('sessions/1');
        expect(session.state?.change).toBe(7);
        expect(sent[1]).toMatchObject({ base: 7, edit: { type: 'set-mute' } });
    });
});

describe('another session that is opened', () => {
    const other = (): SessionState => ({ ...stateOf([channel('cello')]), id: 2, change: 40 });

    it('is not replaced by a late answer to an edit of the one before', async () => {
        const session = useSession();
        void session.edit({ type: 'set-mute', channels: ['bass'], mute: true });
        session.show(other());
        sent[0]?.answer(at(2));
        await settled();
        expect(session.state?.id).toBe(2);
        expect(session.tracks.map(({ id }) => id)).toEqual(['cello']);
    });

    it('gets no edit that was made of the one before: that one does, on its own state', async () => {
        const session = useSession();
        const asked: string[] = [];
        vi.mocked(api.post).mockImplementation((path: string) => {
            asked.push(path);
            return new Promise(() => undefined);
        });
        vi.spyOn(api, 'get').mockImplementation((path: string) => {
            asked.push(path);
            return Promise.resolve(at(7) as never);
        });
        void session.edit({ type: 'set-mute', channels: ['bass'], mute: true }, null, 1);
        session.show(other());
        await settled();
        void session.edit({ type: 'set-solo', channels: ['cello'], solo: true });
        expect(asked).toEqual(['sessions/1/edits']);
    });

    it('takes an edit of the one before at the state that one has by now', async () => {
        const session = useSession();
        session.show(other());
        vi.spyOn(api, 'get').mockImplementation((path: string) => Promise.resolve({ ...at(7), path } as never));
        void session.edit({ type: 'set-mute', channels: ['bass'], mute: true }, null, 1);
        await settled();
        expect(vi.mocked(api.post).mock.calls[0]?.[0]).toBe('sessions/1/edits');
        expect(sent[0]?.base).toBe(7);
        sent[0]?.answer(at(8));
        await settled();
        expect(session.state?.change).toBe(40);
    });

    it('stays when an edit of the one before is refused', async () => {
        const session = useSession();
        const told = session.edit({ type: 'set-mute', channels: ['bass'], mute: true });
        session.show(other());
        sent[0]?.refuse(new Refused(422, '/channels/0', 'No such channel.'));
        await told;
        expect(session.state?.id).toBe(2);
    });

    it('is not replaced by a refresh of the one before', async () => {
        const session = useSession();
        let answer: (state: SessionState) => void = () => undefined;
        vi.spyOn(api, 'get').mockImplementation(() => new Promise((resolve) => (answer = resolve as never)));
        const refreshed = session.refresh();
        session.show(other());
        answer(at(9));
        await refreshed;
        expect(session.state?.id).toBe(2);
    });
});
