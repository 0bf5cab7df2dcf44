import { flushPromises } from '@vue/test-utils';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { api, Refused } from '@/api/client';
import { MicrophoneCapture, type MicrophoneState } from './microphone';
import type { Player } from './player';

let told: [MicrophoneState, string | undefined][];
let ended: () => void;
let stopped: ReturnType<typeof vi.fn>;
let hears: (frame: number) => Promise<void>;
let capture: MicrophoneCapture;
let context: { state: string; currentTime: number; sampleRate: number };

const states = () => told.map(([state]) => state).filter((state, i, all) => state !== all[i - 1]);

beforeEach(() => {
    told = [];
    stopped = vi.fn();
    const track = {
        addEventListener: (_: string, handler: () => void) => (ended = handler),
        getSettings: () => ({ latency: 0.01 }),
        stop: stopped,
    };
    vi.stubGlobal('navigator', {
        mediaDevices: {
            getUserMedia: () => Promise.resolve({ getAudioTracks: () => [track], getTracks: () => [track] }),
        },
    });
    context = Object.assign(
        { state: 'running', currentTime: 0, sampleRate: 48000, outputLatency: 0.02 },
        {
            audioWorklet: { addModule: () => Promise.resolve() },
            addEventListener: () => undefined,
            createMediaStreamSource: () => ({ connect: () => undefined }),
        },
    );
    vi.stubGlobal(
        'AudioWorkletNode',
        class {
            port = {
                set onmessage(handler: (event: { data: unknown }) => void) {
                    hears = async (frame) => {
                        context.currentTime = (frame + 2048) / 48000;
                        handler({ data: { frame, samples: new Float32Array(2048) } });
                        await flushPromises();
                    };
                },
            };
            connect(): void {}
            disconnect(): void {}
        },
    );
    const player = {
        open: () => Promise.resolve(context),
        rate: () => 48000,
        positionAt: (time: number) => time * 48000,
    };
    capture = new MicrophoneCapture(player as unknown as Player, 7, (state, why) => told.push([state, why]));
});
afterEach(() => {
    vi.restoreAllMocks();
    vi.unstubAllGlobals();
    vi.useRealTimers();
});

describe('the microphone of the browser', () => {
    it('sends each piece with what was heard when it passed the microphone', async () => {
        const post = vi.spyOn(api, 'post').mockResolvedValue(undefined);
        await capture.open(48000, () => true);
        await hears(96_000);
        await hears(98_048);
        const sent = post.mock.calls.map(([path]) => new URLSearchParams(path.split('?')[1]));
        expect(sent.map((query) => query.get('first'))).toEqual(['0', '2048']);
        // 10 ms of the microphone and 20 ms of the loudspeakers.
        expect(Number(sent[0]!.get('heard'))).toBeCloseTo(96_000 - 1440);
        expect(Number(sent[0]!.get('captured'))).toBeCloseTo(
            performance.timeOrigin + performance.now() - 2048 / 48 - 10,
            -2,
        );
        expect((post.mock.calls[0]![1] as Blob).size).toBe(8192);
    });

    it('waits while the server does not answer, and sends what waited in its order', async () => {
        vi.useFakeTimers();
        const post = vi
            .spyOn(api, 'post')
            .mockRejectedValueOnce(new Refused(0, 'server', 'gone'))
            .mockResolvedValue(undefined);
        await capture.open(48000, () => false);
        for (const frame of [0, 2048, 4096]) {
            context.currentTime = (frame + 2048) / 48000;
            void hears(frame);
            await vi.advanceTimersByTimeAsync(10);
        }
        expect(states().at(-1)).toBe('away');
        await vi.advanceTimersByTimeAsync(400);
        expect(states().at(-1)).toBe('on');
        expect(
            post.mock.calls
                .slice(1)
                .map(([path, body]) => [new URLSearchParams(path.split('?')[1]).get('first'), (body as Blob).size]),
        ).toEqual([['0', 3 * 8192]]);
    });

    it('says when the device is taken away, another window takes over, or nobody may use it', async () => {
        const post = vi.spyOn(api, 'post').mockResolvedValue(undefined);
        await capture.open(48000, () => false);
        ended();
        expect(told.at(-1)).toEqual(['failed', 'The microphone was taken away. What was recorded until then is kept.']);
        expect(stopped).toHaveBeenCalledOnce();
        await capture.open(48000, () => false);
        post.mockRejectedValue(new Refused(422, 'microphone', 'Another window uses the microphone at this input now.'));
        await hears(0);
        expect(told.at(-1)).toEqual(['failed', 'Another window uses the microphone at this input now.']);
        vi.stubGlobal('navigator', {
            mediaDevices: {
                getUserMedia: () => Promise.reject(Object.assign(new Error('no'), { name: 'NotAllowedError' })),
            },
        });
        await capture.open(48000, () => false);
        expect(told.at(-1)![1]).toContain('Allow it for this page in its settings');
    });
});
