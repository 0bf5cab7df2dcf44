import { beforeEach, describe, expect, it, vi } from 'vitest';
import { api, Refused } from '@/api/client';
import type { Channel } from '@/api/types';
import { channel, settled, stateOf, world, type SentEdit } from '@/testing';
import { useKeysPlayed } from './keys';
import { useListening } from './listening';

let sent: SentEdit[];
let answer: () => Promise<unknown>;

const notes = (): Channel => channel('keys', { kind: 'note', source: { type: 'notes', clips: [] } });

beforeEach(() => {
    vi.useFakeTimers({ shouldAdvanceTime: true });
    world([notes()], []);
    sent = [];
    answer = () => Promise.resolve({ ...stateOf([notes()]), change: sent.length + 1 });
    vi.spyOn(api, 'post').mockImplementation((path: string, body?: unknown) => {
        if (!path.endsWith('/edits')) {
            return Promise.resolve({});
        }
        sent.push((body as { edit: SentEdit }).edit);
        return answer();
    });
});

/** Plays two keys while it plays, at 48 kHz and the tempo of the session. */
async function recorded(): Promise<ReturnType<typeof useKeysPlayed>> {
    const keys = useKeysPlayed();
    const listening = useListening();
    const heard = vi.spyOn(listening.player, 'position');
    listening.isPlaying = true;
    keys.open('keys');
    await keys.record();
    for (const [at, key] of [
        [24_000, 60],
        [48_000, 64],
    ] as const) {
        heard.mockReturnValue(at);
        keys.press(key, 80);
        heard.mockReturnValue(at + 12_000);
        keys.release(key);
    }
    return keys;
}

describe('keys that are recorded', () => {
    it('are put where they were heard, as one edit', async () => {
        const keys = await recorded();
        await keys.endRecording();
        expect(sent).toEqual([
            {
                type: 'add-notes',
                channel: 'keys',
                notes: [
                    [960, 480, 60, 80],
                    [1920, 480, 64, 80],
                ],
                controls: [],
            },
        ]);
        expect(keys.isRecording).toBe(false);
    });

    it('are not lost where the server does not take them', async () => {
        const keys = await recorded();
        answer = () => Promise.reject(new Refused(0, 'server', 'Hafen does not answer. Is it still running?'));
        await keys.endRecording();
        expect(keys.isRecording).toBe(true);
        answer = () => Promise.resolve({ ...stateOf([notes()]), change: 9 });
        await keys.endRecording();
        expect(sent).toHaveLength(2);
        expect(sent[1]).toEqual(sent[0]);
        expect(keys.isRecording).toBe(false);
    });

    it('are kept when the page is closed', async () => {
        await recorded();
        window.dispatchEvent(new Event('pagehide'));
        await settled();
        expect(sent.map(({ type }) => type)).toEqual(['add-notes']);
    });
});
