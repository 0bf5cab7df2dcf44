import { createPinia, setActivePinia } from 'pinia';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import { nextTick } from 'vue';
import { api } from '@/api/client';
import type { RemedyPlan, SessionState } from '@/api/types';
import { stateOf } from '@/testing';
import { useHeadroom } from './headroom';
import { useListening } from './listening';
import { useScreen } from './screen';
import { useSession } from './session';

vi.stubGlobal(
    'BroadcastChannel',
    class {
        postMessage(): void {}
        close(): void {}
    },
);

const plan = (id: number, after: number, edits: string[]) =>
    ({
        id,
        hasAmount: true,
        status: 'done',
        progress: 1,
        message: null,
        prediction: {
            labels: edits,
            edits: edits.map((type) => ({ type })),
            verified: true,
            before: { peak: 1, 'true-peak': 1, loudness: -12 },
            after: { peak: after, 'true-peak': after, loudness: -19 },
            reached: true,
            changes: [],
            fed: 0,
            tone: null,
            reductions: [],
            reductionStep: 4096,
        },
    }) as unknown as RemedyPlan;

interface Asked {
    plans: { remedies: string[]; amounts?: Record<string, number>; compensate: boolean; prove?: boolean }[];
    again?: boolean;
}

let asked: Asked[] = [];

beforeEach(() => {
    setActivePinia(createPinia());
    localStorage.clear();
    asked = [];
    vi.spyOn(api, 'get').mockResolvedValue({ paths: {} });
    vi.spyOn(api, 'post').mockImplementation((path: string, body?: unknown) => {
        if (!path.endsWith('/plans')) {
            return Promise.resolve({});
        }
        asked.push(body as Asked);
        const plans = (body as Asked).plans.map((choice, at) => plan(at + 1, -6, choice.remedies));
        return Promise.resolve({ ready: true, plans });
    });
});

async function settled(): Promise<void> {
    await nextTick();
    await new Promise((resolve) => setTimeout(resolve));
}

async function opened() {
    const session = useSession();
    useScreen().view = 'headroom';
    session.state = { id: 1, change: 1, document: { channels: [], length: 10 } } as unknown as SessionState;
    const headroom = useHeadroom();
    await settled();
    return { session, headroom };
}

describe('remedies', () => {
    it('are asked for one by one, and those that are chosen as a whole', async () => {
        const { headroom } = await opened();
        expect(asked[0]?.plans.map((choice) => choice.remedies)).toEqual([
            ['trim-sources'],
            ['lower-clips'],
            ['cut-low-end'],
            ['cut-boxiness'],
            ['lower-offender'],
            ['lower-faders'],
            ['group-and-lower'],
            ['trim-main'],
            ['limit-last'],
        ]);
        headroom.toggle('trim-main');
        await settled();
        expect(headroom.plan?.prediction?.edits).toEqual([{ type: 'trim-main' }]);
        headroom.toggle('cut-low-end');
        await settled();
        expect(asked.at(-1)?.plans.at(-1)?.remedies).toEqual(['trim-main', 'cut-low-end']);
        expect(headroom.plan?.id).toBe(10);
    });

    it('are proved where they are chosen, opened or heard, and nowhere else', async () => {
        const { headroom } = await opened();
        const proved = () => asked.at(-1)?.plans.flatMap((choice) => (choice.prove ? [choice.remedies.join()] : []));
        expect(proved()).toEqual([]);
        headroom.opened = 'limit-last';
        await settled();
        expect(proved()).toEqual(['limit-last']);
        headroom.opened = null;
        headroom.toggle('trim-main');
        await settled();
        expect(proved()).toEqual(['trim-main']);
        // Several are wanted together, not each by itself.
        headroom.toggle('cut-low-end');
        await settled();
        expect(proved()).toEqual(['trim-main,cut-low-end']);
        headroom.toggle('cut-low-end');
        headroom.toggle('trim-main');
        useListening().compare = { kind: 'plan', id: 3, label: 'Low end' };
        await settled();
        expect(proved()).toEqual(['cut-low-end']);
    });

    it('take an amount that was set by hand, and let go of it', async () => {
        const { headroom } = await opened();
        headroom.setAmount('trim-main', 3);
        await settled();
        const trim = () => asked.at(-1)?.plans.find((choice) => choice.remedies[0] === 'trim-main');
        expect(trim()?.amounts).toEqual({ 'trim-main': 3 });
        headroom.setAmount('trim-main', null);
        await settled();
        expect(trim()?.amounts).toBeUndefined();
    });

    it('are applied as one step, and asked for anew after it', async () => {
        const { session, headroom } = await opened();
        const edit = vi.spyOn(session, 'edit').mockResolvedValue(true);
        headroom.toggle('trim-main');
        await settled();
        await headroom.apply();
        expect(edit).toHaveBeenCalledWith({ type: 'several', label: 'trim-main', edits: [{ type: 'trim-main' }] });
        expect(headroom.chosen).toEqual([]);
        const before = asked.length;
        session.state = { ...(session.state as SessionState), change: 2 };
        await settled();
        expect(asked.length).toBeGreaterThan(before);
    });

    it('are not asked for while another view is open', async () => {
        await opened();
        const before = asked.length;
        useScreen().view = 'paths';
        await settled();
        expect(asked.length).toBe(before);
    });
});

it('keeps nothing of one session for another, whichever view is shown', async () => {
    const session = useSession();
    const screen = useScreen();
    session.state = stateOf([], { id: 1 });
    screen.view = 'headroom';
    const headroom = useHeadroom();
    await nextTick();
    headroom.chosen = ['lower-faders'];
    headroom.amounts = { 'lower-faders': 3 };
    headroom.measureOnly({ from: 0, to: 480 });
    await nextTick();
    screen.view = 'paths';
    await nextTick();
    session.state = stateOf([], { id: 2 });
    await nextTick();
    expect([headroom.chosen, headroom.amounts, headroom.region, headroom.paths]).toEqual([[], {}, null, {}]);
});

it('shows no moment of a session that was left while the server answered', async () => {
    const session = useSession();
    session.state = stateOf([], { id: 1 });
    const headroom = useHeadroom();
    let answer: (known: unknown) => void = () => undefined;
    vi.mocked(api.get).mockImplementation(() => new Promise((resolve) => (answer = resolve as never)));
    const looked = headroom.lookAt(4800);
    session.state = stateOf([], { id: 2 });
    answer({ moment: { position: 4800 } });
    await looked;
    expect(headroom.moment).toBeNull();
    expect(headroom.isLookingForMoment).toBe(false);
});
