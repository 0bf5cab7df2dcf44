import { createPinia, setActivePinia } from 'pinia';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import '@/testing';
import { nextTick } from 'vue';
import { api, Refused } from '@/api/client';
import type { SessionState, SurveyState } from '@/api/types';
import { useCatalogue } from './catalogue';
import { notices } from './notices';
import { useScreen } from './screen';
import { useSelection } from './selection';
import { useSession } from './session';
import { useShelf } from './shelf';
import { useSurvey } from './survey';

vi.stubGlobal(
    'BroadcastChannel',
    class {
        postMessage(): void {}
        close(): void {}
    },
);

const none = { ctrlKey: false, metaKey: false, shiftKey: false };
const ctrl = { ...none, ctrlKey: true };
const shift = { ...none, shiftKey: true };

function state(): SessionState {
    const channel = (id: string, kind: string, output: string, more = {}) => ({
        id,
        kind,
        name: id,
        output,
        inserts: [],
        postInserts: [],
        sends: [],
        hidden: false,
        ...more,
    });
    return {
        id: 1,
        change: 1,
        document: {
            channels: [
                channel('left', 'track', 'reeds', { sends: [{ id: 'n1', to: 'plate' }] }),
                channel('drum', 'track', 'main', { hidden: true }),
                channel('reeds', 'group', 'band'),
                channel('band', 'group', 'main'),
                channel('plate', 'return', 'main'),
                channel('main', 'main', 'hw:1-2'),
            ],
        },
        paths: { left: ['left', 'reeds', 'band', 'plate', 'main'] },
        loops: { plate: ['plate', 'left'], left: ['left'] },
    } as unknown as SessionState;
}

beforeEach(() => {
    setActivePinia(createPinia());
    localStorage.clear();
});

describe('the selection', () => {
    it('takes channels one by one, with Ctrl and over a range', () => {
        const selection = useSelection();
        const order = ['a', 'b', 'c', 'd'];
        selection.selectChannel('b', none, order);
        selection.selectChannel('d', shift, order);
        expect(selection.channels).toEqual(['b', 'c', 'd']);
        selection.selectChannel('c', ctrl, order);
        expect(selection.channels).toEqual(['b', 'd']);
        expect(selection.along('d')).toEqual(['b', 'd']);
        expect(selection.along('a')).toEqual(['a']);
    });

    it('takes several inserts with Ctrl, and the inspector shows the last', () => {
        const selection = useSelection();
        selection.selectInsert('bass', 'i1', none);
        selection.selectInsert('bass', 'i2', ctrl);
        expect([selection.inserts, selection.insert]).toEqual([['i1', 'i2'], 'i2']);
        selection.selectInsert('bass', 'i2', ctrl);
        expect(selection.insert).toBe('i1');
        selection.selectInsert('bass', 'i3', none);
        expect(selection.inserts).toEqual(['i3']);
    });

    it('is of inserts or of sends, never of both', () => {
        const selection = useSelection();
        selection.selectInsert('bass', 'i1', none);
        selection.selectSends(['n1', 'n2']);
        expect([selection.inserts, selection.sends]).toEqual([[], ['n1', 'n2']]);
        selection.selectChannel('bass', none, ['bass']);
        expect(selection.sends).toEqual([]);
    });
});

describe('the screen', () => {
    it('folds groups with the groups in them, and hides what is hidden', () => {
        const session = useSession();
        session.state = state();
        const screen = useScreen();
        expect(['left', 'drum', 'reeds', 'band'].map(screen.isShown)).toEqual([true, false, true, true]);
        screen.toggleGroup('band');
        expect(['left', 'reeds', 'band'].map(screen.isShown)).toEqual([false, false, true]);
        screen.toggleGroup('band');
        screen.areHiddenShown = true;
        expect(['left', 'drum'].map(screen.isShown)).toEqual([true, true]);
    });

    it('lets the path of one channel stand out', () => {
        const session = useSession();
        session.state = state();
        const screen = useScreen();
        expect(screen.isAside('drum')).toBe(false);
        screen.pathOf = 'left';
        expect(['left', 'plate', 'main', 'drum'].map(screen.isAside)).toEqual([false, false, false, true]);
    });

    it('remembers which view was open', () => {
        const screen = useScreen();
        expect(screen.view).toBe('paths');
        localStorage.setItem('hafen.view', 'sends');
        setActivePinia(createPinia());
        expect(useScreen().view).toBe('sends');
    });
});

describe('the session', () => {
    it('finds sends and says where a loop would close, as the server told it', () => {
        const session = useSession();
        session.state = state();
        expect(session.send('n1')?.channel.id).toBe('left');
        expect(session.send('n9')).toBeNull();
        expect([session.closesLoop('plate', 'left'), session.closesLoop('left', 'plate')]).toEqual([true, false]);
        expect([session.tracks.length, session.groups.length, session.returns.length, session.cues.length]).toEqual([
            2, 2, 1, 0,
        ]);
    });
});

describe('the shelf', () => {
    it('brings what this browser kept to the server, once', async () => {
        localStorage.setItem(
            'hafen.shelf',
            JSON.stringify({ favourites: ['echo'], folders: [{ name: 'Voices', processors: ['gate', 'drive'] }] }),
        );
        vi.spyOn(api, 'get').mockImplementation((path: string) =>
            Promise.resolve((path === 'folders' ? { favourites: [], folders: [] } : []) as never),
        );
        const put = vi.spyOn(api, 'put').mockResolvedValue({ favourites: ['echo'], folders: [] } as never);
        const shelf = useShelf();
        await shelf.load();
        expect(shelf.kept.favourites).toEqual(['echo']);
        await shelf.load();
        expect(put.mock.calls.map(([, body]) => body)).toEqual([
            { folder: null, processor: 'echo', in: true },
            { folder: 'Voices', processor: 'gate', in: true },
            { folder: 'Voices', processor: 'drive', in: true },
        ]);
        vi.restoreAllMocks();
    });
});

describe('the finder', () => {
    it('finds splits by what they do, stored ones first', () => {
        const catalogue = useCatalogue();
        catalogue.splits = [{ id: 4, name: 'Two bands of ours', split: { branches: [{ name: 'Low' }] } }] as never;
        expect(catalogue.searchSplits('ours').map((way) => way.id)).toEqual(['stored-4']);
        expect(catalogue.searchSplits('low and').map((way) => way.id)).toEqual(['bands-2']);
        expect(catalogue.searchSplits('crossover')[0]?.id).toBe('stored-4');
        expect(catalogue.searchSplits('reverb')).toEqual([]);
    });
});

describe('the survey', () => {
    it('has what is on screen measured first, and moves up what is scrolled to while it measures', async () => {
        vi.useFakeTimers();
        const session = useSession();
        const survey = useSurvey();
        const known = {
            current: false,
            running: null,
            result: null,
            stale: [],
            soFar: [],
            stopped: false,
            message: null,
        };
        const ids = () => session.state!.document.channels.map(({ id }) => id);
        const post = vi.spyOn(api, 'post').mockResolvedValue({ ...known, running: { progress: 0, secondsLeft: null } });
        vi.spyOn(api, 'get').mockResolvedValue(known);
        session.state = state();
        const [one, two] = ids();
        // In the order of the session, not in the one rows came in.
        survey.setInSight(two!, true);
        survey.setInSight(one!, true);
        survey.setInSight('gone', true);
        await vi.advanceTimersByTimeAsync(200);
        expect(post).toHaveBeenLastCalledWith('sessions/1/survey', { first: [one, two] });
        const before = post.mock.calls.length;
        survey.setInSight(one!, false);
        survey.setInSight(two!, true);
        await vi.advanceTimersByTimeAsync(450);
        expect(post.mock.calls.slice(before).map(([, body]) => body)).toContainEqual({ first: [two] });
        vi.useRealTimers();
    });

    it('stays current while the state is replaced by one of the same change, and not after an edit', async () => {
        const session = useSession();
        const survey = useSurvey();
        session.state = state();
        await nextTick();
        survey.state = { current: true } as SurveyState;
        session.state = { ...state() };
        await nextTick();
        expect(survey.isCurrent).toBe(true);
        session.state = { ...state(), change: 2 };
        await nextTick();
        expect(survey.isCurrent).toBe(false);
    });

    it('shows no figures of a session that was left while the server answered', async () => {
        const session = useSession();
        const survey = useSurvey();
        session.state = state();
        let answer: (known: SurveyState) => void = () => undefined;
        vi.spyOn(api, 'post').mockImplementation(() => new Promise((resolve) => (answer = resolve as never)));
        const started = survey.start();
        session.state = { ...state(), id: 2 };
        await nextTick();
        answer({ current: true } as SurveyState);
        await started;
        expect(survey.state).toBeNull();
    });

    it('says why it cannot be begun or stopped', async () => {
        useSession().state = state();
        notices.value = [];
        vi.spyOn(api, 'post').mockRejectedValue(new Refused(422, '/to', 'A day at the most is measured.'));
        await useSurvey().start();
        await useSurvey().stop();
        expect(notices.value.map(({ message }) => message)).toEqual(['A day at the most is measured.']);
    });
});
