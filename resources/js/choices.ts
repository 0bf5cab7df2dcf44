import type { Channel, TapName } from '@/api/types';
import { TAP_NAMES } from '@/format';

/** The taps of a channel, as a list to choose from. */
export const TAP_CHOICES = Object.entries(TAP_NAMES).map(([value, name]) => ({ value: value as TapName, name }));

/** Channels to choose from; one that would close a loop says so and cannot be chosen. */
export function channelChoices(
    targets: { channel: Channel; isLoop: boolean }[],
): { value: string; name: string; isOff: boolean }[] {
    return targets.map(({ channel, isLoop }) => ({
        value: channel.id,
        name: `${channel.name}${isLoop ? ' (would loop)' : ''}`,
        isOff: isLoop,
    }));
}
