import { afterEach, describe, expect, it, vi } from 'vitest';
import { workWaits } from '@/stores/work';
import { api, Refused } from './client';

const answers = (...list: (() => Response)[]) =>
    vi
        .spyOn(globalThis, 'fetch')
        .mockImplementation(() => Promise.resolve((list.shift() ?? (() => Response.error()))()));
const starting = () =>
    new Response(JSON.stringify({ location: 'server', message: 'It starts again.' }), { status: 503 });
const good = () => new Response('{"change": 3}', { status: 200 });

afterEach(() => vi.restoreAllMocks());

describe('requests', () => {
    it('ask again for what changes nothing while the server starts again', async () => {
        const fetched = answers(starting, starting, good);
        expect(await api.get('sessions/1')).toEqual({ change: 3 });
        expect(fetched).toHaveBeenCalledTimes(3);
    });

    it('never send twice what changes something', async () => {
        const fetched = answers(starting, good);
        await expect(api.post('sessions/1/edits')).rejects.toMatchObject({ status: 503, message: 'It starts again.' });
        expect(fetched).toHaveBeenCalledTimes(1);
    });

    it('say that an answer was cut off', async () => {
        answers(() => new Response('{"change": 3, "docu', { status: 200 }));
        await expect(api.post('sessions/1/edits')).rejects.toBeInstanceOf(Refused);
    });

    it('do not ask again after a refusal', async () => {
        const fetched = answers(() => new Response('{"location": "/gain", "message": "Too much."}', { status: 422 }));
        await expect(api.get('x')).rejects.toMatchObject({ location: '/gain' });
        expect(fetched).toHaveBeenCalledTimes(1);
    });

    it('take from every answer what work in the background waits for', async () => {
        answers(() => new Response('{}', { headers: { 'X-Hafen-Work-Waits': 'Redis does not take tasks.' } }), good);
        await api.get('x');
        expect(workWaits.value).toBe('Redis does not take tasks.');
        await api.get('x');
        expect(workWaits.value).toBeNull();
    });

    it('carry the header by which the server knows its own page', async () => {
        const fetched = answers(good);
        await api.put('listenings/1', {});
        expect((fetched.mock.calls[0]?.[1]?.headers as Record<string, string>)['X-Hafen']).toBe('1');
    });
});
