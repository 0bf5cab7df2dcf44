import { useResizeObserver } from '@vueuse/core';
import { nextTick, onMounted, ref, watch, type Ref } from 'vue';

/** One turn of the drawn path: from the end of a line of inserts back to the start of the next. */
export interface Turn {
    path: string;
    /** Index of the insert the next line starts with. */
    at: number;
}

interface Box {
    left: number;
    right: number;
    top: number;
    bottom: number;
}

const INSET = 3;
const BEND = 7;

/** The turns of items that stand in several lines: right, down between the lines, and back to the left. */
export function turnsOf(boxes: Box[], width: number, lineHeight: number): Turn[] {
    const turns: Turn[] = [];
    let bottom = boxes[0]?.bottom ?? 0;
    for (let at = 1; at < boxes.length; ++at) {
        const [last, next] = [boxes[at - 1] as Box, boxes[at] as Box];
        if (next.top <= last.top || next.left > last.left) {
            bottom = Math.max(bottom, next.bottom);
            continue;
        }
        const [from, to] = [last.top + lineHeight / 2, next.top + lineHeight / 2];
        const right = Math.max(width - INSET, last.right + INSET);
        const middle = (bottom + next.top) / 2;
        const bend = Math.min(BEND, (middle - from) / 2, (to - middle) / 2);
        turns.push({
            at,
            path:
                `M${last.right} ${from}H${right - bend}q${bend} 0 ${bend} ${bend}V${middle - bend}q0 ${bend} ${-bend} ${bend}` +
                `H${INSET + bend}q${-bend} 0 ${-bend} ${bend}V${to - bend}q0 ${bend} ${bend} ${bend}H${next.left}`,
        });
        bottom = next.bottom;
    }
    return turns;
}

/** Finds where a row of inserts goes on in another line, whenever its size or what stands in it changes. */
export function useWrappedLine(row: Ref<HTMLElement | undefined>, contents: () => unknown): Ref<Turn[]> {
    const turns = ref<Turn[]>([]);

    function measure(): void {
        const element = row.value;
        if (!element) {
            return;
        }
        const steps = [...element.querySelectorAll<HTMLElement>(':scope > .step')];
        const height = parseFloat(getComputedStyle(element).getPropertyValue('--line-height')) || 42;
        const found = turnsOf(
            steps.map((step) => ({
                left: step.offsetLeft,
                right: step.offsetLeft + step.offsetWidth,
                top: step.offsetTop,
                bottom: step.offsetTop + step.offsetHeight,
            })),
            element.clientWidth,
            height,
        );
        if (JSON.stringify(found) !== JSON.stringify(turns.value)) {
            turns.value = found;
        }
    }

    onMounted(measure);
    useResizeObserver(row, measure);
    watch(contents, () => void nextTick(measure), { deep: true });
    return turns;
}
