import { describe, expect, it } from 'vitest';
import { bent, laneValueAt, type LaneControl } from './automation';
import { FADER, placeOf, valueAt } from './scales';

const fader: LaneControl = {
    target: 'fader',
    name: 'Fader',
    travel: FADER,
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
        expect(laneValueAt([], fader, 50)).toBeCloseTo(-3, 9);
        expect(laneValueAt(points, fader, 0)).toBeCloseTo(-12, 9);
        const half = (placeOf(-12, FADER) + placeOf(0, FADER)) / 2;
        expect(laneValueAt(points, fader, 200)).toBeCloseTo(valueAt(half, FADER) as number, 9);
        expect(laneValueAt(points, fader, 600)).toBeNull();
    });

    it('bend as the engine does', () => {
        // The figures the engine's own test holds.
        expect(bent(0.5, 1)).toBeCloseTo(0.119203, 6);
        expect(bent(0.5, -1)).toBeCloseTo(0.880797, 6);
        expect(bent(0.5, 0)).toBe(0.5);
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
