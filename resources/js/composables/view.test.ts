import { beforeEach, describe, expect, it } from 'vitest';
import { defineComponent, h, nextTick, ref } from 'vue';
import { usePilot } from '@/stores/pilot';
import { useScreen } from '@/stores/screen';
import { useSelection } from '@/stores/selection';
import { useSession } from '@/stores/session';
import { answers, channel, shown, stateOf, world } from '@/testing';
import { useInspectorFold } from './useInspectorFold';
import { useLevelScale, useStations, type Station } from './useLevelScale';
import { usePathColumns } from './usePathColumns';
import { COMPACT_FROM, useRowDensity } from './useRowDensity';
import { useHeadroom } from '@/stores/headroom';

/** What a composable gives inside a component. */
function within<T>(use: () => T): T {
    let given: T | undefined;
    shown(
        defineComponent(() => {
            given = use();
            return () => h('div');
        }),
        {},
    );
    return given as T;
}

const many = (count: number) => Array.from({ length: count }, (_, index) => channel(`c${index}`));

const viewport = (width: number) =>
    (window as unknown as { happyDOM: { setViewport: (size: { width: number }) => void } }).happyDOM.setViewport({
        width,
    });

beforeEach(() => {
    world([channel('bass')], []);
    viewport(1280);
});

describe('the height of rows', () => {
    it('is compact by itself from so many channels on, the main counted', () => {
        const density = within(useRowDensity);
        expect(density.isCompact.value).toBe(false);
        useSession().state = stateOf(many(COMPACT_FROM - 1));
        expect(density.isCompact.value).toBe(true);
        useSession().state = stateOf(many(COMPACT_FROM - 2));
        expect(density.isCompact.value).toBe(false);
    });

    it('is what somebody chose, until they choose what it would be by itself', async () => {
        const density = within(useRowDensity);
        density.choose(true);
        expect(density.isCompact.value).toBe(true);
        await nextTick();
        expect(localStorage.getItem('hafen.rows')).toBe('compact');
        density.choose(false);
        useSession().state = stateOf(many(40));
        expect(density.isCompact.value).toBe(true);
        density.choose(false);
        expect(density.isCompact.value).toBe(false);
    });
});

describe('the inspector', () => {
    it('takes little room while nothing is selected, and what it needs otherwise', () => {
        const fold = within(useInspectorFold);
        expect([fold.isUsed.value, fold.isFolded.value]).toEqual([false, false]);
        useSelection().channels = ['bass'];
        expect([fold.isUsed.value, fold.isFolded.value]).toEqual([true, false]);
    });

    it('folds by itself on a narrow window, until something is selected or it is asked for', () => {
        viewport(1024);
        const fold = within(useInspectorFold);
        expect(fold.isFolded.value).toBe(true);
        useSelection().channels = ['bass'];
        expect(fold.isFolded.value).toBe(false);
        useSelection().clear();
        expect(fold.isFolded.value).toBe(true);
        fold.toggle();
        expect([fold.isFolded.value, useScreen().isInspectorFolded]).toEqual([false, false]);
        fold.toggle();
        expect([fold.isFolded.value, useScreen().isInspectorFolded]).toEqual([true, false]);
    });

    it('folds away by hand and comes back, whatever is selected', () => {
        const fold = within(useInspectorFold);
        useSelection().channels = ['bass'];
        fold.toggle();
        expect(fold.isFolded.value).toBe(true);
        expect(useScreen().isInspectorFolded).toBe(true);
        useSelection().clear();
        expect(fold.isFolded.value).toBe(true);
        fold.toggle();
        expect(fold.isFolded.value).toBe(false);
    });

    it('opens for the list of the Pilot although it is folded', () => {
        const fold = within(useInspectorFold);
        fold.fold();
        usePilot().isShown = true;
        expect(fold.isFolded.value).toBe(false);
        fold.fold();
        expect([fold.isFolded.value, usePilot().isShown]).toEqual([true, false]);
    });
});

describe('columns of Paths', () => {
    it('stay within their bounds, and leave out sends where there are none', () => {
        const columns = within(() => usePathColumns(ref(false)));
        const pixels = (name: string) => Number.parseInt((columns.value as Record<string, string>)[name] ?? '', 10);
        expect(pixels('--names')).toBeGreaterThanOrEqual(76);
        expect(pixels('--sends')).toBe(24);
        useSession().state = answers.session;
        expect(pixels('--sends')).toBeGreaterThanOrEqual(70);
        expect(pixels('--outputs')).toBeLessThanOrEqual(84);
    });
});

describe('the level diagram', () => {
    const stationsOf = (live: Record<string, { peak: number; rms: number }>) => {
        const stations = within(useStations);
        const headroom = useHeadroom();
        headroom.$patch({ region: null });
        Object.assign(headroom, {
            level: (tap: string) => (live[tap] ? { ...live[tap], overs: live[tap].peak > 0 ? 7 : 0 } : null),
        });
        return stations(answers.stages.paths.cello ?? [], (index) => 100 * index);
    };

    it('shifts levels by what the server says, and tells over from clip by where numbers are fixed', () => {
        const found = stationsOf({
            'cello:source': { peak: -10, rms: -20 },
            'cello:insert:i1': { peak: 3, rms: -12 },
            'main:post-fader': { peak: 1, rms: -9 },
        });
        const at = (label: string) => found.find((one) => one.stage.label === label) as Station;
        expect(at('source').peak).toBeCloseTo(-10 + (answers.stages.paths.cello?.[0]?.offset ?? 0), 6);
        expect([at('High-pass 80').mark, at('High-pass 80').overs]).toEqual(['over', 7]);
        expect(at('High-pass 80').gain).toBeCloseTo(8, 6);
        expect(at('output 1-2').mark).toBe('clip');
        expect(at('Main fader').mark).toBe('over');
        expect(at('Split').peak).toBeNull();
    });

    it('reaches up to the highest peak in steps of 6 dB, at least to +6, and down to -60', () => {
        const scale = (peak: number | null) => within(() => useLevelScale(() => [{ peak } as Station]));
        expect(scale(-3).lines.value[0]).toBe(6);
        expect(scale(13).lines.value[0]).toBe(18);
        const { y, lines } = scale(null);
        expect(lines.value).toEqual([6, 0, -6, -12, -24, -36, -48, -60]);
        expect(y(6)).toBeLessThan(y(0));
        expect(y(-200)).toBe(y(-60));
    });
});
