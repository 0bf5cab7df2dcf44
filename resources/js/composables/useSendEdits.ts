import { shallowRef } from 'vue';
import type { SendPosition } from '@/api/edits';
import type { Send } from '@/api/types';
import { useSelection } from '@/stores/selection';
import { useSession } from '@/stores/session';
import type { SendGrid } from './useSendGrid';
import { useSteps } from './useSteps';

/** What can be done with the sends of a block: set, move, switch, remove, copy and paste. */
export function useSendEdits(grid: SendGrid) {
    const session = useSession();
    const selection = useSelection();
    const steps = useSteps();
    const copied = shallowRef<Partial<Send>[][] | null>(null);

    const ids = () => grid.sends().map((send) => send.id);

    function putAll(sends: SendPosition[]): void {
        if (sends.length > 0) {
            void session.edit({ type: 'put-sends', sends }).then(grid.inspect);
        }
    }

    /** Sets the sends of the block; what is not there yet is made, at the usual amount where none is given. */
    function put(gain?: number | null): void {
        putAll(
            grid.cells().map(({ channel, bus }) => ({
                channel: channel.id,
                to: bus.id,
                ...(gain === undefined ? {} : { gain }),
            })),
        );
    }

    /** Moves all of them; steps by key belong together unless they carry a gesture of their own. */
    function move(by: number, gesture = ''): boolean {
        const sends = ids();
        if (sends.length > 0) {
            void session.edit({ type: 'move-sends', sends, by }, gesture || steps.gesture());
        }
        return sends.length > 0;
    }

    function remove(): void {
        const sends = ids();
        if (sends.length > 0) {
            selection.selectSends([]);
            void session.edit({ type: 'remove-sends', sends });
        }
    }

    function flipTap(): void {
        const [first] = grid.sends();
        if (first) {
            const tap = first.tap === 'post-fader' ? 'pre-fader' : 'post-fader';
            void session.edit({ type: 'set-send-tap', sends: ids(), tap });
        }
    }

    function flipOn(): void {
        const [first] = grid.sends();
        if (first) {
            void session.edit({ type: 'set-send-on', sends: ids(), on: !first.on });
        }
    }

    function copy(): void {
        const { channels, buses } = grid.parts();
        copied.value = channels.map((channel) =>
            buses.map((bus) => {
                const send = grid.sendAt(channel, bus);
                return send ? { gain: send.gain, tap: send.tap, on: send.on, pan: send.pan } : {};
            }),
        );
    }

    /** The block as it was copied, from the corner on; one row is repeated over all rows of the block. */
    function paste(): void {
        const source = copied.value;
        if (!source?.[0]) {
            return;
        }
        const at = grid.block.value;
        const height = source.length === 1 ? at.bottom - at.top + 1 : source.length;
        const wanted: SendPosition[] = [];
        for (let r = 0; r < height; ++r) {
            for (const [c, send] of (source[r % source.length] ?? []).entries()) {
                const channel = grid.rows.value[at.top + r];
                const bus = grid.columns.value[at.left + c];
                if (channel && bus && send.gain !== undefined && !grid.isLoop(channel, bus)) {
                    wanted.push({ channel: channel.id, to: bus.id, ...send });
                }
            }
        }
        putAll(wanted);
    }

    return { put, move, remove, flipTap, flipOn, copy, paste };
}
