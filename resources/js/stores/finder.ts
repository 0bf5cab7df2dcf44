import { defineStore } from 'pinia';
import { ref } from 'vue';
import type { RowName } from '@/api/types';
import { useCatalogue } from './catalogue';
import { useSelection } from './selection';
import { useSession } from './session';

interface Request {
    channels: string[];
    row: RowName;
    at: number | null;
    replace: string | null;
}

/** The quick finder: what it adds, and where. */
export const useFinder = defineStore('finder', () => {
    const session = useSession();
    const selection = useSelection();
    const catalogue = useCatalogue();
    const request = ref<Request | null>(null);

    /** For a place in one row; for all selected channels when the row's channel is one of several. */
    function openFor(channel: string, row: RowName, at: number): void {
        const along = selection.along(channel);
        request.value = { channels: along, row, at: along.length > 1 ? null : at, replace: null };
    }

    /** For what is selected: after the selected insert, or at the end of the selected channels' rows. */
    function openForSelection(): void {
        const place = selection.insert ? session.place(selection.insert) : null;
        if (place && selection.channels.length <= 1) {
            request.value = { channels: [place.channel.id], row: place.row, at: place.index + 1, replace: null };
            return;
        }
        const first = session.tracks[0] ?? session.main;
        const channels = selection.channels.length > 0 ? [...selection.channels] : first ? [first.id] : [];
        request.value = channels.length > 0 ? { channels, row: 'inserts', at: null, replace: null } : null;
    }

    function openToReplace(insert: string): void {
        const place = session.place(insert);
        request.value = place
            ? { channels: [place.channel.id], row: place.row, at: place.index, replace: insert }
            : null;
    }

    async function choose(processor: string): Promise<void> {
        const wanted = request.value;
        request.value = null;
        if (!wanted) {
            return;
        }
        catalogue.used(processor);
        if (wanted.replace) {
            await session.edit({ type: 'replace-insert', insert: wanted.replace, processor });
        } else {
            await session.edit({
                type: 'add-insert',
                channels: wanted.channels,
                processor,
                row: wanted.row,
                ...(wanted.at === null ? {} : { at: wanted.at }),
            });
        }
        const first = wanted.channels[0];
        const row = first ? session.channel(first)?.[wanted.row] : undefined;
        const added = row?.[wanted.at ?? row.length - 1];
        if (first && added && wanted.channels.length === 1) {
            selection.selectInsert(first, added.id);
        }
    }

    return { request, openFor, openForSelection, openToReplace, choose, close: () => (request.value = null) };
});
