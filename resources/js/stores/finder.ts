import { defineStore } from 'pinia';
import { ref } from 'vue';
import type { RowControls } from '@/api/edits';
import type { Channel, Insert, Preset, RowName, RowPreset } from '@/api/types';
import { newGesture } from '@/gesture';
import { allInserts, controlsIn } from '@/inserts';
import { useCatalogue, type FoundSplit } from './catalogue';
import { useSelection } from './selection';
import { useSession } from './session';

interface Request {
    channels: string[];
    row: RowName;
    at: number | null;
    replace: string | null;
    branch: string | null;
    /** Instead of adding to the row: onto a return of its own, with a send from each channel. */
    toNewReturn?: boolean;
}

/** The quick finder: what it adds, and where. */
export const useFinder = defineStore('finder', () => {
    const session = useSession();
    const selection = useSelection();
    const catalogue = useCatalogue();
    const request = ref<Request | null>(null);

    /** For a place in one row; for all selected channels when the row's channel is one of several. */
    function openFor(channel: string, row: RowName, at: number, branch: string | null = null): void {
        const along = branch === null ? selection.along(channel) : [channel];
        request.value = { channels: along, row, at: along.length > 1 ? null : at, replace: null, branch };
    }

    function openForNewReturn(channels: string[]): void {
        request.value = { channels, row: 'inserts', at: null, replace: null, branch: null, toNewReturn: true };
    }

    /** Instead of into the row: onto a return of its own, and back. */
    function toggleTarget(): void {
        if (request.value && !request.value.replace) {
            request.value = { ...request.value, toNewReturn: !request.value.toNewReturn };
        }
    }

    /** For what is selected: after the selected insert, or at the end of the selected channels' rows. */
    function openForSelection(): void {
        const location = selection.insert ? session.locate(selection.insert) : null;
        if (location && selection.channels.length <= 1) {
            request.value = {
                channels: [location.channel.id],
                row: location.row,
                at: location.index + 1,
                replace: null,
                branch: location.branch?.id ?? null,
            };
            return;
        }
        const first = session.tracks[0] ?? session.main;
        const channels = selection.channels.length > 0 ? [...selection.channels] : first ? [first.id] : [];
        request.value =
            channels.length > 0 ? { channels, row: 'inserts', at: null, replace: null, branch: null } : null;
    }

    function openToReplace(insert: string): void {
        const location = session.locate(insert);
        request.value = location
            ? {
                  channels: [location.channel.id],
                  row: location.row,
                  at: location.index,
                  replace: insert,
                  branch: location.branch?.id ?? null,
              }
            : null;
    }

    async function choose(processor: string, preset: Preset | null = null): Promise<void> {
        const wanted = request.value;
        request.value = null;
        if (!wanted) {
            return;
        }
        catalogue.used(processor);
        if (wanted.toNewReturn) {
            const known = new Set(session.returns.map((channel) => channel.id));
            await session.edit({
                type: 'send-to-new-return',
                channels: wanted.channels,
                processor,
                ...(preset ? { parameters: preset.parameters } : {}),
            });
            const added = session.returns.find((channel) => !known.has(channel.id));
            if (added) {
                selection.selectSends(sendsTo(added.id));
            }
            return;
        }
        const known = new Set(session.channels.flatMap((channel) => insertIds(channel)));
        if (wanted.replace) {
            const gesture = newGesture();
            await session.edit({ type: 'replace-insert', insert: wanted.replace, processor }, gesture);
            const there = session.channel(wanted.channels[0] ?? '');
            const placed = there ? insertIds(there).find((id) => !known.has(id)) : undefined;
            if (preset && placed) {
                await session.edit(
                    { type: 'set-parameters', insert: placed, parameters: preset.parameters, preset: preset.name },
                    gesture,
                );
            }
        } else {
            await session.edit({
                type: 'add-insert',
                channels: wanted.channels,
                processor,
                row: wanted.row,
                ...(wanted.at === null ? {} : { at: wanted.at }),
                ...(wanted.branch === null ? {} : { branch: wanted.branch }),
                ...(preset ? { parameters: preset.parameters, preset: preset.name } : {}),
            });
        }
        const first = wanted.channels[0];
        const channel = first ? session.channel(first) : undefined;
        const added =
            channel && wanted.channels.length === 1 ? insertIds(channel).find((id) => !known.has(id)) : undefined;
        if (first && added) {
            selection.selectInsert(first, added);
        }
    }

    /** A unit is in one place: on the first of the channels the finder was opened for. */
    async function chooseLoop(loop: string): Promise<void> {
        const wanted = request.value;
        const first = wanted?.channels[0];
        request.value = null;
        if (!wanted || !first) {
            return;
        }
        const known = new Set(session.channels.flatMap((channel) => insertIds(channel)));
        await session.edit({
            type: 'add-hardware',
            loop,
            channel: first,
            row: wanted.row,
            ...(wanted.at === null ? {} : { at: wanted.at }),
            ...(wanted.branch === null ? {} : { branch: wanted.branch }),
        });
        const channel = session.channel(first);
        const added = channel ? insertIds(channel).find((id) => !known.has(id)) : undefined;
        if (added) {
            selection.selectInsert(first, added);
        }
    }

    /** Puts a stored row down, on every channel the finder was opened for. */
    async function chooseRow(row: RowPreset): Promise<void> {
        const wanted = request.value;
        request.value = null;
        if (wanted) {
            await pasteOn(wanted.channels, row.inserts, row.name, wanted, controlsIn(row));
        }
    }

    /** As one step, however many channels there are. */
    async function pasteOn(
        channels: string[],
        inserts: Insert[],
        name: string,
        spot: { row: RowName; at: number | null; branch: string | null } = { row: 'inserts', at: null, branch: null },
        controls: RowControls = {},
    ): Promise<void> {
        const gesture = newGesture();
        for (const channel of channels) {
            await session.edit(
                {
                    type: 'paste-inserts',
                    channel,
                    row: spot.row,
                    ...(spot.at === null ? {} : { at: spot.at }),
                    ...(spot.branch === null ? {} : { branch: spot.branch }),
                    name,
                    inserts,
                    ...controls,
                },
                gesture,
            );
        }
    }

    /** The channels the finder was opened for, as far as they can send. */
    const senders = () =>
        (request.value?.channels ?? []).flatMap((id) => {
            const channel = session.channel(id);
            return channel && session.canSend(channel) ? [channel] : [];
        });
    const alreadySends = (from: Channel, bus: string) => from.sends.some((send) => send.to === bus);

    /** Where the channels the finder was opened for can all be sent: what none of them feeds, and what leads back to none. */
    function sendTargets(): Channel[] {
        const from = senders();
        const [first] = from;
        if (!first || request.value?.replace || request.value?.branch) {
            return [];
        }
        const open = from.map(
            (channel) => new Set(session.sendTargets(channel).flatMap((one) => (one.isLoop ? [] : [one.channel.id]))),
        );
        return session.channels.filter(
            (bus) =>
                open.every((targets) => targets.has(bus.id)) && from.some((channel) => !alreadySends(channel, bus.id)),
        );
    }

    /** A send to a bus there is, from every channel that has none yet. */
    async function chooseSend(bus: Channel): Promise<void> {
        const from = senders().flatMap((channel) => (alreadySends(channel, bus.id) ? [] : [channel.id]));
        request.value = null;
        await addSends(from, bus.id);
    }

    /** At the level the server begins with. The sends are selected. */
    async function addSends(channels: string[], to: string): Promise<void> {
        await session.edit({ type: 'add-send', channels, to });
        selection.selectSends(
            channels
                .flatMap((id) => session.channel(id)?.sends.filter((send) => send.to === to) ?? [])
                .map((send) => send.id),
        );
    }

    /** Splits the row, or the branch, where the finder was opened; with several channels the first of them. */
    async function split(way: FoundSplit): Promise<void> {
        const wanted = request.value;
        request.value = null;
        if (wanted) {
            await splitAt(wanted, way);
        }
    }

    async function splitAt(wanted: Request, way: FoundSplit): Promise<void> {
        const first = wanted.channels[0];
        const before = first ? session.channel(first) : undefined;
        if (!first || !before) {
            return;
        }
        const known = new Set(insertIds(before));
        const spot = {
            channel: first,
            row: wanted.row,
            ...(wanted.at === null ? {} : { at: wanted.at }),
            ...(wanted.branch === null ? {} : { branch: wanted.branch }),
        };
        await session.edit(
            'stored' in way
                ? {
                      type: 'paste-inserts',
                      ...spot,
                      name: way.name,
                      inserts: [way.stored.split],
                      ...controlsIn(way.stored),
                  }
                : { type: 'add-split', ...spot, ...way.edit },
        );
        const after = session.channel(first);
        const added = after ? insertIds(after).find((id) => !known.has(id)) : undefined;
        if (added) {
            selection.selectInsert(first, added);
        }
    }

    function insertIds(channel: Channel): string[] {
        return allInserts([...channel.inserts, ...channel.postInserts]).map((insert) => insert.id);
    }

    function sendsTo(target: string): string[] {
        return session.channels.flatMap((channel) =>
            channel.sends.filter((send) => send.to === target).map((send) => send.id),
        );
    }

    return {
        request,
        openFor,
        openForNewReturn,
        openForSelection,
        openToReplace,
        choose,
        chooseRow,
        chooseLoop,
        pasteOn,
        toggleTarget,
        sendTargets,
        chooseSend,
        addSends,
        split,
        splitAt,
        close: () => (request.value = null),
    };
});
