import { useMediaQuery } from '@vueuse/core';
import { computed, ref, watch } from 'vue';
import { usePilot } from '@/stores/pilot';
import { useScreen } from '@/stores/screen';
import { useSelection } from '@/stores/selection';

/**
 * How much room the inspector takes: all it needs where something is selected, little where nothing is, and none where it
 * is folded away by hand. On a narrow window it folds by itself until something is selected or it is asked for.
 */
export function useInspectorFold() {
    const screen = useScreen();
    const selection = useSelection();
    const pilot = usePilot();
    const isNarrow = useMediaQuery('(max-width: 1180px)');
    const isAskedFor = ref(false);

    const isUsed = computed(
        () =>
            pilot.isShown ||
            screen.view !== 'paths' ||
            selection.channels.length + selection.inserts.length + selection.sends.length > 0,
    );
    const isFolded = computed(() =>
        pilot.isShown ? false : screen.isInspectorFolded || (isNarrow.value && !isUsed.value && !isAskedFor.value),
    );
    watch([isUsed, () => screen.view], () => (isAskedFor.value = false));

    function fold(): void {
        pilot.isShown = false;
        isAskedFor.value = false;
        screen.isInspectorFolded = isUsed.value || !isNarrow.value;
    }

    function unfold(): void {
        screen.isInspectorFolded = false;
        isAskedFor.value = true;
    }

    return { isFolded, isUsed, fold, unfold, toggle: () => (isFolded.value ? unfold() : fold()) };
}
