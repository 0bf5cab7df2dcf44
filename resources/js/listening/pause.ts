import { wholePercent } from '@/format';

/** Below this share of the time there is, the session alone cannot be why the sound comes late. */
const LIGHT = 0.5;

/**
 * What to tell when playback pauses to catch up: whether the session or other work on the machine holds it up,
 * and what to do.
 *
 * @param load the share of the time there is that the engine takes (1 is all of it); null where it is not known
 * @param hearsInputs whether inputs are heard live, which a larger buffer helps
 */
export function whyPlaybackPauses(load: number | null, hearsInputs: boolean): string {
    if (load !== null && load < LIGHT) {
        const remedy = hearsInputs ? 'Choose a larger buffer in Inputs, or close' : 'Close';
        return `Playback pauses to catch up, with the engine at only ${wholePercent(load)}: other work holds it up. ${remedy} other work on this machine.`;
    }
    const engine = load === null ? 'Engine' : `Engine at ${wholePercent(load)}`;
    const remedy = hearsInputs ? 'Choose a larger buffer in Inputs, bypass' : 'Bypass';
    return `${engine}: playback pauses to catch up. ${remedy} or freeze what is heavy, or close other work on this machine.`;
}
