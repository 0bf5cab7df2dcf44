import { mount } from '@vue/test-utils';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { defineComponent, h, nextTick, ref } from 'vue';
import { api } from '@/api/client';
import type { AutomationPoint, Channel, ParameterSpec, ProcessorInsert } from '@/api/types';
import { controlsOf, type LaneControl } from '@/automation';
import { useCatalogue } from '@/stores/catalogue';
import { useListening } from '@/stores/listening';
import { useScreen } from '@/stores/screen';
import { useSelection } from '@/stores/selection';
import { useSession } from '@/stores/session';
import { realWorld, settled, type World } from '@/testing';
import { followPointer } from './followPointer';
import { useBandListening } from './useBandListening';
import { useInsertValues } from './useInsertValues';
import { useLaneDrawing } from './useLaneDrawing';
import { usePointEdits } from './usePointEdits';
import { useProcessorPicture } from './useProcessorPicture';
import { useSendEdits } from './useSendEdits';
import { useSendGrid } from './useSendGrid';
import { useSteps } from './useSteps';

let made: World;
let host: ReturnType<typeof mount> | null = null;

/** Runs a composable where its watchers and hooks belong to a component. */
function within<T>(setup: () => T): T {
    let result: T;
    host = mount(
        defineComponent({
            setup() {
                result = setup();
                return () => h('div');
            },
        }),
    );
    return result!;
}

const of = (id: string) => useSession().channel(id) as Channel;

beforeEach(() => (made = realWorld()));
afterEach(() => {
    host?.unmount();
    host = null;
    vi.useRealTimers();
});

describe('steps', () => {
    it('belong together until a pause', () => {
        vi.useFakeTimers();
        const steps = useSteps();
        const first = steps.gesture();
        vi.advanceTimersByTime(650);
        expect(steps.gesture()).toBe(first);
        vi.advanceTimersByTime(650);
        // Each step begins the time anew.
        expect(steps.gesture()).toBe(first);
        vi.advanceTimersByTime(701);
        expect(steps.isNew()).toBe(true);
        expect(steps.gesture()).not.toBe(first);
    });
});

describe('the pointer', () => {
    it.each(['pointerup', 'pointercancel'])('is followed until %s, and ends once', (end) => {
        const moves: number[] = [];
        const ended = vi.fn();
        followPointer((event) => moves.push(event.clientX), ended);
        window.dispatchEvent(new MouseEvent('pointermove', { clientX: 3 }));
        window.dispatchEvent(new MouseEvent('pointermove', { clientX: 9 }));
        window.dispatchEvent(new MouseEvent(end));
        window.dispatchEvent(new MouseEvent('pointermove', { clientX: 27 }));
        window.dispatchEvent(new MouseEvent('pointerup'));
        expect(moves).toEqual([3, 9]);
        expect(ended).toHaveBeenCalledOnce();
    });
});

describe('the grid of sends', () => {
    it('stays within its edges, and selects what is in the block', () => {
        const grid = within(useSendGrid);
        expect(grid.rows.value.map((channel) => channel.id)).toEqual(['cello', 'bass', 'plate']);
        expect(grid.columns.value.map((channel) => channel.id)).toEqual(['plate']);
        grid.go(-3, 5, false);
        expect(grid.active.value).toEqual({ row: 0, column: 0 });
        grid.go(9, 0, true);
        expect(grid.block.value).toEqual({ top: 0, bottom: 2, left: 0, right: 0 });
        // The return cannot send to itself: it is no cell of the block.
        expect(grid.cells().map((cell) => [cell.channel.id, cell.send?.id])).toEqual([
            ['cello', 'n1'],
            ['bass', undefined],
        ]);
        expect(useSelection().sends).toEqual(['n1']);
        grid.go(1, 0, false);
        expect(useSelection().sends).toEqual([]);
        expect(useSelection().channels).toEqual(['bass']);
    });

    it('comes back within its edges when channels go', async () => {
        const grid = within(useSendGrid);
        grid.go(0, 0, false);
        grid.go(2, 0, true);
        const session = useSession();
        session.state = {
            ...session.state!,
            document: { ...session.state!.document, channels: session.channels.filter(({ id }) => id !== 'bass') },
        };
        await nextTick();
        expect(grid.active.value).toEqual({ row: 1, column: 0 });
        expect(grid.anchor.value).toBeNull();
    });

    it('copies a row over all rows of the block, and never into a loop', async () => {
        const { grid, edits } = within(() => {
            const grid = useSendGrid();
            return { grid, edits: useSendEdits(grid) };
        });
        edits.paste();
        grid.go(0, 0, false);
        edits.copy();
        grid.go(1, 0, false);
        grid.go(2, 0, true);
        edits.paste();
        await settled();
        const [copied] = of('cello').sends;
        expect(made.edits).toEqual([
            {
                type: 'put-sends',
                sends: [
                    {
                        channel: 'bass',
                        to: 'plate',
                        gain: copied?.gain,
                        tap: copied?.tap,
                        on: copied?.on,
                        pan: copied?.pan,
                    },
                ],
            },
        ]);
    });

    it('copies an empty cell as nothing, and does nothing where no send is', async () => {
        const { grid, edits } = within(() => {
            const grid = useSendGrid();
            return { grid, edits: useSendEdits(grid) };
        });
        grid.go(1, 0, false);
        edits.copy();
        grid.go(0, 0, false);
        edits.paste();
        grid.go(1, 0, false);
        expect(edits.move(1)).toBe(false);
        edits.flipTap();
        edits.flipOn();
        edits.remove();
        await settled();
        expect(made.edits).toEqual([]);
    });
});

describe('the points of a lane', () => {
    const list: AutomationPoint[] = [
        { at: 1000, value: -12, curve: 0.5 },
        { at: 5000, value: 0 },
        { at: 9000, value: 18 },
    ];

    function lane(target = 'fader', points = list) {
        const channel = () => ({ ...of('cello'), automation: [{ target, points }] }) as Channel;
        const control = () =>
            controlsOf(
                channel(),
                (id) => id,
                (id) => useCatalogue().byId[id],
                (id) => id,
            ).find((one) => one.target === target) as LaneControl;
        return within(() => usePointEdits(channel, control));
    }

    it('move none past its neighbours, and stay as far from each other', () => {
        const edits = lane();
        const at = (which: number[], by: number) => edits.moved(list, which, by, 0).map((point) => point.at);
        expect(at([1], 90000)).toEqual([1000, 8999, 9000]);
        expect(at([1], -90000)).toEqual([1000, 1001, 9000]);
        expect(at([0, 1], 90000)).toEqual([4999, 8999, 9000]);
        expect(at([0, 1, 2], -90000)).toEqual([0, 4000, 8000]);
        expect(at([2], 1e9)).toEqual([1000, 5000, useSession().document!.length]);
    });

    it('move along the travel, up to the end of the control: what stands above it comes down only', () => {
        const edits = lane();
        const values = (by: number) => edits.moved(list, [0, 1, 2], 0, by).map((point) => point.value);
        expect(values(9)[0]).toBeCloseTo(12, 1);
        expect(values(9)[2]).toBeCloseTo(18, 1);
        expect(values(-9)).toEqual([null, null, null]);
        expect(values(-0.1)[2]).toBeLessThan(18);
    });

    it('bend by hundredths, and nearly straight is straight', () => {
        const edits = lane();
        expect(edits.bent(list, 1, 0.333)[1]?.curve).toBe(0.33);
        expect(edits.bent(list, 1, 7)[1]?.curve).toBe(1);
        expect(edits.bent(list, 0, 0.03)[0]?.curve).toBe(0);
    });

    it('take a value that is typed as far as automation holds it', async () => {
        const edits = lane();
        edits.chosen.value = [1];
        edits.setValue(30);
        edits.setValue(null);
        await settled();
        const sent = made.edits.map((edit) => (edit.points as AutomationPoint[])[1]?.value);
        expect(sent).toEqual([24, null]);
    });

    it('know no silence where the control has none', async () => {
        const edits = lane('pan', [{ at: 0, value: 0.5 }]);
        edits.chosen.value = [0];
        edits.setValue(null);
        edits.setValue(-4);
        await settled();
        expect(made.edits.map((edit) => edit.points)).toEqual([[{ at: 0, value: -1 }]]);
    });

    it('come where the playhead is when pasted, and what lies there makes room', async () => {
        const edits = lane();
        edits.chosen.value = [2, 1];
        edits.copy();
        expect(useScreen().copiedPoints).toEqual([
            { at: 0, value: 0 },
            { at: 4000, value: 18 },
        ]);
        useListening().position = 900.4;
        await edits.paste();
        const sent = made.edits[0]?.points as AutomationPoint[];
        expect(sent.map((point) => point.at)).toEqual([900, 4900, 5000, 9000]);
        expect(sent[1]?.value).toBeCloseTo(18, 1);
    });

    it('are not pasted past the end of the session', async () => {
        const edits = lane();
        edits.chosen.value = [0, 1, 2];
        edits.copy();
        useListening().position = useSession().document!.length - 5000;
        await edits.paste();
        const end = useSession().document!.length;
        expect((made.edits[0]?.points as AutomationPoint[]).every((point) => point.at <= end)).toBe(true);
        expect((made.edits[0]?.points as AutomationPoint[]).length).toBe(5);
    });

    it('have handles on ways that can bend, and steps where a control holds', () => {
        const fader = lane();
        const control = (target: string) =>
            controlsOf(
                of('cello'),
                (id) => id,
                () => undefined,
                (id) => id,
            ).find((one) => one.target === target) as LaneControl;
        const area = ref<Element>();
        const drawing = within(() =>
            useLaneDrawing(
                area,
                () => fader.points.value,
                () => control('fader'),
                () => 48000,
            ),
        );
        expect(drawing.bends.value.map((handle) => [handle.index, handle.curve])).toEqual([
            [0, 0.5],
            [1, 0],
        ]);
        expect(drawing.atX(drawing.x(12345))).toBe(12345);
        expect(drawing.travelAtY(drawing.yOf(-12))).toBeCloseTo(drawing.travelAtY(drawing.guides.value[1]!.at), 9);
        expect(drawing.shiftOf(drawing.x(48000) - drawing.x(0), 0)).toEqual({ by: 48000, travelBy: -0 });
        const held = within(() =>
            useLaneDrawing(
                area,
                () => [
                    { at: 0, value: 0 },
                    { at: 24000, value: 1 },
                ],
                () => control('mute'),
                () => 48000,
            ),
        );
        expect(held.bends.value).toEqual([]);
        const heights = held.line.value.split(' ').map((pair) => Number(pair.split(',')[1]));
        expect(new Set(heights).size).toBe(2);
    });
});

describe('the values of an insert', () => {
    const insert = () => of('cello').inserts[0] as ProcessorInsert;

    it('stay as they were moved until the server has all of them', async () => {
        const values = within(() => useInsertValues(insert));
        const spec = values.spec.value!.parameters.find((one) => one.id === 'frequency') as ParameterSpec;
        values.set('frequency', 100, 'g');
        values.set('frequency', 120, 'g');
        expect(values.value(spec)).toBe(120);
        await settled();
        await settled();
        expect(values.value(spec)).toBe(insert().parameters.frequency ?? spec.default);
        expect(made.edits.map((edit) => edit.value)).toContain(120);
    });

    it('stay in the range of the parameter when dragged in a picture', async () => {
        const values = within(() => useInsertValues(insert));
        const spec = values.spec.value!.parameters.find((one) => one.id === 'frequency') as ParameterSpec;
        values.setHeld('frequency', 1e9, 'one');
        values.setHeld('frequency', -5, 'two');
        values.setHeld('unheard-of', 5, 'three');
        await settled();
        await settled();
        expect(made.edits.map((edit) => edit.value)).toEqual([spec.max, spec.min]);
    });

    it('use a recording that is chosen', async () => {
        const file = { id: 'response', kind: 'audio-file', group: '', choices: [], default: '' };
        const user = {
            id: 'room',
            kind: 'choice',
            group: '',
            choices: [{ value: 'own', label: 'Own' }],
            default: 'hall',
        };
        useCatalogue().specs = [{ ...useCatalogue().specs[0]!, id: 'filter', parameters: [file, user] as never }];
        const values = within(() => useInsertValues(insert));
        values.change(file as never, 'media-7', 'g');
        await settled();
        await settled();
        expect(made.edits.map((edit) => [edit.parameter, edit.value])).toEqual([
            ['response', 'media-7'],
            ['room', 'own'],
        ]);
    });
});

describe('the picture of a processor', () => {
    it('is drawn anew with the newest values while one is on its way, and goes when the server cannot', async () => {
        const asked: { values: unknown; answer: (picture: unknown) => void; fail: () => void }[] = [];
        vi.mocked(api.post).mockImplementation(
            (_: string, body?: unknown) =>
                new Promise<never>((resolve, reject) =>
                    asked.push({
                        values: (body as { parameters: unknown }).parameters,
                        answer: (picture) => resolve({ picture } as never),
                        fail: () => reject(new Error('gone')),
                    }),
                ),
        );
        const values = ref<Record<string, number>>({ gain: 1 });
        const picture = within(() =>
            useProcessorPicture(
                () => 'drive',
                () => values.value,
            ),
        );
        for (const gain of [2, 3, 4]) {
            values.value = { gain };
            await nextTick();
        }
        expect(asked.map((one) => one.values)).toEqual([{ gain: 1 }]);
        asked[0]!.answer({ title: 'one' });
        await settled();
        expect(asked.map((one) => one.values)).toEqual([{ gain: 1 }, { gain: 4 }]);
        asked[1]!.answer({ title: 'four' });
        await settled();
        expect(picture.value).toEqual({ title: 'four' });
        values.value = { gain: 5 };
        await nextTick();
        asked[2]!.fail();
        await settled();
        expect(picture.value).toBeNull();
    });
});

describe('a band that is heard alone', () => {
    const quality = (id: string) => ({ id: `${id}-q` }) as ParameterSpec;

    it('follows the band that is shown, and ends with its insert or its inspector', async () => {
        const listening = useListening();
        const insert = ref('i1');
        const shown = ref<ParameterSpec[]>([quality('band-1')]);
        const bands = within(() =>
            useBandListening(
                () => insert.value,
                () => shown.value,
                () => true,
            ),
        );
        expect(bands.band.value).toBe('band-1');
        bands.toggle();
        expect(listening.sweep).toEqual({ insert: 'i1', band: 'band-1' });
        shown.value = [quality('band-3')];
        await nextTick();
        expect(listening.sweep).toEqual({ insert: 'i1', band: 'band-3' });
        shown.value = [];
        await nextTick();
        expect(listening.sweep).toBeNull();
        shown.value = [quality('band-2')];
        await nextTick();
        bands.toggle();
        insert.value = 'i2';
        await nextTick();
        expect(listening.sweep).toBeNull();
        bands.toggle();
        expect(bands.isHeard.value).toBe(true);
        host?.unmount();
        host = null;
        expect(listening.sweep).toBeNull();
    });

    it('says how loud what comes in is there, once it is known', () => {
        const listening = useListening();
        const bands = within(() =>
            useBandListening(
                () => 'i1',
                () => [quality('band-1')],
                () => true,
            ),
        );
        expect(bands.range.value).toBeNull();
        listening.watched = { insert: 'i1', bands: { 'band-1': [-20, -41.5, -12] } } as never;
        expect(bands.range.value).toEqual({ quiet: -41.5, loud: -12 });
        listening.watched = { insert: 'i9', bands: { 'band-1': [-20, -41.5, -12] } } as never;
        expect(bands.range.value).toBeNull();
    });
});
