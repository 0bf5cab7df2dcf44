import type { VueWrapper } from '@vue/test-utils';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import type { Channel, HardwareLoop, InterfaceState } from '@/api/types';
import AtHand from '@/components/inspector/AtHand.vue';
import VersionList from '@/components/inspector/VersionList.vue';
import InsertRow from '@/components/paths/InsertRow.vue';
import * as notices from '@/stores/notices';
import InputSection from '@/components/inspector/InputSection.vue';
import { useHardware } from '@/stores/hardware';
import { useMicrophones } from '@/stores/microphones';
import { useSession } from '@/stores/session';
import { realWorld, settled, shown, type World } from '@/testing';
import LoopList from './LoopList.vue';
import LoopSettings from './LoopSettings.vue';
import InputLine from './InputLine.vue';
import RealTimeNote from './RealTimeNote.vue';
import PortName from './PortName.vue';

let made: World;
let part: VueWrapper;

const port = (name: string, plug: string, more: Partial<InterfaceState['inputs'][number]> = {}) => ({
    name,
    plug,
    gain: 0,
    ...more,
});
const state: InterfaceState = {
    name: 'Quay interface',
    buffer: 128,
    buffers: [128],
    inputs: [port('Voice', 'voice', { gain: 31 }), port('Back', 'cable', { output: 2 }), port('Free', 'nothing')],
    outputs: ['Left', 'Right'],
    plugs: [
        { id: 'nothing', label: 'nothing plugged in' },
        { id: 'voice', label: 'invented singer' },
        { id: 'microphone', label: "browser's microphone" },
        { id: 'file', label: 'a file' },
        { id: 'cable', label: 'a cable' },
    ],
    healthy: { lowestPeak: -12, highestPeak: -6 },
    usualQuick: 3,
    gains: { lowest: -12, highest: 60 },
    latency: { in: 152, out: 148, roundTrip: 300 },
    units: [],
    clipped: { 1: 12 },
};

const cello = () => useSession().channel('cello') as Channel;
const sent = () =>
    made.asked.filter(([method, path]) => method === 'PUT' && path === 'interface').map(([, , body]) => body);

/** The cello takes the first input. */
function taking(monitor: 'off' | 'armed' | 'always', clips: unknown[] = []): void {
    const known = useSession().state!;
    useSession().state = {
        ...known,
        inputs: ['in:1', 'in:2', 'in:1-2'],
        live: { cello: { heard: monitor, path: [{ channel: 'cello', samples: 480 }], quick: [] } },
        document: {
            ...known.document,
            channels: known.document.channels.map((one) =>
                one.id === 'cello'
                    ? ({ ...one, source: { type: 'input', input: 'in:1', monitor, clips } } as unknown as typeof one)
                    : one,
            ),
        },
    } as typeof known;
}

beforeEach(async () => {
    made = realWorld();
    made.answers['GET interface'] = state;
    made.answers['PUT interface'] = state;
    await useHardware().load();
});
afterEach(() => part.unmount());

describe('work that goes through hardware', () => {
    it('says how long it takes, once for each channel that is worked by itself', () => {
        useSession().state = { ...useSession().state!, hardware: { seconds: 95, channels: ['cello', 'bass'] } };
        const said = (more: { channels: string[]; seconds?: number; isTogether?: boolean }) => {
            part = shown(RealTimeNote, more);
            const text = part.text().replace(/\s+/g, ' ');
            part.unmount();
            return text;
        };
        expect(said({ channels: ['cello'] })).toBe(
            'Cello goes through hardware: this takes as long as it plays, 1 min 35 s.',
        );
        expect(said({ channels: ['cello', 'bass', 'drum'], seconds: 10 })).toMatch(
            /^Cello, .+ go through hardware: .+, 20 s\.$/,
        );
        expect(said({ channels: ['cello', 'bass'], seconds: 10, isTogether: true })).toMatch(/ 10 s\.$/);
        expect(said({ channels: ['drum'] })).toBe('');
    });
});

describe('an input', () => {
    it('says what is plugged in, cables by their output, and is plugged otherwise', async () => {
        part = shown(InputLine, { port: 2 });
        const plug = part.find('select.plug');
        expect((plug.element as HTMLSelectElement).value).toBe('cable:2');
        expect(plug.findAll('option').map((one) => one.text())).toEqual([
            'nothing plugged in',
            'invented singer',
            "browser's microphone",
            'a file …',
            'cable from output 1',
            'cable from output 2',
        ]);
        await plug.setValue('cable:1');
        await plug.setValue('voice');
        expect(sent()).toEqual([
            { input: 2, plug: 'cable', output: 1 },
            { input: 2, plug: 'voice' },
        ]);
    });

    it("plays a file of one's own, says which, and changes nothing when none is chosen", async () => {
        made.answers['POST uploads'] = { id: 'u1' };
        made.answers['PUT uploads/u1?offset=0'] = { received: 5 };
        made.answers['POST uploads/u1/finish'] = { id: 'm1' };
        made.answers['GET media/m1?sampleRate=48000'] = { id: 'm1', status: 'ready' };
        made.answers['PUT interface'] = {
            ...state,
            inputs: [port('Voice', 'file', { file: 'm1', fileName: 'guide.wav' }), ...state.inputs.slice(1)],
        };
        part = shown(InputLine, { port: 1 });
        const files = part.get('input[type=file]');
        const plug = part.get('select.plug');
        await plug.setValue('+');
        Object.defineProperty(files.element, 'files', { value: [], configurable: true });
        await files.trigger('change');
        await settled();
        expect(sent()).toEqual([]);
        Object.defineProperty(files.element, 'files', { value: [new File(['sound'], 'guide.wav')] });
        await files.trigger('change');
        await settled();
        expect(sent()).toEqual([{ input: 1, plug: 'file', file: 'm1' }]);
        expect(plug.findAll('option').map((one) => one.text())).toContain('guide.wav');
        expect((plug.element as HTMLSelectElement).value).toBe('file');
    });

    it('opens the microphone where it is plugged in, and says how late it is', async () => {
        made.answers['PUT interface'] = { ...state, inputs: [port('Voice', 'microphone'), ...state.inputs.slice(1)] };
        part = shown(InputLine, { port: 1 });
        const open = vi.spyOn(useMicrophones(), 'open').mockResolvedValue();
        await part.get('select.plug').setValue('microphone');
        await settled();
        expect(sent()).toEqual([{ input: 1, plug: 'microphone' }]);
        expect(part.get('[data-microphone]').text()).toContain('Not open in this window.');
        useHardware().show({ 1: [-9, -18, 0] }, { 1: 0.25 });
        await settled();
        expect(part.get('[data-microphone]').text()).toContain('Open in another window.');
        await part.get('[data-microphone] .fix').trigger('click');
        expect(open).toHaveBeenLastCalledWith(1);
    });

    it('shows its level, a mark that stays until it is pressed, and what is advised', async () => {
        part = shown(InputLine, { port: 1 });
        expect(part.find('[data-clipped]').exists()).toBe(true);
        useHardware().show({ 1: [-9.4, -18, 0] });
        await settled();
        expect(part.find('[data-peak]').text()).toBe('−9.4');
        useHardware().advice = { 1: { change: -4, gain: 27, text: 'turn it down by 4.0 dB.' } };
        await settled();
        expect(part.find('[data-advice]').text()).toMatch(/^turn it down by 4.0 dB.\s+Set \+27.0 dB$/);
        await part.find('[data-advice] button').trigger('click');
        await part.find('[data-clipped]').trigger('click');
        expect(sent()).toEqual([{ input: 1, gain: 27 }, { clear: 1 }]);
    });

    it('leads to a track that takes it', async () => {
        taking('armed');
        part = shown(InputLine, { port: 1 });
        expect(part.find('.taker').text()).toBe('Cello');
        await part.find('select.to').setValue('bass');
        await settled();
        expect(made.edits).toEqual([{ type: 'set-input', channel: 'bass', input: 'in:1' }]);
    });

    it('takes another name when it is left, and keeps its own when that is empty', async () => {
        part = shown(PortName, { port: 3, name: 'Free', way: 'output', isIdle: true });
        const field = part.find('input');
        await field.setValue('  Headphones ');
        await field.trigger('blur');
        await field.setValue('  ');
        await field.trigger('blur');
        expect(sent()).toEqual([{ output: 3, name: 'Headphones' }]);
        expect((field.element as HTMLInputElement).value).toBe('Free');
    });
});

describe('the input of a track', () => {
    it('is chosen, and let go of with what was armed', async () => {
        taking('armed');
        useHardware().arm('cello', true);
        part = shown(InputSection, { channel: cello() });
        const choice = part.find('[data-input-port]');
        expect(choice.findAll('option').map((one) => one.text())).toEqual([
            'none',
            '1 Voice',
            '2 Back',
            '1–2 Voice and Back',
        ]);
        await choice.setValue('in:1-2');
        await choice.setValue('');
        await settled();
        expect(made.edits).toEqual([
            { type: 'set-input', channel: 'cello', input: 'in:1-2', monitor: 'armed' },
            { type: 'set-input', channel: 'cello', input: null },
        ]);
        expect(useHardware().armed).toEqual([]);
    });

    it('says how late it is by part, when it is heard, and which take comes next', async () => {
        taking('armed', [{ id: 'k1', file: 'f', start: 0, offset: 0, length: 9, gain: 0 }]);
        part = shown(InputSection, { channel: cello() });
        // 152, 480 and 148 samples at 48 kHz.
        expect(part.find('[data-delay-total]').text()).toBe('16.3 ms');
        expect(part.findAll('.parts span').map((one) => one.text())).toEqual([
            'in 3.2 ms',
            'Cello 10.0 ms',
            'out 3.1 ms',
        ]);
        expect(part.find('[data-take]').text()).toBe('● Take 2');
        await part.find('[data-monitor=always]').trigger('click');
        await settled();
        expect(made.edits).toEqual([{ type: 'set-input', channel: 'cello', input: 'in:1', monitor: 'always' }]);
        await part.find('[data-arm]').trigger('click');
        expect([useHardware().armed, part.find('[data-arm]').text()]).toEqual([['cello'], 'Armed']);
    });

    it('says that it is silent where nothing is plugged in any more, on the channel too', async () => {
        const told = vi.spyOn(notices, 'tell');
        taking('always');
        part = shown(InputSection, { channel: cello() });
        expect(part.find('[data-empty-input]').exists()).toBe(false);
        made.answers['PUT interface'] = { ...state, inputs: [port('Voice', 'nothing'), ...state.inputs.slice(1)] };
        await useHardware().set({ input: 1, plug: 'nothing' });
        await settled();
        expect(part.get('[data-empty-input]').text()).toBe('Nothing is plugged into input 1: it is silent.');
        expect(told.mock.calls).toEqual([
            ['Cello is silent: nothing is plugged into input 1 any more. The rest plays on.', 'warning'],
        ]);
        part.unmount();
        part = shown(InsertRow, { channel: cello(), row: 'inserts', inserts: [], start: 'cello:source' });
        expect(part.get('[data-live]').text()).toBe('silent: nothing plugged into in 1');
        await useHardware().set({ input: 1, name: 'Voice' });
        expect(told).toHaveBeenCalledOnce();
    });

    it('marks takes that clipped as they came in', () => {
        const clip = { id: 'k1', file: 'f', start: 0, offset: 0, length: 9, gain: 0 };
        part = shown(VersionList, {
            channel: {
                ...cello(),
                versions: [
                    { id: 'v1', name: 'Take 1', clips: [{ ...clip, clipped: 12 }] },
                    { id: 'v2', name: 'Take 2', clips: [clip] },
                ],
            },
        });
        expect(part.findAll('.version').map((one) => one.find('[data-take-clipped]').exists())).toEqual([true, false]);
        expect(part.get('[data-take-clipped]').attributes('title')).toBe('12 samples were clipped as it came in');
    });

    it('is not there for what sums others, nor for a track that plays a tap', () => {
        part = shown(InputSection, { channel: useSession().main as Channel });
        expect(part.find('[data-input]').exists()).toBe(false);
        part.unmount();
        part = shown(InputSection, {
            channel: { ...cello(), source: { type: 'tap', channel: 'bass', tap: 'source' } },
        });
        expect(part.find('[data-input]').exists()).toBe(false);
    });
});

describe('two controls at hand', () => {
    it('are the level in and a send or a mix, can be others, and are moved up and down', async () => {
        taking('armed');
        const known = useSession().state!;
        const channels = known.document.channels.map((one) =>
            one.id === 'cello'
                ? {
                      ...one,
                      trim: { gain: -4, invert: false },
                      sends: [{ id: 'n1', to: 'main', gain: -12, tap: 'post-fader' as const, on: true, pan: 0 }],
                  }
                : one,
        );
        useSession().state = { ...known, document: { ...known.document, channels } };
        part = shown(AtHand, { channel: cello() });
        expect(part.findAll('[data-at-hand]').map((one) => one.attributes('data-at-hand'))).toEqual(['trim', 'n1']);
        expect(part.find('[data-at-hand=n1] [role=slider]').attributes('aria-valuetext')).toBe('−12.0 dB');
        await part.find('[data-at-hand=trim] [role=slider]').trigger('keydown', { key: 'ArrowUp' });
        await settled();
        expect(made.edits).toEqual([{ type: 'set-trim', channels: ['cello'], gain: -3 }]);
        await part.find('[data-at-hand=n1] select').setValue('gain');
        await part.find('[data-at-hand=gain] [role=slider]').trigger('keydown', { key: 'ArrowDown' });
        await settled();
        expect(sent()).toEqual([{ input: 1, gain: 30 }]);
    });
});

describe('hardware loops', () => {
    const springs = {
        id: 'spring-tank',
        name: 'Spring tank',
        purpose: 'Two springs in a box.',
        isStereo: false,
        knobs: [
            {
                id: 'dwell',
                label: 'Dwell',
                kind: 'number',
                group: '',
                default: 5,
                unit: '',
                min: 0,
                max: 10,
                scale: 'linear',
                step: 0.1,
                choices: [],
            },
        ],
        send: 'hw:7',
        return: 'in:4',
        isInverted: false,
        positions: { dwell: 6 },
    } as InterfaceState['units'][number];
    const loop: HardwareLoop = {
        id: 'l1',
        name: 'Spring tank',
        send: 'hw:7',
        return: 'in:4',
        unit: 'spring-tank',
        sendTrim: 0,
        returnTrim: 2,
        invert: false,
        tail: 2500,
        delay: { samples: 451.2, buffer: 128 },
        recall: { knobs: { dwell: 5 }, notes: '' },
    };

    async function rack(loops: HardwareLoop[], units = [springs]): Promise<void> {
        made.answers['GET interface'] = { ...state, units };
        await useHardware().load();
        const known = useSession().state!;
        useSession().state = { ...known, document: { ...known.document, loops } };
    }

    it('are offered for units no loop goes through, and say where a loop stands', async () => {
        await rack([]);
        part = shown(LoopList, {});
        await part.find('[data-add-loop=spring-tank]').trigger('click');
        expect(made.edits[0]).toEqual({
            type: 'add-loop',
            name: 'Spring tank',
            send: 'hw:7',
            return: 'in:4',
            unit: 'spring-tank',
        });
        await rack([loop]);
        await settled();
        expect(part.find('[data-loop-entry=l1]').text()).toContain('9.4 ms');
        expect(part.find('[data-add-loop=spring-tank]').exists()).toBe(false);
    });

    it('say what a ping found, level it, and tell knobs that were noted otherwise', async () => {
        await rack([loop]);
        made.answers[`POST sessions/${useSession().state!.id}/loops/l1/ping`] = {
            delay: { samples: 450, buffer: 128 },
            milliseconds: 9.4,
            level: -3,
            isInverted: true,
            noise: -70,
        };
        part = shown(LoopSettings, { loop });
        expect(part.find('[data-recall-state]').text()).toBe('Noted otherwise: Dwell.');
        await part.find('[data-ping]').trigger('click');
        await settled();
        expect(part.find('[data-ping-result]').text()).toContain('−3.0 dB, upside down, its noise at −70.0 dBFS');
        await part.find('[data-set-level]').trigger('click');
        await part.find('[data-note]').trigger('click');
        await settled();
        expect(made.edits).toEqual([
            { type: 'set-loop', loop: 'l1', delay: { samples: 450, buffer: 128 } },
            { type: 'set-loop', loop: 'l1', returnTrim: 5 },
            { type: 'set-loop', loop: 'l1', recall: { knobs: { dwell: 6 }, notes: '' } },
        ]);
    });

    it('cannot be relied on with another buffer, before a ping, or where the unit is not', async () => {
        await rack([loop]);
        const hardware = useHardware();
        expect(hardware.delayOf(loop)).toEqual({ text: '9.4 ms', isRight: true });
        expect(hardware.delayOf({ ...loop, delay: undefined })).toEqual({ text: 'not pinged yet', isRight: false });
        expect(hardware.delayOf({ ...loop, delay: { samples: 451.2, buffer: 256 } }).isRight).toBe(false);
        await rack([loop], [{ ...springs, return: null }]);
        expect(hardware.delayOf(loop)).toEqual({ text: 'not plugged in', isRight: false });
        await part?.unmount();
        part = shown(LoopSettings, { loop });
    });
});
