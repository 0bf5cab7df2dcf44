import { onScopeDispose, watch } from 'vue';
import { useListening } from '@/stores/listening';

/** Has every tap of these channels metered while it plays, as long as the component is there; without it only their ends are. */
export function useMetered(channels: () => readonly string[] | 'all'): void {
    const { metered } = useListening();
    const who = Symbol('who looks at levels');
    watch(channels, (now) => metered.look(who, now), { immediate: true });
    onScopeDispose(() => metered.end(who));
}
