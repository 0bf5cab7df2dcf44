import { shallowRef } from 'vue';
import type { Preset, RowName, RowPreset } from '@/api/types';
import { controlsIn } from '@/inserts';
import { useCatalogue } from '@/stores/catalogue';
import { useFinder } from '@/stores/finder';
import { useSession } from '@/stores/session';

interface Target {
    channel: string;
    row: RowName;
    branch: string | null;
    at: number;
    swap: string | null;
}

/** What is dragged that is no insert yet. */
export type Load =
    | { kind: 'effect'; processor: string; label: string }
    | { kind: 'preset'; preset: Preset; label: string }
    | { kind: 'row'; row: RowPreset; label: string };

interface Dragged {
    /** Empty while something new is dragged. */
    insert: string;
    label: string;
    x: number;
    y: number;
    copy: boolean;
    target: Target | null;
}

const state = shallowRef<Dragged | null>(null);

/** What lies under the pointer: the middle of a chip swaps, its edges and the gaps of a row insert. */
export function targetAt(x: number, y: number, dragged: string): Target | null {
    const under = document.elementFromPoint(x, y);
    const row = under?.closest<HTMLElement>('[data-drop-row]');
    if (!row?.dataset.channel) {
        return null;
    }
    const position = {
        channel: row.dataset.channel,
        row: row.dataset.dropRow as RowName,
        branch: row.dataset.branch ?? null,
    };
    const items = [...row.querySelectorAll<HTMLElement>('[data-item]')].filter(
        (item) => item.closest('[data-drop-row]') === row,
    );
    const chip = under?.closest<HTMLElement>('[data-insert]');
    const index = chip ? items.indexOf(chip) : -1;
    if (chip?.dataset.insert && index >= 0) {
        const box = chip.getBoundingClientRect();
        const share = (x - box.left) / box.width;
        const swap = share > 0.3 && share < 0.7 && chip.dataset.insert !== dragged ? chip.dataset.insert : null;
        return { ...position, at: index + (share >= 0.5 ? 1 : 0), swap };
    }
    const at = items.filter((other) => {
        // A long row goes on in further lines: all of a line above the pointer comes before it.
        const box = other.getBoundingClientRect();
        return box.bottom < y || (box.top <= y && box.left + box.width / 2 < x);
    }).length;
    return { ...position, at, swap: null };
}

/** Dragging a chip: to another place moves it, with Alt copies it, onto the middle of another chip swaps the two. */
export function useChipDrag() {
    const session = useSession();

    function grab(event: PointerEvent, insert: string, label: string): void {
        follow(event, insert, label, (target, copy) => make(insert, target, copy));
    }

    /** Something new, onto a row; `begun` is called as soon as it is dragged. */
    function grabLoad(event: PointerEvent, load: Load, begun: () => void): void {
        follow(event, '', load.label, (target) => put(load, target), begun);
    }

    function follow(
        event: PointerEvent,
        insert: string,
        label: string,
        done: (target: Target, copy: boolean) => void,
        begun: () => void = () => undefined,
    ): void {
        if (event.button !== 0) {
            return;
        }
        const from = { x: event.clientX, y: event.clientY };
        const move = (moved: PointerEvent) => {
            if (!state.value) {
                if (Math.hypot(moved.clientX - from.x, moved.clientY - from.y) < 5) {
                    return;
                }
                begun();
            }
            moved.preventDefault();
            state.value = {
                insert,
                label,
                x: moved.clientX,
                y: moved.clientY,
                copy: moved.altKey && insert !== '',
                target: targetAt(moved.clientX, moved.clientY, insert),
            };
        };
        const end = () => {
            window.removeEventListener('pointermove', move);
            window.removeEventListener('pointerup', drop);
            window.removeEventListener('keydown', cancel, true);
            state.value = null;
        };
        const cancel = (key: KeyboardEvent) => {
            if (key.key === 'Escape') {
                key.stopPropagation();
                end();
            }
        };
        const drop = (dropped: PointerEvent) => {
            const last = state.value;
            end();
            if (last?.target) {
                done(last.target, dropped.altKey);
            }
        };
        window.addEventListener('pointermove', move);
        window.addEventListener('pointerup', drop);
        window.addEventListener('keydown', cancel, true);
    }

    /** On the middle of a chip it takes that one's place, elsewhere it comes between. */
    function put(load: Load, target: Target): void {
        const finder = useFinder();
        if (load.kind === 'row') {
            void finder.pasteOn([target.channel], load.row.inserts, load.row.name, target, controlsIn(load.row));
            return;
        }
        finder.request = {
            channels: [target.channel],
            row: target.row,
            at: target.at,
            branch: target.branch,
            replace: target.swap,
        };
        const processor = load.kind === 'preset' ? load.preset.processor : load.processor;
        useCatalogue().used(processor);
        void finder.choose(processor, load.kind === 'preset' ? load.preset : null);
    }

    function make(insert: string, target: Target, copy: boolean): void {
        const position = {
            row: target.row,
            at: target.at,
            ...(target.branch === null ? {} : { branch: target.branch }),
        };
        if (copy) {
            void session.edit({ type: 'copy-inserts', inserts: [insert], channels: [target.channel], ...position });
        } else if (target.swap) {
            void session.edit({ type: 'swap-inserts', insert, with: target.swap });
        } else {
            void session.edit({ type: 'move-insert', insert, channel: target.channel, ...position });
        }
    }

    return { state, grab, grabLoad };
}
