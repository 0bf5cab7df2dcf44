import { useElementSize } from '@vueuse/core';
import { computed, type Ref } from 'vue';
import type { AutomationPoint } from '@/api/types';
import { travelAt, type LaneControl } from '@/automation';
import { positionOf } from '@/scales';

export const LANE_HEIGHT = 84;
const EDGE = 8;
/** Room at the right for what the lines stand for. */
const RIGHT = 62;
/** Drawn steps of a bent way. */
const STEPS = 24;
/** Pixels between two points from which on the way between them has a handle. */
const BENDABLE = 26;

/** Where the points and ways of a lane stand in its drawing, and which moment and value a pixel is. */
export function useLaneDrawing(
    area: Readonly<Ref<Element | undefined>>,
    points: () => AutomationPoint[],
    control: () => LaneControl,
    length: () => number,
) {
    const size = useElementSize(area as Ref<SVGElement | undefined>, { width: 800, height: LANE_HEIGHT });
    const width = computed(() => Math.max(200, size.width.value || 800));
    const inner = computed(() => width.value - EDGE - RIGHT);

    const x = (at: number) => EDGE + (at / length()) * inner.value;
    /** What a lane holds above the end of its control stands at the upper edge. */
    const y = (travel: number) => LANE_HEIGHT - EDGE - Math.min(1, travel) * (LANE_HEIGHT - 2 * EDGE);
    const yOf = (value: number | null) => y(positionOf(value, control().travel));
    const atX = (pixel: number) => Math.round(Math.max(0, Math.min(1, (pixel - EDGE) / inner.value)) * length());
    const travelAtY = (pixel: number) => 1 - (pixel - EDGE) / (LANE_HEIGHT - 2 * EDGE);
    /** Samples and travel that a way over the drawing stands for. */
    const shiftOf = (dx: number, dy: number) => ({
        by: (dx / inner.value) * length(),
        travelBy: -dy / (LANE_HEIGHT - 2 * EDGE),
    });

    const line = computed(() => {
        const list = points();
        const moment = (at: number): [number, number] => [x(at), y(travelAt(list, control(), at))];
        const drawn = [moment(0)];
        list.forEach((point, index) => {
            const next = list[index + 1];
            drawn.push([x(point.at), yOf(point.value)]);
            if (next && control().holds) {
                drawn.push([x(next.at), yOf(point.value)]);
            } else if (next) {
                for (let step = 1; step < STEPS; ++step) {
                    drawn.push(moment(point.at + ((next.at - point.at) * step) / STEPS));
                }
            }
        });
        drawn.push(moment(length()));
        return drawn.map(([px, py]) => `${px.toFixed(1)},${py.toFixed(1)}`).join(' ');
    });
    /** Handles in the middle of ways that can bend. */
    const bends = computed(() => {
        const list = control().holds ? [] : points();
        return list.slice(0, -1).flatMap((point, index) => {
            const next = list[index + 1];
            if (!next || x(next.at) - x(point.at) < BENDABLE || point.value === next.value) {
                return [];
            }
            const at = (point.at + next.at) / 2;
            return [{ index, cx: x(at), cy: y(travelAt(list, control(), at)), curve: point.curve ?? 0 }];
        });
    });
    const guides = computed(() => {
        const values = control().travel.scale === 'fader' ? [0, -12] : control().target === 'pan' ? [0] : [];
        return values.map((value) => ({ value, at: yOf(value) }));
    });

    return { width, x, yOf, atX, travelAtY, shiftOf, line, bends, guides };
}
