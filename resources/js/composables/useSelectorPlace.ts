import { computed, type ComputedRef } from 'vue';
import type { Channel, Split } from '@/api/types';
import { laneOf, laneValueAt, shareControl } from '@/automation';
import { interpolated } from '@/scales';
import { useListening } from '@/stores/listening';
import { useSession } from '@/stores/session';

/** Where the selector of a split stands, or its lane or notes have it at the playhead; and how far each branch is open there. */
export function useSelectorPlace(
    channel: () => Channel,
    split: () => Split,
): {
    place: ComputedRef<number>;
    isMoved: ComputedRef<boolean>;
    isByNotes: ComputedRef<boolean>;
    opening: (branch: number) => number;
} {
    const session = useSession();
    const listening = useListening();

    const drawn = computed(() => laneOf(channel(), `selector:${split().id}`));
    const byNotes = computed(() => session.state?.steered[`selector:${split().id}`]);
    const lane = computed(() => drawn.value ?? byNotes.value);
    const isByNotes = computed(() => !drawn.value && byNotes.value !== undefined);
    const isMoved = computed(() => lane.value !== undefined);
    const place = computed(() => {
        const still = split().selector?.value ?? 0;
        return lane.value
            ? (laneValueAt(lane.value.points, shareControl(lane.value.target, '', still), listening.position) ?? 0)
            : still;
    });

    function opening(branch: number): number {
        const table = session.state?.inserts[split().id]?.openings?.[branch];
        return table ? interpolated(table, place.value * (table.length - 1)) : 1;
    }

    return { place, isMoved, isByNotes, opening };
}
