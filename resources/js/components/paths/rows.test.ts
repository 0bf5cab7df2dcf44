import type { VueWrapper } from '@vue/test-utils';
import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import type { Channel } from '@/api/types';
import { useFinder } from '@/stores/finder';
import { useListening } from '@/stores/listening';
import { usePilot } from '@/stores/pilot';
import { useScreen } from '@/stores/screen';
import { useSelection } from '@/stores/selection';
import { useSession } from '@/stores/session';
import { realWorld, settled, shown, type World } from '@/testing';
import ChannelHeading from './ChannelHeading.vue';
import ChannelRow from './ChannelRow.vue';
import ActionMenu from '@/components/controls/ActionMenu.vue';
import OutputMenu from '@/components/inspector/OutputMenu.vue';
import SendLines from './SendLines.vue';
import SplitSiding from './SplitSiding.vue';
import TapStation from './TapStation.vue';
import TrimField from '@/components/controls/TrimField.vue';

let made: World;
let part: VueWrapper;

const of = (id: string) => useSession().channel(id) as Channel;
const open = (component: Parameters<typeof shown>[0], props: Record<string, unknown>) =>
    (part = shown(component, props));

beforeEach(() => (made = realWorld()));
afterEach(() => part.unmount());

describe('a channel row', () => {
    it('shows the path of a real session: chips, levels, sends, output', () => {
        open(ChannelRow, { channel: of('cello'), order: ['cello'] });
        const chips = part.findAll('[data-insert] .short').map((chip) => chip.text());
        expect(chips).toEqual(['HP', 'Reverb']);
        const figures = part.findAll('[data-insert] .main-figure').map((figure) => figure.text());
        expect(figures).toEqual(['80 Hz', '1.8 s']);
        expect(part.find('[data-tap="cello:source"] .level').text()).toBe('−4.4');
        expect(part.find('[data-send=n1]').text()).toBe('Plate−12.0');
        expect(part.find('.output .shown').text()).toBe('→ Main');
    });

    it('draws one line where one sound runs, and two from where it becomes stereo', () => {
        open(ChannelRow, { channel: of('cello'), order: ['cello'] });
        const wide = (selector: string) => part.find(selector).classes('wide');
        expect(wide('.source .line')).toBe(false);
        expect(wide('.cell.last .line')).toBe(true);
        // The second branch is muted, and has the reverb: the first is one line, the sum two.
        expect(part.find('[data-branch-row=b1] .rest .line').classes('wide')).toBe(false);
        expect(part.find('[data-branch-row=b2] .rest .line').classes('wide')).toBe(true);
    });

    it('is compact on one line: splits are closed, one send is named and the others counted', async () => {
        const session = useSession();
        const cello = of('cello');
        const more = [...cello.sends, { ...cello.sends[0]!, id: 'n2', to: 'bass' }];
        session.state = {
            ...session.state!,
            document: {
                ...session.state!.document,
                channels: session.channels.map((one) => (one.id === 'cello' ? { ...one, sends: more } : one)),
            },
        };
        open(ChannelRow, { channel: of('cello'), order: ['cello'], isCompact: true });
        expect(part.find('[data-split=s1]').attributes('data-open')).toBe('false');
        expect(part.find('.closed').text()).toBe('Split 2');
        expect(part.findAll('[data-send]')).toHaveLength(1);
        expect(part.find('.more').text()).toBe('+1');
        expect(part.find('.more').attributes('title')).toContain('Cello to Bass');
        await part.find('[data-split=s1] .join').trigger('click');
        expect(part.find('[data-split=s1]').attributes('data-open')).toBe('true');
    });

    it('mutes and solos all that are selected with it', async () => {
        open(ChannelRow, { channel: of('cello'), order: ['cello', 'bass'] });
        useSelection().channels = ['cello', 'bass'];
        await part.find('[aria-label="Mute Cello"]').trigger('click');
        await part.find('[aria-label="Solo Cello"]').trigger('click');
        await settled();
        expect(made.edits).toEqual([
            { type: 'set-mute', channels: ['cello', 'bass'], mute: true },
            { type: 'set-solo', channels: ['cello', 'bass'], solo: true },
        ]);
    });

    it('shows an automated fader where the playhead is, and moves its lane instead of setting it', async () => {
        open(ChannelRow, { channel: of('cello'), order: ['cello'] });
        const fader = () => part.find('.fader [role=slider]');
        expect(fader().attributes('aria-valuetext')).toBe('−12.0 dB');
        useListening().$patch({ position: 24000 });
        await settled();
        // The lane holds 18 dB there, above the end of the fader.
        expect(fader().attributes('aria-valuetext')).toBe('18.0 dB');
        useListening().$patch({ position: 0 });
        await settled();
        await fader().trigger('keydown', { key: 'ArrowRight' });
        await settled();
        expect(made.edits).toEqual([{ type: 'move-faders', channels: ['cello'], by: 0.5 }]);
    });

    it('sets the fader of a channel without a lane, and pans by hundredths', async () => {
        open(ChannelRow, { channel: of('bass'), order: ['bass'] });
        await part.find('.fader [role=slider]').trigger('keydown', { key: 'ArrowLeft' });
        await part.find('.pan [role=slider]').trigger('keydown', { key: 'ArrowLeft' });
        await settled();
        expect(made.edits).toEqual([
            { type: 'set-fader', channels: ['bass'], gain: -0.5 },
            { type: 'set-pan', channels: ['bass'], pan: -0.05 },
        ]);
    });

    it('stands back while another path is pointed at', async () => {
        open(ChannelRow, { channel: of('bass'), order: ['bass'] });
        useScreen().pathOf = 'plate';
        await settled();
        expect(part.classes('aside')).toBe(true);
        useScreen().pathOf = 'main';
        await settled();
        expect(part.classes('aside')).toBe(false);
    });
});

describe('the heading of a row', () => {
    it('shows what the Pilot said, and opens its list', async () => {
        const advice = { id: 'a', check: 'a', severity: 'severe', channel: 'cello', part: null, text: 'It clips.' };
        useSession().state = {
            ...useSession().state!,
            pilot: [{ ...advice, fix: null, dismissed: false }] as never,
        };
        open(ChannelHeading, { channel: of('cello'), order: ['cello'] });
        expect(part.find('.noted').classes('severe')).toBe(true);
        expect(part.find('.noted').attributes('title')).toBe('It clips.');
        await part.find('.noted').trigger('click');
        expect(usePilot().isShown).toBe(true);
    });

    it('says that it is automated, and opens the lane', async () => {
        open(ChannelHeading, { channel: of('cello'), order: ['cello'] });
        expect(part.find('.lanes').attributes('title')).toContain('1 lane.');
        await part.find('.lanes').trigger('click');
        expect(useScreen().lanes).toEqual({ cello: 'fader' });
    });

    it('folds a group with its members, and counts them', async () => {
        const state = useSession().state!;
        useSession().state = {
            ...state,
            document: {
                ...state.document,
                channels: state.document.channels.map((one) =>
                    one.id === 'plate'
                        ? { ...one, kind: 'group' }
                        : one.id === 'bass'
                          ? { ...one, output: 'plate' }
                          : one,
                ),
            },
        };
        open(ChannelHeading, { channel: of('plate'), order: ['plate'] });
        await part.find('.fold').trigger('click');
        expect(useScreen().isShown('bass')).toBe(false);
        expect(part.text()).toContain('1 in it');
        await part.find('.fold').trigger('click');
        expect(useScreen().isShown('bass')).toBe(true);
    });

    it('selects its channel, with Ctrl besides others', async () => {
        open(ChannelHeading, { channel: of('bass'), order: ['cello', 'bass'] });
        useSelection().channels = ['cello'];
        await part.find('.name').trigger('click', { ctrlKey: true });
        expect(useSelection().channels).toEqual(['cello', 'bass']);
        await part.find('.name').trigger('click');
        expect(useSelection().channels).toEqual(['bass']);
    });
});

describe('the output of a channel', () => {
    const options = () =>
        part
            .findAll('li')
            .map((option) => `${option.text()}${option.attributes('data-off') === undefined ? '' : ' off'}`);

    it('goes to buses only, and not where its sound would come back', () => {
        open(OutputMenu, { channel: of('plate') });
        expect(options()).toEqual(['Main', 'nowhere']);
        part.unmount();
        open(OutputMenu, { channel: of('cello') });
        expect(options()).toEqual(['Plate', 'Main', 'nowhere']);
    });

    it('marks a loop instead of offering it', () => {
        useSession().state = { ...useSession().state!, loops: { cello: ['plate'] } };
        open(OutputMenu, { channel: of('cello') });
        expect(options()).toEqual(['Plate (would loop) off', 'Main', 'nowhere']);
    });

    it('is a pair of the interface for the main, and never another channel', async () => {
        open(OutputMenu, { channel: of('main') });
        expect(options()).toContain('hw 1–2');
        expect(options()).not.toContain('Plate');
        part.findComponent(ActionMenu).vm.$emit('choose', 'none');
        await settled();
        expect(made.edits).toEqual([{ type: 'set-output', channels: ['main'], output: 'none' }]);
    });
});

describe('the trim below a source', () => {
    it('moves by half a dB, with Shift by a tenth, as one movement', async () => {
        open(TrimField, { channel: of('bass') });
        await part.find('button').trigger('keydown', { key: 'ArrowUp' });
        await settled();
        await part.find('button').trigger('keydown', { key: 'ArrowDown', shiftKey: true });
        await settled();
        expect(made.edits).toEqual([
            { type: 'move-trims', channels: ['bass'], by: 0.5 },
            { type: 'move-trims', channels: ['bass'], by: -0.1 },
        ]);
    });

    it('takes what is typed, leaves what is no number, and lets go at Escape', async () => {
        open(TrimField, { channel: of('bass') });
        const type = async (text: string, key: string) => {
            await part.find('button').trigger('click');
            await settled();
            await part.find('input').setValue(text);
            await part.find('input').trigger('keydown', { key });
            await settled();
        };
        await type('−4,5', 'Enter');
        await type('loud', 'Enter');
        await type('-9', 'Escape');
        expect(made.edits).toEqual([{ type: 'set-trim', channels: ['bass'], gain: -4.5 }]);
        expect(part.find('input').exists()).toBe(false);
    });
});

describe('sends at the end of a row', () => {
    it('are filled after the fader and a ring before it, and selected by a press', async () => {
        open(SendLines, { channel: of('cello') });
        expect(part.find('.tap').classes('post-fader')).toBe(true);
        expect(part.find('[data-send=n1]').attributes('title')).toBe('Cello to Plate: −12.0 dB after the fader');
        await part.find('[data-send=n1]').trigger('click');
        expect(useSelection().sends).toEqual(['n1']);
    });
});

describe('a split on the line', () => {
    it('says which of its branches come through, as the server found', () => {
        const split = of('cello').inserts[1];
        open(SplitSiding, { channel: of('cello'), row: 'inserts', split });
        expect(part.find('[data-branch-row=b1]').classes('quiet')).toBe(false);
        expect(part.find('[data-branch-row=b2]').classes('quiet')).toBe(true);
        expect(part.find('[data-branch-row=b2] > .name').text().replace(/\s+/g, ' ')).toContain('High −3.0');
        expect(part.text()).toContain('to 400');
        expect(part.text()).toContain('from 400');
    });

    it('adds to a branch where its plus is pressed', async () => {
        open(SplitSiding, { channel: of('cello'), row: 'inserts', split: of('cello').inserts[1] });
        await part.find('[data-branch-row=b1] .add').trigger('click');
        expect(useFinder().request).toMatchObject({ channels: ['cello'], branch: 'b1', at: 0 });
    });
});

describe('a tap on the line', () => {
    it('says over in floating point and clip where numbers end', async () => {
        open(TapStation, { tap: 'cello:insert:i2', name: 'Cello, after Reverb' });
        expect(part.classes('clipped')).toBe(false);
        expect(part.attributes('title')).toMatch(/samples over 0 dBFS, harmless here/);
        part.unmount();
        open(TapStation, { tap: 'cello:insert:i2', name: 'Cello, after Reverb', fixedPoint: true });
        expect(part.classes('clipped')).toBe(true);
        expect(part.attributes('title')).toMatch(/samples clip here/);
    });

    it('says when its figure is older than the session', async () => {
        const { useSurvey } = await import('@/stores/survey');
        open(TapStation, { tap: 'cello:source', name: 'Cello, source' });
        expect(part.classes('stale')).toBe(false);
        useSurvey().state = { ...useSurvey().state!, current: false, stale: ['cello:source'] };
        await settled();
        expect(part.classes('stale')).toBe(true);
    });

    it('listens there, and goes back to the main', async () => {
        open(TapStation, { tap: 'cello:source', name: 'Cello, source' });
        await part.trigger('click');
        expect(useListening().tap).toBe('cello:source');
        await part.trigger('click');
        expect(useListening().tap).toBeNull();
    });
});
