/** Follows the pointer that was pressed until it is let go, wherever it goes. */
export function followPointer(move: (event: PointerEvent) => void, end: () => void = () => undefined): void {
    const drop = () => {
        window.removeEventListener('pointermove', move);
        window.removeEventListener('pointerup', drop);
        window.removeEventListener('pointercancel', drop);
        end();
    };
    window.addEventListener('pointermove', move);
    window.addEventListener('pointerup', drop);
    window.addEventListener('pointercancel', drop);
}
