import { useElementSize } from '@vueuse/core';
import { computed, useTemplateRef, type Ref } from 'vue';
import type { Stage } from '@/api/types';
import { rules } from '@/rules';
import { useHeadroom } from '@/stores/headroom';

/** A stage of a path as it stands in a level diagram. */
export interface Station {
    stage: Stage;
    at: number;
    peak: number | null;
    average: number | null;
    floor: number | null;
    overs: number;
    /** dB of average level the stage adds. */
    gain: number | null;
    mark: 'clip' | 'over' | 'plain';
}

export const HEIGHT = 274;
export const LEFT = 56;
const TOP = 26;
const BOTTOM = 60;
const LOWEST = -60;

/** Levels of stages: what the server measured, or what plays, by the offsets it states. */
export function useStations() {
    const headroom = useHeadroom();
    const shifted = (level: number | null | undefined, by: number) =>
        level === null || level === undefined ? null : level + by;

    return (stages: Stage[], position: (index: number) => number): Station[] => {
        let before: number | null = null;
        return stages.map((stage, index) => {
            const level = headroom.level(stage.tap);
            const peak = shifted(level?.peak, stage.offset);
            const average = shifted(level?.rms, stage.offset);
            const clipped = index === 0 && (headroom.result?.channels[stage.channel]?.clipped ?? []).length > 0;
            const isOver = peak !== null && peak > rules().fullScale;
            const gain = before === null || average === null ? null : average - before;
            before = average;
            return {
                stage,
                at: position(index),
                peak,
                average,
                floor: shifted(headroom.result?.taps[stage.tap]?.floor, stage.offset),
                overs: isOver ? (level?.overs ?? 0) : 0,
                gain,
                mark: clipped ? 'clip' : isOver ? stage.above : 'plain',
            };
        });
    };
}

/**
 * The axes of a level diagram: dBFS up, and the width its box has.
 *
 * @param room pixels from the top line to the bottom line, where there have to be more than usual
 */
export function useLevelScale(stations: () => Station[], room: () => number = () => 0) {
    const headroom = useHeadroom();
    const box = useTemplateRef<HTMLElement>('box');
    const size = useElementSize(box, { width: 940, height: HEIGHT });
    const width: Ref<number> = computed(() => Math.max(420, size.width.value || 940));
    const highest = computed(() => Math.max(6, Math.ceil(Math.max(...stations().map((one) => one.peak ?? 0)) / 6) * 6));
    const height = computed(() => Math.max(HEIGHT, TOP + room() + BOTTOM));
    const y = (level: number) =>
        TOP + ((highest.value - Math.max(LOWEST, level)) / (highest.value - LOWEST)) * (height.value - TOP - BOTTOM);
    const lines = computed(() => {
        const found = [];
        for (let level = highest.value; level >= LOWEST; level -= level > -12 ? 6 : 12) {
            found.push(level);
        }
        return found;
    });
    const aim = computed(() => (headroom.aim.figure === 'loudness' ? -6 : headroom.aim.level));

    function outline(list: Station[], figure: 'peak' | 'average' | 'floor'): string {
        return list.map((one) => `${one.at.toFixed(1)},${y(one[figure] ?? LOWEST).toFixed(1)}`).join(' ');
    }

    return { width, height, y, lines, aim, outline, top: TOP, lowest: LOWEST };
}
