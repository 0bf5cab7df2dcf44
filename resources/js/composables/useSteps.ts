import { newGesture } from '@/stores/session';

/** Milliseconds within which a step still belongs to the one before. */
const TOGETHER = 700;

/** Gives steps that follow each other, by key or wheel, one gesture, so that they are undone together. */
export function useSteps(): { gesture: () => string; isNew: () => boolean } {
    let gesture = '';
    let last = 0;
    const isNew = () => Date.now() - last > TOGETHER;

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
