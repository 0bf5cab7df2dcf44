import { beforeEach, describe, expect, it, vi } from 'vitest';
import { api } from '@/api/client';
import { channel, stateOf, world, type World } from '@/testing';
import { useImports } from './imports';
import { notices } from './notices';
import { useSession } from './session';

let made: World;

const ready = (more = {}) => ({
    id: 'm1',
    status: 'ready',
    name: 'Cello',
    length: 96000,
    channels: 1,
    unreadable: 0,
    progress: 1,
    ...more,
});

beforeEach(() => {
    notices.value = [];
    made = world([channel('bass')], []);
    made.answers['POST uploads'] = { id: 'u1' };
    made.answers['POST uploads/u1/finish'] = { id: 'm1' };
    made.answers['GET media/m1?sampleRate=48000'] = ready();
    vi.spyOn(api, 'put').mockImplementation((path: string, body: unknown) => {
        made.asked.push(['PUT', path, (body as Blob).size]);
        return Promise.resolve({ received: Number(path.split('=')[1]) + (body as Blob).size } as never);
    });
});

const messages = () => notices.value.map(({ message }) => message);

describe('imports', () => {
    it('put each file on a track of its own, named after it', async () => {
        await useImports().bring([new File(['abc'], 'Cello.close.wav'), new File(['de'], '.wav')]);
        expect(made.edits).toEqual([
            { type: 'add-channel', name: 'Cello.close', file: { file: 'm1', length: 96000, width: 'mono' } },
            { type: 'add-channel', name: 'Untitled', file: { file: 'm1', length: 96000, width: 'mono' } },
        ]);
        expect(useImports().running).toEqual([]);
    });

    it('put a file on the track it was dropped on', async () => {
        made.answers['GET media/m1?sampleRate=48000'] = ready({ channels: 2 });
        await useImports().bring([new File(['abc'], 'a.wav')], 'bass');
        expect(made.edits).toEqual([
            { type: 'put-file', channel: 'bass', file: { file: 'm1', length: 96000, width: 'stereo' } },
        ]);
    });

    it('send a large file in pieces, one after the other', async () => {
        await useImports().bring([new File([new Uint8Array((4 << 20) + 5)], 'long.wav')]);
        expect(made.asked.filter(([method]) => method === 'PUT')).toEqual([
            ['PUT', 'uploads/u1?offset=0', 4 << 20],
            ['PUT', `uploads/u1?offset=${4 << 20}`, 5],
        ]);
    });

    it('send a piece again that was lost, and give up after four tries with the others still to come', async () => {
        vi.useFakeTimers();
        let lost = 0;
        vi.mocked(api.put).mockImplementation((_path: string, body: unknown) => {
            lost++;
            return lost <= 4
                ? Promise.reject(new Error('The line is gone.'))
                : Promise.resolve({ received: (body as Blob).size } as never);
        });
        const done = useImports().bring([new File(['abc'], 'first.wav'), new File(['def'], 'second.wav')]);
        await vi.runAllTimersAsync();
        await done;
        vi.useRealTimers();
        expect(lost).toBe(5);
        expect(made.edits.map((edit) => edit.name)).toEqual(['second']);
    });

    it('go to the session they were brought to, whichever is shown when they arrive', async () => {
        const paths: string[] = [];
        const post = vi.mocked(api.post).getMockImplementation();
        vi.mocked(api.post).mockImplementation((path: string, body?: unknown) => {
            paths.push(path);
            return post!(path, body) as never;
        });
        made.answers['GET sessions/1'] = stateOf([channel('bass')]);
        const done = useImports().bring([new File(['abc'], 'a.wav')]);
        useSession().show({ ...stateOf([]), id: 2, document: { ...stateOf([]).document, sampleRate: 44100 } });
        await done;
        expect(paths.filter((path) => path.endsWith('/edits'))).toEqual(['sessions/1/edits']);
        expect(made.asked).toContainEqual(['POST', 'uploads/u1/finish', { sampleRate: 48000 }]);
        expect(useSession().state?.id).toBe(2);
    });

    it('show how far they are, and nothing once they are there', async () => {
        const imports = useImports();
        const shown: string[] = [];
        vi.mocked(api.get).mockImplementation(() => {
            shown.push(...imports.running.map(({ name, step }) => `${name}: ${step}`));
            return Promise.resolve(ready() as never);
        });
        await imports.bring([new File(['abc'], 'a.wav')]);
        expect(shown).toEqual(['a.wav: preparing']);
        expect(imports.running).toEqual([]);
    });

    it('say what cannot be read, and make no track of it', async () => {
        made.answers['GET media/m1?sampleRate=48000'] = ready({ status: 'failed', message: 'Not a WAV file.' });
        await useImports().bring([new File(['abc'], 'a.wav')]);
        expect(made.edits).toEqual([]);
        expect(messages()).toContain('Not a WAV file.');
    });

    it('say how many samples are no numbers, and take the rest', async () => {
        made.answers['GET media/m1?sampleRate=48000'] = ready({ unreadable: 3 });
        await useImports().bring([new File(['abc'], 'a.wav')]);
        expect(made.edits).toHaveLength(1);
        expect(messages().join()).toContain('3 samples of it are no numbers');
    });
});
