import { defineStore } from 'pinia';
import { useStorage } from '@vueuse/core';
import { computed, ref } from 'vue';
import type { Insert, AutomationPoint } from '@/api/types';
import type { PlacedNote } from '@/composables/useNoteEdits';
import { useSession } from './session';

export type ViewName = 'inputs' | 'paths' | 'sends' | 'headroom' | 'load';

/** How the session is looked at: none of it changes the sound, and none of it is part of the document. */
export const useScreen = defineStore('screen', () => {
    const session = useSession();
    const view = useStorage<ViewName>('hafen.view', 'paths');
    /** The inspector is folded away by hand. */
    const isInspectorFolded = useStorage('hafen.inspector-folded', false);
    /** Part of a name: Paths shows only channels that have it. */
    const wanted = ref('');
    /** Splits that were closed, and in compact rows those that were opened. */
    const closedSplits = ref<string[]>([]);
    const openedSplits = ref<string[]>([]);
    const foldedGroups = ref<string[]>([]);
    const areHiddenShown = ref(false);
    /** Channels somebody wants to print, while the dialog asks how. */
    const printing = ref<string[] | null>(null);
    /** Lanes that are open below their channel's row: what is shown, by channel id. */
    const lanes = ref<Record<string, string>>({});
    /** Points of a lane that were copied, from the first on. */
    const copiedPoints = ref<AutomationPoint[]>([]);
    /** Note channels whose notes are open below their rows. */
    const openNotes = ref<string[]>([]);
    /** Notes that were copied, from the first on. */
    const copiedNotes = ref<PlacedNote[]>([]);
    /** Inserts that were copied, as they were then. */
    const copiedInserts = ref<Insert[]>([]);
    /** The channel whose path stands out, while it is pointed at or has the focus. */
    const pathOf = ref<string | null>(null);

    const path = computed(() => {
        const id = pathOf.value;
        const ids = id === null ? undefined : session.state?.paths[id];
        return ids ? new Set(ids) : null;
    });

    function flip(list: string[], id: string): string[] {
        return list.includes(id) ? list.filter((other) => other !== id) : [...list, id];
    }

    /** Members of a folded group, and members of groups in it. */
    function isFolded(id: string): boolean {
        let output = session.channel(id)?.output;
        for (let steps = 0; output && steps < 64; ++steps) {
            if (foldedGroups.value.includes(output)) {
                return true;
            }
            output = session.channel(output)?.output;
        }
        return false;
    }

    function isShown(id: string): boolean {
        const channel = session.channel(id);
        if (wanted.value.trim() !== '') {
            return Boolean(channel?.name.toLowerCase().includes(wanted.value.trim().toLowerCase()));
        }
        return Boolean(channel) && !(channel?.hidden && !areHiddenShown.value) && !isFolded(id);
    }

    /** Fades what is not on the path that stands out. */
    function isAside(id: string): boolean {
        return path.value !== null && !path.value.has(id);
    }

    function openLane(channel: string, target: string): void {
        lanes.value = { ...lanes.value, [channel]: target };
    }

    function closeLane(channel: string): void {
        lanes.value = Object.fromEntries(Object.entries(lanes.value).filter(([id]) => id !== channel));
    }

    function toggleLane(channel: string): void {
        if (lanes.value[channel] === undefined) {
            openLane(channel, session.channel(channel)?.automation?.[0]?.target ?? 'fader');
        } else {
            closeLane(channel);
        }
    }

    return {
        view,
        isInspectorFolded,
        wanted,
        lanes,
        copiedPoints,
        copiedInserts,
        openNotes,
        copiedNotes,
        toggleNotes: (channel: string) => (openNotes.value = flip(openNotes.value, channel)),
        openLane,
        closeLane,
        toggleLane,
        closedSplits,
        foldedGroups,
        printing,
        areHiddenShown,
        pathOf,
        path,
        isShown,
        isAside,
        isSplitOpen: (id: string, isCompact = false) =>
            isCompact ? openedSplits.value.includes(id) : !closedSplits.value.includes(id),
        toggleSplit: (id: string, isCompact = false) => {
            const list = isCompact ? openedSplits : closedSplits;
            list.value = flip(list.value, id);
        },
        isGroupFolded: (id: string) => foldedGroups.value.includes(id),
        toggleGroup: (id: string) => (foldedGroups.value = flip(foldedGroups.value, id)),
    };
});
