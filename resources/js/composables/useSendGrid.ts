import { computed, ref, watch } from 'vue';
import type { Channel, Send } from '@/api/types';
import { useScreen } from '@/stores/screen';
import { useSelection } from '@/stores/selection';
import { useSession } from '@/stores/session';

export interface SendCell {
    channel: Channel;
    bus: Channel;
    send: Send | undefined;
}

/** The grid of who sends where, the cell that is active in it, and the block from it to where the selection began. */
export function useSendGrid() {
    const session = useSession();
    const selection = useSelection();
    const screen = useScreen();

    const active = ref({ row: 0, column: 0 });
    const anchor = ref<{ row: number; column: number } | null>(null);

    const columns = computed(() => [...session.returns, ...session.groups, ...session.cues]);
    const senders = computed(() =>
        [...session.tracks, ...session.groups].filter((channel) => screen.isShown(channel.id)),
    );
    const returns = computed(() => session.returns.filter((channel) => screen.isShown(channel.id)));
    const rows = computed(() => [...senders.value, ...returns.value]);
    const block = computed(() => {
        const from = anchor.value ?? active.value;
        return {
            top: Math.min(from.row, active.value.row),
            bottom: Math.max(from.row, active.value.row),
            left: Math.min(from.column, active.value.column),
            right: Math.max(from.column, active.value.column),
        };
    });

    function sendAt(channel: Channel, bus: Channel): Send | undefined {
        return channel.sends.find((send) => send.to === bus.id);
    }

    function isLoop(channel: Channel, bus: Channel): boolean {
        return session.closesLoop(channel.id, bus.id);
    }

    function isInBlock(row: number, column: number): boolean {
        const at = block.value;
        return row >= at.top && row <= at.bottom && column >= at.left && column <= at.right;
    }

    /** Rows and columns of the block. */
    function parts(): { channels: Channel[]; buses: Channel[] } {
        const at = block.value;
        return {
            channels: rows.value.slice(at.top, at.bottom + 1),
            buses: columns.value.slice(at.left, at.right + 1),
        };
    }

    /** The cells of the block that can carry a send. */
    function cells(): SendCell[] {
        const { channels, buses } = parts();
        return channels.flatMap((channel) =>
            buses.filter((bus) => !isLoop(channel, bus)).map((bus) => ({ channel, bus, send: sendAt(channel, bus) })),
        );
    }

    function sends(): Send[] {
        return cells().flatMap((cell) => cell.send ?? []);
    }

    /** Keeps the inspector on the send, or the sends, of the block. */
    function inspect(): void {
        const channel = rows.value[active.value.row];
        if (channel) {
            selection.channels = [channel.id];
        }
        selection.selectSends(sends().map((send) => send.id));
    }

    const within = (at: number, count: number) => Math.max(0, Math.min(count - 1, at));

    function go(row: number, column: number, extend: boolean): void {
        anchor.value = extend ? (anchor.value ?? { ...active.value }) : null;
        active.value = { row: within(row, rows.value.length), column: within(column, columns.value.length) };
        inspect();
    }

    function selectAll(): void {
        anchor.value = { row: 0, column: 0 };
        active.value = { row: rows.value.length - 1, column: columns.value.length - 1 };
        inspect();
    }

    watch([() => rows.value.length, () => columns.value.length], () => {
        active.value = {
            row: within(active.value.row, rows.value.length),
            column: within(active.value.column, columns.value.length),
        };
        anchor.value = null;
    });

    return {
        active,
        anchor,
        block,
        columns,
        senders,
        rows,
        parts,
        cells,
        sends,
        sendAt,
        isLoop,
        isInBlock,
        inspect,
        go,
        selectAll,
    };
}

export type SendGrid = ReturnType<typeof useSendGrid>;
