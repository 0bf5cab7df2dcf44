import { nextTick, ref } from 'vue';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import { api } from '@/api/client';
import type { MeterFrame, Notice } from '@/listening/frames';
import { channel, insert, settled, stateOf, world, type World } from '@/testing';

/** The player without a loudspeaker: what it was told, and the way to tell the store what comes. */
const player = vi.hoisted(() => ({
    receiver: null as unknown as {
        meters(frame: unknown): void;
        notice(notice: unknown): void;
        ended(isWhole: boolean): void;
    },
    started: [] as string[],
    halted: 0,
    at: 1000,
}));

vi.mock('@/listening/player', () => ({
    Player: class {
        constructor(receiver: typeof player.receiver) {
            player.receiver = receiver;
        }
        start(url: string): Promise<void> {
            player.started.push(url);
            return Promise.resolve();
        }
        halt(): void {
            player.halted++;
        }
        position(): number {
            return player.at;
        }
        buffered(): number {
            return 0.1;
        }
    },
}));

const notices = await import('./notices');
const { useHardware } = await import('./hardware');
const { useListening } = await import('./listening');
const { useScreen } = await import('./screen');
const { useSession } = await import('./session');
const { useSurvey } = await import('./survey');

let made: World;

beforeEach(() => {
    made = world([channel('bass', { inserts: [insert('i1', 'drive')] })], []);
    made.answers['POST sessions/1/listenings'] = { id: 'abc', stream: '/api/listenings/abc/stream' };
    player.started = [];
    player.halted = 0;
    player.at = 1000;
});

const told = (notice: Notice) => player.receiver.notice(notice);
const options = () => made.asked[made.asked.length - 1]?.[2] as Record<string, unknown>;

describe('listening', () => {
    it('starts where it stands, and inside the loop if there is one', async () => {
        const listening = useListening();
        await listening.play(5000.4);
        expect(player.started).toEqual(['/api/listenings/abc/stream?from=5000']);
        listening.stop();
        listening.setLoop({ start: 96000, end: 192000 });
        await listening.play(0);
        expect(player.started[1]).toBe('/api/listenings/abc/stream?from=96000');
        expect(options()).toMatchObject({ loop: { start: 96000, end: 192000 }, tap: null, compare: null });
    });

    it('stays silent when it was stopped before the server answered', async () => {
        const listening = useListening();
        const starting = listening.play(0);
        listening.stop();
        await starting;
        expect(player.started).toEqual([]);
        expect(listening.isPlaying).toBe(false);
        expect(made.asked.slice(-1)).toEqual([['PUT', 'listenings/abc', { stopped: true }]]);
    });

    it('plays once when it is started, stopped and started at once', async () => {
        const listening = useListening();
        const first = listening.play(0);
        listening.stop();
        await Promise.all([first, listening.play(7000)]);
        expect(player.started).toEqual(['/api/listenings/abc/stream?from=7000']);
        expect(listening.isPlaying).toBe(true);
    });

    it('begins again at the end, and says so where there is nothing', async () => {
        const listening = useListening();
        await listening.play(480000);
        expect(player.started).toEqual(['/api/listenings/abc/stream?from=0']);
        listening.stop();
        useSession().state = { ...stateOf([]), document: { ...stateOf([]).document, length: 0 } };
        await listening.play();
        expect(player.started).toHaveLength(1);
    });

    it('stays where it was stopped, and tells the server', async () => {
        const listening = useListening();
        await listening.play(0);
        player.at = 7777;
        listening.stop();
        await settled();
        expect(listening.position).toBe(7777);
        expect(made.asked[made.asked.length - 1]).toEqual(['PUT', 'listenings/abc', { stopped: true }]);
        expect(listening.isPlaying).toBe(false);
    });

    it('tells the server of another tap, a compare and its side while it plays', async () => {
        const listening = useListening();
        listening.listenAt('bass:pre-fader');
        expect(made.asked).toEqual([]);
        await listening.play(0);
        expect(options()).toMatchObject({ tap: 'bass:pre-fader' });
        listening.listenAt('main:post-fader');
        expect(options()).toMatchObject({ tap: null });
        await settled();
        listening.startCompare({ kind: 'setting', id: 'i1', parameters: { drive: 3 }, label: 'setting 2' });
        expect(options()).toMatchObject({ compare: { insert: 'i1', parameters: { drive: 3 } }, side: 1 });
        await settled();
        listening.chooseSide(2);
        expect(options()).toMatchObject({ side: 2 });
        told({ kind: 'compare', side: 2, gain: -4.2 });
        expect(listening.matchGain).toBe(-4.2);
        told({ kind: 'tap-gone', tap: 'bass:pre-fader' });
        expect(listening.tap).toBeNull();
    });

    it('tells wishes one after the other, and none twice, however late the server answers', async () => {
        const listening = useListening();
        await listening.play(0);
        const answers: (() => void)[] = [];
        const put = vi.mocked(api.put);
        put.mockImplementation(() => new Promise((resolve) => answers.push(() => resolve({}))));
        put.mockClear();
        const keys = ref<number[][]>([[60, 96, 1]]);
        listening.played = () => ({ channel: 'bass', keys: keys.value });
        listening.tellPlayed();
        keys.value = [];
        listening.tellPlayed();
        listening.listenAt('bass:pre-fader');
        // What was let go must not arrive before what was pressed.
        expect(put.mock.calls.map(([, body]) => body)).toEqual([{ played: { channel: 'bass', keys: [[60, 96, 1]] } }]);
        answers[0]?.();
        await settled();
        expect(put).toHaveBeenCalledTimes(2);
        expect(put.mock.calls[1]?.[1]).toMatchObject({ tap: 'bass:pre-fader', played: { channel: 'bass', keys: [] } });
        answers[1]?.();
        await settled();
        expect(put).toHaveBeenCalledTimes(2);
    });

    it('ends a compare of what is gone', async () => {
        const listening = useListening();
        listening.startCompare({ kind: 'insert', id: 'i1' });
        useSession().state = { ...stateOf([channel('bass')]), change: 2 };
        await settled();
        expect(listening.compare).toBeNull();
    });

    it('holds peaks for a while and counts overs from the start', async () => {
        const listening = useListening();
        const now = vi.spyOn(performance, 'now');
        const meters = (seconds: number, peak: number, overs: number) => {
            now.mockReturnValue(seconds * 1000);
            player.receiver.meters({
                position: 0,
                load: 0.2,
                loads: {},
                taps: { 'bass:source': { peak, rms: peak - 10, overs, reduction: 0 } },
            } as MeterFrame);
        };
        listening.metered.look(Symbol('row'), ['bass']);
        await listening.play(0);
        meters(10, -3, 2);
        meters(10.5, -20, 1);
        expect(listening.level('bass:source')).toMatchObject({ peak: -3, rms: -30, overs: 3 });
        meters(12, -20, 0);
        expect(listening.level('bass:source')).toMatchObject({ peak: -20, overs: 3 });
        meters(13, -Infinity, 0);
        meters(15, -Infinity, 0);
        expect(listening.level('bass:source')).toMatchObject({ peak: null });
        now.mockRestore();
    });

    it('says whose levels are looked at: with the start, and a moment after it changes', async () => {
        vi.useFakeTimers();
        const listening = useListening();
        const [row, inspector, view] = [Symbol('row'), Symbol('inspector'), Symbol('view')];
        listening.metered.look(row, ['choir']);
        listening.metered.look(inspector, ['bass', 'choir']);
        expect(made.asked.some(([, path]) => path.includes('listenings/'))).toBe(false);
        await listening.play(0);
        expect(options().metered).toEqual(['bass', 'choir']);
        const asked = () => made.asked.filter(([method]) => method === 'PUT').map(([, , body]) => body);
        listening.metered.look(inspector, []);
        listening.metered.look(row, ['drum']);
        listening.metered.look(row, ['cello']);
        expect(asked()).toEqual([]);
        await vi.advanceTimersByTimeAsync(200);
        expect(asked()).toEqual([{ metered: ['cello'] }]);
        listening.metered.look(view, 'all');
        listening.metered.end(row);
        await vi.advanceTimersByTimeAsync(200);
        expect(asked()[1]).toEqual({ metered: null });
        listening.metered.look(view, 'all');
        await vi.advanceTimersByTimeAsync(200);
        expect(asked()).toHaveLength(2);
        vi.useRealTimers();
    });

    it('shows what the survey knows while nothing plays', () => {
        useSurvey().state = {
            result: { taps: { 'bass:source': { peak: -9, rms: -20, overs: 0, reduction: 0 } } },
        } as never;
        expect(useListening().level('bass:source')).toMatchObject({ peak: -9 });
        expect(useListening().level('bass:nowhere')).toBeNull();
    });

    it('keeps what is seen of an insert while it is watched, and forgets it with the next', async () => {
        const listening = useListening();
        await listening.play(0);
        listening.watchInsert('i1');
        expect(options()).toMatchObject({ watch: 'i1' });
        const seen = { insert: 'i1', frequencies: [100], before: [], after: [], bands: {} };
        told({ kind: 'watch', ...seen });
        expect(listening.watched).toMatchObject(seen);
        const asked = made.asked.length;
        listening.watchInsert('i1');
        expect(made.asked).toHaveLength(asked);
        await settled();
        listening.watchInsert(null);
        expect(listening.watched).toBeNull();
        expect(options()).toMatchObject({ watch: null });
    });

    it('goes around a moment to hear a plan, at the main, beginning with what it makes', async () => {
        const listening = useListening();
        listening.listenAt('bass:source');
        listening.hear({ kind: 'plan', id: 3, label: 'Trim' }, 100000);
        await settled();
        expect(player.started).toEqual(['/api/listenings/abc/stream?from=4000']);
        expect(options()).toMatchObject({
            tap: null,
            loop: { start: 4000, end: 196000 },
            compare: { plan: 3 },
            side: 2,
        });
    });

    it('is over when the stream ends', async () => {
        const listening = useListening();
        await listening.play(0);
        player.receiver.ended(true);
        expect([listening.isPlaying, listening.position]).toEqual([false, 0]);
        await listening.play(7000);
        player.receiver.ended(false);
        expect([listening.isPlaying, listening.position]).toEqual([false, 7000]);
        listening.chooseSide(2);
        expect(listening.side).toBe(1);
    });
});

describe('live inputs', () => {
    const taking = (monitor: 'off' | 'armed' | 'always') => ({
        ...stateOf([
            channel('voice', { source: { type: 'input', input: 'in:1', monitor, clips: [] } }),
            channel('bass'),
        ]),
        live: { voice: { heard: monitor, path: [], quick: [] } },
    });
    const posted = () => made.asked.filter(([method, path]) => method === 'POST' && path.endsWith('/listenings'));

    beforeEach(() => {
        vi.useFakeTimers();
        return () => vi.useRealTimers();
    });

    it('are heard while nothing plays, once they are armed; playing takes their place and gives it back', async () => {
        const listening = useListening();
        useSession().state = taking('armed');
        await vi.advanceTimersByTimeAsync(400);
        expect(posted()).toEqual([]);
        useHardware().arm('voice', true);
        await vi.advanceTimersByTimeAsync(400);
        expect(posted().map(([, , body]) => body)).toMatchObject([
            { standing: true, armed: ['voice'], interface: false },
        ]);
        expect([listening.isStanding, listening.isPlaying]).toEqual([true, false]);
        await listening.play(4800);
        expect(posted()[1]?.[2]).toMatchObject({ standing: false, armed: ['voice'] });
        expect([listening.isStanding, listening.isPlaying]).toEqual([false, true]);
        listening.stop();
        await vi.advanceTimersByTimeAsync(400);
        expect(posted()[2]?.[2]).toMatchObject({ standing: true });
        expect(player.started[2]).toBe('/api/listenings/abc/stream?from=1000');
        useHardware().arm('voice', false);
        await vi.advanceTimersByTimeAsync(400);
        expect(listening.isStanding).toBe(false);
        expect(posted()).toHaveLength(3);
    });

    it('are looked at in their view, with peaks held and clips counted until they are cleared', async () => {
        const now = vi.spyOn(performance, 'now').mockReturnValue(1000);
        const listening = useListening();
        const hardware = useHardware();
        useScreen().view = 'inputs';
        await vi.advanceTimersByTimeAsync(400);
        expect(listening.isStanding).toBe(true);
        told({ kind: 'inputs', ports: { 1: [-3, -12, 4], 2: [null, null, 0] } });
        now.mockReturnValue(1500);
        told({ kind: 'inputs', ports: { 1: [-30, -40, 2], 2: [null, null, 0] } });
        expect(hardware.levels['1']).toEqual([-3, -40, 2]);
        expect(hardware.clipped).toEqual({ 1: 6 });
        // The server has not kept it yet, and answers something else.
        made.answers['PUT interface'] = { latency: { in: 1, out: 1 }, clipped: {}, inputs: [] };
        await hardware.set({ input: 1, gain: 3 });
        expect(hardware.clipped).toEqual({ 1: 6 });
        await hardware.set({ clear: 2 });
        expect(hardware.clipped).toEqual({ 1: 6 });
        await hardware.set({ clear: 1 });
        expect(hardware.clipped).toEqual({});
        now.mockReturnValue(4000);
        told({ kind: 'inputs', ports: { 1: [-31, -40, 0], 2: [null, null, 0] } });
        expect(hardware.levels['1']?.[0]).toBe(-31);
        useScreen().view = 'paths';
        await vi.advanceTimersByTimeAsync(400);
        expect([listening.isStanding, hardware.levels]).toEqual([false, {}]);
        now.mockRestore();
    });

    it('begin anew where the interface has another buffer, and go on where tracks are armed or looked at', async () => {
        const listening = useListening();
        await listening.play(0);
        expect(posted()).toHaveLength(1);
        made.answers['GET interface'] = { latency: { in: 1, out: 1 }, clipped: {}, inputs: [], buffer: 256 };
        told({ kind: 'interface-set', isSame: false });
        await vi.advanceTimersByTimeAsync(0);
        expect(posted()).toHaveLength(2);
        // Where it was, and soon: it was sounding.
        expect(player.started[1]).toBe('/api/listenings/abc/stream?from=1000&soon=1');
        useHardware().arm('voice', true);
        await vi.advanceTimersByTimeAsync(0);
        expect(options()).toMatchObject({ armed: ['voice'], interface: false });
        useScreen().view = 'inputs';
        await vi.advanceTimersByTimeAsync(0);
        expect(options()).toMatchObject({ interface: true, standing: false });
        expect(posted()).toHaveLength(2);
        expect(listening.isPlaying).toBe(true);
    });

    it('say when a take ends as the interface has another buffer, and when inputs are heard late until it ends', async () => {
        const listening = useListening();
        const said = vi.spyOn(notices, 'tell');
        await listening.record({ channel: 'cello', tap: 'heard' });
        told({ kind: 'heard-late', milliseconds: 16 });
        told({ kind: 'interface-set', isSame: false });
        await vi.advanceTimersByTimeAsync(0);
        expect(said.mock.calls.map(([words]) => words)).toEqual([
            'Until the take ends, live inputs are heard 16 ms later than said.',
            'The interface works with another buffer now. The take ended there, and is kept.',
        ]);
        expect([listening.recording, listening.isPlaying]).toEqual([null, true]);
    });

    it('are heard without what makes them late, where that is wanted', async () => {
        useListening();
        const hardware = useHardware();
        useSession().state = {
            ...taking('always'),
            live: {
                voice: {
                    heard: 'always',
                    path: [{ channel: 'voice', samples: 1800 }],
                    quick: [{ delay: 3, sleeping: ['i9'], path: [{ channel: 'voice', samples: 0 }] }],
                },
            },
        };
        made.answers['GET interface'] = { latency: { in: 152, out: 148 }, clipped: {}, inputs: [] };
        await hardware.load();
        await vi.advanceTimersByTimeAsync(400);
        const samples = () => hardware.delay('voice').map((part) => part.samples);
        expect(samples()).toEqual([152, 1800, 148]);
        expect([hardware.isAsleep('voice', 'i9'), posted()[0]?.[2]]).toMatchObject([false, { quick: null }]);
        hardware.quick = 3;
        await vi.advanceTimersByTimeAsync(0);
        expect(samples()).toEqual([152, 148]);
        expect(hardware.isAsleep('voice', 'i9')).toBe(true);
        expect(options()).toMatchObject({ quick: 3 });
    });

    it('tell what they carried while the loudest passage was played, and are set as advised', async () => {
        useListening();
        const hardware = useHardware();
        const inputs = [
            { name: 'Voice', plug: 'voice', gain: 20 },
            { name: 'Free', plug: 'nothing', gain: 0 },
        ];
        made.answers['GET interface'] = { latency: { in: 1, out: 1 }, clipped: {}, inputs };
        made.answers['POST interface/levels'] = { advice: { 1: { change: -4.5, gain: 15.5, text: 'turn it down' } } };
        await hardware.load();
        hardware.findLevels();
        told({ kind: 'inputs', ports: { 1: [-3, -12, 0], 2: [null, null, 0] } });
        told({ kind: 'inputs', ports: { 1: [-5, -14, 0], 2: [null, null, 0] } });
        await hardware.endPassage();
        expect(options()).toEqual({
            inputs: [
                {
                    input: 1,
                    readings: [
                        [-3, -12, 0],
                        [-5, -14, 0],
                    ],
                },
            ],
        });
        expect(hardware.advice[1]?.text).toBe('turn it down');
        made.answers['PUT interface'] = made.answers['GET interface'];
        await hardware.follow(1);
        expect(options()).toEqual({ input: 1, gain: 15.5 });
        expect(hardware.advice).toEqual({});
    });

    it('are recorded on several tracks at once, on an empty session too', async () => {
        const listening = useListening();
        const empty = taking('off');
        useSession().state = { ...empty, document: { ...empty.document, length: 0 } };
        await listening.record({ channel: 'voice', tap: 'input' });
        expect(options()).toMatchObject({ record: [{ channel: 'voice', tap: 'input' }] });
        expect(listening.isPlaying).toBe(true);
        told({
            kind: 'recording',
            takes: [
                { channel: 'voice', seconds: 2, peak: -8, drawn: [0.1, 0.4], left: 900 },
                { channel: 'bass', seconds: 1, peak: null, drawn: [], left: 900 },
            ],
        });
        told({
            kind: 'recording',
            takes: [{ channel: 'voice', seconds: 3, peak: -8, drawn: [0.2], left: 840 }],
        });
        expect(listening.recorded).toEqual({ seconds: 3, peak: -8, left: 840 });
        expect(listening.drawn).toEqual({ voice: [0.1, 0.4, 0.2] });
    });

    it('are looked for until all of them are on their tracks, however long that takes', async () => {
        vi.useFakeTimers();
        try {
            const listening = useListening();
            const known = taking('off');
            useSession().state = known;
            made.answers['GET sessions/1'] = { ...known, recorded: ['voice', 'bass'] };
            await listening.record({ channel: 'voice', tap: 'input' }, { channel: 'bass', tap: 'input' });
            listening.stopRecording();
            await vi.advanceTimersByTimeAsync(60_000);
            // The first of them is there: the other one is waited for as well.
            made.answers['GET sessions/1'] = { ...known, change: known.change + 1, recorded: ['bass'] };
            await vi.advanceTimersByTimeAsync(30_000);
            expect(useSession().state?.recorded).toEqual(['bass']);
            made.answers['GET sessions/1'] = { ...known, change: known.change + 2, recorded: [] };
            await vi.advanceTimersByTimeAsync(1000);
            expect(useSession().state).toMatchObject({ change: known.change + 2, recorded: [] });
            const asked = made.asked.length;
            await vi.advanceTimersByTimeAsync(30_000);
            expect(made.asked.length).toBeLessThanOrEqual(asked + 1);
        } finally {
            vi.useRealTimers();
        }
    });

    it('are counted in, and recorded inside the loop region only', async () => {
        const listening = useListening();
        const known = taking('off');
        // Half a second a beat.
        useSession().state = { ...known, document: { ...known.document, length: 960_000, tempo: 120 } };
        listening.countIn = 1;
        await listening.record({ channel: 'voice', tap: 'input' });
        expect(options()).toMatchObject({ punch: { from: 0, to: null }, loop: null });
        // A bar before the start of the session.
        expect(listening.position).toBe(-96_000);
        listening.stop();
        expect(listening.recording).toBeNull();
        listening.setLoop({ start: 480_000, end: 500_000 });
        listening.isPunching = true;
        await listening.record({ channel: 'voice', tap: 'input' });
        expect(options()).toMatchObject({ punch: { from: 480_000, to: 500_000 }, loop: null });
        expect(listening.position).toBe(384_000);
        listening.position = 505_000;
        await nextTick();
        expect(listening.recording).not.toBeNull();
        listening.position = 513_000;
        await nextTick();
        expect(listening.recording).toBeNull();
        listening.countIn = 0;
    });
});
