import { describe, expect, it } from 'vitest';
import { whyPlaybackPauses } from './pause';

describe('why playback pauses', () => {
    it('names the session where the engine needs much, and what to do about it', () => {
        expect(whyPlaybackPauses(1.34, false)).toBe(
            'Engine at 134 %: playback pauses to catch up. Bypass or freeze what is heavy, or close other work on this machine.',
        );
        expect(whyPlaybackPauses(0.5, true)).toContain(
            'Engine at 50 %: playback pauses to catch up. Choose a larger buffer in Inputs, bypass',
        );
    });

    it('names other work where the engine leaves room, and does not ask to bypass anything', () => {
        const why = whyPlaybackPauses(0.19, false);
        expect(why).toBe(
            'Playback pauses to catch up, with the engine at only 19 %: other work holds it up. Close other work on this machine.',
        );
        expect(whyPlaybackPauses(0.19, true)).toContain('Choose a larger buffer in Inputs, or close other work');
    });

    it('names both where the load is not known yet', () => {
        expect(whyPlaybackPauses(null, false)).toMatch(/^Engine: playback pauses.* heavy, or close other work/);
    });
});
