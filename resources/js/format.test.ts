import { describe, expect, it } from 'vitest';
import { bar, clock, decibels, depth, keyName, parseKey, parseNumber, plain } from './format';

describe('figures', () => {
    it('have one decimal, a real minus and silence', () => {
        expect(decibels(-6.04)).toBe('−6.0');
        expect(decibels(-0.04)).toBe('0.0');
        expect(decibels(1.25, true)).toBe('+1.3');
        expect(decibels(null)).toBe('−∞');
        expect(plain(1500, 'Hz', 1)).toBe('1.50 kHz');
        expect(plain(-3, 'dB', 0.1)).toBe('−3.0 dB');
        expect(plain(4, ':1', 0.1)).toBe('4.0 : 1');
    });

    it('are read as people type them', () => {
        expect(parseNumber('−3,5 dB')).toBe(-3.5);
        expect(parseNumber('2.2k')).toBe(2200);
        expect(parseNumber('-inf')).toBeNull();
        expect(parseNumber('loud')).toBeUndefined();
    });

    it('tell time in minutes and bars', () => {
        expect(clock(599040, 48000)).toBe('00:12.480');
        expect(bar(599040, 48000, 96)).toBe('bar 5.4');
    });

    it('lie at a depth', () => {
        expect([depth(null), depth(-40), depth(-20), depth(-8), depth(-3), depth(0.1)]).toEqual([
            'none',
            'shoal',
            'water',
            'deep',
            'brass',
            'over',
        ]);
    });

    it('reads keys by name and number, and every name it writes', () => {
        expect(['C4', 'c#4', 'Db4', 'B♭-1', 'Cb4', ' f♯ 2 ', '0', '127'].map(parseKey)).toEqual([
            60, 61, 61, 10, 59, 42, 0, 127,
        ]);
        expect(['H4', 'C', 'C10', '128', '-1', '60.5', 'C4x', ''].map(parseKey)).toEqual(Array(8).fill(undefined));
        expect(Array.from({ length: 128 }, (_, key) => parseKey(keyName(key)))).toEqual([...Array(128).keys()]);
    });
});
