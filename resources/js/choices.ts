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

/** What a tail is called while it is as long as it is heard. */
const HEARD = -1;

/** How long a tail may be: as long as it is heard, none, or seconds. */
export const TAIL_CHOICES = [
    { value: HEARD, name: 'as long as heard' },
    { value: 0, name: 'none' },
    ...[1, 2, 4, 8, 16].map((seconds) => ({ value: seconds, name: `${seconds} s` })),
];

/** A tail as the server takes it, by its choice, and the other way. */
export const tailOf = (choice: number): 'auto' | number => (choice === HEARD ? 'auto' : choice);
export const choiceOfTail = (tail: 'auto' | number): number => (tail === 'auto' ? HEARD : tail);
