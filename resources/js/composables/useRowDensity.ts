import { useStorage } from '@vueuse/core';
import { computed } from 'vue';
import { useSession } from '@/stores/session';

export type Density = 'auto' | 'full' | 'compact';

/** From so many channels on, rows are compact by themselves. */
export const COMPACT_FROM = 24;

/** How tall the rows of Paths are: by choice, or by how many channels there are. */
export function useRowDensity() {
    const session = useSession();
    const chosen = useStorage<Density>('hafen.rows', 'auto');
    const isCompact = computed(() =>
        chosen.value === 'auto' ? session.channels.length >= COMPACT_FROM : chosen.value === 'compact',
    );

    function choose(compact: boolean): void {
        chosen.value = compact === session.channels.length >= COMPACT_FROM ? 'auto' : compact ? 'compact' : 'full';
    }

    return { isCompact, choose };
}
