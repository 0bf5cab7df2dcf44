import { afterEach, describe, expect, it } from 'vitest';
import type { VueWrapper } from '@vue/test-utils';
import type { Picture } from '@/api/types';
import type { Watched } from '@/listening/frames';
import { shown } from '@/testing';
import ProcessorPicture from './ProcessorPicture.vue';

let drawn: VueWrapper;

const response: Picture = {
    title: 'Response',
    x: { unit: 'Hz', min: 20, max: 20000, scale: 'logarithmic' },
    y: { unit: 'dB', min: -24, max: 24, scale: 'linear' },
    curves: [
        {
            label: 'response',
            points: [
                [20, 0],
                [632.5, 12],
                [20000, -24],
            ],
        },
    ],
    handles: [{ label: '1', x: 632.5, y: 12, xParameter: 'bell-1-frequency', yParameter: 'bell-1-gain' }],
    reading: 'response',
} as Picture;

const transfer: Picture = {
    title: 'Level in, level out',
    x: { unit: 'dB in', min: -60, max: 6, scale: 'linear' },
    y: { unit: 'dB out', min: -60, max: 6, scale: 'linear' },
    curves: [
        {
            label: 'unchanged',
            points: [
                [-60, -60],
                [6, 6],
            ],
        },
        {
            label: 'curve',
            points: [
                [-60, -60],
                [-20, -20],
                [6, -13],
            ],
        },
    ],
    handles: [],
    reading: 'transfer',
} as Picture;

const watched: Watched = {
    insert: 'i1',
    frequencies: [100, 1000, 10000],
    before: [
        [-30, -48, -24],
        [null, null, null],
        [-50, -96, -48],
    ],
    after: [
        [-24, -42, -18],
        [null, null, null],
        [-50, -96, -48],
    ],
    bands: {},
};

function open(picture: Picture, more: Record<string, unknown> = {}): void {
    drawn = shown(ProcessorPicture, { picture, levelIn: null, reduction: 0, watched: null, ...more });
}

afterEach(() => drawn.unmount());

const points = (css: string) =>
    (drawn.find(css).attributes('points') ?? '').split(' ').map((pair) => pair.split(',').map(Number));

describe('the picture of a processor', () => {
    it('lays points along both axes', () => {
        open(response);
        expect(points('.curve')).toEqual([
            [0, 84],
            [138, 42],
            [276, 168],
        ]);
        expect(drawn.find('svg').attributes('aria-label')).toBe('Response');
    });

    it('moves what a handle names, within the picture, as two movements', () => {
        open(response);
        const handle = drawn.find('[data-handle=bell-1-frequency]');
        const svg = drawn.find('svg').element;
        svg.getBoundingClientRect = () => ({ left: 0, top: 0, width: 276, height: 168 }) as DOMRect;
        handle.element.dispatchEvent(
            new PointerEvent('pointerdown', { button: 0, clientX: 138, clientY: 42, bubbles: true }),
        );
        window.dispatchEvent(new PointerEvent('pointermove', { clientX: 276, clientY: 84 }));
        window.dispatchEvent(new PointerEvent('pointermove', { clientX: 400, clientY: 84 }));
        window.dispatchEvent(new PointerEvent('pointerup', {}));
        window.dispatchEvent(new PointerEvent('pointermove', { clientX: 10, clientY: 10 }));
        const set = (drawn.emitted('set') ?? []) as [string, number, string][];
        expect(set.map(([parameter, value]) => [parameter, value])).toEqual([
            ['bell-1-frequency', 20000],
            ['bell-1-gain', 0],
            ['bell-1-frequency', 20000],
        ]);
        expect(new Set(set.map(([, , gesture]) => gesture)).size).toBe(2);
        expect(drawn.emitted('focus')).toEqual([['bell-1-frequency']]);
    });

    it('draws levels by frequency behind a response, from quiet to loud, and what leaves now', () => {
        open(response, { watched });
        // 96 dB over 168 points: -24 dBFS lies at 42, -48 at 84; silence at the bottom.
        expect(points('.levels .before')).toEqual([
            [64.3, 42],
            [156.3, 168],
            [248.3, 84],
            [248.3, 168],
            [156.3, 168],
            [64.3, 84],
        ]);
        expect(points('.level-now').map(([, y]) => y)).toEqual([42, 168, 87.5]);
        expect(drawn.find('figcaption').text()).toContain('Levels in dBFS');
    });

    it('draws no levels behind anything else, and none before there is sound', () => {
        open(transfer, { watched });
        expect(drawn.find('[data-levels]').exists()).toBe(false);
        drawn.unmount();
        const silent = {
            ...watched,
            before: watched.before.map(() => [null, null, null]),
            after: watched.before.map(() => [null, null, null]),
        };
        open(response, { watched: silent });
        expect(drawn.find('.levels .before').exists()).toBe(false);
    });

    it('shows the level that goes in on a transfer curve, with the reduction', () => {
        open(transfer, { levelIn: -19, reduction: 3.21 });
        const now = drawn.find('.now circle');
        expect(Number(now.attributes('cx'))).toBeCloseTo((276 * 40) / 66, 1);
        expect(drawn.find('.now text').text()).toBe('−3.2 dB');
        drawn.unmount();
        open(transfer, { levelIn: -80 });
        expect(drawn.find('.now').exists()).toBe(false);
    });
});
