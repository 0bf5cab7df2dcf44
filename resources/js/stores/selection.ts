import { defineStore } from 'pinia';
import { ref } from 'vue';

/** What is selected: any number of channels, and at most one insert. */
export const useSelection = defineStore('selection', () => {
    const channels = ref<string[]>([]);
    const insert = ref<string | null>(null);
    let anchor: string | null = null;

    function selectInsert(channelId: string, insertId: string): void {
        insert.value = insertId;
        if (!channels.value.includes(channelId)) {
            channels.value = [channelId];
        }
        anchor = channelId;
    }

    /** A click on a channel: alone, with Ctrl one more or less, with Shift everything between. */
    function selectChannel(
        id: string,
        event: { ctrlKey: boolean; metaKey: boolean; shiftKey: boolean },
        order: string[],
    ): void {
        insert.value = null;
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
        insert.value = null;
        channels.value = [];
    }

    /** The channels a control on this one moves: all that are selected when it is one of them. */
    function along(id: string): string[] {
        return channels.value.includes(id) ? channels.value : [id];
    }

    return { channels, insert, selectInsert, selectChannel, clear, along };
});
