import { useEventListener } from '@vueuse/core';
import { defineStore } from 'pinia';
import { computed, ref, watch } from 'vue';
import type { Edit } from '@/api/edits';
import type { Channel, Macro } from '@/api/types';
import { allInserts, isProcessor } from '@/inserts';
import { useCatalogue } from './catalogue';
import { useSelection } from './selection';
import { useSession } from './session';

/** Where a control stands that is moved, and where it is moved to. */
interface Touched {
    target: string;
    from: number | null;
    to: number | null;
}

/**
 * Macros, and assigning to them: while a macro is assigned it stands at its end, and whatever control of its channel is moved, the macro
 * moves there from where it stood.
 */
export const useMacros = defineStore('macros', () => {
    const session = useSession();
    const selection = useSelection();
    const catalogue = useCatalogue();

    /** The macro that is assigned. */
    const assigned = ref<string | null>(null);
    /** Where it stood before. */
    let before = 0;

    const located = computed(() => {
        for (const channel of session.channels) {
            const macro = channel.macros?.find(({ id }) => id === assigned.value);
            if (macro) {
                return { channel, macro };
            }
        }
        return null;
    });

    function assign(macro: Macro): void {
        end();
        before = macro.value;
        assigned.value = macro.id;
        void session.edit({ type: 'turn-macro', macro: macro.id, value: 1 });
    }

    function end(): void {
        const macro = located.value?.macro;
        assigned.value = null;
        if (macro && macro.value !== before) {
            void session.edit({ type: 'turn-macro', macro: macro.id, value: before });
        }
    }

    /** What a movement does while a macro is assigned: the macro moves the control there. */
    function instead(edit: Edit): Edit {
        const at = located.value;
        const touched = at ? touch(at.channel, edit) : null;
        if (!at || !touched) {
            return edit;
        }
        const known = at.macro.moves.find(({ target }) => target === touched.target);
        return {
            type: 'set-macro-move',
            macro: at.macro.id,
            target: touched.target,
            from: known ? known.from : touched.from,
            to: touched.to,
            curve: known?.curve ?? 0,
        };
    }

    /** The control of the channel an edit moves; null where it is none, or of another channel. */
    function touch(channel: Channel, edit: Edit): Touched | null {
        const insert = (id: string | undefined) => {
            const found = id === undefined ? null : session.locate(id);
            return found?.channel.id === channel.id ? found.insert : null;
        };
        if (edit.type === 'set-parameter') {
            const of = insert(edit.insert);
            const value = edit.value;
            if (!isProcessor(of) || typeof value === 'string') {
                return null;
            }
            const spec = catalogue.byId[of.processor]?.parameters.find(({ id }) => id === edit.parameter);
            return {
                target: `parameter:${edit.insert}:${edit.parameter}`,
                from: Number(of.parameters[edit.parameter] ?? spec?.default ?? 0),
                to: Number(value),
            };
        }
        if (edit.type === 'set-mix') {
            const of = insert(edit.insert);
            return of && of.type !== 'split' ? { target: `mix:${edit.insert}`, from: of.mix, to: edit.mix } : null;
        }
        if (edit.type === 'set-insert-on' && edit.inserts.length === 1) {
            const of = insert(edit.inserts[0]);
            return of ? { target: `on:${of.id}`, from: Number(of.on), to: Number(edit.on) } : null;
        }
        if (edit.type === 'set-send-gain' && edit.sends.length === 1) {
            const send = channel.sends.find(({ id }) => id === edit.sends[0]);
            return send ? { target: `send:${send.id}`, from: send.gain, to: edit.gain } : null;
        }
        if (edit.type === 'turn-selector') {
            const of = insert(edit.split);
            return of?.type === 'split' && of.selector
                ? { target: `selector:${edit.split}`, from: of.selector.value, to: edit.value }
                : null;
        }
        if (edit.type === 'set-branch-gain' && edit.branches.length === 1) {
            const branch = allInserts([...channel.inserts, ...channel.postInserts])
                .flatMap((one) => (one.type === 'split' ? one.branches : []))
                .find(({ id }) => id === edit.branches[0]);
            return branch ? { target: `branch:${branch.id}`, from: branch.gain, to: edit.gain } : null;
        }
        return null;
    }

    session.through = instead;
    // Who closes the page while a macro is assigned finds it where it stood.
    useEventListener(window, 'pagehide', end);
    // What is assigned may be removed, and nobody assigns to what is out of sight.
    watch(
        () => [
            session.state?.id,
            located.value?.channel.id,
            selection.channels[0],
            selection.insert,
            selection.sends[0],
        ],
        () => {
            const here = located.value?.channel;
            const shown =
                selection.channels[0] ??
                (selection.insert ? session.locate(selection.insert)?.channel.id : undefined) ??
                (selection.sends[0] ? session.send(selection.sends[0])?.channel.id : undefined);
            if (assigned.value !== null && (!here || (shown !== undefined && shown !== here.id))) {
                end();
            }
        },
    );

    return { assigned, located, assign, end };
});
