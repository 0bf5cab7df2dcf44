import type { VueWrapper } from '@vue/test-utils';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import AllPathsDiagram from '@/components/levels/AllPathsDiagram.vue';
import AutomationLane from '@/components/automation/AutomationLane.vue';
import LevelDiagram from '@/components/levels/LevelDiagram.vue';
import NewSession from '@/components/sessions/NewSession.vue';
import NoticeStrip from '@/components/shell/NoticeStrip.vue';
import RecordingStrip from '@/components/shell/RecordingStrip.vue';
import PathTools from '@/components/paths/PathTools.vue';
import RenderDialog from '@/components/sessions/RenderDialog.vue';
import { api } from '@/api/client';
import type { Channel, SessionState } from '@/api/types';
import { useHeadroom } from '@/stores/headroom';
import { useImports } from '@/stores/imports';
import { useListening } from '@/stores/listening';
import { notices, tell } from '@/stores/notices';
import { useScreen } from '@/stores/screen';
import { useSelection } from '@/stores/selection';
import { useSession } from '@/stores/session';
import { answers, channel, realWorld, settled, shown, stateOf, type World } from '@/testing';
import PathsView from './PathsView.vue';
import SendsView from './SendsView.vue';

let made: World;
let part: VueWrapper;

const of = (id: string) => useSession().channel(id) as Channel;
const open = (component: Parameters<typeof shown>[0], props: Record<string, unknown> = {}) =>
    (part = shown(component, props));
const button = (text: string) => part.findAll('button').find((one) => one.text().trim() === text)!;

beforeEach(() => (made = realWorld()));
afterEach(() => part.unmount());

describe('Paths', () => {
    const rows = () => part.findAll('[data-channel-row]').map((row) => row.attributes('data-channel-row'));

    it('has a section for each kind there is, in the order sound flows', () => {
        open(PathsView);
        expect(part.findAll('[data-section]').map((one) => one.attributes('data-section'))).toEqual([
            'Tracks',
            'Returns',
            'Main',
        ]);
        expect(rows()).toEqual(['cello', 'bass', 'plate', 'main']);
    });

    it('finds channels by part of their name, and goes to the first at Enter', async () => {
        open(PathsView);
        await part.find('#hafen-find').setValue('PLA');
        expect(rows()).toEqual(['plate']);
        await part.find('#hafen-find').trigger('keydown', { key: 'Enter' });
        await settled();
        expect(useSelection().channels).toEqual(['plate']);
        expect(rows()).toHaveLength(4);
    });

    it('says so where none is found, and shows all again at Escape', async () => {
        open(PathsView);
        await part.find('#hafen-find').setValue('kazoo');
        expect(rows()).toEqual([]);
        expect(part.text()).toContain('No channel has “kazoo” in its name.');
        await part.find('#hafen-find').trigger('keydown', { key: 'Escape' });
        expect(rows()).toHaveLength(4);
    });

    it('makes rows compact, all at once', async () => {
        open(PathsView);
        await button('Compact rows').trigger('click');
        expect(part.findAll('.path.compact')).toHaveLength(4);
        await button('Tall rows').trigger('click');
        expect(part.findAll('.path.compact')).toHaveLength(0);
    });

    it('finds hidden channels too, which are not shown otherwise', async () => {
        const state = useSession().state!;
        const channels = state.document.channels.map((one) => (one.id === 'bass' ? { ...one, hidden: true } : one));
        useSession().state = { ...state, document: { ...state.document, channels } };
        open(PathsView);
        expect(rows()).not.toContain('bass');
        useScreen().wanted = 'bas';
        await settled();
        expect(rows()).toEqual(['bass']);
    });

    it('says what to do where there are no tracks', () => {
        useSession().state = stateOf([]);
        open(PathsView);
        expect(part.text()).toContain('No tracks yet');
    });

    it('adds a channel of each kind, and selects it', async () => {
        made.after = () => {
            const state = useSession().state as SessionState;
            return {
                ...state,
                document: {
                    ...state.document,
                    channels: [...state.document.channels, channel('cue', { kind: 'cue' } as Partial<Channel>)],
                },
            };
        };
        open(PathsView);
        await part
            .findAll('.adding button')
            .find((one) => one.text() === 'cue')!
            .trigger('click');
        await settled();
        expect(made.edits).toEqual([{ type: 'add-channel', kind: 'cue', name: 'Cue 1', width: 'stereo' }]);
        expect(useSelection().channels).toEqual(['cue']);
    });
});

describe('the tools above the rows', () => {
    it('leave everything as it is at Enter where nothing was typed', async () => {
        useSelection().channels = ['bass'];
        open(PathTools, { order: ['cello'] });
        await part.find('input').trigger('keydown', { key: 'Enter' });
        await settled();
        expect(useSelection().channels).toEqual(['bass']);
    });
});

describe('Sends', () => {
    const cell = (row: number, column: number) => part.find(`[data-cell="${row}:${column}"]`);
    const key = (name: string, more = {}) => part.find('[data-cell="0:0"]').trigger('keydown', { key: name, ...more });

    it('shows amount and tap, and what would loop', () => {
        open(SendsView);
        expect(cell(0, 0).text()).toContain('−12.0');
        expect(cell(0, 0).attributes('title')).toBe('Cello to Plate: −12.0 dB after the fader');
        expect(cell(2, 0).attributes('title')).toBe('Plate to Plate would close a loop');
        expect(cell(1, 0).attributes('title')).toContain('does not send to Plate');
    });

    it('types an amount into the cell, and makes the send where there is none', async () => {
        open(SendsView);
        await key('ArrowDown');
        await part.find('[data-cell="1:0"]').trigger('keydown', { key: '-' });
        await settled();
        const field = part.find('input');
        await field.setValue('-6.5');
        await field.trigger('keydown', { key: 'Enter' });
        await settled();
        expect(made.edits).toEqual([{ type: 'put-sends', sends: [{ channel: 'bass', to: 'plate', gain: -6.5 }] }]);
    });

    it('nudges, flips the tap, switches off and removes by key', async () => {
        open(SendsView);
        await key('ArrowUp', { altKey: true });
        await key('p');
        await key('o');
        await key('Delete');
        await settled();
        expect(made.edits).toEqual([
            { type: 'move-sends', sends: ['n1'], by: 0.5 },
            { type: 'set-send-tap', sends: ['n1'], tap: 'pre-fader' },
            { type: 'set-send-on', sends: ['n1'], on: false },
            { type: 'remove-sends', sends: ['n1'] },
        ]);
    });

    it('copies a block and puts it down elsewhere, with tap and state', async () => {
        open(SendsView);
        await key('c', { ctrlKey: true });
        await key('ArrowDown');
        await part.find('[data-cell="1:0"]').trigger('keydown', { key: 'v', ctrlKey: true });
        await settled();
        expect(made.edits).toEqual([
            {
                type: 'put-sends',
                sends: [{ channel: 'bass', to: 'plate', gain: -12, tap: 'post-fader', on: true, pan: 0 }],
            },
        ]);
    });
});

describe('the level diagram', () => {
    beforeEach(() => {
        useHeadroom().paths = answers.stages.paths;
    });

    it('names every stage of a path, with its mark, and listens there', async () => {
        open(LevelDiagram, { channel: 'cello' });
        expect(part.findAll('[data-stage]').map((one) => one.attributes('data-stage'))).toEqual(
            answers.stages.paths.cello?.map((stage) => stage.tap),
        );
        await part.find('[data-stage="cello:insert:i1"]').trigger('click');
        expect(useListening().tap).toBe('cello:insert:i1');
    });

    it('stands out behind its texts: the highlight is drawn before everything', async () => {
        open(LevelDiagram, { channel: 'cello' });
        expect(part.find('.highlight').exists()).toBe(false);
        await part.find('[data-stage="cello:insert:i1"]').trigger('pointerenter');
        expect(part.find('svg').element.firstElementChild?.classList.contains('highlight')).toBe(true);
        expect(part.find('.detail').text()).toContain('High-pass 80');
    });

    it('says of all paths whose each line is, and no two names lie on each other', async () => {
        open(AllPathsDiagram);
        const names = part.findAll('[data-path-name]');
        expect(names.map((one) => one.text()).sort()).toEqual(['Bass', 'Cello', 'Plate']);
        const heights = names.map((one) => Number(one.find('text').attributes('y'))).sort((a, b) => a - b);
        heights.slice(1).forEach((height, index) => expect(height - heights[index]!).toBeGreaterThanOrEqual(12.9));
        const chosen: unknown[] = [];
        part.unmount();
        open(AllPathsDiagram, { onChoose: (id: string) => chosen.push(id) });
        await part.find('[data-path-name=bass]').trigger('click');
        await part.find('[data-path=plate]').trigger('click');
        expect(chosen).toEqual(['bass', 'plate']);
    });

    it('names the loudest of sixty paths, apart and inside the picture, and any that is pointed at', async () => {
        const stage = answers.stages.paths.cello![0]!;
        const channels = Array.from({ length: 60 }, (_, index) => channel(`c${index}`));
        useSession().state = stateOf(channels);
        useHeadroom().paths = Object.fromEntries(
            channels.map((one, index) => [one.id, [{ ...stage, channel: one.id, offset: index / 10 }]]),
        );
        open(AllPathsDiagram);
        const names = () => part.findAll('[data-path-name]').map((one) => one.attributes('data-path-name'));
        expect(names().sort()).toEqual(Array.from({ length: 30 }, (_, index) => `c${index + 30}`).sort());
        expect(part.text()).toContain('The 30 loudest of 60 are named');
        const heights = part
            .findAll('[data-path-name] text')
            .map((one) => Number(one.attributes('y')))
            .sort((one, two) => one - two);
        heights.slice(1).forEach((height, index) => expect(height - heights[index]!).toBeGreaterThanOrEqual(12.9));
        expect(heights[0]).toBeGreaterThan(0);
        expect(heights.at(-1)).toBeLessThan(Number(part.find('svg').attributes('height')) - 34);
        await part.find('[data-path=c3]').trigger('pointerenter');
        expect(part.find('.detail strong').text()).toBe('C3');
    });
});

describe('an automation lane', () => {
    const point = (index: number) => part.findAll('[data-point]')[index]!;

    beforeEach(() => open(AutomationLane, { channel: of('cello'), target: 'fader' }));

    it('draws its points, those above the end of the fader at the upper edge', () => {
        expect(part.findAll('[data-point]')).toHaveLength(2);
        const heights = part
            .findAll('[data-point]')
            .map((one) => Number(one.attributes('cy') ?? one.find('circle').attributes('cy')));
        expect(heights[1]).toBe(8);
        expect(heights[0]).toBeGreaterThan(8);
    });

    it('takes a typed gain up to what automation may hold, and no more', async () => {
        const type = async (text: string) => {
            await point(0).trigger('keydown', { key: 'Enter' });
            await settled();
            await part.find('input.entry, input').setValue(text);
            await part.find('input.entry, input').trigger('keydown', { key: 'Enter' });
            await settled();
        };
        await type('20');
        await type('99');
        expect(made.edits.map((edit) => (edit.points as { value: number }[])[0]?.value)).toEqual([20, 24]);
    });

    it('moves a point by key within its neighbours, and the last one not past the end', async () => {
        await point(0).trigger('keydown', { key: 'ArrowRight' });
        await settled();
        const moved = (made.edits[0]?.points as { at: number }[]).map((one) => one.at);
        expect(moved).toEqual([4800, 24000]);
        for (let i = 0; i < 9; ++i) {
            await point(1).trigger('keydown', { key: 'ArrowRight' });
            await settled();
        }
        const last = made.edits[made.edits.length - 1]?.points as { at: number }[];
        expect(last[1]?.at).toBeLessThanOrEqual(48000);
    });

    it('removes what is chosen, and fades over the first seconds', async () => {
        await point(1).trigger('keydown', { key: 'Delete' });
        await settled();
        expect((made.edits[0]?.points as unknown[]).length).toBe(1);
        await part
            .findAll('button')
            .find((one) => one.text() === 'fade in')!
            .trigger('click');
        await settled();
        expect(made.edits[1]).toEqual({ type: 'fade', channels: ['cello'], direction: 'in', from: 0, to: 47999 });
    });
});

describe('rendering', () => {
    it('warns of what would clip in whole numbers, by what the server found', async () => {
        open(RenderDialog, { modelValue: true });
        await part.find('#render-tap').setValue('main:source');
        expect(part.text()).toMatch(/would clip|above/);
        await part.findAll('[name=format]')[2]!.setValue(true);
        expect(part.text()).not.toMatch(/would clip/);
    });

    it('offers the formats the server renders to', () => {
        open(RenderDialog, { modelValue: true });
        expect(part.findAll('[name=format]').map((one) => (one.element as HTMLInputElement).value)).toEqual([
            '16',
            '24',
            '32f',
        ]);
    });
});

describe('a new session', () => {
    const give = async (names: string[]) => {
        const input = part.find('input[webkitdirectory]');
        const files = names.map((name) => new File(['x'], name));
        Object.defineProperty(input.element, 'files', { value: files, configurable: true });
        await input.trigger('change');
    };

    beforeEach(() => open(NewSession, { modelValue: true }));

    it('is made empty under the name that was typed', async () => {
        made.answers['POST sessions'] = answers.session;
        made.answers['GET sessions'] = [];
        await part.find('#new-session-name').setValue('Harbour');
        await button('Make it empty').trigger('click');
        await settled();
        expect(made.asked[0]).toEqual(['POST', 'sessions', { name: 'Harbour', sampleRate: 48000 }]);
    });

    it('has a track for each file of a folder that is sound, by number', async () => {
        await give(['10 Bass.wav', 'cover.png', '2 Cello.flac', 'notes.txt']);
        expect(part.text()).toContain('2 files become a track each: 2 Cello.flac, 10 Bass.wav');
        const bring = vi.spyOn(useImports(), 'bring').mockResolvedValue();
        made.answers['POST sessions'] = answers.session;
        made.answers['GET sessions'] = [];
        await button('Make it with 2 tracks').trigger('click');
        await settled();
        expect(bring.mock.calls[0]?.[0].map((file) => file.name)).toEqual(['2 Cello.flac', '10 Bass.wav']);
    });

    it('says so where there is no sound among the files', async () => {
        await give(['cover.png']);
        expect(part.text()).toContain('There is no sound among these 1 files.');
    });

    it('opens what was downloaded with its files', async () => {
        await give(['Ferry.zip']);
        const opened = vi.spyOn(useImports(), 'openBundle').mockResolvedValue();
        await button('Open').trigger('click');
        await settled();
        expect(opened.mock.calls[0]?.[0].name).toBe('Ferry.zip');
    });
});

describe('what is recorded', () => {
    it('is said while it runs, and until it is on its track', async () => {
        useSession().state = { ...useSession().state!, recorded: [] };
        open(RecordingStrip);
        expect(part.find('.strip').exists()).toBe(false);
        useSession().state = { ...useSession().state!, recorded: ['cello', 'bass'] };
        await settled();
        expect(part.find('[data-recorded]').text()).toBe('Recorded, and being put on its track: Cello, Bass');
        useListening().recording = [{ channel: 'cello', tap: 'heard' }];
        await settled();
        expect(part.find('[data-recording]').text()).toContain('Recording on Cello');
        expect(part.find('[data-recorded]').exists()).toBe(false);
        useListening().recording = null;
    });
});

describe('notices', () => {
    it('stand in a strip of their own, the newest three, each once, until they are closed', async () => {
        notices.value = [];
        open(NoticeStrip);
        ['one', 'two', 'three', 'two', 'four'].forEach((text) => tell(text, 'warning'));
        await settled();
        expect(part.findAll('[data-notice]').map((one) => one.text())).toEqual(['three', 'two', 'four']);
        await part.find('[data-notice] button').trigger('click');
        expect(notices.value.map((one) => one.message)).toEqual(['two', 'four']);
    });
});

describe('the session that is open', () => {
    const session = (id: number) => ({ ...answers.session, id });
    const address = () => new URLSearchParams(location.search).get('session');

    beforeEach(() => open(NoticeStrip));

    it('stands in the address, and a copy takes its place', async () => {
        made.answers['GET sessions/7'] = session(7);
        await useSession().open(7);
        expect(address()).toBe('7');
        made.answers['POST sessions/7/copy'] = session(9);
        made.answers['GET sessions'] = [];
        await useSession().copy('Second');
        expect(made.asked).toContainEqual(['POST', 'sessions/7/copy', { name: 'Second' }]);
        expect([useSession().state?.id, address()]).toEqual([9, '9']);
    });

    it('makes room for the one changed last, or for a new one, before it is deleted', async () => {
        const id = answers.session.id;
        const other = { id: 3, name: 'Other', change: 1, updated_at: '' };
        made.answers['GET sessions'] = [{ ...other, id }, other];
        made.answers[`POST sessions/${id}/discard`] = [other];
        made.answers['GET sessions/3'] = session(3);
        await useSession().discard();
        expect(useSession().state?.id).toBe(3);
        const asked = made.asked.map(([method, path]) => `${method} ${path}`);
        // Nothing may ask about a session that is gone.
        expect(asked.indexOf('GET sessions/3')).toBeLessThan(asked.indexOf(`POST sessions/${id}/discard`));
        made.answers['GET sessions'] = [other];
        made.answers['POST sessions/3/discard'] = [];
        made.answers['POST sessions'] = session(4);
        await useSession().discard();
        expect(useSession().state?.id).toBe(4);
    });

    it('comes back to the screen when it could not be deleted', async () => {
        const id = answers.session.id;
        made.answers['GET sessions'] = [{ id: 3, name: 'Other', change: 1, updated_at: '' }];
        made.answers['GET sessions/3'] = session(3);
        made.answers[`GET sessions/${id}`] = session(id);
        const post = vi.mocked(api.post).getMockImplementation()!;
        vi.mocked(api.post).mockImplementation((path: string, body?: unknown) =>
            path.endsWith('/discard') ? Promise.reject(new Error('disk full')) : (post(path, body) as never),
        );
        await expect(useSession().discard()).rejects.toThrow('disk full');
        expect(useSession().state?.id).toBe(id);
    });
});

describe('files that are brought in', () => {
    const file = (bytes: number, name = 'Cello.wav') => new File([new Uint8Array(bytes)], name);

    beforeEach(() => open(NoticeStrip));

    it('go in pieces, and become a track of their width', async () => {
        const pieces: string[] = [];
        vi.spyOn(api, 'put').mockImplementation((path: string, body: unknown) => {
            pieces.push(`${path} ${(body as Blob).size}`);
            const from = Number(/offset=(\d+)/.exec(path)?.[1]);
            return Promise.resolve({ received: from + (body as Blob).size } as never);
        });
        made.answers['POST uploads'] = { id: 'u1' };
        made.answers['POST uploads/u1/finish'] = { id: 'm1' };
        made.answers['GET media/m1?sampleRate=48000'] = {
            id: 'm1',
            status: 'ready',
            channels: 2,
            length: 900,
            unreadable: 0,
        };
        await useImports().bring([file(5 << 20)]);
        expect(pieces).toEqual([`uploads/u1?offset=0 ${4 << 20}`, `uploads/u1?offset=${4 << 20} ${1 << 20}`]);
        expect(made.edits).toEqual([
            { type: 'add-channel', name: 'Cello', file: { file: 'm1', length: 900, width: 'stereo' } },
        ]);
    });

    it('are told where they cannot be read, and the others come in all the same', async () => {
        notices.value = [];
        made.answers['POST uploads'] = { id: 'u1' };
        made.answers['POST uploads/u1/finish'] = { id: 'm1' };
        const answered = [
            { id: 'm1', status: 'failed', message: 'Not a WAV file.', length: null },
            { id: 'm1', status: 'ready', channels: 1, length: 10, unreadable: 3 },
        ];
        vi.spyOn(api, 'get').mockImplementation(() => Promise.resolve(answered.shift() as never));
        await useImports().bring([file(0, 'a.txt'), file(0, 'b.wav')], null);
        expect(made.edits.map((edit) => edit.name)).toEqual(['b']);
        expect(notices.value.map((one) => one.message)).toEqual([
            'Not a WAV file.',
            '3 samples of it are no numbers, or infinite. They are read as silence.',
        ]);
    });
});
