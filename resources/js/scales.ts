import type { Rules } from '@/api/types';
import { rules } from '@/rules';

/** The travel of a control: where a value stands between its ends, and which value stands where. */
export interface Travel {
    min: number;
    max: number;
    scale: 'linear' | 'logarithmic' | 'fader';
}

/** How a fader is marked, see the rules of the server. */
type FaderScale = Rules['fader'];

let ownScale: FaderScale | null = null;

/** For a page that gets no rules but this one. */
export function setFaderScale(scale: FaderScale): void {
    ownScale = scale;
}

const faderScale = (): FaderScale => ownScale ?? rules().fader;

/** The travel of faders and sends; automation may hold gains above its end. */
export function faderTravel(): Travel {
    return { min: faderScale().lowest, max: faderScale().highest, scale: 'fader' };
}

/** The value of a table at a fractional index. */
export function interpolated(table: number[], index: number): number {
    const low = Math.min(table.length - 1, Math.max(0, Math.floor(index)));
    const high = Math.min(table.length - 1, low + 1);
    const [from, to] = [table[low] ?? 0, table[high] ?? 0];
    return from + (to - from) * Math.min(1, Math.max(0, index - low));
}

function travelOfGain(gain: number): number {
    const { lowest, step, travels } = faderScale();
    return interpolated(travels, (gain - lowest) / step);
}

/** The first gain of the table above a travel, and how far below it that travel lies. */
function faderGain(travel: number): number | null {
    const { lowest, step, travels } = faderScale();
    if (travel <= 0) {
        return null;
    }
    const above = travels.findIndex((one) => one >= travel);
    const high = above < 0 ? travels.length - 1 : Math.max(1, above);
    const [from, to] = [travels[high - 1] ?? 0, travels[high] ?? 1];
    return lowest + step * (high - 1 + Math.min(1, (travel - from) / (to - from)));
}

/** From 0 to 1, faders above it where automation holds more; silence stands at 0. */
export function positionOf(value: number | null, { min, max, scale }: Travel): number {
    if (value === null) {
        return 0;
    }
    if (scale === 'fader') {
        return travelOfGain(Math.max(min, value));
    }
    const v = Math.min(max, Math.max(min, value));
    return scale === 'logarithmic' ? Math.log(v / min) / Math.log(max / min) : (v - min) / (max - min);
}

export function valueAt(place: number, { min, max, scale }: Travel): number | null {
    if (scale === 'fader') {
        return faderGain(place);
    }
    const p = Math.min(1, Math.max(0, place));
    return scale === 'logarithmic' ? min * (max / min) ** p : min + p * (max - min);
}
