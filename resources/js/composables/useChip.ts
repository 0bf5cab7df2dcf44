import { computed } from 'vue';
import { useChipDrag } from '@/components/paths/chipDrag';
import type { Channel, Insert } from '@/api/types';
import { depth } from '@/format';
import { useListening } from '@/stores/listening';
import { useSelection } from '@/stores/selection';
import { useSession } from '@/stores/session';

/** What every chip in a row is and does: on, chosen, dragged, its levels in and out. */
export function useChip(props: { channel: Channel; insert: Insert; before: string }, label: () => string) {
    const session = useSession();
    const selection = useSelection();
    const listening = useListening();
    const drag = useChipDrag();

    const after = computed(() => `${props.channel.id}:insert:${props.insert.id}`);
    const isOn = computed(() => props.insert.on && props.channel.insertsOn);
    const isSelected = computed(() => selection.inserts.includes(props.insert.id));
    const isDragged = computed(() => drag.state.value?.insert === props.insert.id);
    const isSwapTarget = computed(() => drag.state.value?.target?.swap === props.insert.id);
    const inDepth = computed(() => depth(listening.level(props.before)?.peak));
    const outDepth = computed(() => depth(listening.level(after.value)?.peak));

    function toggle(): void {
        void session.edit({ type: 'set-insert-on', inserts: [props.insert.id], on: !props.insert.on });
    }

    function select(event: MouseEvent): void {
        selection.selectInsert(props.channel.id, props.insert.id, event);
    }

    function grab(event: PointerEvent): void {
        drag.grab(event, props.insert.id, label());
    }

    return { after, isOn, isSelected, isDragged, isSwapTarget, inDepth, outDepth, toggle, select, grab };
}
