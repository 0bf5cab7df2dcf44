import { newGesture } from '@/gesture';

/**
 * Gives steps that follow each other, by key or wheel, one gesture, so that they are undone together. A step still belongs to the
 * one before within so many milliseconds.
 */
export function useSteps(together = 700): { gesture: () => string; isNew: () => boolean } {
    let gesture = '';
    let last = 0;
    const isNew = () => Date.now() - last > together;

    return {
        isNew,
        gesture() {
            if (isNew()) {
                gesture = newGesture();
            }
            last = Date.now();
            return gesture;
        },
    };
}
