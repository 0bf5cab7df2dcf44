import { computed, ref, useTemplateRef } from 'vue';
import { NUMBERS, type Spelling } from '@/format';
import { positionOf, valueAt } from '@/scales';
import { newGesture } from '@/gesture';
import { useSteps } from './useSteps';

/** What a slider can be set to. */
export interface SliderProps {
    modelValue: number | null;
    min: number;
    max: number;
    default: number;
    step: number;
    fine: number;
    scale: 'linear' | 'logarithmic' | 'fader';
    spelling?: Spelling;
}

/**
 * A slider that is dragged (Shift is fine), moved by wheel and arrow keys in steps, set to its default by a double-click, and typed after Enter.
 *
 * The element that is held has the template reference "bar". `share` says how much of its travel a move of the pointer is.
 */
export function useSliding(
    props: SliderProps,
    change: (value: number | null, gesture: string) => void,
    share: (moved: PointerEvent, before: PointerEvent, element: HTMLElement) => number,
) {
    const bar = useTemplateRef<HTMLElement>('bar');
    const held = ref<number | null | undefined>(undefined);
    const typing = ref<string | null>(null);
    let gesture = '';
    const nudges = useSteps();

    const shown = computed(() => (held.value === undefined ? props.modelValue : held.value));

    const travel = computed(() => ({ min: props.min, max: props.max, scale: props.scale }));
    const position = (value: number | null) => positionOf(value, travel.value);
    const valueHere = (where: number) => valueAt(where, travel.value);

    function rounded(value: number | null, isExact: boolean): number | null {
        if (value === null) {
            return null;
        }
        const clamped = Math.min(props.max, Math.max(props.min, value));
        if (isExact) {
            return Number(clamped.toFixed(4));
        }
        if (props.scale === 'logarithmic') {
            return Number(clamped.toPrecision(4));
        }
        const grid = props.fine || props.step;
        return Number((Math.round(clamped / grid) * grid).toFixed(6));
    }

    /** What is typed is meant to the last digit; what is moved goes along the steps. */
    function send(value: number | null, isExact = false): void {
        const next = rounded(value, isExact);
        if (next !== shown.value) {
            held.value = next;
            change(next, gesture);
        }
    }

    function grab(event: PointerEvent): void {
        if (event.button !== 0 || typing.value !== null) {
            return;
        }
        event.preventDefault();
        const element = bar.value as HTMLElement;
        element.focus();
        element.setPointerCapture(event.pointerId);
        gesture = newGesture();
        let last = event;
        let where = position(props.modelValue);
        held.value = props.modelValue;
        const move = (moved: PointerEvent) => {
            where += share(moved, last, element) * (moved.shiftKey ? 0.15 : 1);
            where = Math.min(1, Math.max(0, where));
            last = moved;
            send(valueHere(where));
        };
        const drop = () => {
            element.removeEventListener('pointermove', move);
            element.removeEventListener('pointerup', drop);
            element.removeEventListener('pointercancel', drop);
            window.setTimeout(() => (held.value = undefined), 250);
        };
        element.addEventListener('pointermove', move);
        element.addEventListener('pointerup', drop);
        element.addEventListener('pointercancel', drop);
    }

    function nudge(steps: number, fine: boolean): void {
        if (nudges.isNew()) {
            held.value = undefined;
        }
        gesture = nudges.gesture();
        const now = shown.value ?? props.min;
        const size = fine ? props.fine || props.step / 5 : props.step;
        const next = props.scale === 'logarithmic' ? now * (fine ? 1.005 : 1.03) ** steps : now + steps * size;
        send(next);
        window.setTimeout(() => {
            if (nudges.isNew()) {
                held.value = undefined;
            }
        }, 750);
    }

    function wheel(event: WheelEvent): void {
        nudge(event.deltaY < 0 || event.deltaX < 0 ? 1 : -1, event.shiftKey);
    }

    function key(event: KeyboardEvent): void {
        const ways: Record<string, number> = {
            ArrowRight: 1,
            ArrowUp: 1,
            ArrowLeft: -1,
            ArrowDown: -1,
            PageUp: 6,
            PageDown: -6,
        };
        const way = ways[event.key];
        if (way !== undefined && !event.altKey) {
            event.preventDefault();
            event.stopPropagation();
            nudge(way, event.shiftKey);
        } else if (event.key === 'Enter') {
            event.preventDefault();
            event.stopPropagation();
            startTyping();
        }
    }

    function startTyping(): void {
        typing.value = (props.spelling ?? NUMBERS).write(shown.value === null ? null : Number(shown.value.toFixed(3)));
    }

    function typed(value: number | null): void {
        gesture = newGesture();
        send(value === null && props.scale !== 'fader' ? props.min : value, true);
        window.setTimeout(() => (held.value = undefined), 250);
        bar.value?.focus();
    }

    function reset(): void {
        gesture = newGesture();
        send(props.default);
        window.setTimeout(() => (held.value = undefined), 250);
    }

    return { typing, shown, position, grab, wheel, key, startTyping, typed, reset };
}
