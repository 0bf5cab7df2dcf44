import { shallowRef, type ShallowRef } from 'vue';
import type { TapLevel } from '@/api/types';
import type { TapNow } from './frames';

/** Seconds a peak stays readable. */
const HOLD = 1.2;
/** Draws after which the levels are drawn that somebody may show without having asked for all of their channel. */
const OTHERS_EVERY = 6;

/**
 * The levels of all taps while it plays: peaks are held, what was above full scale is counted from the start on. Each channel is a
 * piece of state of its own, so that only rows that are seen are drawn anew with each figure.
 */
export class LiveLevels {
    private readonly held = new Map<string, { peak: number; until: number }>();
    private readonly overs = new Map<string, number>();
    private taps: Record<string, TapNow> = {};
    private readonly shown = new Map<string, ShallowRef<Record<string, TapLevel>>>();
    private draws = 0;

    /** @param isMetered whether somebody looks at all levels of a channel */
    constructor(private readonly isMetered: (channel: string) => boolean) {}

    /** Takes in the readings of a few blocks. */
    take(taps: Record<string, TapNow>, now: number): void {
        this.taps = taps;
        for (const [tap, reading] of Object.entries(taps)) {
            const known = this.held.get(tap);
            if (!known || reading.peak >= known.peak || known.until < now) {
                this.held.set(tap, { peak: reading.peak, until: now + HOLD });
            }
            if (reading.overs > 0) {
                this.overs.set(tap, (this.overs.get(tap) ?? 0) + reading.overs);
            }
        }
    }

    /** Shows what was taken in. */
    draw(): void {
        const all = this.draws++ % OTHERS_EVERY === 0;
        const channels = new Map<string, Record<string, TapLevel>>();
        for (const [tap, reading] of Object.entries(this.taps)) {
            const channel = channelOf(tap);
            if (all || this.isMetered(channel)) {
                const levels = channels.get(channel) ?? {};
                levels[tap] = {
                    peak: decibels(this.held.get(tap)?.peak ?? reading.peak),
                    rms: decibels(reading.rms),
                    overs: this.overs.get(tap) ?? 0,
                    reduction: reading.reduction,
                };
                channels.set(channel, levels);
            }
        }
        for (const [channel, levels] of channels) {
            this.of(channel).value = levels;
        }
    }

    level(tap: string): TapLevel | null {
        return this.of(channelOf(tap)).value[tap] ?? null;
    }

    /** Playing has ended: nothing is shown. */
    end(): void {
        this.taps = {};
        this.draws = 0;
        for (const shown of this.shown.values()) {
            shown.value = {};
        }
    }

    /** Playing begins anew: nothing is held or counted. */
    begin(): void {
        this.held.clear();
        this.overs.clear();
    }

    private of(channel: string): ShallowRef<Record<string, TapLevel>> {
        let shown = this.shown.get(channel);
        if (!shown) {
            shown = shallowRef({});
            this.shown.set(channel, shown);
        }
        return shown;
    }
}

function channelOf(tap: string): string {
    return tap.slice(0, tap.indexOf(':'));
}

function decibels(level: number): number | null {
    return level === -Infinity ? null : level;
}
