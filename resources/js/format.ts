import type { Send } from '@/api/types';

const MINUS = '\u2212';

/** A level or gain: one decimal, a real minus, "−∞" for silence. */
export function decibels(value: number | null | undefined, signed = false): string {
    if (value === null || value === undefined || value < -120) {
        return `${MINUS}∞`;
    }
    const text = Math.abs(value).toFixed(1);
    const isZero = text === '0.0';
    return (value < 0 && !isZero ? MINUS : signed && !isZero ? '+' : '') + text;
}

/** A parameter's number with as many digits as its size needs. */
export function plain(value: number, unit: string, step: number): string {
    const size = Math.abs(value);
    if (unit === 'Hz') {
        return size >= 10000
            ? `${(value / 1000).toFixed(1)} kHz`
            : size >= 1000
              ? `${(value / 1000).toFixed(2)} kHz`
              : `${value.toFixed(size < 100 ? 1 : 0)} Hz`;
    }
    const digits = step >= 1 ? 0 : step >= 0.1 ? 1 : 2;
    const text = size.toFixed(digits);
    const sign = value < 0 && Number(text) !== 0 ? MINUS : '';
    return `${sign}${text}${unit === ':1' ? ' : 1' : unit === '' ? '' : ` ${unit}`}`;
}

/** Reads what a person typed for a number: "−3,5", "2.2k", "-inf". */
export function parseNumber(text: string): number | null | undefined {
    const clean = text
        .trim()
        .toLowerCase()
        .replace(/\u2212/g, '-')
        .replace(',', '.');
    if (/^-(inf|∞)/.test(clean)) {
        return null;
    }
    const found = /^([+-]?\d*\.?\d+)\s*(k?)/.exec(clean);
    return found ? Number(found[1]) * (found[2] === 'k' ? 1000 : 1) : undefined;
}

/** "00:12.480". */
export function clock(samples: number, rate: number): string {
    // Before the session's start a count-in runs.
    const sign = samples < 0 ? '−' : '';
    const milliseconds = Math.round((Math.abs(samples) * 1000) / rate);
    const minutes = Math.floor(milliseconds / 60000);
    const seconds = Math.floor((milliseconds % 60000) / 1000);
    const pad = (value: number, length: number) => String(value).padStart(length, '0');
    return `${sign}${pad(minutes, 2)}:${pad(seconds, 2)}.${pad(milliseconds % 1000, 3)}`;
}

/** "bar 5.1": bar and beat in four. */
export function bar(samples: number, rate: number, tempo: number): string {
    const beats = Math.floor((samples / rate) * (tempo / 60) + 1e-6);
    if (beats < 0) {
        return `count-in ${-beats}`;
    }
    return `bar ${Math.floor(beats / 4) + 1}.${(beats % 4) + 1}`;
}

/** What a send does, in a sentence. */
export function sendText(from: string, to: string, send: Send): string {
    const tap = { source: 'from the source', 'pre-fader': 'before the fader', 'post-fader': 'after the fader' }[
        send.tap
    ];
    return `${from} to ${to}: ${decibels(send.gain)} dB ${tap}${send.on ? '' : ', off'}`;
}

/** The depth a level lies at: what it is coloured by. */
export function depth(level: number | null | undefined): 'none' | 'shoal' | 'water' | 'deep' | 'brass' | 'over' {
    if (level === null || level === undefined || level < -120) {
        return 'none';
    }
    if (level > 0) {
        return 'over';
    }
    return level > -6 ? 'brass' : level > -12 ? 'deep' : level > -30 ? 'water' : 'shoal';
}

/** What the taps of a channel are called, in the order sound passes. */
export const TAP_NAMES = { source: 'source', 'pre-fader': 'before fader', 'post-fader': 'after fader' } as const;

/** "12.4 MB". */
/** Seconds as "2 min 10 s". */
export function duration(seconds: number): string {
    const whole = Math.ceil(seconds);
    const minutes = Math.floor(whole / 60);
    return minutes === 0 ? `${whole} s` : `${minutes} min ${whole % 60} s`;
}

export function size(bytes: number): string {
    const [unit, name] = bytes >= 1e9 ? [1e9, 'GB'] : bytes >= 1e6 ? [1e6, 'MB'] : [1e3, 'kB'];
    return `${(bytes / unit).toFixed(name === 'kB' ? 0 : 1)} ${name}`;
}

/** A share of a core: "12.4 %". */
export function percent(share: number): string {
    return `${(share * 100).toFixed(1)} %`;
}

/** A share as whole percent, where a tenth says nothing: "38 %". */
export function wholePercent(share: number): string {
    return `${Math.round(share * 100)} %`;
}

/** A number as somebody would type it; silence is -inf. See parseNumber. */
export function typedNumber(value: number | null): string {
    return value === null ? '-inf' : String(value);
}

/** Where something stands between the sides, from -1 (left) to +1: "L35". */
export function panText(pan: number, centre = 'C'): string {
    const size = Math.round(Math.abs(pan) * 100);
    return size === 0 ? centre : `${pan < 0 ? 'L' : 'R'}${size}`;
}

const KEY_NAMES = ['C', 'C♯', 'D', 'D♯', 'E', 'F', 'F♯', 'G', 'G♯', 'A', 'A♯', 'B'];

/** A key as MIDI counts it: 60 is C4. See parseKey. */
export function keyName(key: number): string {
    return `${KEY_NAMES[key % 12]}${Math.floor(key / 12) - 1}`;
}

const WHITE_KEYS: Record<string, number> = { c: 0, d: 2, e: 4, f: 5, g: 7, a: 9, b: 11 };

/** A key as somebody types it: by name ("C4", "f#2", "Bb-1") or as MIDI counts it ("60"). Undefined is none. */
export function parseKey(text: string): number | undefined {
    const clean = text
        .trim()
        .toLowerCase()
        .replace(/\u2212/g, '-');
    const named = /^([a-g])([#♯b♭]?)\s*(-?\d+)$/.exec(clean);
    const key = named
        ? WHITE_KEYS[named[1]!]! +
          (named[2] === '' ? 0 : '#♯'.includes(named[2]!) ? 1 : -1) +
          12 * (Number(named[3]) + 1)
        : /^\d+$/.test(clean)
          ? Number(clean)
          : -1;
    return key >= 0 && key <= 127 ? key : undefined;
}

/** How a value is written for somebody to type over, and read again. */
export interface Spelling {
    write: (value: number | null) => string;
    /** Null is silence; undefined is nothing that can be read. */
    read: (text: string) => number | null | undefined;
}

export const NUMBERS: Spelling = { write: typedNumber, read: parseNumber };
export const KEYS: Spelling = { write: (value) => keyName(Math.round(value ?? 0)), read: parseKey };
