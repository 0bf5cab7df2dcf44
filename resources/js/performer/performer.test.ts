import { flushPromises, mount, type VueWrapper } from '@vue/test-utils';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { api, Refused } from '@/api/client';
import type { Channel, PerformerMix } from '@/api/types';
import CueSection from '@/components/inspector/CueSection.vue';
import { useListening } from '@/stores/listening';
import { useSession } from '@/stores/session';
import { answers, realWorld, settled, shown, type World } from '@/testing';
import PerformerPage from './PerformerPage.vue';

const mix = (band: number | null): PerformerMix => ({
    session: 'Ferry Terminal',
    cue: 'Cue Cello',
    tracks: ['Cello'],
    isMuted: false,
    faders: [
        { id: 'band', label: 'Band', gain: band, lowest: -60, highest: 12 },
        { id: 'click', label: 'Click', gain: null, lowest: -60, highest: 0 },
    ],
    scale: answers.rules.fader,
});

let page: VueWrapper;

afterEach(() => {
    page.unmount();
    vi.restoreAllMocks();
});

describe('the page of a performer', () => {
    const fader = () => page.get('[data-fader=band] [role=slider]');

    it('sends the last of several moves after the one that is on its way, and goes where it was brought meanwhile', async () => {
        vi.spyOn(api, 'get').mockResolvedValue(mix(0));
        const free: ((found: PerformerMix) => void)[] = [];
        const put = vi.spyOn(api, 'put').mockImplementation(() => new Promise((found) => free.push(found as never)));
        page = mount(PerformerPage);
        await flushPromises();
        for (let i = 0; i < 3; i++) {
            await fader().trigger('keydown', { key: 'ArrowDown' });
        }
        expect(put).toHaveBeenCalledTimes(1);
        free.shift()!(mix(-1));
        await flushPromises();
        expect(put.mock.calls.map(([, body]) => (body as { gain: number }).gain)).toEqual([-1, -3]);
        free.shift()!(mix(-3));
        await flushPromises();
        expect(fader().text()).toBe('\u22123.0');
        expect(page.get('[data-fader=click]').text()).toContain('off');
    });

    it('says when the desk does not answer and keeps its faders, and has none when the page is closed', async () => {
        const get = vi.spyOn(api, 'get').mockResolvedValue(mix(0));
        vi.spyOn(api, 'put').mockRejectedValueOnce(new Refused(0, 'server', 'gone'));
        page = mount(PerformerPage);
        await flushPromises();
        await fader().trigger('keydown', { key: 'ArrowDown' });
        await flushPromises();
        expect(page.get('[role=alert]').text()).toBe('The desk does not answer. Trying again …');
        expect(page.findAll('[role=slider]')).toHaveLength(2);
        page.unmount();
        get.mockRejectedValue(new Refused(404, 'page', 'This page is closed.'));
        page = mount(PerformerPage);
        await flushPromises();
        expect(page.text()).toBe('This page is closed.');
    });
});

describe('a cue in the inspector', () => {
    let made: World;
    const cue = () => useSession().channels.find(({ kind }) => kind === 'cue') as Channel;

    beforeEach(() => {
        made = realWorld();
        const known = useSession().state!;
        const model = known.document.channels[0]!;
        useSession().state = {
            ...known,
            performers: {
                cue: [
                    { part: 'me', name: 'Me', gain: null },
                    { part: 'band', name: 'Band', gain: 2 },
                ],
            },
            document: {
                ...known.document,
                channels: [
                    { ...model, sends: [{ id: 'n9', to: 'cue', gain: 0, tap: 'pre-fader', on: true, pan: 0 }] },
                    ...known.document.channels.slice(1),
                    {
                        ...model,
                        id: 'cue',
                        kind: 'cue',
                        name: 'Cue',
                        inserts: [],
                        sends: [],
                        performer: { tracks: [model.id], me: null, band: 2 },
                    },
                ],
            },
        } as typeof known;
        page = shown(CueSection, { channel: cue() });
    });

    it('shows what the performer set, and takes a track away from their own', async () => {
        const texts = page.findAll('[data-performer]').map((one) => one.text());
        expect(texts[0]).toContain('\u2212∞ dB');
        expect(texts[1]).toContain('+2.0 dB');
        await page.get('[aria-label="Their own tracks"] .pill').trigger('click');
        await settled();
        expect(made.edits).toEqual([{ type: 'set-performer', cue: 'cue', tracks: [] }]);
    });

    it('is heard beside the main, alone, and no longer', async () => {
        const listening = useListening();
        const [alone, beside] = page.findAll('.pill');
        await beside!.trigger('click');
        expect([listening.listeningAt, listening.beside]).toEqual(['cue:post-fader', true]);
        await alone!.trigger('click');
        expect([listening.listeningAt, listening.beside]).toEqual(['cue:post-fader', false]);
        await alone!.trigger('click');
        expect(listening.tap).toBeNull();
    });
});
