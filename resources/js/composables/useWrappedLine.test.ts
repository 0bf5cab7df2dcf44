import { describe, expect, it } from 'vitest';
import { turnsOf } from './useWrappedLine';

const box = (left: number, top: number, width = 60, height = 42) => ({
    left,
    right: left + width,
    top,
    bottom: top + height,
});

describe('a row of inserts in several lines', () => {
    it('has no turn while it is one line', () => {
        expect(turnsOf([], 400, 42)).toEqual([]);
        expect(turnsOf([box(0, 0)], 400, 42)).toEqual([]);
        expect(turnsOf([box(0, 0), box(60, 0), box(120, 0)], 400, 42)).toEqual([]);
    });

    it('draws the path from the end of a line to the start of the next, as one line', () => {
        const [turn, ...others] = turnsOf([box(0, 0), box(60, 0), box(0, 54), box(60, 54)], 400, 42);
        expect(others).toEqual([]);
        expect(turn?.at).toBe(2);
        // From the middle of the last chip of the first line, to the right edge, back, and into the middle of the second line.
        expect(turn?.path.startsWith('M120 21H')).toBe(true);
        expect(turn?.path.endsWith('H0')).toBe(true);
        expect(turn?.path).toContain('V68');
    });

    it('turns once for each line, and goes below what stands tall in the line before', () => {
        const tall = box(60, 0, 200, 140);
        const turns = turnsOf([box(0, 0), tall, box(0, 152), box(0, 206)], 400, 42);
        expect(turns.map((turn) => turn.at)).toEqual([2, 3]);
        // Half-way between the bottom of the tall one, 140, and the next line, 152.
        expect(turns[0]?.path).toContain('V139');
    });

    it('takes a chip that stands lower in the same line for no new line', () => {
        expect(turnsOf([box(0, 0), box(60, 4)], 400, 42)).toEqual([]);
    });

    it('bends no more than there is room for', () => {
        const [turn] = turnsOf([box(0, 0, 60, 24), box(0, 26, 60, 24)], 400, 24);
        const bends = [...(turn?.path ?? '').matchAll(/q(-?[\d.]+)/g)].map((found) => Math.abs(Number(found[1])));
        expect(Math.max(...bends)).toBeLessThanOrEqual(6.5);
    });
});
