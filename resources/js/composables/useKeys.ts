import { useEventListener } from '@vueuse/core';
import { allInserts } from '@/inserts';
import { groupChannels, setSilence } from '@/moves';
import { useFinder } from '@/stores/finder';
import { tell } from '@/stores/notices';
import { useHardware } from '@/stores/hardware';
import { useListening } from '@/stores/listening';
import { useScreen } from '@/stores/screen';
import { useSelection } from '@/stores/selection';
import { useSession } from '@/stores/session';

/** The keyboard, wherever the focus is, except where text is typed. */
export function useKeys({ showKeys, foldInspector }: { showKeys: () => void; foldInspector: () => void }): void {
    const session = useSession();
    const selection = useSelection();
    const hardware = useHardware();
    const listening = useListening();
    const finder = useFinder();
    const screen = useScreen();

    function isTyping(target: EventTarget | null): boolean {
        const element = target as HTMLElement | null;
        return Boolean(
            element?.closest(
                'input:not([type=radio]):not([type=checkbox]):not([type=file]), textarea, select, [contenteditable]',
            ),
        );
    }

    /** A box that was reached by key is ticked by Space; one that was clicked leaves Space to play. */
    function isTicking(target: EventTarget | null): boolean {
        return Boolean(
            (target as HTMLElement | null)?.matches(
                'input[type=radio]:focus-visible, input[type=checkbox]:focus-visible',
            ),
        );
    }

    function isDialogOpen(): boolean {
        return Boolean(document.querySelector('.el-overlay:not([style*="display: none"])')) || finder.request !== null;
    }

    function toggleChannels(what: 'mute' | 'solo'): void {
        const first = selection.channels[0] ? session.channel(selection.channels[0]) : undefined;
        if (first) {
            setSilence(what, selection.channels, !first[what]);
        }
    }

    function toggleInsert(): void {
        const location = selection.insert ? session.locate(selection.insert) : null;
        if (location) {
            void session.edit({ type: 'set-insert-on', inserts: [...selection.inserts], on: !location.insert.on });
        }
    }

    /** The selector of the split that is selected, or the first one of the channel. */
    function stepSelector(to: 'next' | 'previous'): void {
        const selected = selection.insert ? session.locate(selection.insert) : null;
        const channel = selection.channels[0] ? session.channel(selection.channels[0]) : undefined;
        const inserts = selected
            ? [selected.insert]
            : allInserts(channel ? [...channel.inserts, ...channel.postInserts] : []);
        const split = inserts.find((insert) => insert.type === 'split' && insert.selector);
        if (split) {
            void session.edit({ type: 'step-selector', split: split.id, to });
        }
    }

    /** The sound after the chosen one, or the one before, of the first sound switch of the channel. */
    function stepSound(to: 'next' | 'previous'): void {
        const id =
            selection.channels[0] ?? (selection.insert ? session.locate(selection.insert)?.channel.id : undefined);
        const sounds = (id ? session.channel(id) : undefined)?.sounds?.[0];
        if (sounds) {
            void session.edit({ type: 'step-sound', switch: sounds.id, to });
        }
    }

    function openNotes(): void {
        selection.channels.filter((id) => session.channel(id)?.kind === 'note').forEach(screen.toggleNotes);
    }

    function wrap(): void {
        if (selection.inserts.length > 0) {
            void session.edit({ type: 'wrap-in-branch', inserts: [...selection.inserts] });
        }
    }

    function group(): void {
        if (selection.channels.length > 0) {
            void groupChannels([...selection.channels]);
        }
    }

    /** Alt moves the insert itself, without it the selection walks. */
    function sideways(way: 1 | -1, moving: boolean): void {
        const location = selection.insert ? session.locate(selection.insert) : null;
        if (location && moving) {
            const at = way > 0 ? location.index + 2 : location.index - 1;
            if (at >= 0 && at <= location.neighbours.length) {
                void session.edit({
                    type: 'move-insert',
                    insert: location.insert.id,
                    channel: location.channel.id,
                    row: location.row,
                    at,
                    ...(location.branch ? { branch: location.branch.id } : {}),
                });
            }
            return;
        }
        if (location) {
            const all = allInserts([...location.channel.inserts, ...location.channel.postInserts]);
            const next = all[all.findIndex((insert) => insert.id === location.insert.id) + way];
            if (next) {
                selection.selectInsert(location.channel.id, next.id);
            } else if (way < 0) {
                selection.insert = null;
            }
            return;
        }
        const channel = selection.channels[0] ? session.channel(selection.channels[0]) : undefined;
        const first = channel?.inserts[0];
        if (channel && first && way > 0) {
            selection.selectInsert(channel.id, first.id);
        }
    }

    /** The channel above or below; extended, it comes to those that are selected. */
    function upDown(way: 1 | -1, extended: boolean): void {
        const ids = session.channels.map((channel) => channel.id).filter(screen.isShown);
        const last = selection.channels[selection.channels.length - 1];
        const at = last ? ids.indexOf(last) : way > 0 ? -1 : ids.length;
        const next = ids[Math.min(ids.length - 1, Math.max(0, at + way))];
        if (next) {
            const kept = extended ? selection.channels.filter((id) => id !== next) : [];
            selection.clear();
            selection.channels = [...kept, next];
        }
    }

    /** The inserts as they are now; what becomes of them later does not matter. */
    function copy(): void {
        const locations = selection.inserts.map((id) => session.locate(id)).filter((location) => location !== null);
        screen.copiedInserts = locations.sort((a, b) => a.index - b.index).map((location) => location.insert);
        tell(
            `${locations.length === 1 ? 'Insert' : `${locations.length} inserts`} copied. Ctrl+V pastes on what is selected.`,
        );
    }

    /** After the selected insert, or at the end of every selected channel's row. */
    function paste(): void {
        const location = selection.insert ? session.locate(selection.insert) : null;
        const name = screen.copiedInserts.length === 1 ? 'Pasted insert' : 'Pasted inserts';
        if (location && selection.channels.length <= 1) {
            void finder.pasteOn([location.channel.id], screen.copiedInserts, name, {
                row: location.row,
                at: location.index + 1,
                branch: location.branch?.id ?? null,
            });
        } else {
            void finder.pasteOn([...selection.channels], screen.copiedInserts, name);
        }
    }

    /** What comes in at the armed tracks, or else what is heard, onto the selected one; again ends it. */
    function record(): void {
        const track = selection.channels[0] ? session.channel(selection.channels[0]) : undefined;
        if (listening.recording) {
            listening.stopRecording();
        } else if (hardware.armed.length > 0) {
            void listening.record(...hardware.armed.map((channel) => ({ channel, tap: 'input' })));
        } else if (track?.kind === 'track' && 'clips' in track.source) {
            void listening.record({ channel: track.id, tap: 'heard' });
        }
    }

    function remove(): void {
        if (selection.inserts.length > 0) {
            void session.edit({ type: 'remove-inserts', inserts: selection.takeInserts() });
            return;
        }
        if (selection.sends.length > 0) {
            const sends = [...selection.sends];
            selection.selectSends([]);
            void session.edit({ type: 'remove-sends', sends });
            return;
        }
        const channels = selection.channels.filter((id) => id !== session.main?.id);
        if (channels.length > 0) {
            selection.clear();
            void session.edit({ type: 'remove-channels', channels });
        }
    }

    function press(event: KeyboardEvent): void {
        if (isTyping(event.target)) {
            return;
        }
        const command = event.ctrlKey || event.metaKey;
        if (command && event.key.toLowerCase() === 'z') {
            event.preventDefault();
            void (event.shiftKey ? session.redo() : session.undo());
            return;
        }
        if (isDialogOpen()) {
            return;
        }
        if (command && event.key.toLowerCase() === 'a') {
            event.preventDefault();
            selection.clear();
            selection.channels = session.tracks.map((track) => track.id);
            return;
        }
        if (command && event.key.toLowerCase() === 'c' && selection.inserts.length > 0) {
            event.preventDefault();
            copy();
            return;
        }
        if (command && event.key.toLowerCase() === 'v' && screen.copiedInserts.length > 0) {
            event.preventDefault();
            paste();
            return;
        }
        if (command || (event.key === ' ' && isTicking(event.target))) {
            return;
        }
        const actions: Record<string, () => void> = {
            ' ': () => listening.toggle(),
            l: () => listening.toggleLoop(),
            '1': () => listening.chooseSide(1),
            '2': () => listening.chooseSide(2),
            '/': () => finder.openForSelection(),
            e: toggleInsert,
            w: wrap,
            n: openNotes,
            ',': () => stepSelector('previous'),
            '.': () => stepSelector('next'),
            k: () => stepSound(event.shiftKey ? 'previous' : 'next'),
            g: group,
            a: () => selection.channels.forEach((id) => screen.toggleLane(id)),
            m: () => toggleChannels('mute'),
            s: () => toggleChannels('solo'),
            i: foldInspector,
            f: () => document.getElementById('hafen-find')?.focus(),
            r: record,
            '?': showKeys,
            Delete: remove,
            Backspace: remove,
            Escape: () => selection.clear(),
            ArrowRight: () => sideways(1, event.altKey),
            ArrowLeft: () => sideways(-1, event.altKey),
            ArrowDown: () => upDown(1, event.shiftKey),
            ArrowUp: () => upDown(-1, event.shiftKey),
        };
        const action = actions[event.key.length === 1 ? event.key.toLowerCase() : event.key];
        if (action) {
            event.preventDefault();
            action();
        }
    }

    useEventListener(window, 'keydown', press);
}
