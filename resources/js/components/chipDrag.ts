import { shallowRef } from 'vue';
import type { RowName } from '@/api/types';
import { useSession } from '@/stores/session';

interface Target {
    channel: string;
    row: RowName;
    branch: string | null;
    at: number;
    swap: string | null;
}

interface Dragged {
    insert: string;
    label: string;
    x: number;
    y: number;
    copy: boolean;
    target: Target | null;
}

const state = shallowRef<Dragged | null>(null);

/** What lies under the pointer: the middle of a chip swaps, its edges and the gaps of a row insert. */
function targetAt(x: number, y: number, dragged: string): Target | null {
    const under = document.elementFromPoint(x, y);
    const row = under?.closest<HTMLElement>('[data-drop-row]');
    if (!row?.dataset.channel) {
        return null;
    }
    const place = {
        channel: row.dataset.channel,
        row: row.dataset.dropRow as RowName,
        branch: row.dataset.branch ?? null,
    };
    const items = [...row.querySelectorAll<HTMLElement>(':scope > [data-item]')];
    const chip = under?.closest<HTMLElement>('[data-insert]');
    const index = chip ? items.indexOf(chip) : -1;
    if (chip?.dataset.insert && index >= 0) {
        const box = chip.getBoundingClientRect();
        const share = (x - box.left) / box.width;
        const swap = share > 0.3 && share < 0.7 && chip.dataset.insert !== dragged ? chip.dataset.insert : null;
        return { ...place, at: index + (share >= 0.5 ? 1 : 0), swap };
    }
    const at = items.filter((other) => {
        const box = other.getBoundingClientRect();
        return box.left + box.width / 2 < x;
    }).length;
    return { ...place, at, swap: null };
}

/** Dragging a chip: to another place moves it, with Alt copies it, onto the middle of another chip swaps the two. */
export function useChipDrag() {
    const session = useSession();

    function grab(event: PointerEvent, insert: string, label: string): void {
        if (event.button !== 0) {
            return;
        }
        const from = { x: event.clientX, y: event.clientY };
        const move = (moved: PointerEvent) => {
            if (!state.value && Math.hypot(moved.clientX - from.x, moved.clientY - from.y) < 5) {
                return;
            }
            moved.preventDefault();
            state.value = {
                insert,
                label,
                x: moved.clientX,
                y: moved.clientY,
                copy: moved.altKey,
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
                make(last.insert, last.target, dropped.altKey);
            }
        };
        window.addEventListener('pointermove', move);
        window.addEventListener('pointerup', drop);
        window.addEventListener('keydown', cancel, true);
    }

    function make(insert: string, target: Target, copy: boolean): void {
        const place = {
            row: target.row,
            at: target.at,
            ...(target.branch === null ? {} : { branch: target.branch }),
        };
        if (copy) {
            void session.edit({ type: 'copy-inserts', inserts: [insert], channels: [target.channel], ...place });
        } else if (target.swap) {
            void session.edit({ type: 'swap-inserts', insert, with: target.swap });
        } else {
            void session.edit({ type: 'move-insert', insert, channel: target.channel, ...place });
        }
    }

    return { state, grab };
}
