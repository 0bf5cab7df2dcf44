import { onUnmounted } from 'vue';
import { useScreen } from '@/stores/screen';

/** Milliseconds somebody stays on a name before its path stands out. */
const STAY = 220;

/** Lets the path of a channel stand out while it is pointed at or has the focus. */
export function usePathPointing(channel: () => string): (on: boolean) => void {
    const screen = useScreen();
    let pointing = 0;

    function point(on: boolean): void {
        window.clearTimeout(pointing);
        if (on) {
            pointing = window.setTimeout(() => (screen.pathOf = channel()), STAY);
        } else if (screen.pathOf === channel()) {
            screen.pathOf = null;
        }
    }

    onUnmounted(() => point(false));
    return point;
}
