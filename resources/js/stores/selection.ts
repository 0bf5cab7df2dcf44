import { defineStore } from 'pinia';
import { computed, ref } from 'vue';

/** What is selected: any number of channels, and inserts of one row or sends. */
export const useSelection = defineStore('selection', () => {
    const channels = ref<string[]>([]);
    const inserts = ref<string[]>([]);
    const sends = ref<string[]>([]);
    /** The insert the inspector shows: the one selected last. */
    const insert = computed({
        get: () => inserts.value[inserts.value.length - 1] ?? null,
        set: (id: string | null) => {
            inserts.value = id === null ? [] : [id];
        },
    });
    let anchor: string | null = null;

    /** A click on an insert: alone, with Ctrl or Shift one more or less. */
    function selectInsert(
        channelId: string,
        insertId: string,
        event?: { ctrlKey: boolean; metaKey: boolean; shiftKey: boolean },
    ): void {
        sends.value = [];
        if (event && (event.ctrlKey || event.metaKey || event.shiftKey)) {
            inserts.value = inserts.value.includes(insertId)
                ? inserts.value.filter((other) => other !== insertId)
                : [...inserts.value, insertId];
        } else {
            inserts.value = [insertId];
        }
        if (!channels.value.includes(channelId)) {
            channels.value = [channelId];
        }
        anchor = channelId;
    }

    function selectSends(ids: string[]): void {
        inserts.value = [];
        sends.value = ids;
    }

    /** A click on a channel: alone, with Ctrl one more or less, with Shift everything between. */
    function selectChannel(
        id: string,
        event: { ctrlKey: boolean; metaKey: boolean; shiftKey: boolean },
        order: string[],
    ): void {
        inserts.value = [];
        sends.value = [];
        if (event.shiftKey && anchor) {
            const [from, to] = [order.indexOf(anchor), order.indexOf(id)].sort((a, b) => a - b);
            channels.value = order.slice(from, (to ?? 0) + 1);
            return;
        }
        anchor = id;
        if (event.ctrlKey || event.metaKey) {
            channels.value = channels.value.includes(id)
                ? channels.value.filter((other) => other !== id)
                : [...channels.value, id];
            return;
        }
        channels.value = [id];
    }

    function clear(): void {
        inserts.value = [];
        sends.value = [];
        channels.value = [];
    }

    /** The channels a control on this one moves: all that are selected when it is one of them. */
    function along(id: string): string[] {
        return channels.value.includes(id) ? channels.value : [id];
    }

    /** The inserts that are selected, to be taken away: they are selected no more. */
    function takeInserts(): string[] {
        const taken = [...inserts.value];
        insert.value = null;
        return taken;
    }

    return { takeInserts, channels, inserts, insert, sends, selectInsert, selectSends, selectChannel, clear, along };
});
