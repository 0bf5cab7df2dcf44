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

/** Mutes or soloes channels, or lets them be heard again. */
export function setSilence(what: 'mute' | 'solo', channels: string[], on: boolean): void {
    void useSession().edit(
        what === 'mute' ? { type: 'set-mute', channels, mute: on } : { type: 'set-solo', channels, solo: on },
    );
}
