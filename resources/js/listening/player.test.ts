import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { Player, type PlayerEvents } from './player';
import type { MeterFrame } from './frames';

const RATE = 48000;

/** The Web Audio of a browser whose clock the test moves. */
class FakeContext {
    static made: FakeContext[] = [];
    currentTime = 0;
    destination = {};
    closed = false;
    constructor(readonly options: { sampleRate: number }) {
        FakeContext.made.push(this);
    }
    get sampleRate() {
        return this.options.sampleRate;
    }
    resume = vi.fn(async () => undefined);
    close = vi.fn(async () => {
        this.closed = true;
    });
    createBuffer(_channels: number, length: number, rate: number) {
        return { duration: length / rate, copyToChannel: vi.fn() };
    }
}

class FakeNode {
    connect = vi.fn();
    disconnect = vi.fn();
}

class FakeSource extends FakeNode {
    static started: { time: number; duration: number; node: FakeSource }[] = [];
    onended: (() => void) | null = null;
    stop = vi.fn();
    constructor(
        _context: FakeContext,
        private readonly options: { buffer: { duration: number } },
    ) {
        super();
    }
    start(time: number): void {
        FakeSource.started.push({ time, duration: this.options.buffer.duration, node: this });
    }
}

const piece = (position: number, frames: number) => ({
    position,
    left: new Float32Array(frames),
    right: new Float32Array(frames),
});
const reading = (position: number): MeterFrame => ({ position, load: 0, taps: {}, loads: {} });
const events = () =>
    ({ layout: vi.fn(), meters: vi.fn(), notice: vi.fn(), waiting: vi.fn(), ended: vi.fn() }) satisfies PlayerEvents;

/** A stream that stays open until the test or an abort ends it. */
function openStream(signal?: AbortSignal | null): Response {
    return new Response(
        new ReadableStream({
            start: (controller) => signal?.addEventListener('abort', () => controller.error(new Error('aborted'))),
        }),
    );
}

beforeEach(() => {
    vi.useFakeTimers();
    FakeContext.made = [];
    FakeSource.started = [];
    vi.stubGlobal('AudioContext', FakeContext);
    vi.stubGlobal('GainNode', FakeNode);
    vi.stubGlobal('AnalyserNode', FakeNode);
    vi.stubGlobal('AudioBufferSourceNode', FakeSource);
    vi.stubGlobal(
        'fetch',
        vi.fn(async (_url: string, { signal }: RequestInit) => openStream(signal)),
    );
});

afterEach(() => {
    vi.unstubAllGlobals();
    vi.useRealTimers();
});

async function playing(isNear = false) {
    const heard = events();
    const player = new Player(heard);
    await player.start('/stream', RATE, isNear);
    return { player, heard, context: FakeContext.made[0] as FakeContext };
}

describe('the player', () => {
    it('gathers a margin before it starts, and sets each piece right behind the one before', async () => {
        const { player, heard } = await playing();
        player.audio(piece(0, 1440));
        expect(FakeSource.started).toEqual([]);
        player.audio(piece(1440, 1440));
        player.audio(piece(2880, 480));
        expect(heard.waiting).toHaveBeenCalledExactlyOnceWith(false);
        const [first, second, third] = FakeSource.started;
        expect(second?.time).toBeCloseTo(first!.time + 0.03, 9);
        expect(third?.time).toBeCloseTo(second!.time + 0.03, 9);
        expect(player.buffered()).toBeCloseTo(third!.time + 0.01, 9);
    });

    it('gathers more before it starts where the engine has little time to spare', async () => {
        const { player, heard } = await playing();
        player.audio(piece(0, 1440));
        player.meters({ ...reading(0), load: 0.8 });
        player.audio(piece(1440, 4800));
        expect(heard.waiting).not.toHaveBeenCalled();
        player.audio(piece(6240, 9600));
        expect(heard.waiting).toHaveBeenCalledExactlyOnceWith(false);
    });

    it('tells the sample that sounds now, through a jump of the loop', async () => {
        const { player, context } = await playing();
        player.audio(piece(96000, 4800));
        player.audio(piece(0, 4800));
        const [first, second] = FakeSource.started;
        context.currentTime = first!.time + 0.05;
        expect(player.position()).toBeCloseTo(96000 + 2400, 3);
        context.currentTime = second!.time + 0.01;
        expect(player.position()).toBeCloseTo(480, 3);
        // Not beyond what there is.
        context.currentTime = second!.time + 5;
        expect(player.position()).toBeCloseTo(4800, 3);
    });

    it('shows figures when their sound sounds, not when they arrive', async () => {
        const { player, heard, context } = await playing();
        player.meters(reading(0));
        player.audio(piece(0, 4800));
        player.meters(reading(4800));
        player.audio(piece(4800, 4800));
        vi.advanceTimersByTime(40);
        expect(heard.meters).not.toHaveBeenCalled();
        context.currentTime = FakeSource.started[0]!.time;
        vi.advanceTimersByTime(40);
        expect(heard.meters.mock.calls.map(([frame]) => (frame as MeterFrame).position)).toEqual([0]);
        context.currentTime = FakeSource.started[1]!.time;
        vi.advanceTimersByTime(40);
        expect(heard.meters.mock.calls.map(([frame]) => (frame as MeterFrame).position)).toEqual([0, 4800]);
    });

    it('waits with a longer margin when it ran dry, and goes on', async () => {
        const { player, heard, context } = await playing();
        player.audio(piece(0, 4800));
        context.currentTime = 1;
        vi.advanceTimersByTime(40);
        expect(heard.waiting).toHaveBeenLastCalledWith(true);
        expect(heard.ended).not.toHaveBeenCalled();
        player.audio(piece(4800, 4800));
        expect(FakeSource.started).toHaveLength(1);
        player.audio(piece(9600, 9600));
        expect(heard.waiting).toHaveBeenLastCalledWith(false);
        expect(FakeSource.started[1]!.time).toBeGreaterThanOrEqual(1);
    });

    it('lets no two pieces sound at once where one comes late by less than a look at the clock', async () => {
        const { player, heard, context } = await playing();
        player.audio(piece(0, 4800));
        context.currentTime = FakeSource.started[0]!.time + 0.105;
        player.audio(piece(4800, 4800));
        expect(heard.waiting).toHaveBeenLastCalledWith(true);
        player.audio(piece(9600, 9600));
        const [, second, third] = FakeSource.started;
        expect(second!.time).toBeGreaterThan(context.currentTime);
        expect(third!.time).toBeCloseTo(second!.time + 0.1, 9);
    });

    it('starts sooner for who plays keys, and with twice the margin each time it ran dry', async () => {
        const { player, context } = await playing(true);
        player.audio(piece(0, 1440));
        expect(player.buffered()).toBeLessThan(0.045);
        context.currentTime = 1;
        vi.advanceTimersByTime(40);
        player.audio(piece(1440, 1440));
        expect(FakeSource.started).toHaveLength(1);
        player.audio(piece(2880, 1440));
        expect(FakeSource.started).toHaveLength(3);
    });

    it('plays out what is shorter than its margin, then says it has ended', async () => {
        const { player, heard, context } = await playing();
        player.audio(piece(0, 100));
        player.end();
        expect(FakeSource.started).toHaveLength(1);
        expect(heard.ended).not.toHaveBeenCalled();
        context.currentTime = 1;
        vi.advanceTimersByTime(40);
        expect(heard.ended).toHaveBeenCalledExactlyOnceWith(true);
    });

    it('drops what was scheduled when it is halted, and shows nothing of it any more', async () => {
        const { player, heard, context } = await playing();
        player.audio(piece(0, 4800));
        player.meters(reading(0));
        player.halt();
        expect(FakeSource.started[0]!.node.stop).toHaveBeenCalledOnce();
        expect(player.position()).toBeNull();
        context.currentTime = 1;
        vi.advanceTimersByTime(400);
        expect(heard.meters).not.toHaveBeenCalled();
        expect(heard.ended).not.toHaveBeenCalled();
    });

    it('plays one stream when it is started twice at once', async () => {
        const player = new Player(events());
        await Promise.all([player.start('/first', RATE), player.start('/second', RATE)]);
        expect(vi.mocked(fetch).mock.calls.map(([url]) => url)).toEqual(['/second']);
        player.halt();
        expect(vi.getTimerCount()).toBe(0);
    });

    it('is not started by what was stopped before it began', async () => {
        const player = new Player(events());
        const starting = player.start('/stream', RATE);
        player.halt();
        await starting;
        expect(fetch).not.toHaveBeenCalled();
        expect(vi.getTimerCount()).toBe(0);
    });

    it('takes another context for another sample rate, and keeps it for the same', async () => {
        const player = new Player(events());
        await player.start('/stream', 48000);
        await player.start('/stream', 48000);
        expect(FakeContext.made).toHaveLength(1);
        await player.start('/stream', 44100);
        expect(FakeContext.made.map((context) => [context.sampleRate, context.closed])).toEqual([
            [48000, true],
            [44100, false],
        ]);
    });

    it('says why a stream was refused, in the words of the server', async () => {
        vi.mocked(fetch).mockResolvedValue(Response.json({ message: 'All 16 streams play.' }, { status: 503 }));
        await expect(new Player(events()).start('/stream', RATE)).rejects.toThrow('All 16 streams play.');
        vi.mocked(fetch).mockResolvedValue(new Response('<html>', { status: 502 }));
        await expect(new Player(events()).start('/stream', RATE)).rejects.toThrow('status 502');
    });

    it('tells when a stream breaks off, but not when it was ended by hand', async () => {
        let broken: ReadableStreamDefaultController | undefined;
        vi.mocked(fetch).mockResolvedValueOnce(
            new Response(new ReadableStream({ start: (controller) => void (broken = controller) })),
        );
        const heard = events();
        const player = new Player(heard);
        await player.start('/stream', RATE);
        broken?.error(new Error('the line is gone'));
        await vi.advanceTimersByTimeAsync(0);
        expect(heard.notice).toHaveBeenCalledExactlyOnceWith({
            kind: 'refused',
            message: 'Listening broke off: the line is gone',
        });
        await player.start('/stream', RATE);
        player.halt();
        await vi.advanceTimersByTimeAsync(0);
        expect(heard.notice).toHaveBeenCalledOnce();
    });

    it('tells when a stream ends without having said so, after what came of it', async () => {
        let stream: ReadableStreamDefaultController | undefined;
        vi.mocked(fetch).mockResolvedValueOnce(
            new Response(new ReadableStream({ start: (controller) => void (stream = controller) })),
        );
        const heard = events();
        const player = new Player(heard);
        await player.start('/stream', RATE);
        player.audio(piece(0, 100));
        stream?.close();
        await vi.advanceTimersByTimeAsync(0);
        expect(heard.notice).toHaveBeenCalledOnce();
        expect(heard.notice.mock.calls[0]?.[0].message).toContain('ended the stream in the middle');
        expect(FakeSource.started).toHaveLength(1);
        FakeContext.made[0]!.currentTime = 1;
        vi.advanceTimersByTime(40);
        expect(heard.ended).toHaveBeenCalledExactlyOnceWith(false);
    });
});
