import { defineStore } from 'pinia';
import { computed, onScopeDispose, ref, shallowRef, watch } from 'vue';
import { api, Refused } from '@/api/client';
import type { Edit } from '@/api/edits';
import type { Channel, KindRules, Send, SessionState, SessionSummary } from '@/api/types';
import { rules } from '@/rules';
import { findInsert, type InsertLocation } from '@/inserts';
import { useFreezes } from './freezes';
import { tell, tellRefusal } from './notices';

/** A channel something may go to. */
export interface Target {
    channel: Channel;
    isLoop: boolean;
}

interface Waiting {
    edit: Edit;
    gesture: string | null;
    /** The session it is an edit of, whichever is shown by then. */
    of: number;
    done: ((isMade: boolean) => void)[];
}

/** What a movement changes from one step to the next; all else says what is moved. */
const MOVED = [
    'value',
    'gain',
    'mix',
    'pan',
    'by',
    'points',
    'crossovers',
    'frequency',
    'parameters',
    'preset',
    'tempo',
    'to',
    'range',
    'keys',
    'velocities',
    'notes',
];

/** Whether two edits set the same control, so that the later one can stand for both. */
function isOfTheSame(one: Edit, other: Edit): boolean {
    const control = (edit: Edit) =>
        JSON.stringify(
            Object.entries(edit)
                .filter(([key]) => !MOVED.includes(key))
                .sort(([a], [b]) => a.localeCompare(b)),
        );
    return control(one) === control(other);
}

/**
 * The session that is open. Edits go to the server one after the other, each on the state the one before it left; steps of
 * one movement that have not been sent yet are drawn together.
 */
export const useSession = defineStore('session', () => {
    const state = shallowRef<SessionState | null>(null);
    /** What an edit becomes before it is made: a macro that is assigned takes movements for itself. */
    const through = shallowRef<(edit: Edit) => Edit>((edit) => edit);
    /** Is told of each edit that is made on this page. */
    const onEdit = shallowRef<(edit: Edit) => void>(() => undefined);
    const all = ref<SessionSummary[]>([]);
    const waiting: Waiting[] = [];
    let busy = false;
    const neighbours = new BroadcastChannel('hafen');

    const document = computed(() => state.value?.document ?? null);
    watch(
        () => state.value?.notice,
        (notice) => notice && tell(notice, 'warning', document.value?.name),
    );
    const channels = computed<Channel[]>(() => state.value?.document.channels ?? []);
    const ofKind = (kind: Channel['kind']) => computed(() => channels.value.filter((channel) => channel.kind === kind));
    /** Those that play something of their own: sound, or notes. */
    const tracks = computed(() => channels.value.filter(({ kind: of }) => of === 'track' || of === 'note'));
    const groups = ofKind('group');
    const returns = ofKind('return');
    const cues = ofKind('cue');
    const main = computed(() => channels.value.find((channel) => channel.kind === 'main') ?? null);

    function channel(id: string): Channel | undefined {
        return channels.value.find((entry) => entry.id === id);
    }

    function locate(insertId: string): InsertLocation | null {
        return findInsert(channels.value, insertId);
    }

    function send(id: string): { channel: Channel; send: Send } | null {
        for (const entry of channels.value) {
            const found = entry.sends.find((candidate) => candidate.id === id);
            if (found) {
                return { channel: entry, send: found };
            }
        }
        return null;
    }

    const kind = (of: Channel): KindRules => rules().kinds[of.kind];

    /** Channels a rule allows as a target, with those that would close a loop marked. */
    function targets(from: Channel, may: (rule: KindRules) => boolean): Target[] {
        return channels.value
            .filter((other) => other.id !== from.id && may(kind(other)))
            .map((other) => ({ channel: other, isLoop: closesLoop(from.id, other.id) }));
    }

    /** Where the output of a channel may go. */
    function outputTargets(from: Channel): Target[] {
        return targets(from, (rule) => rule.takesOutputs);
    }

    /** Where a channel may send. */
    function sendTargets(from: Channel): Target[] {
        return canSend(from) ? targets(from, (rule) => rule.takesSends) : [];
    }

    /** What a channel's inserts, or its source, may listen to. */
    function tapTargets(to: Channel): Target[] {
        return channels.value
            .filter((other) => other.id !== to.id)
            .map((other) => ({ channel: other, isLoop: closesLoop(other.id, to.id) }));
    }

    function canSend(from: Channel): boolean {
        return kind(from).canSend;
    }

    function canBeFrozen(of: Channel): boolean {
        return kind(of).canBeFrozen;
    }

    function endsAtInterface(of: Channel): boolean {
        return kind(of).endsAtInterface;
    }

    /** Whether sound is stereo at a tap. */
    function isStereo(tap: string): boolean {
        return state.value?.stereo[tap] ?? false;
    }

    /** Whether sound from a channel would come back to it. */
    function closesLoop(from: string, to: string): boolean {
        return state.value?.loops[from]?.includes(to) ?? false;
    }

    function take(next: SessionState): void {
        const changed = state.value?.id === next.id && state.value.change !== next.change;
        state.value = next;
        if (changed) {
            neighbours.postMessage({ session: next.id, change: next.change });
        }
    }

    async function list(): Promise<void> {
        all.value = await api.get<SessionSummary[]>('sessions');
    }

    /** Shows a session; the address names it, so that a reload and another window stay where they are. */
    function show(next: SessionState, isBack = false): void {
        state.value = next;
        localStorage.setItem('hafen.session', String(next.id));
        const address = new URL(location.href);
        const isThere = address.searchParams.get('session') === String(next.id);
        address.searchParams.set('session', String(next.id));
        if (!isThere && !isBack) {
            history[address.href === location.href || !location.search ? 'replaceState' : 'pushState'](
                null,
                '',
                address,
            );
        }
    }

    async function open(id: number, isBack = false): Promise<void> {
        show(await api.get<SessionState>(`sessions/${id}`), isBack);
    }

    async function create(name: string, sampleRate = 48000): Promise<void> {
        show(await api.post<SessionState>('sessions', { name, sampleRate }));
        await list();
    }

    async function copy(name: string): Promise<void> {
        show(await api.post<SessionState>(`sessions/${state.value?.id}/copy`, { name }));
        await list();
    }

    /** Deletes the open session, and opens the one changed last, or a new one. */
    /** Shows another session and deletes this one; in this order, so that nothing asks about one that is gone. */
    async function discard(): Promise<void> {
        const id = state.value?.id;
        if (id === undefined) {
            return;
        }
        await list();
        const next = all.value.find((one) => one.id !== id);
        await (next ? open(next.id) : create('New session'));
        try {
            all.value = await api.post<SessionSummary[]>(`sessions/${id}/discard`);
        } catch (error) {
            await open(id);
            throw error;
        }
    }

    async function restore(id: number): Promise<void> {
        all.value = await api.post<SessionSummary[]>(`sessions/${id}/restore`);
        await open(id);
    }

    async function refresh(): Promise<void> {
        if (state.value && !busy && waiting.length === 0) {
            takeIfShown(await api.get<SessionState>(`sessions/${state.value.id}`));
        }
    }

    /**
     * Asks the server about the session that is shown, by its path. What it answers after another one was opened is dropped: null.
     */
    async function ask<T>(question: (path: string) => Promise<T>): Promise<T | null> {
        const id = state.value?.id;
        if (id === undefined) {
            return null;
        }
        const answer = await question(`sessions/${id}`);
        return state.value?.id === id ? answer : null;
    }

    /** An answer that comes after another session was opened does not bring back its own. */
    function takeIfShown(next: SessionState): void {
        if (state.value?.id === next.id) {
            take(next);
        }
    }

    /**
     * Makes an edit of the session that is shown, or of another; steps of one movement carry the same gesture. Resolves when the
     * server has answered: whether it took it.
     */
    function edit(wanted: Edit, gesture: string | null = null, of = state.value?.id): Promise<boolean> {
        if (of === undefined) {
            return Promise.resolve(false);
        }
        onEdit.value(wanted);
        const change = through.value(wanted);
        return new Promise((resolve) => {
            const last = waiting[waiting.length - 1];
            const isStep = last && gesture !== null && last.gesture === gesture && last.of === of;
            if (isStep && isOfTheSame(last.edit, change)) {
                last.edit =
                    'by' in change &&
                    'by' in last.edit &&
                    typeof change.by === 'number' &&
                    typeof last.edit.by === 'number'
                        ? { ...change, by: change.by + last.edit.by }
                        : change;
                last.done.push(resolve);
            } else {
                waiting.push({ edit: change, gesture, of, done: [resolve] });
            }
            void deliver();
        });
    }

    async function deliver(): Promise<void> {
        if (busy) {
            return;
        }
        busy = true;
        try {
            for (let next = waiting.shift(); next; next = waiting.shift()) {
                const path = `sessions/${next.of}`;
                const now = () => api.get<SessionState>(path);
                let isMade = false;
                try {
                    const base = state.value?.id === next.of ? state.value : await now();
                    takeIfShown(
                        await api.post<SessionState>(`${path}/edits`, {
                            base: base.change,
                            edit: next.edit,
                            ...(next.gesture === null ? {} : { gesture: next.gesture }),
                        }),
                    );
                    isMade = true;
                } catch (error) {
                    tellAbout(error, next);
                    // Whatever became of the edit: an answer can be lost on its way.
                    if (state.value?.id === next.of) {
                        await now().then(takeIfShown, () => undefined);
                    }
                }
                next.done.forEach((done) => done(isMade));
            }
        } finally {
            busy = false;
        }
    }

    /** A refusal, with a press that unfreezes what stands in the way and makes the edit, as one step. */
    function tellAbout(error: unknown, refused: Waiting): void {
        const taken = error instanceof Refused ? error.taken[0] : undefined;
        if (taken !== undefined) {
            tell((error as Refused).message, 'warning', '', {
                label: `Freeze ${channel(taken)?.name ?? taken}`,
                run: () => void useFreezes().start([taken]),
            });
            return;
        }
        if (!(error instanceof Refused) || error.unfreeze.length === 0) {
            tellRefusal(error);
            return;
        }
        const blocking = error.unfreeze;
        const label = `Unfreeze ${blocking.length === 1 ? (channel(blocking[0]!)?.name ?? 'it') : `${blocking.length} channels`} and do it`;
        const made = refused.edit.type === 'several' ? refused.edit.edits : [refused.edit];
        const unfreeze: Edit = { type: 'unfreeze', channels: blocking };
        tell(error.message, 'warning', '', {
            label,
            run: () => void edit({ type: 'several', label, edits: [unfreeze, ...made] }, null, refused.of),
        });
    }

    async function walk(way: string): Promise<void> {
        if (!state.value) {
            return;
        }
        try {
            takeIfShown(await api.post<SessionState>(`sessions/${state.value.id}/${way}`));
        } catch (error) {
            tellRefusal(error);
        }
    }

    onScopeDispose(() => neighbours.close());
    neighbours.onmessage = (event: MessageEvent<{ session: number; change: number }>) => {
        if (event.data.session === state.value?.id && event.data.change > state.value.change) {
            void refresh();
        }
    };

    return {
        state,
        all,
        document,
        channels,
        tracks,
        groups,
        returns,
        cues,
        main,
        channel,
        locate,
        send,
        isStereo,
        outputTargets,
        sendTargets,
        tapTargets,
        canSend,
        canBeFrozen,
        endsAtInterface,
        closesLoop,
        list,
        open,
        create,
        copy,
        discard,
        restore,
        show,
        refresh,
        through,
        onEdit,
        edit,
        ask,
        takeIfShown,
        undo: () => walk('undo'),
        redo: () => walk('redo'),
        goTo: (revision: number) => walk(`revisions/${revision}`),
    };
});
