import { beforeEach, describe, expect, it, vi } from 'vitest';
import { nextTick } from 'vue';
import { api, Refused } from '@/api/client';
import type { LoadState, PrintBatch } from '@/api/types';
import { answers, realWorld } from '@/testing';
import { useFreezes } from './freezes';
import { useListening } from './listening';
import { useLoad } from './load';
import { notices } from './notices';
import { useScreen } from './screen';
import { useSession } from './session';

const measured = (change: number, total: number): LoadState => ({
    change,
    status: 'done',
    progress: 1,
    message: null,
    load: {
        total,
        engine: 0.01,
        seconds: 2,
        memory: 1e6,
        channels: [
            { id: 'cello', total: 0.1, reading: 0.01, own: 0.02, inserts: { i1: 0.07 }, saving: 0.09, seconds: 1 },
            { id: 'bass', total: 0.3, reading: 0.01, own: 0.02, inserts: { i4: 0.27 }, saving: 0.28, seconds: 3 },
        ],
    },
});
const plan = { channels: ['bass'], before: 0.4, after: 0.12, seconds: 3, isReached: true, remaining: ['cello'] };
const batch = (status: PrintBatch['status'], message: string | null = null): PrintBatch => ({
    id: 'b1',
    kind: 'freeze',
    status,
    message,
    channels: [{ channel: 'bass', name: 'Bass', status, progress: 0.5, clipped: 0, peak: null }],
    progress: 0.5,
    secondsLeft: 4,
});

beforeEach(() => {
    vi.useFakeTimers();
    vi.restoreAllMocks();
    realWorld();
});

describe('the load', () => {
    it('is measured when its view is opened, the heaviest channel first, and a plan is found', async () => {
        const change = useSession().state!.change;
        let known: LoadState = { change, status: 'none', progress: 0, message: null, load: null };
        vi.spyOn(api, 'get').mockImplementation(() => Promise.resolve(known) as never);
        const post = vi.spyOn(api, 'post').mockImplementation((path: string) => {
            if (path.endsWith('/plan')) {
                return Promise.resolve({ plan }) as never;
            }
            known = measured(change, 0.4);
            return Promise.resolve({ ...known, status: 'running', load: null }) as never;
        });
        const load = useLoad();
        useScreen().view = 'load';
        await nextTick();
        await vi.advanceTimersByTimeAsync(2000);
        expect(load.channels.map((one) => one.id)).toEqual(['bass', 'cello']);
        expect(load.plan).toEqual(plan);
        load.target = 0.3;
        await vi.advanceTimersByTimeAsync(300);
        expect(post).toHaveBeenLastCalledWith(expect.stringMatching(/load\/plan$/), { target: 0.3, by: 'channels' });
        // What the plan brought is told of the state it made, not of the one before.
        load.predicted = { load: 0.12, change };
        expect(load.outcome).toBeNull();
        load.state = measured(change + 1, 0.13);
        expect(load.outcome).toEqual({ predicted: 0.12, measured: 0.13 });
    });

    it('is of the moment while it plays, and its parts add up to the channel', () => {
        const listening = useListening();
        const load = useLoad();
        load.state = measured(1, 0.4);
        listening.loads = { cello: 0.2, 'cello:reading': 0.02, 'cello:insert:i1': 0.15, bass: 0.05 };
        listening.isPlaying = true;
        const cello = load.channels.find((one) => one.id === 'cello');
        expect(
            cello === undefined
                ? 0
                : cello.own + cello.reading + Object.values(cello.inserts).reduce((a, b) => a + b, 0),
        ).toBeCloseTo(cello?.total ?? -1);
        expect(cello?.reading).toBe(0.02);
    });
});

describe('freezes', () => {
    it('are followed until they are in the session, and say why they are not', async () => {
        const said = [
            batch('running'),
            batch('failed', 'Bass was changed since this freeze was made. Freeze it again.'),
        ];
        vi.spyOn(api, 'get').mockImplementation(
            (path: string) =>
                Promise.resolve(
                    path.startsWith('batches/')
                        ? said[1]
                        : path.endsWith('batches')
                          ? { running: null }
                          : answers.session,
                ) as never,
        );
        vi.spyOn(api, 'post').mockResolvedValue(said[0] as never);
        const freezes = useFreezes();
        await vi.advanceTimersByTimeAsync(10);
        await freezes.start(['bass']);
        expect(freezes.isRunning).toBe(true);
        await vi.advanceTimersByTimeAsync(500);
        expect(freezes.isRunning).toBe(false);
        expect(notices.value.at(-1)?.message).toContain('Bass was changed');
    });

    it('let what they block be made in one press', async () => {
        const post = vi
            .spyOn(api, 'post')
            .mockRejectedValueOnce(new Refused(422, 'frozen', 'Bass is frozen.', ['bass']))
            .mockResolvedValue(answers.session as never);
        vi.spyOn(api, 'get').mockResolvedValue(answers.session as never);
        const trim = { type: 'set-trim' as const, channels: ['bass'], gain: -3 };
        await useSession().edit(trim);
        const notice = notices.value.at(-1);
        expect(notice?.action?.label).toBe('Unfreeze Bass and do it');
        notice?.action?.run();
        await vi.advanceTimersByTimeAsync(10);
        expect(post.mock.lastCall?.[1]).toMatchObject({
            edit: { type: 'several', edits: [{ type: 'unfreeze', channels: ['bass'] }, trim] },
        });
    });
});
