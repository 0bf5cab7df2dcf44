import type { VueWrapper } from '@vue/test-utils';
import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import type { Edit } from '@/api/edits';
import type { Advice, Channel, Split } from '@/api/types';
import { useFinder } from '@/stores/finder';
import { useListening } from '@/stores/listening';
import { useScreen } from '@/stores/screen';
import { useSelection } from '@/stores/selection';
import { useSession } from '@/stores/session';
import { realWorld, settled, shown, type World } from '@/testing';
import ChannelInspector from './ChannelInspector.vue';
import LoadChip from '@/components/shell/LoadChip.vue';
import OrderStrip from '@/components/paths/OrderStrip.vue';
import SendInspector from './SendInspector.vue';
import SidechainSource from './SidechainSource.vue';
import SplitInspector from './SplitInspector.vue';

let made: World;
let part: VueWrapper;

const of = (id: string) => useSession().channel(id) as Channel;
const split = () => of('cello').inserts[1] as Split;
const open = (component: Parameters<typeof shown>[0], props: Record<string, unknown>) =>
    (part = shown(component, props));
const button = (text: string) => {
    const found = part.findAll('button').find((one) => one.text().replace(/\s+/g, ' ') === text);
    if (!found) {
        throw new Error(
            `No button "${text}" among: ${part
                .findAll('button')
                .map((one) => one.text())
                .join(', ')}`,
        );
    }
    return found;
};

const advice = (
    check: string,
    channel: string,
    part: string | null,
    text: string,
    fix: Advice['fix'] = null,
): Advice => ({
    id: `${check}:${part ?? channel}`,
    check,
    severity: 'advice',
    channel,
    part,
    text,
    fix,
    dismissed: false,
});

beforeEach(() => (made = realWorld()));
afterEach(() => part.unmount());

describe('the inspector of a channel', () => {
    it('is in groups, and shows what a channel of this kind can do', () => {
        open(ChannelInspector, { channel: of('cello'), along: ['cello'] });
        expect(part.findAll('h3').map((one) => one.text())).toEqual([
            'Sound',
            'Input',
            'Macros',
            'Sound switches',
            'Row and routing',
            'Record',
            'Freeze and print',
            'Sends',
            'Levels',
        ]);
        expect(part.text()).toContain('Track 1 · mono');
        part.unmount();
        open(ChannelInspector, { channel: of('main'), along: ['main'] });
        const switches = part.findAll('[role=switch]').map((one) => one.text());
        expect(switches).toEqual(['Polarity inverted', 'Row bypassed']);
        expect(part.text()).not.toContain('Remove');
    });

    it('switches for all that are selected together', async () => {
        open(ChannelInspector, { channel: of('cello'), along: ['cello', 'bass'] });
        expect(part.text()).toContain('2 channels');
        await button('Polarity inverted').trigger('click');
        await button('Row bypassed').trigger('click');
        await button('Alignment off').trigger('click');
        await button('Hidden').trigger('click');
        await settled();
        const channels = ['cello', 'bass'];
        expect(made.edits).toEqual([
            { type: 'set-polarity', channels, invert: true },
            { type: 'set-row', channels, on: false },
            { type: 'set-aligned', channels, aligned: false },
            { type: 'set-hidden', channels, hidden: true },
        ]);
    });

    it('renames at Enter, and keeps the name where nothing is left', async () => {
        open(ChannelInspector, { channel: of('bass'), along: ['bass'] });
        const field = part.find('.title');
        await field.setValue('  Double bass ');
        await field.trigger('keydown', { key: 'Enter' });
        await settled();
        await field.setValue('   ');
        await field.trigger('blur');
        await settled();
        expect(made.edits).toEqual([{ type: 'rename-channel', channel: 'bass', name: 'Double bass' }]);
        expect((field.element as HTMLInputElement).value).toBe('Bass');
    });

    it('moves a channel among its kind, not past the ends', async () => {
        open(ChannelInspector, { channel: of('cello'), along: ['cello'] });
        expect(button('Move up').attributes('disabled')).toBeDefined();
        await button('Move down').trigger('click');
        await settled();
        expect(made.edits).toEqual([{ type: 'move-channel', channel: 'cello', to: 1 }]);
    });

    it('lists the levels of every stage, in the order of the sound, branches with their names', () => {
        open(ChannelInspector, { channel: of('cello'), along: ['cello'] });
        const rows = part.findAll('tbody tr').map((row) => [...row.element.children].map((cell) => cell.textContent));
        expect(rows.map(([name]) => name)).toEqual([
            'Source',
            'High-pass 80',
            'Low',
            'High: Reverb 1.8 s',
            'High',
            'Split 2',
            'Before fader',
            'After fader',
        ]);
        expect(rows[0]).toEqual(['Source', '−4.4', '−9.2', '']);
        // What is over in the muted branch is counted, and harmless.
        expect(Number(rows[3]?.[3])).toBeGreaterThan(0);
    });

    it('offers sends only where none is, and none that loops', () => {
        open(ChannelInspector, { channel: of('bass'), along: ['bass'] });
        const items = () => part.findAll('li').map((one) => `${one.text()}${one.attributes('data-off') ? ' off' : ''}`);
        expect(items()).toContain('Plate');
        part.unmount();
        useSession().state = { ...useSession().state!, loops: { bass: ['plate'] } };
        open(ChannelInspector, { channel: of('bass'), along: ['bass'] });
        expect(items()).toContain('Plate (would loop) off');
        part.unmount();
        open(ChannelInspector, { channel: of('cello'), along: ['cello'] });
        expect(items()).not.toContain('Plate');
    });

    it('sends without an amount: the server knows the usual one', async () => {
        open(ChannelInspector, { channel: of('bass'), along: ['bass'] });
        await useFinder().addSends(['bass'], 'plate');
        expect(made.edits).toEqual([{ type: 'add-send', channels: ['bass'], to: 'plate' }]);
    });

    it('says what is out of time, and lines it up', async () => {
        const comb = { channel: 'cello', where: 'Main', split: null, samples: 120, notch: 200 };
        useSession().state = { ...useSession().state!, combs: [comb] };
        open(ChannelInspector, { channel: of('cello'), along: ['cello'] });
        expect(part.text().replace(/\s+/g, ' ')).toContain('Not lined up: 120 samples late at Main.');
        await button('Line up').trigger('click');
        await settled();
        expect(made.edits).toEqual([{ type: 'set-aligned', channels: ['cello'], aligned: true }]);
    });

    it('opens the lane, and the finder for either row', async () => {
        open(ChannelInspector, { channel: of('bass'), along: ['bass'] });
        await button('Automation').trigger('click');
        expect(useScreen().lanes).toEqual({ bass: 'fader' });
        await button('Add after fader …').trigger('click');
        expect(useFinder().request).toMatchObject({ channels: ['bass'], row: 'postInserts', at: 0 });
    });
});

describe('the inspector of a split', () => {
    beforeEach(() => open(SplitInspector, { channel: of('cello'), row: 'inserts', split: split() }));

    it('moves a crossover by itself: where it stops is the rule of the server', async () => {
        await part.find('[aria-label="Crossover 1"]').trigger('keydown', { key: 'ArrowRight' });
        await settled();
        expect(made.edits).toHaveLength(1);
        expect(made.edits[0]).toMatchObject({ type: 'move-crossover', split: 's1', index: 0 });
        expect(made.edits[0]?.frequency).toBeGreaterThan(400);
    });

    it('adds up to as many bands, and removes down to as few, as the server allows', () => {
        expect(button('Add a band').attributes('disabled')).toBeUndefined();
        const removes = part.findAll('.branch .actions button').filter((one) => one.text() === 'Remove');
        expect(removes.map((one) => one.attributes('disabled') !== undefined)).toEqual([true, true]);
    });

    it('mutes, solos and turns over a branch', async () => {
        await part.find('[aria-label="Mute Low"]').trigger('click');
        await part.find('[aria-label="Solo High"]').trigger('click');
        await part.find('[aria-label="Polarity of High"]').trigger('click');
        await settled();
        expect(made.edits).toEqual([
            { type: 'set-branch-mute', branches: ['b1'], mute: true },
            { type: 'set-branch-solo', branches: ['b2'], solo: true },
            { type: 'set-branch-polarity', branches: ['b2'], invert: true },
        ]);
    });

    it('listens to a branch, before and after the split', async () => {
        await part.find('[data-branch-settings=b2] .actions button:nth-child(2)').trigger('click');
        expect(useListening().tap).toBe('cello:branch:b2');
        await button('Listen before').trigger('click');
        expect(useListening().tap).toBe('cello:into:s1');
        await button('Listen after').trigger('click');
        expect(useListening().tap).toBe('cello:insert:s1');
    });
});

describe('the inspector of a send', () => {
    const sends = () => [{ channel: of('cello'), send: of('cello').sends[0]! }];

    it('changes amount, tap and state of the one that is shown', async () => {
        open(SendInspector, { sends: sends() });
        expect(part.find('h2').text()).toBe('Cello → Plate');
        await part.find('[aria-label=Amount]').trigger('keydown', { key: 'ArrowUp' });
        await button('before').trigger('click');
        await button('Switch off').trigger('click');
        await settled();
        expect(made.edits).toEqual([
            { type: 'set-send-gain', sends: ['n1'], gain: -11.5 },
            { type: 'set-send-tap', sends: ['n1'], tap: 'pre-fader' },
            { type: 'set-send-on', sends: ['n1'], on: false },
        ]);
    });

    it('says that a return is part dry, as the server found, and makes it wet', async () => {
        const wet = { type: 'set-mix', insert: 'i6', mix: 1 } as const;
        useSession().state!.pilot = [
            advice('return-not-wet', 'plate', 'i6', 'It is part dry.', { label: 'Set 100 %', edit: wet }),
            advice('nothing-arrives', 'plate', null, 'Not about sends.'),
        ];
        open(SendInspector, { sends: sends() });
        expect(part.text()).toContain('It is part dry.');
        expect(part.text()).not.toContain('Not about sends.');
        await button('Set 100 %').trigger('click');
        await settled();
        expect(made.edits).toEqual([{ type: 'set-mix', insert: 'i6', mix: 1 }]);
    });

    it('advises about several in one line and mends them in one step', async () => {
        const tap = (send: string): Edit => ({ type: 'set-send-tap', sends: [send], tap: 'post-fader' });
        useSession().state!.pilot = ['n1', 'n2'].map((send) =>
            advice('effect-send-before-fader', 'cello', send, `${send} is early.`, {
                label: 'Set after fader',
                edit: tap(send),
            }),
        );
        const [first] = sends();
        open(SendInspector, { sends: [first, { ...first, send: { ...first!.send, id: 'n2' } }] });
        expect(part.findAll('[data-advice]').map((note) => note.text())).toEqual([
            expect.stringMatching(/^n1 is early\.\s+The same for 1 more\.\s*Set after fader$/),
        ]);
        await button('Set after fader').trigger('click');
        await settled();
        expect(made.edits).toEqual([{ type: 'several', label: 'Set after fader', edits: [tap('n1'), tap('n2')] }]);
    });

    it('moves several together', async () => {
        open(SendInspector, { sends: [...sends(), ...sends()] });
        await part.find('[aria-label=Amount]').trigger('keydown', { key: 'ArrowUp' });
        await settled();
        expect(made.edits).toEqual([{ type: 'move-sends', sends: ['n1', 'n1'], by: 0.5 }]);
    });

    it('removes it, and shows nothing of it any more', async () => {
        useSelection().selectSends(['n1']);
        open(SendInspector, { sends: sends() });
        await button('Remove').trigger('click');
        await settled();
        expect(made.edits).toEqual([{ type: 'remove-sends', sends: ['n1'] }]);
        expect(useSelection().sends).toEqual([]);
    });
});

describe('a sidechain', () => {
    it('is any channel whose sound does not come from here', async () => {
        useSession().state = { ...useSession().state!, loops: { main: ['bass'], plate: ['bass'] } };
        open(SidechainSource, { channel: of('bass'), insert: of('bass').inserts[0] });
        const options = part
            .findAll('select')[0]!
            .findAll('option')
            .map((one) => `${one.text()}${one.attributes('disabled') === undefined ? '' : ' off'}`);
        expect(options).toEqual(['its own sound', 'Cello', 'Plate (would loop) off', 'Main (would loop) off']);
        await part.find('select').setValue('cello');
        await settled();
        expect(made.edits).toEqual([
            { type: 'set-sidechain', insert: 'i3', sidechain: { channel: 'cello', tap: 'pre-fader' } },
        ]);
    });
});

describe('the order of a row', () => {
    it('names the effects, not what they are for', () => {
        open(OrderStrip, { neighbours: of('bass').inserts, insert: 'i4' });
        expect(part.findAll('li').map((one) => one.text())).toEqual(['Drive +6.0', 'Reverb 1.8 s']);
        expect(part.findAll('li').map((one) => one.classes('here'))).toEqual([false, true]);
    });
});

describe('the chip of the engine', () => {
    it('shows no load where nothing plays', async () => {
        const { useSurvey } = await import('@/stores/survey');
        open(LoadChip, {});
        expect(part.find('.value').text()).toBe('0 %');
        useSurvey().state = { ...useSurvey().state!, result: { ...useSurvey().state!.result!, load: null } };
        await settled();
        expect(part.find('.value').text()).toBe('·');
    });

    it('leads to what needs it', async () => {
        const { useScreen } = await import('@/stores/screen');
        open(LoadChip, {});
        await part.find('button').trigger('click');
        expect(useScreen().view).toBe('load');
    });
});
