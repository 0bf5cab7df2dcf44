import { useSelection } from '@/stores/selection';
import { useSession } from '@/stores/session';

/** Makes a group above some channels and selects it. */
export async function groupChannels(channels: string[]): Promise<void> {
    const session = useSession();
    const selection = useSelection();
    const known = new Set(session.channels.map((channel) => channel.id));
    await session.edit({ type: 'group-channels', channels });
    const added = session.channels.find((channel) => !known.has(channel.id));
    if (added) {
        selection.clear();
        selection.channels = [added.id];
    }
}
