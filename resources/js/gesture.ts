let gestures = 0;

/** A new word for one movement of a control: its edits are undone together. */
export function newGesture(): string {
    return `${Date.now().toString(36)}-${(++gestures).toString(36)}-${Math.random().toString(36).slice(2, 8)}`;
}
