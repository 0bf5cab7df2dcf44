import { describe, expect, it } from 'vitest';
import type { Channel } from '@/api/types';
import { bent, controlsOf, laneValueAt, type LaneControl } from './automation';
import { faderTravel, positionOf, valueAt } from './scales';
import { channel } from './testing';

const fader: LaneControl = {
    target: 'fader',
    name: 'Fader',
    travel: faderTravel(),
    still: -3,
    holds: false,
    step: 0.5,
    text: String,
};

describe('lanes', () => {
    it('go along the travel of their control, and stand still without points', () => {
        const points = [
            { at: 100, value: -12 },
            { at: 300, value: 0 },
            { at: 500, value: null },
        ];
        expect(laneValueAt([], fader, 50)).toBeCloseTo(-3, 3);
        expect(laneValueAt(points, fader, 0)).toBeCloseTo(-12, 3);
        const half = (positionOf(-12, faderTravel()) + positionOf(0, faderTravel())) / 2;
        expect(laneValueAt(points, fader, 200)).toBeCloseTo(valueAt(half, faderTravel()) as number, 3);
        expect(laneValueAt(points, fader, 600)).toBeNull();
    });

    it('bend as the engine does', () => {
        // The figures the engine's own test holds.
        expect(bent(0.5, 1)).toBeCloseTo(0.119203, 4);
        expect(bent(0.5, -1)).toBeCloseTo(0.880797, 4);
        expect(bent(0.5, 0)).toBeCloseTo(0.5, 4);
        // Between two curves and two shares of the table: (e^(4cp) - 1) / (e^(4c) - 1).
        for (const curve of [0.03, 0.31, -0.77, 0.99]) {
            for (const share of [0.013, 0.41, 0.77]) {
                const law = (Math.exp(4 * curve * share) - 1) / (Math.exp(4 * curve) - 1);
                expect(bent(share, curve)).toBeCloseTo(law, 2);
            }
        }
    });

    it('stand where the fader stands, to a hundredth of a dB, above its end as well', () => {
        // The law of the engine: evenly in 10^(gain / 45 dB).
        const power = (gain: number) => 10 ** ((gain - 12) / 45);
        const travel = (gain: number) => (power(gain) - power(-60)) / (1 - power(-60));
        for (const gain of [-59.7, -41.33, -12.05, -3.2, 0, 11.9, 12, 17.77, 24]) {
            expect(Math.abs(positionOf(gain, faderTravel()) - travel(gain))).toBeLessThan(2e-4);
            expect(Math.abs((valueAt(travel(gain), faderTravel()) ?? 0) - gain)).toBeLessThan(0.01);
        }
        expect(positionOf(null, faderTravel())).toBe(0);
        expect(valueAt(0, faderTravel())).toBeNull();
    });

    it('hold where there is nothing in between', () => {
        const mute = { ...fader, travel: { min: 0, max: 1, scale: 'linear' as const }, holds: true };
        const points = [
            { at: 10, value: 0 },
            { at: 20, value: 1 },
        ];
        expect(laneValueAt(points, mute, 19)).toBe(0);
        expect(laneValueAt(points, mute, 20)).toBe(1);
    });
});

describe('what can be automated of a channel', () => {
    it('has macros, sound switches, selectors, levels of branches and switches of inserts among it', () => {
        const split = {
            type: 'split',
            id: 's1',
            on: true,
            by: 'copies',
            crossovers: [],
            selector: { value: 0.25, fade: 'linear', rings: true },
            branches: [
                { id: 'b1', name: 'Near', gain: -3, pan: 0, mute: false, solo: false, invert: false, inserts: [] },
            ],
        };
        const sounds = [
            {
                id: 'w1',
                name: 'Tone',
                fade: 30,
                chosen: 'k2',
                sounds: [
                    { id: 'k1', name: 'Clean', values: {} },
                    { id: 'k2', name: 'Lead', values: {} },
                ],
            },
        ];
        const macros = [
            { id: 'm1', name: 'Bite', switch: false, value: 0.5, moves: [] },
            { id: 'm2', name: 'Dirty', switch: true, value: 1, moves: [] },
        ];
        const found = controlsOf(
            channel('bass', { inserts: [split], sounds, macros } as unknown as Partial<Channel>),
            (id) => id,
            () => undefined,
            (id) => id,
        );
        const of = (target: string) => found.find((one) => one.target === target)!;
        expect(found.map(({ target }) => target)).toEqual([
            'fader',
            'pan',
            'mute',
            'macro:m1',
            'macro:m2',
            'sound:w1',
            'on:s1',
            'selector:s1',
            'branch:b1',
        ]);
        expect([of('macro:m1').still, of('macro:m1').holds, of('macro:m2').holds]).toEqual([0.5, false, true]);
        expect([of('sound:w1').still, of('sound:w1').text(0), of('sound:w1').text(1)]).toEqual([1, 'Clean', 'Lead']);
        expect([of('selector:s1').text(0.25), of('branch:b1').still]).toEqual(['25 %', -3]);
    });
});
