/** The travel of a control: where a value stands between its ends, and which value stands where. */
export interface Travel {
    min: number;
    max: number;
    scale: 'linear' | 'logarithmic' | 'fader';
}

/** dB over which a fader's marks get ten times closer. */
const SPREAD = 45;

export const FADER: Travel = { min: -60, max: 12, scale: 'fader' };

/** From 0 to 1; faders give the upper decibels more room, and silence stands at 0. */
export function placeOf(value: number | null, { min, max, scale }: Travel): number {
    if (value === null) {
        return 0;
    }
    const v = Math.min(max, Math.max(min, value));
    if (scale === 'logarithmic') {
        return Math.log(v / min) / Math.log(max / min);
    }
    if (scale === 'fader') {
        const low = 10 ** ((min - max) / SPREAD);
        return (10 ** ((v - max) / SPREAD) - low) / (1 - low);
    }
    return (v - min) / (max - min);
}

export function valueAt(place: number, { min, max, scale }: Travel): number | null {
    const p = Math.min(1, Math.max(0, place));
    if (scale === 'logarithmic') {
        return min * (max / min) ** p;
    }
    if (scale === 'fader') {
        const low = 10 ** ((min - max) / SPREAD);
        return p <= 0 ? null : max + SPREAD * Math.log10(p * (1 - low) + low);
    }
    return min + p * (max - min);
}
